package plan

import (
	"maps"
	"math"
	"slices"

	"waxplanus/core/surface"
)

// Continued are the steps of rest worked after those of done, whose surface is where they
// begin. The first of them levels on where levels says so. Film and passes are as chosen.
func (j Job) Continued(done, rest []Choice, levels bool) ([]Step, error) {
	l, err := j.Work(append(slices.Clone(done), rest...))
	if err != nil {
		return nil, err
	}
	steps := l.Steps[len(done):]
	if levels {
		steps[0].Kind = LevelStep
	}
	return steps, nil
}

// Instead is what a section may be worked with after the steps of done: first, and of later
// what is still finer, with the passes that take each scratch out. It returns false where
// that leaves scratches standing.
func (j Job) Instead(done []Choice, first Choice, later []Choice) ([]Choice, bool, error) {
	rest := append([]Choice{first}, later...)
	for i := 1; i < len(rest); {
		steps, err := j.Continued(done, rest[:i+1], true)
		if err != nil {
			return nil, false, err
		}
		if s := steps[i]; s.Scratch >= s.Buries {
			rest = slices.Delete(rest, i, i+1) // takes nothing out
			continue
		} else if s.Why.Code == WhyTooDeep {
			return nil, false, nil
		} else {
			rest[i].Passes = max(s.Needs, 1)
		}
		i++
	}
	steps, err := j.Continued(done, rest, true)
	if err != nil {
		return nil, false, err
	}
	return rest, steps[len(steps)-1].Scratch <= j.Colour.Haze(j.Shelf.Law)+1e-9, nil
}

// Shortest is the way that takes least film from a surface to one without scratches, or of
// several the quickest within a tenth of a µm. It returns false where nothing on the shelf
// leads there.
func (j Job) Shortest(at surface.Surface) ([]Choice, bool, error) {
	j.Aim, j.Grade, j.Scratch, j.Nibs = PolishOnly, math.Min(at.Grade(), 10), at.Scratch, 0
	j.Condition, j.Gone = surface.Condition{}, 0
	o, err := Find(j)
	if err != nil {
		return nil, false, err
	}
	need, ok := o.Need()
	if !ok {
		return nil, false, nil
	}
	const near = 0.1 // µm
	var best *Point
	for i, p := range o.points {
		if p.Film <= need+near && (best == nil || p.Minutes < best.Minutes) {
			best = &o.points[i]
		}
	}
	if best == nil {
		return nil, false, nil
	}
	return best.Choices, true, nil
}

// Rest gives a section other steps from a point on: it keeps the first upto of those that
// it had, and the new steps come last on the
// ladder. Where it does not count, the section keeps all that it had.
func (l *Ladder) Rest(section string, upto int, steps []Step, counts bool) {
	own := slices.Clone(l.StepsOf(section)[:upto])
	l.Steps, l.Rests = slices.Clone(l.Steps), maps.Clone(l.Rests)
	for _, s := range steps {
		if s.Area = section; !counts {
			s.Area = nobodys
		}
		own = append(own, len(l.Steps))
		l.Steps = append(l.Steps, s)
	}
	if !counts {
		return
	}
	if l.Rests == nil {
		l.Rests = map[string][]int{}
	}
	l.Rests[section] = own
}

// nobodys is the area of steps that no section has any more.
const nobodys = "-"

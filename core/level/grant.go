package level

import (
	"slices"

	"waxplanus/core/film"
	"waxplanus/core/plan"
)

// prospect is a section at a point of its work, from which further passes are weighed: the
// one place that says what they come to, for a verdict and for a grant alike.
type prospect struct {
	*Work
	sec       film.SectionFilm
	at        Progress
	gone      film.Estimate // taken by the passes that were made, µm
	now       float64       // chance of being under the floor by them
	spendable float64       // what may be lost in all, µm
}

func (w *Work) prospect(sec film.SectionFilm, at Progress) prospect {
	taken := w.spread(at.Passes)
	return prospect{w, sec, at, film.Estimate{Mean: taken.at(0, made), SD: taken.sd},
		Risk(sec.Least, sec.Policy.Floor, taken.usual), sec.Policy.Cap(sec.Least.Estimate().Mean)}
}

// with are the passes once n more of the step in hand were made.
func (at Progress) with(n int) []int {
	out := slices.Clone(at.Passes)
	out[at.Step] += n
	return out
}

// after is the outlook on a section once n more passes of the step in hand and all of its
// later steps are made.
func (p prospect) after(n int) film.Outlook {
	rest := p.spreadFrom(p.at, p.toTheEnd(p.at, n))
	takes := rest.at(0, made)
	return film.Outlook{
		Total: p.sec.Film.Mean - p.gone.Mean, Gone: p.gone.Mean, Spend: takes - p.gone.Mean, Over: takes > p.spendable,
		Now: p.now, Under: Risk(p.sec.Least, p.sec.Policy.Floor, rest.usual), Through: through(p.sec.Least, rest.worst),
	}
}

// takesOut says whether n more passes of the step in hand do no more than take out the
// scratches that earlier steps left, or plans before.
func (p prospect) takesOut(n int) bool {
	step := p.at.Step
	if step >= len(p.at.Passes) || !p.finishing(step) || p.at.Passes[step]-p.at.before(step)+n > p.most[step] {
		return false
	}
	for _, i := range p.at.Own {
		if i != step && p.at.Passes[i] > 0 {
			return true
		}
	}
	return p.ladder.Start.Scratch > plan.UsualSwirl
}

// holds says whether n more passes stay clear of the way through: those that take scratches
// out by themselves, others with all of the later steps.
func (p prospect) holds(n int) bool {
	if !p.finishing(p.at.Step) {
		return through(p.sec.Least, p.spreadFrom(p.at, p.toTheEnd(p.at, n)).worst) <= film.ThroughRisk
	}
	return p.alone(n) <= film.ThroughRisk
}

// alone is the chance of going through by n more passes of the step in hand without those after
// it, in full: whoever taps on is not stopped by what should be out.
func (p prospect) alone(n int) float64 {
	all := p.spread(p.at.with(n))
	return through(p.sec.Least, func(z float64) float64 { return all.at(z, made) })
}

// grants says whether n more passes of the step in hand may be made. Those that take
// scratches out are stopped by the way through alone. All others hold to the rung above the
// chance that was accepted, and a levelling step past its own count to what is open.
func (p prospect) grants(n int) bool {
	if p.takesOut(n) {
		return p.holds(n)
	}
	o, policy := p.after(n), p.sec.Policy
	policy.Tight = policy.Next()
	most := film.ThroughRisk
	if p.ladder.Steps[p.at.Step].Kind == plan.LevelStep {
		if most = beginRisk; p.at.Passes[p.at.Step]-p.at.before(p.at.Step)+n > p.Passes(p.at.Step) {
			policy.Tight = min(policy.Risk, film.DefaultRisk)
		}
	}
	return o.Through <= most && policy.Verdict(o).State != film.Shut
}

// beginRisk is the chance of going through, once all later steps are made, up to which a
// levelling step goes on: half of what nobody may take, so that those that take scratches
// out are granted even where they want more passes than planned (judgement; waxplanus bench
// level was the measure).
const beginRisk = film.ThroughRisk / 2

// Verdict is that on a section at a point of its work for what is left of its steps: what
// takes standing scratches out is not shut by the floor.
func (p prospect) verdict(spots bool) (film.Outlook, film.Verdict) {
	o := p.after(p.at.Need)
	o.Spots, o.Finishes = spots, p.takesOut(p.at.Need)
	if o.Finishes { // what is granted ahead of its later steps is judged ahead of them
		o.Through = p.alone(p.at.Need)
	}
	return o, p.sec.Policy.Verdict(o)
}

// Acceptance is what accepting a plan comes to on a section: its standing for all of the
// plan's steps, the chance that is accepted, and whether the first step as it is planned is
// granted at the car under that chance. A section that gets less is not worked.
type Acceptance struct {
	Standing
	Risk   float64
	Worked bool
}

// Accepts says what accepting the panel's ladder comes to on a section that nobody worked
// under it yet.
func (p Panel) Accepts(sec film.SectionFilm, spots bool) Acceptance {
	own := p.Work.ladder.StepsOf(sec.Key)
	if len(own) == 0 { // the plan leaves it as it is
		return Acceptance{Standing: Standing{Verdict: film.Verdict{State: film.Shut}}}
	}
	at := Progress{Own: own, Passes: make([]int, len(p.Work.ladder.Steps)), Step: own[0], Need: p.Work.Passes(own[0])}
	out := Acceptance{Standing: p.StandingAt(sec, at, spots)}
	sec.Policy = sec.Policy.Accepting(out.Under)
	out.Risk = sec.Policy.Risk
	out.Worked = out.State != film.Shut && (spots || p.Work.prospect(sec, at).grants(at.Need))
	if !out.Worked && out.State != film.Shut {
		out.State, out.Reason = film.Shut, film.WhyThin
	}
	return out
}

// WorstWorked is the index of the section that stands worst among those that accepting a plan
// would work; -1 where it would work none.
func WorstWorked(all []Acceptance) int {
	worst := -1
	for i, a := range all {
		if !a.Worked {
			continue
		}
		if worst < 0 || a.worse(all[worst]) {
			worst = i
		}
	}
	return worst
}

// worse orders acceptances by their state, then by the chances, that of the floor first.
func (a Acceptance) worse(b Acceptance) bool {
	if a.State != b.State {
		return b.State == film.Open
	}
	if a.Under != b.Under {
		return a.Under > b.Under
	}
	return a.Through > b.Through
}

package went

import (
	"math"
	"slices"

	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/price"
	"waxplanus/core/schedule"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/week"
)

// lineOf is the line of a step, made where it is the first of its kind.
func lineOf(p *panel.Panel, lines *[]WentLine, kind schedule.Kind, st plan.Step) *WentLine {
	what := string(kind) + " " + st.Item
	if l := panel.FirstOf(*lines, func(l WentLine) bool { return l.What == what }); l != nil {
		return l
	}
	of, step := offers.PacedBy(st.Tool), WentStep{Item: st.Item, Unit: week.Discs}
	if c, ok := p.House.Shelf.Compound(st.Item); ok && st.D50 == 0 {
		step.Unit, step.Price = week.Ml, c.Price/1000+c.Pads(1)*c.PadPrice
	}
	if a, ok := p.House.Shelf.Abrasive(st.Item); ok && st.D50 > 0 {
		if step.Price = a.Price; a.Body == shelf.Paper {
			step.Unit = week.Sheets
		}
	}
	*lines = append(*lines, WentLine{What: what, Kind: kind, Title: st.Title, Of: of, Piece: price.Piece{Group: string(of)}, Steps: &step, labour: map[string]float64{}})
	return &(*lines)[len(*lines)-1]
}

// did adds so many planned minutes of a step that somebody has done.
func (l *WentLine) did(who string, minutes float64) {
	if l.Done += minutes; minutes > 0 {
		if l.labour[who] += minutes; who != "" && !slices.Contains(l.Who, who) {
			l.Who = append(l.Who, who)
		}
	}
}

// saw adds what the clock saw of a step that is planned at a pace.
func (l *WentLine) saw(all []offers.Clocked, step int, pace float64) {
	for _, c := range all {
		if c.Step == step {
			l.Seen += c.Minutes
			l.SeenOf += c.Planned * pace
			l.Clocked++
		}
	}
}

// wentSteps adds the steps of a panel to the lines that they belong to, and the passes of plans
// before the one of record: they were made, and had to be made again.
func wentSteps(p *panel.Panel, w schedule.PanelWork, lines *[]WentLine) error {
	l, err := p.LadderInHand()
	if err != nil {
		return err
	}
	now, ok := offers.PlanAnew(p)
	var seen []offers.Clocked
	if ok {
		seen = offers.Clock(p, p.Log, now)
	}
	for _, sw := range w.Steps {
		i := sw.No - 1
		st := l.Steps[i]
		line := lineOf(p, lines, sw.Kind, st)
		line.Planned += sw.Minutes
		line.Steps.plan(p, st, i, sw.Much)
		if p.Ladder() == nil || p.Work == nil {
			continue
		}
		done := 1 - cars.LeftOf(p, i)
		line.did(p.Workers()[i], sw.Minutes*done)
		if ok && i < len(now.Steps) {
			line.base += done * offers.PacedMinutes(p, now.Steps[i])
			line.once += done * now.Steps[i].Once
		}
		line.saw(seen, i, p.House.Shelf.Law.Pace(st.Tool))
		line.Steps.add(p, p.Log, p.Work, i)
	}
	for _, e := range p.EarlierPlans {
		who, seen := e.Log.Workers(p.Car.Painter), offers.Clock(p, e.Log, *e.Log.Ladder)
		for i, st := range e.Log.Ladder.Steps {
			if made := madeOf(p, e.Log, i); made > 0 {
				line := lineOf(p, lines, cars.StepKinds[st.Kind], st)
				line.Planned += st.Minutes * made
				line.did(who[i], st.Minutes*made)
				line.saw(seen, i, p.House.Shelf.Law.Pace(st.Tool))
				line.Steps.add(p, e.Log, e.Work, i)
			}
		}
	}
	return nil
}

// madeOf is how much of a step of a log was made, over the area of the panel's sections.
func madeOf(p *panel.Panel, log level.Log, step int) float64 {
	made, of := 0.0, 0.0
	for _, s := range p.Sections {
		area := s.W * s.H
		of += area
		made += area * float64(log.Passes(s.Key)[step]) / float64(max(log.Ladder.Steps[step].Passes, 1))
	}
	return made / math.Max(of, 1e-9)
}

// finish makes means of what was summed over panels.
func (l *WentLine) finish() {
	if l.Planned > 0 {
		l.Done /= l.Planned
	}
	if of := l.Planned * l.Done; l.SeenOf > of { // passes over those that were planned
		l.Seen, l.SeenOf = l.Seen*of/l.SeenOf, of
	}
	s := l.Steps
	if of := max(s.area, s.made); of > 0 {
		s.PassesPlanned /= of
		s.PassesMade /= of
		s.FilmPlanned /= of
	}
	if s.made > 0 {
		s.Film.Mean /= s.made
		s.Film.SD /= s.made
	}
}

// plan adds what a step of a panel is planned to take: passes and films weigh by area.
func (s *WentStep) plan(p *panel.Panel, st plan.Step, i int, much float64) {
	s.UsedPlanned += much
	for _, sec := range p.Sections {
		if l := p.Ladder(); l == nil || slices.Contains(l.StepsOf(sec.Key), i) {
			area := sec.W * sec.H
			s.area += area
			s.PassesPlanned += area * float64(st.Passes)
			s.FilmPlanned += area * st.Film
		}
	}
}

// add adds what the passes of a step took by a log of a panel.
func (s *WentStep) add(p *panel.Panel, log level.Log, work *level.Work, i int) {
	for _, sec := range p.Sections {
		passes := log.Passes(sec.Key)
		if passes[i] == 0 {
			continue
		}
		area := sec.W * sec.H
		if !slices.Contains(s.on, p.ID+sec.Key) {
			s.on = append(s.on, p.ID+sec.Key)
			s.made += area
		}
		s.PassesMade += area * float64(passes[i])
		upto := slices.Concat(passes[:i+1], make([]int, len(passes)-i-1))
		before := slices.Clone(upto)
		before[i] = 0
		um := work.Taken(upto).Mean - work.Taken(before).Mean
		rate := work.Rate(i)
		s.Film.Mean += area * um
		s.Film.SD += area * um * rate.SD / rate.Mean // of one cut, learned for all sections
	}
	s.Used += usedUp(p, log, work, i)
}

// usedUp is how many pieces, or ml, the passes of a step have used: those that were changed,
// and of the last one what it is worn, or all of it where each panel gets new ones.
func usedUp(p *panel.Panel, log level.Log, work *level.Work, i int) float64 {
	st, law := log.Ladder.Steps[i], &p.House.Shelf.Law
	whole, passes, area, all := 0.0, 0, 0.0, 0.0
	for _, e := range log.Entries {
		switch {
		case e.Struck || e.Step != i+1:
		case e.Cuts():
			passes++
			if sec := panel.FirstOf(p.Sections, func(s flatlay.Section) bool { return s.Key == e.Section }); sec != nil {
				area += sec.W * sec.H
				all += sec.W * sec.H
			}
		case e.Kind == level.KindPaper && passes > 0:
			whole, passes, area = whole+1, 0, 0
		}
	}
	switch {
	case st.D50 == 0:
		c, _ := p.House.Shelf.Compound(st.Item)
		return all / 1e6 * c.Use
	case passes == 0:
		return whole
	case p.House.Rules.Paper != plan.UsedAgain:
		return whole + 1
	}
	return whole + math.Log(st.CutLeft(area, work.Rate(i).Mean))/math.Log(law.DueAt)
}

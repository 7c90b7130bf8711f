package web

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// againPasses is how many passes of an earlier step are offered (judgement).
const againPasses = 2

// agains are the earlier steps of a section that may be gone back to, with what that
// costs.
func (b *bench) agains(section string) []api.Again {
	out := []api.Again{}
	own, passes := b.ladder.StepsOf(section), b.passes(section)
	for _, i := range own {
		st := b.ladder.Steps[i]
		if i >= b.step(section) || st.D50 == 0 || passes[i] == 0 {
			continue
		}
		takes := b.opened.Work.Again(passes, own, i, againPasses)
		a := b.adviseAt(section, i, againPasses)
		room := a.Room + a.Ledger.Reserve
		v := api.Again{Step: i + 1, Title: st.Title, Passes: againPasses, TakesUm: estimate(takes), Fits: a.Granted >= againPasses}
		v.Text = fmt.Sprintf("%s of %s and every finer step once more take %s µm; %s may go. ", count(againPasses, "pass"), st.Title, plusMinus(takes), um(math.Max(room, 0)))
		switch {
		case !v.Fits:
			v.Text += "It does not fit. Leave it, or polish it."
		case b.unread(section):
			v.Text += "Read the film here first: nothing was read since the last pass."
		default:
			v.Ready = true
			v.Text += "It fits by the readings as they are."
		}
		out = append(out, v)
	}
	return out
}

// unread says whether passes of any step came after the last reading of a section.
func (b *bench) unread(section string) bool {
	for i := range b.ladder.Steps {
		if b.sinceRead(section, i) > 0 {
			return true
		}
	}
	return false
}

// allowsBack says whether a section may go back to an earlier step.
func (b *bench) allowsBack(e store.Entry) error {
	all := b.agains(e.Section)
	i := slices.IndexFunc(all, func(a api.Again) bool { return a.Step == e.Step })
	if i < 0 {
		return conflict("This section has no earlier step %d with passes to go back to.", e.Step)
	}
	a := all[i]
	if _, locked := b.alarm(e.Section); locked || !a.Ready {
		return conflict("Not back to %s: %s", a.Title, a.Text)
	}
	return nil
}

// waysOf is what may be changed where the film grants fewer passes than a step needs.
func (b *bench) waysOf(section string, step int, a level.Advice) []api.Way {
	out := []api.Way{}
	if a.Granted >= a.Needed {
		return out
	}
	if b.sinceRead(section, step) > 0 || len(b.live()) < enoughSpots {
		out = append(out, api.Way{Code: api.WayCodeRead, Text: fmt.Sprintf("Read here: %s µm are kept back for doubt, and readings narrow it.", um(a.Ledger.Doubt))})
	}
	passes := b.passes(section)[step]
	cutting := b.opened.Work.Cutting(step, passes)
	if l := b.lookOf(section, step); l != nil {
		cutting = b.opened.Work.CuttingSeen(step, passes, l.Seen)
	}
	for _, w := range b.opened.Work.Ways(b.house.shelf, b.house.shelf.Law.Hardness(b.row.Hardness), step, cutting, math.Max(a.Room, 0)) {
		out = append(out, api.Way{Code: api.WayCode(w.Code), Text: wayText(w)})
	}
	return out
}

// wayText says what a way does.
func wayText(w level.Way) string {
	does := fmt.Sprintf("%s take %s µm and leave peel %.1f", count(w.Passes, "pass"), um(w.Film), w.Grade)
	if w.Passes == 1 {
		does = fmt.Sprintf("1 pass takes %s µm and leaves peel %.1f", um(w.Film), w.Grade)
	}
	switch w.Code {
	case level.WayOn:
		return "Go on with this sheet: " + does + "."
	case level.WayFiner:
		return fmt.Sprintf("%s on the same backing: %s. A smaller scratch to bury after it.", w.Abrasive.Grit, does)
	case level.WaySofter:
		return fmt.Sprintf("%s on the %s: %s. It follows the peel more than it flattens.", w.Abrasive.Grit, w.Backing.Name, does)
	}
	return fmt.Sprintf("Stop here: the peel stays at %.1f, the finer grits follow.", w.Grade)
}

// handWhys are all reasons of the figures of a hand, in words.
func (b *bench) handWhys(section string, step int, a level.Advice) []string {
	st, l := b.ladder.Steps[step], a.Ledger
	passes := b.passes(section)[step]
	out := []string{
		b.rateFrom(a.Rate, step),
		fmt.Sprintf("Clear at the thinnest place was %s µm: %s are gone, %s go with %s, %s the finer steps need, %s are kept back for doubt at 1 in 20, %s is the floor. %s.",
			plusMinus(l.Opening), um(l.Gone.Mean), um(l.Next), count(a.Left, "pass"), um(l.Reserve), um(l.Doubt), um(l.Floor), freeText(l.Free)),
	}
	if src := b.opened.Study.Clear; len(src.Sources) > 0 {
		most := 0
		for i, share := range src.Shares {
			if share > src.Shares[most] {
				most = i
			}
		}
		out = append(out, "Where the clear is known from: "+sourceText(src.Sources[most], b.history())+shareText(src, most)+".")
	}
	wants := b.opened.Work.Passes(step)
	out = append(out, fmt.Sprintf("The plan has %s of %s; by the cut as learned that is %s. %s made.", count(st.Passes, "pass"), st.Title, count(wants, "pass"), capital(count(passes, "pass"))))
	if a.Read > 0 && a.Granted > 0 {
		out = append(out, fmt.Sprintf("Read after %s: half of what is granted, five at most, so that a cut that was taken for less is found in time.", count(a.Read, "pass")))
	}
	if text := b.scratchText(section, step); text != "" {
		out = append(out, text)
	}
	if st.D50 > 0 && st.Stroke >= 0 {
		out = append(out, "The stroke is turned from grit to grit, so that a mark in the old direction shows what is left.")
	}
	if st.D50 == 0 {
		pad := fmt.Sprintf("Its pad is marked %s: never with another grade.", st.Title)
		if b.house.rules.Pads == plan.OnePad {
			pad = fmt.Sprintf("The house leads one pad for all: clean it before %s goes on.", st.Title)
		}
		out = append(out, pad)
	}
	return out
}

func freeText(free float64) string {
	if free < 0 {
		return um(-free) + " are missing"
	}
	return um(free) + " are free"
}

// scratchText says what of the last scratch is still to be taken out.
func (b *bench) scratchText(section string, step int) string {
	s := b.opened.Work.Scratches(step, b.passes(section)[step])
	if s.Old <= 0 {
		return ""
	}
	if s.Passes == 0 {
		return fmt.Sprintf("The last scratch is buried: %.1f in 100 of it still show.", 100*s.Showing)
	}
	return fmt.Sprintf("Of the last scratch, %.1f µm deep, %.0f in 100 still show: it is buried in %s more.", s.Old, 100*s.Showing, count(s.Passes, "pass"))
}

// guides are the proud marks that still stand, each as a job of its own.
func (b *bench) guides(all []judged, keep func(judged) bool) []api.Guide {
	out := []api.Guide{}
	a, _ := b.house.shelf.Abrasive(runPaper)
	block, _ := b.house.shelf.Backing(runBlock)
	rate := b.house.shelf.Law.Rate(a, block, b.house.shelf.Law.Hardness(b.row.Hardness))
	for _, j := range all {
		if !openMark(j.row) || !keep(j) || j.Do != marks.DoShave && j.Do != marks.DoSpot {
			continue
		}
		g := j.Verdict.Guide(j.Mark, b.onMark(j.row.ID, store.KindShave), b.onMark(j.row.ID, store.KindBlock), rate)
		v := api.Guide{Mark: j.row.ID, Name: j.Kind.Name(), Stage: api.GuideStage(g.Stage), StrokesLeft: max(g.Strokes-g.Shaved, 0), PassesLeft: max(g.Passes-g.Blocked, 0),
			Shaved: g.Shaved, Blocked: g.Blocked, StandingUm: g.Standing, ShoulderUm: g.Shoulder, ShoulderMostUm: g.ShoulderMost, Caution: guideCaution(g.Stage)}
		v.Headline, v.Text = guideText(g, j, a.Grit, block.Name)
		out = append(out, v)
	}
	return out
}

// What a run is blocked with (judgement).
const (
	runPaper = "p1500"
	runBlock = "rigid"
)

func guideCaution(s marks.Stage) string {
	const sheet = " The product's safety sheet and the shop's rules decide."
	switch s {
	case marks.StageShave:
		return "Cut away from hands, corners of the blade taped; a used blade goes into the sharps box." + sheet
	case marks.StageFile, marks.StageSoft:
		return caution(plan.FileStep)
	}
	return "Block on the crest alone, never rocked over its sides; a gritty feel means stop, rinse, look." + sheet
}

// guideText says what to do now on a proud mark and when to stop.
func guideText(g marks.Guide, j judged, grit, block string) (headline, text string) {
	stands := fmt.Sprintf("It stands about %s µm.", um(g.Standing))
	beside := fmt.Sprintf("Beside it %s of %s µm are gone.", um(g.Shoulder), um(g.ShoulderMost))
	switch g.Stage {
	case marks.StageSoft:
		return "not ready", "It is soft inside until about " + j.Ready.Format("2 Jan 15:04") + ": thick film cures slowly. Work elsewhere meanwhile."
	case marks.StageFile:
		return "file", "Two or three light strokes of fine paper on a small block, on the nib alone. Stop when a hand gliding over it feels nothing; a dull ring about it is enough."
	case marks.StageShave:
		return "shave", fmt.Sprintf("%s New blade, held upright, the whole length%s: a stroke takes about %s µm. Stop at %s µm.", stands, lanesText(g.Lanes), um(marks.UsualBlade.Takes), um(g.Rest))
	case marks.StageBlock:
		return "block", fmt.Sprintf("%s %s on the %s, short strokes, wet. Stop when no shiny low spot is left beside the crest. %s", stands, grit, block, beside)
	case marks.StageStop:
		return "stop", beside + " More blocking makes two thin spots of one run. Leave what stands to the levelling of the panel, or shave it again."
	}
	return "wipe and look", "By the count it is gone. Wipe dry: dull all over means gone; a bright line on the crest's sides means low spots. " + beside
}

func lanesText(n int) string {
	if n < 2 {
		return ""
	}
	return fmt.Sprintf(", %d lanes a stroke", n)
}

// circles are how far each step reaches around the spots that are worked alone, the
// smallest spot first.
func (b *bench) circles(all []judged) []api.Circle {
	out := []api.Circle{}
	if b.ladder.Steps[0].Kind != plan.FileStep {
		return out
	}
	small := slices.Clone(all)
	slices.SortStableFunc(small, func(x, y judged) int { return cmp.Compare(math.Max(x.Length, x.Width), math.Max(y.Length, y.Width)) })
	for _, j := range small {
		if !openMark(j.row) || j.Do != marks.DoShave && j.Do != marks.DoSpot {
			continue
		}
		for i, r := range marks.Circles(j.Mark, *b.ladder, b.car.Colour) {
			out = append(out, api.Circle{XMm: j.row.XMM, YMm: j.row.YMM, RMm: r, Title: b.ladder.Steps[i].Title})
		}
	}
	return out
}

// notFor says why somebody may not run a step; empty where they may.
func (b *bench) notFor(person string, st plan.Step) string {
	limit := b.limits[person]
	if limit == "" || st.D50 == 0 {
		return ""
	}
	i := slices.IndexFunc(b.house.shelf.Abrasives, func(a shelf.Abrasive) bool { return a.Grit == limit })
	if i < 0 || st.D50 <= b.house.shelf.Abrasives[i].D50 {
		return ""
	}
	return fmt.Sprintf("%s is coarser than %s may run, %s and finer. Take a section that is further on, or let somebody else make the passes.", st.Title, person, limit)
}

// knowsPeople has the bench know what each person may run.
func (s *Server) knowsPeople(ctx context.Context, b *bench) ([]string, error) {
	people, err := s.store.People(ctx)
	if err != nil {
		return nil, err
	}
	b.limits = map[string]string{}
	names := []string{}
	for _, p := range people {
		names, b.limits[p.Name] = append(names, p.Name), p.Coarsest
	}
	return names, nil
}

// throughMark is the mark of a through spot that was told at the car: in the middle
// of its section, to be moved where it is.
func (b *bench) throughMark(e store.Entry) store.Mark {
	m := marks.Placed(marks.Through, 0, 0, 0)
	i := slices.IndexFunc(b.sections, func(s flatlay.Section) bool { return s.Key == e.Section })
	at := b.sections[i].Cells[len(b.sections[i].Cells)/2]
	return store.Mark{ID: throughID(e), PanelID: b.row.ID, Kind: string(m.Kind), XMM: at.X, YMM: at.Y, LengthMM: m.Length, WidthMM: m.Width,
		Note: "told in Level; move it where it is", Found: string(api.FoundWorkshop), Person: e.Person, At: e.At, Outcome: store.OutcomeOpen}
}

func throughID(e store.Entry) string { return "through-" + e.ID }

// leftAfter is the clear at the thinnest place of a section after each of its passes,
// by the id of the entry.
func (b *bench) leftAfter(section string) map[string]api.Estimate {
	out := map[string]api.Estimate{}
	sec, ok := b.opened.Study.Section(section)
	if !ok {
		return out
	}
	open := sec.Least.Less(b.spotted(section)).Estimate()
	passes := make([]int, len(b.ladder.Steps))
	for _, e := range b.entries {
		if !counts(e, section) {
			continue
		}
		passes[e.Step-1]++
		gone := b.opened.Work.Taken(passes)
		out[e.ID] = estimate(film.Estimate{Mean: open.Mean - gone.Mean, SD: math.Hypot(open.SD, gone.SD)})
	}
	return out
}

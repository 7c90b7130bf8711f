package wording

import (
	"strings"
	"testing"
	"time"

	"waxplanus/core/cure"
	"waxplanus/core/film"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
)

// Every verdict that the core can give has its own sentence, in our voice, with
// the number, its doubt and the reason.
func TestEveryVerdictHasWords(t *testing.T) {
	now := time.Date(2031, 5, 4, 10, 0, 0, 0, time.UTC)
	seen := map[marks.Why]string{}
	for _, aim := range []plan.Aim{plan.NibsOnly, plan.Match, plan.Flat, plan.PolishOnly} {
		for _, k := range marks.Kinds() {
			for _, class := range []marks.Class{"", marks.Seen, marks.Felt, marks.Catches, marks.Colour} {
				for _, room := range []float64{-3, 3, 8, 16, 60} {
					for _, p := range []marks.Place{{}, {Known: true, Total: film.Estimate{Mean: 74}, Clear: film.Estimate{Mean: 30, SD: 3}, Headroom: room, Floor: 40}, {Known: true, Total: film.Estimate{Mean: 160}, Clear: film.Estimate{Mean: 60, SD: 3}, Headroom: room, Floor: 40}} {
						m := marks.Placed(k, 100, 100, 7)
						m.Class = class
						if m.Check() != nil {
							continue
						}
						w := marks.Work{Aim: aim, Colour: plan.Dark, Fits: room > 10, Levelled: 4, PanelFilm: 9, Spot: plan.SpotFinish(plan.Dark), Now: now, Spray: cure.Spray{At: now.Add(-20 * time.Hour)}, Climate: cure.UsualClimate, Clear: 60}
						j := panel.JudgedMark{Mark: facts.Mark{Mark: m, Outcome: facts.Standing}, Place: p, Verdict: marks.Judge(m, p, w)}
						got := said.Mark(j, aim)
						if !strings.HasSuffix(got, ".") || strings.ContainsAny(got, "!") || strings.Contains(got, "..") || strings.Contains(got, "-0") {
							t.Fatalf("%s %s: %q is not in our voice", k, j.Do, got)
						}
						seen[j.Verdict.Why] = got
						if plain := marksStay([]panel.JudgedMark{j}, cars.WhyMarksStay([]panel.JudgedMark{j}, true)); j.Do.Tell() && (strings.Contains(plain, "µm") || !strings.HasSuffix(plain, ".")) {
							t.Fatalf("the owner is told %q", plain)
						}
					}
				}
			}
		}
	}
	for why, want := range map[marks.Why]string{
		marks.WhyProud: "takes", marks.WhySoft: "Soft inside until", marks.WhyDeep: "Chasing it thins", marks.WhyPartly: "of its depth stays",
		marks.WhyWithin: "Comes out", marks.WhyLevelled: "Goes with the panel", marks.WhyTexture: "levelling of the panel", marks.WhyTextStays: "the aim here is",
		marks.WhyNoFilm: "", marks.WhyGate: "75 is the line", marks.WhyColour: "down to the colour", marks.WhyThinEdge: "Tape it", marks.WhyUnread: "Read the film first",
		marks.WhyShallow: "fine polish", marks.WhyNoSanding: "",
	} {
		if got, ok := seen[why]; !ok || !strings.Contains(got, want) {
			t.Errorf("%s: %q lacks %q", why, got, want)
		}
	}
	for outcome, want := range map[facts.Outcome]string{facts.Gone: "Gone; took about 3.3 µm there.", facts.Left: "Left: behind the plate; took about 3.3 µm there."} {
		row := facts.Mark{Outcome: outcome, Spent: 3.3}
		if outcome == facts.Left {
			row.Reason = "behind the plate."
		}
		if got := said.Mark(panel.JudgedMark{Mark: row}, plan.Flat); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

func TestTalliesSayWhichWay(t *testing.T) {
	spot, panel := marks.Way{Seconds: 900, Film: 3.3}, marks.Way{Seconds: 4700, Film: 9}
	for want, s := range map[string]struct {
		sum marks.Sum
		aim plan.Aim
	}{
		"No marks to spot":           {marks.Sum{Panel: panel}, plan.Flat},
		"leaves them":                {marks.Sum{Nibs: 3, Panel: panel}, plan.PolishOnly},
		"before the machine":         {marks.Sum{Nibs: 9, Spot: spot, Panel: panel, Quicker: "spot"}, plan.Flat},
		"quicker from 60 nibs":       {marks.Sum{Nibs: 9, Spot: spot, Panel: panel, Quicker: "spot", Even: 60}, plan.NibsOnly},
		"More than 59 nibs":          {marks.Sum{Nibs: 90, Spot: marks.Way{Seconds: 5400, Film: 3.3}, Panel: panel, Quicker: "panel", Even: 60}, plan.NibsOnly},
		"small block, about 15 min.": {marks.Sum{Nibs: 9, Spot: spot}, plan.NibsOnly},
	} {
		if got := said.Tally(panelwork.Tally{Sum: s.sum, Known: true}, s.aim); !strings.Contains(got, want) {
			t.Errorf("%q lacks %q", got, want)
		}
	}
}

// What the owner hears: one or many, sure or not yet, in plain words.
func TestOwnersSentences(t *testing.T) {
	mark := func(do marks.Do, why marks.Why, outcome facts.Outcome) panel.JudgedMark {
		return panel.JudgedMark{Mark: facts.Mark{Mark: marks.Mark{Kind: marks.Scratch}, Outcome: outcome}, Verdict: marks.Verdict{Do: do, Why: why}}
	}
	deep := mark(marks.DoLeave, marks.WhyDeep, facts.Standing)
	left := mark(marks.DoLeave, marks.WhyDeep, facts.Left)
	left.Reason = "behind the plate."
	for want, c := range map[string]struct {
		group   []panel.JudgedMark
		settled bool
	}{
		"It stays: there is not enough clear over the colour to take it out.":            {[]panel.JudgedMark{deep}, true},
		"They stay: there is not enough clear over the colour to take them out.":         {[]panel.JudgedMark{deep, deep}, true},
		"It may stay: how much clear there is over the colour has still to be measured.": {[]panel.JudgedMark{deep}, false},
		"It stays: behind the plate.":                       {[]panel.JudgedMark{left}, false},
		"It gets softer and stays.":                         {[]panel.JudgedMark{mark(marks.DoSoften, marks.WhyPartly, facts.Standing)}, true},
		"They get softer and stay.":                         {[]panel.JudgedMark{mark(marks.DoSoften, marks.WhyNoSanding, facts.Standing), deep}, true},
		"It goes down to the colour. Only new paint helps.": {[]panel.JudgedMark{mark(marks.DoRespray, marks.WhyColour, facts.Standing)}, false},
		"It stays: this panel is polished and not sanded.":  {[]panel.JudgedMark{mark(marks.DoLeave, marks.WhyNoSanding, facts.Standing)}, true},
	} {
		if got := marksStay(c.group, cars.WhyMarksStay(c.group, c.settled)); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	for n, want := range map[int]string{2: "Two", 7: "Seven", 10: "Ten", 11: "11", 240: "240"} {
		if got := several(n); got != want {
			t.Errorf("%d is said as %q", n, got)
		}
	}
	for _, k := range marks.Kinds() {
		if plainKinds[k][0] == "" || plainKinds[k][1] == "" {
			t.Errorf("an owner has no word for %s", k)
		}
	}
}

// Counts say what will be done: one word when all are alike, numbers when not.
func TestCountsSayWhatIsDone(t *testing.T) {
	of := func(dos ...marks.Do) []panel.JudgedMark {
		var out []panel.JudgedMark
		for _, d := range dos {
			out = append(out, panel.JudgedMark{Verdict: marks.Verdict{Do: d}})
		}
		return out
	}
	for want, open := range map[string][]panel.JudgedMark{
		"all closed":                 of(),
		"to spot":                    of(marks.DoSpot, marks.DoSpot),
		"2 to spot, 1 left and told": of(marks.DoSpot, marks.DoLeave, marks.DoSpot),
		"wait for readings":          of(marks.DoRead),
	} {
		if got := said.MarkCount(open); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	said := map[marks.Do]bool{}
	for _, w := range doWords {
		said[w.do] = true
	}
	for _, d := range []marks.Do{marks.DoSpot, marks.DoShave, marks.DoPanel, marks.DoClear, marks.DoSoften, marks.DoLeave, marks.DoPolish, marks.DoKeepOff, marks.DoRespray, marks.DoRead} {
		if !said[d] {
			t.Errorf("counts have no word for %s", d)
		}
	}
}

package web

import (
	"strings"
	"testing"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
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
						w := marks.Work{Aim: aim, Colour: plan.Dark, Fits: room > 10, Levelled: 4, PanelFilm: 9, Spot: plan.SpotFinish(plan.Dark), Now: now, Sprayed: now.Add(-20 * time.Hour), Clear: 60}
						j := judged{row: store.Mark{Outcome: store.OutcomeOpen}, place: p, Judged: marks.Judged{Mark: m, Verdict: marks.Judge(m, p, w)}}
						got := markText(j, aim)
						if !strings.HasSuffix(got, ".") || strings.ContainsAny(got, "!") || strings.Contains(got, "..") || strings.Contains(got, "-0") {
							t.Fatalf("%s %s: %q is not in our voice", k, j.Do, got)
						}
						seen[j.Verdict.Why] = got
						if plain := plainWhy([]judged{j}, true); j.Do.Tell() && (strings.Contains(plain, "µm") || !strings.HasSuffix(plain, ".")) {
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
		if got, ok := seen[why]; !ok || !strings.Contains(inUnit(got, api.Um), want) {
			t.Errorf("%s: %q lacks %q", why, got, want)
		}
	}
	for outcome, want := range map[string]string{store.OutcomeGone: "Gone; took about 3.3 µm there.", store.OutcomeLeft: "Left: behind the plate; took about 3.3 µm there."} {
		row := store.Mark{Outcome: outcome, SpentUM: 3.3}
		if outcome == store.OutcomeLeft {
			row.OutcomeReason = "behind the plate."
		}
		if got := inUnit(markText(judged{row: row}, plan.Flat), api.Um); got != want {
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
		if got := tallyText(s.sum, s.aim, true); !strings.Contains(got, want) {
			t.Errorf("%q lacks %q", got, want)
		}
	}
}

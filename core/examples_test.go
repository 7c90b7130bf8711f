package core

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"waxplanus/core/clearcoat"
	"waxplanus/core/cure"
	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/level"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/core/surface"
)

// things is the usual shelf, on which worked examples find backings by the names
// that they use.
var things = bare()

func onBacking(name string) shelf.Backing {
	key := map[string]string{"rigid": "rigid", "rubber": "rubber", "DA hard": "da-hard", "DA medium": "da-medium", "foam disc": "foam-disc"}[name]
	b, ok := things.Backing(key)
	if !ok {
		panic("no backing " + name)
	}
	return b
}

func ofGrit(key string) shelf.Abrasive {
	a, ok := things.Abrasive(strings.ToLower(key))
	if !ok {
		panic("no abrasive " + key)
	}
	return a
}

// planned is the job of a worked plan: six sections of 300 mm where it names
// none.
func planned(e example, j plan.Job) plan.Job {
	j.Grade, j.Hardness, j.Shelf = e.num("grade"), 1, things
	// The cases were computed without the trade's rules on starts, backings and the last
	// grit before the pad.
	j.Rules.Coarsest, j.Rules.Backing, j.Rules.Refine = plan.From1200, plan.AnyBacking, plan.ToAny
	// Nor with a limit on old scratches under the gloss.
	j.Shelf.Law.GhostLight, j.Shelf.Law.GhostMedium, j.Shelf.Law.GhostDark = 1, 1, 1
	if h := e.num("hard"); h > 0 {
		j.Hardness = h
	}
	n := 6
	if j.Aim == plan.Scratches {
		n = 1
	}
	for range n {
		j.Sections = append(j.Sections, plan.Rect{W: 300, H: 300})
		j.Area += 9e4
	}
	return j
}

// front is the film and time of both ends of the front of film against time.
func front(e example, j plan.Job) map[string]float64 {
	o, err := plan.Find(j)
	if err != nil {
		return nil
	}
	room := e.num("headroom")
	if room == 0 {
		room = 16
	}
	fits := o.Fits(room)
	out := map[string]float64{"plans": float64(len(fits))}
	quickest := math.Inf(1)
	for i, p := range fits {
		if i == 0 {
			out["film"], out["thriftiest_film"], out["thriftiest_min"] = p.Film, p.Film, p.Minutes
		}
		if p.Minutes < quickest {
			quickest = p.Minutes
			out["quickest_film"], out["quickest_min"] = p.Film, p.Minutes
		}
	}
	return out
}

type example struct {
	Kind, ID string
	In       map[string]any
	Out      answer
	Tol      map[string]float64
}

// answer is what a case should give. A state is told by its place in states; the lists of
// states that the trade bears out are for people.
type answer map[string]float64

var states = []string{"open", "tight", "shut"}

func (a *answer) UnmarshalJSON(raw []byte) error {
	var all map[string]any
	if err := json.Unmarshal(raw, &all); err != nil {
		return err
	}
	*a = answer{}
	for k, v := range all {
		switch v := v.(type) {
		case float64:
			(*a)[k] = v
		case string:
			(*a)[k] = float64(slices.Index(states, v))
		}
	}
	return nil
}

func (e example) num(k string) float64 {
	switch v := e.In[k].(type) {
	case float64:
		return v
	case bool:
		if v {
			return 1
		}
	}
	return 0
}

func (e example) text(k string) string { s, _ := e.In[k].(string); return s }

func (e example) list(k string) []float64 {
	var out []float64
	for _, v := range e.In[k].([]any) {
		out = append(out, v.(float64))
	}
	return out
}

// written is half of the last of the five digits that an answer is written to.
func written(want float64) float64 {
	if want == 0 {
		return 0
	}
	return 0.5 * math.Pow(10, math.Floor(math.Log10(math.Abs(want)))-4)
}

// tolerance says how far field k of the answer may be off.
func (e example) tolerance(k string, want float64) (float64, bool) {
	for _, stem := range []string{k + "_", strings.TrimSuffix(k, "_loss") + "_", strings.TrimSuffix(k, "_left_share") + "_left_",
		strings.TrimSuffix(k, "_next") + "_", ""} {
		rel, byShare := e.Tol[stem+"rel"]
		abs, byValue := e.Tol[stem+"abs"]
		if byShare || byValue {
			return math.Max(rel*math.Abs(want), abs), true
		}
	}
	return 0, false
}

// known is what a case says of a clear.
func (e example) known() clearcoat.Known {
	k := clearcoat.Known{Finish: clearcoat.Refinish, Total: clearcoat.Value{Mean: e.num("total")}, Coats: int(e.num("coats")), Car: e.num("car"),
		Under: clearcoat.Under(e.text("under")), Polished: e.num("polished") == 1}
	switch e.text("finish") {
	case "factory":
		k.Finish = clearcoat.Factory
	case "single":
		k.Finish = clearcoat.SingleStage
	}
	if e.In["before"] != nil {
		b := e.list("before")
		k.Measured = []clearcoat.Value{{Mean: k.Total.Mean - b[0], SD: b[1]}}
	}
	return k
}

var solvers = map[string]func(e example) map[string]float64{
	"clear-grid": func(e example) map[string]float64 {
		c := clearcoat.Of(e.known())
		return map[string]float64{"mean": c.Mean(), "sd": c.SD(), "under_40": c.Under(40), "under_10": c.Under(10)}
	},
	"verdict": func(e example) map[string]float64 {
		finish := film.Refinished
		if e.text("finish") == "factory" {
			finish = film.FactoryFinish
		}
		p := film.PolicyFor(finish)
		p.Floor = e.num("floor")
		least := film.LeastOf(clearcoat.Of(e.known()), []float64{e.num("thin_area")}, []float64{e.num("thin_least")})
		v := p.Judge(least, e.num("total"), film.Spend{Estimate: film.Estimate{Mean: e.num("spend"), SD: e.num("spend_sd")}}, e.num("spots") == 1)
		return map[string]float64{"state": float64(slices.Index(states, string(v.State))), "under_floor": v.Under, "through": v.Through}
	},
	"edge": func(e example) map[string]float64 {
		return one("e", film.Thin.Factor(e.num("d_mm"), math.Inf(1)))
	},
	"map-plug": func(e example) map[string]float64 { return mapAt(e, true) },
	"map-avg":  func(e example) map[string]float64 { return mapAt(e, false) },
	"clear-combine": func(e example) map[string]float64 {
		var s []film.Source
		sd := e.list("sd")
		for i, m := range e.list("mean") {
			s = append(s, film.Source{Estimate: film.Estimate{Mean: m, SD: sd[i]}})
		}
		c, _ := film.Combine(s...)
		return map[string]float64{"mean": c.Mean, "sd": c.SD}
	},
	"clear-share": func(e example) map[string]float64 {
		s := film.Share(e.num("total"), film.Estimate{Mean: e.num("share"), SD: e.num("share_sd")})
		return map[string]float64{"mean": s.Mean, "sd": s.SD}
	},
	"headroom": func(e example) map[string]float64 {
		p := film.Policy{Floor: e.num("floor"), Risk: e.num("risk"), CapFilm: e.num("cap"), CapShare: 1}
		return one("headroom", p.Headroom(film.NormalLeast(film.Estimate{Mean: e.num("mean"), SD: e.num("sd")})))
	},
	"grade": func(e example) map[string]float64 {
		sq := surface.PeelSq(e.num("grade"))
		return map[string]float64{"sq_l": sq, "sq_s": surface.PebbleSq(sq), "pv": surface.PeakToValley(sq)}
	},
	"compliance": func(e example) map[string]float64 {
		l, s := surface.Backing{E: e.num("e"), D: e.num("d"), P0: e.num("p0")}.ComplianceAt(e.num("d50"), e.num("lam_l"), e.num("lam_s"))
		return map[string]float64{"c_l": l, "c_s": s}
	},
	"level": func(e example) map[string]float64 { return levelled(e, surface.OfGrade(e.num("grade"))) },
	"truth": func(e example) map[string]float64 {
		s := surface.New(e.num("sq_l"), e.num("sq_s"), 0)
		after := s.Cut(surface.Backing{E: e.num("e"), D: e.num("d"), P0: e.num("p0")}, e.num("d50"), e.num("mean_removal"), 1)
		return map[string]float64{"crest_loss": s.CrestLoss(after), "pv_left_share": after.Valley() / s.Valley(), "untouched": after.Untouched()}
	},
	"bearing": func(e example) map[string]float64 {
		b := surface.NewBand(e.num("sq"), 0).Cut(e.num("mean_removal"), e.num("c"))
		return map[string]float64{"level": b.Top(), "untouched": b.Untouched()}
	},
	"full-contact": func(e example) map[string]float64 {
		b := surface.NewBand(e.num("sq"), 0)
		return one("left", b.Cut(e.num("mean_removal"), e.num("c")).Sq()/b.Sq())
	},
	"curved": func(e example) map[string]float64 {
		c, f := surface.CurvedFactor(e.num("e"), e.num("force_n"), e.num("length"), e.num("width"), e.num("rho"))
		return map[string]float64{"contact": c, "factor": f}
	},
	"shiny": func(e example) map[string]float64 {
		b := onBacking(e.text("backing"))
		s := surface.OfGrade(e.num("grade")).Cut(b.Backing, ofGrit("p1500").D50, e.num("mean_removal"), ofGrit("p1500").Scratch(b))
		return one("shiny", s.Shiny(ofGrit("p1500").Scratch(b)))
	},
	"rate": func(e example) map[string]float64 {
		tool := things.Law.SpeedHand
		if e.num("da") == 1 {
			tool = things.Law.SpeedOrbital
		}
		return one("r", surface.Rate(e.num("d50"), e.num("p0"), tool, e.num("hard")))
	},
	"bury": func(e example) map[string]float64 {
		b := surface.BuryScratch(e.num("s_old"), e.num("s_new"), e.num("deep"), e.num("r"))
		return map[string]float64{"film": b.Film, "mean": b.Mean, "passes": float64(b.Passes)}
	},
	"left-share": func(e example) map[string]float64 {
		return one("q", surface.StillShowing(e.num("film"), e.num("s_old")))
	},
	"disc-life": func(e example) map[string]float64 {
		left, due := surface.DiscWear(e.num("d50"), e.num("disc_mm2"), e.num("m2"), e.num("um"))
		return map[string]float64{"left": left, "discs": due}
	},
	"gloss": func(e example) map[string]float64 {
		return map[string]float64{"g20": surface.Gloss(e.num("s"), 0, 0, 20), "g60": surface.Gloss(e.num("s"), 0, 0, 60)}
	},
	"gloss-mixed": func(e example) map[string]float64 {
		g := func(a float64) float64 { return surface.Gloss(e.num("s"), e.num("s_old"), e.num("q"), a) }
		return map[string]float64{"g20": g(20), "g60": g(60)}
	},
	"clarity": func(e example) map[string]float64 {
		sq := surface.PeelSq(e.num("grade"))
		return map[string]float64{"clarity": surface.Clarity(sq, surface.PebbleSq(sq), surface.Gloss(e.num("s"), 0, 0, 20)), "wave_arcmin": surface.LampSwing(sq)}
	},
	"minor-peel": func(e example) map[string]float64 {
		b := onBacking(e.text("backing"))
		passes := func(grade float64) float64 {
			n, s := 0, surface.OfGrade(grade)
			for start := s; s.SqLong() > e.num("target"); {
				n++
				s = start.Cut(b.Backing, ofGrit("p2000").D50, float64(n)*things.Law.Rate(ofGrit("p2000"), b, 1), 1)
			}
			return float64(n)
		}
		return map[string]float64{"grade4": passes(4), "grade5": passes(5)}
	},
	"full-level": func(e example) map[string]float64 {
		out := map[string]float64{}
		for _, g := range e.list("grades") {
			start := surface.OfGrade(g)
			rubber := onBacking("rubber")
			n, sq := 0, start.SqLong()
			for sq > surface.FlatSq {
				n++
				sq = start.Cut(rubber.Backing, ofGrit("p1500").D50, float64(n)*things.Law.Rate(ofGrit("p1500"), rubber, 1), 1).SqLong()
			}
			choices, err := plan.ParseCode(fmt.Sprintf("p1500@rubber*%d,p2000-foam@foam-disc*2,3000@foam-disc*3,wool-medium*1,foam-fine*2", n), &things)
			if err != nil {
				return nil
			}
			l, err := plan.Job{Aim: plan.Flat, Grade: g, Colour: plan.Medium, Hardness: 1, Sections: []plan.Rect{{W: 300, H: 300}}, Area: 9e4, Shelf: things}.Work(choices)
			if err == nil {
				out["film"+string(rune('0'+int(g)))] = l.Film
			}
		}
		return out
	},
	"learn": func(e example) map[string]float64 {
		p, err := level.Learn(e.list("sds"), []level.Observation{{Measured: e.num("measured"), SD: e.num("sd"),
			Predict: func(x []float64) float64 { return e.num("nominal") * math.Exp(x[0]+x[1]+x[2]+x[3]) }}})
		if err != nil {
			return nil
		}
		sum, v := 0.0, 0.0
		for i := range 4 {
			sum += p.Mean[i]
			for j := range 4 {
				v += p.Cov.At(i, j)
			}
		}
		return map[string]float64{"factor": math.Exp(sum), "log_sd": math.Sqrt(v), "operator": math.Exp(p.Mean[0])}
	},
	"diff-noise": func(e example) map[string]float64 {
		return one("sd", level.DifferenceNoise(e.num("a"), e.num("nugget"), int(e.num("shots")), int(e.num("spots"))))
	},
	"passes-left": func(e example) map[string]float64 {
		clear := film.NormalLeast(film.Estimate{Mean: e.num("mu"), SD: e.num("s")})
		risk := func(n int) float64 {
			return level.Risk(clear, 0, func(z float64) float64 { return float64(n) * e.num("r") * math.Exp(e.num("log_sd")*z) })
		}
		n := level.PassesLeft(e.num("risk"), risk)
		return map[string]float64{"passes": float64(n), "risk_next": risk(n + 1)}
	},
	"shoulder": func(e example) map[string]float64 {
		s := marks.ShoulderOf(e.num("h"), e.num("w"), e.num("block"), e.num("stroke"))
		return map[string]float64{"share": s.Share, "mean": s.Mean, "peak_raw": s.PeakRaw, "peak": s.Peak}
	},
	"shave-to": func(e example) map[string]float64 {
		return one("remainder", marks.ShaveTo(e.num("budget"), e.num("w"), e.num("block"), e.num("stroke")))
	},
	"shave-time": func(e example) map[string]float64 {
		return one("s", marks.Blade{Width: e.num("blade"), Takes: e.num("t"), Seconds: e.num("sec")}.ShaveTime(e.num("h"), e.num("l"), e.num("rest")))
	},
	"recure": func(e example) map[string]float64 {
		c := cure.Law{Hours: e.num("ref_h"), FilmUM: e.num("ref_um")}
		return map[string]float64{"h20": c.Wait(e.num("um"), 20), "h60": c.Wait(e.num("um"), 60)}
	},
	"feather": func(e example) map[string]float64 {
		return map[string]float64{"dark": marks.Feather(e.num("d"), marks.Arcmin("dark")), "medium": marks.Feather(e.num("d"), marks.Arcmin("medium"))}
	},
	"nibs": func(e example) map[string]float64 {
		w := marks.SpotWork{Each: e.num("t_sand"), Radius: e.num("r") / 1000, Polish: e.num("polish")}
		return one("s", w.Time(int(e.num("n")), e.num("m2")))
	},
	"pass": func(e example) map[string]float64 {
		l := plan.Lane{Pad: e.num("pad"), Overlap: e.num("overlap"), Speed: e.num("v"), Turn: e.num("turn"), Crossings: int(e.num("times"))}
		return one("s", plan.PassTime(l, e.num("w"), e.num("l")))
	},
	"plan-A": func(e example) map[string]float64 {
		return front(e, planned(e, plan.Job{Aim: plan.Flat, Colour: plan.Dark}))
	},
	"plan-B": func(e example) map[string]float64 {
		return front(e, planned(e, plan.Job{Aim: plan.Scratches, Colour: plan.Medium, Scratch: e.num("s0")}))
	},
	"plan-C": func(e example) map[string]float64 {
		return front(e, planned(e, plan.Job{Aim: plan.Match, Colour: plan.Medium, Reference: e.num("ref")}))
	},
	"plan-D": func(e example) map[string]float64 {
		return front(e, planned(e, plan.Job{Aim: plan.Flat, Colour: plan.Medium}))
	},
	"plan-E": func(e example) map[string]float64 {
		return front(e, planned(e, plan.Job{Aim: plan.Flat, Colour: plan.Dark, Single: true}))
	},
	"passes-by-shiny": func(e example) map[string]float64 {
		b, a := onBacking(e.text("backing")), ofGrit(e.text("grit"))
		byLook, naive := passesByShiny(b, a, 150)
		return map[string]float64{"mean_abs_error_passes": byLook, "naive_error_passes": naive}
	},
	"split": func(e example) map[string]float64 {
		return map[string]float64{"cols": float64(flatlay.Split(e.num("w"), e.num("max"))), "rows": float64(flatlay.Split(e.num("h"), e.num("max")))}
	},
}

// passesByShiny draws sections of a grade that was misjudged and a cut that is
// not nominal, works each a third of the way, looks once at a dry wipe, and says
// by how many passes the passes to flat were missed, by that look and without it.
func passesByShiny(b shelf.Backing, a shelf.Abrasive, draws int) (byLook, naive float64) {
	const done, guess = 2, 7.0
	rng := rand.New(rand.NewPCG(3, 5))
	rate := things.Law.Rate(a, b, 1)
	for range draws {
		grade, cut := guess+0.8*rng.NormFloat64(), rate*math.Exp(0.35*rng.NormFloat64())
		s := surface.OfGrade(grade)
		seen := s.Cut(b.Backing, a.D50, cut*done, a.Scratch(b)).Shiny(a.Scratch(b)) + 0.05*rng.NormFloat64()
		truth := math.Max(0, surface.RemovalToFlat(surface.PeelSq(grade), b.Backing, a.D50)/cut-done)
		p := level.Look{Backing: b.Backing, D50: a.D50, Scratch: a.Scratch(b), Rate: rate, Grade: guess, Passes: done, Shiny: seen}.See().Passes
		byLook += math.Abs(p.Mean-truth) / float64(draws)
		naive += math.Abs(math.Max(0, surface.RemovalToFlat(surface.PeelSq(guess), b.Backing, a.D50)/rate-done)-truth) / float64(draws)
	}
	return byLook, naive
}

func one(k string, v float64) map[string]float64 { return map[string]float64{k: v} }

func levelled(e example, s surface.Surface) map[string]float64 {
	b := onBacking(e.text("backing"))
	after := s.Cut(b.Backing, ofGrit("p1500").D50, e.num("mean_removal"), ofGrit("p1500").Scratch(b))
	return map[string]float64{"crest_loss": s.CrestLoss(after), "pv": after.Valley(), "sq_l": after.SqLong(), "untouched": after.Untouched()}
}

// mapAt asks a rectangular panel's film map for one place.
func mapAt(e example, plugged bool) map[string]float64 {
	w, h := e.num("w"), e.num("h")
	p := flatlay.Panel{Outline: []flatlay.Point{{X: 0, Y: 0}, {X: w, Y: 0}, {X: w, Y: h}, {X: 0, Y: h}}}
	var rs []film.Reading
	for _, r := range e.In["readings"].([]any) {
		m := r.(map[string]any)
		rs = append(rs, film.Reading{Spot: film.SpotOf(p, m["x"].(float64), m["y"].(float64)), T: m["t"].(float64), Shots: 1})
	}
	// The worked cases were made with the calibration as an error of each reading alone.
	level := 0.0
	for _, r := range rs {
		level += r.T / film.Thin.Factor(r.Edge, r.Crease) / float64(len(rs))
	}
	for i := range rs {
		rs[i].Var = math.Pow(0.01*level, 2)
	}
	prior := film.Prior{Drift: 0.05, Reach: 250, Stripe: 0.04, StripeReach: 60, Droop: 0.06, Side: 0.12}
	over := film.DriftAveraged
	if plugged {
		over = film.Plugged
	}
	m, err := film.NewMap(rs, film.Gauge{A: 0.8, Replace: 1}, prior, film.Extent{W: w, H: h}, over)
	if err != nil {
		return nil
	}
	at := m.At([]film.Spot{film.SpotOf(p, e.num("x"), e.num("y"))})
	return map[string]float64{"mean": at[0].Mean, "sd": at[0].SD}
}

func TestExamples(t *testing.T) {
	files, err := filepath.Glob("testdata/examples/*.json")
	if err != nil || len(files) == 0 {
		t.Fatalf("no worked examples found: %v", err)
	}
	ran := 0
	for _, name := range files {
		raw, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		var file struct{ Examples []example }
		if err := json.Unmarshal(raw, &file); err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		for _, e := range file.Examples {
			t.Run(e.ID, func(t *testing.T) {
				solve, known := solvers[e.Kind]
				if !known {
					t.Fatalf("no solver for kind %q", e.Kind)
				}
				check(t, e, solve(e))
				ran++
			})
		}
	}
	if ran == 0 {
		t.Fatal("no example was computed")
	}
}

func check(t *testing.T, e example, got map[string]float64) {
	for k, want := range e.Out {
		tol, ok := e.tolerance(k, want)
		tol = max(tol, written(want))
		if !ok {
			t.Errorf("%s has no tolerance", k)
		}
		if v, there := got[k]; !there || math.IsNaN(v) || math.Abs(v-want) > tol {
			t.Errorf("%s = %v, want %v within %v", k, v, want, tol)
		}
	}
}

// bare is the usual shelf without the handling around the tools' work, which the examples
// leave out.
func bare() shelf.Shelf {
	s := shelf.Usual()
	s.Law.Handling = shelf.Handling{}
	return s
}

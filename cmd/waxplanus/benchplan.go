package main

import (
	"fmt"
	"io"
	"math"
	"runtime"
	"slices"
	"sync"
	"time"

	"github.com/spf13/cobra"

	"waxplanus/core/plan"
	"waxplanus/core/shelf"
)

func benchPlanCommand(out io.Writer) *cobra.Command {
	var rounds int
	c := &cobra.Command{
		Use: "plan", Short: "Speed of the planner, and what it saves against looking at every sequence", Args: cobra.NoArgs,
		Long: `Plans panels of every aim, colour and peel on a shelf of 10 abrasives, 4 backings,
2 tools and 8 pairs of pad and compound: all offers of a panel, a car of 14 panels,
and on a shelf small enough for it every sequence there is, with the front of film
against time held against the planner's.`,
		RunE: func(*cobra.Command, []string) error { return benchPlan(out, rounds) },
	}
	c.Flags().IntVar(&rounds, "rounds", 5, "how often each is timed")
	return c
}

// only leaves of a shelf what is named.
func only(s shelf.Shelf, keys ...string) shelf.Shelf {
	for i := range s.Abrasives {
		s.Abrasives[i].Have = slices.Contains(keys, s.Abrasives[i].Key)
	}
	for i := range s.Backings {
		s.Backings[i].Have = slices.Contains(keys, s.Backings[i].Key)
	}
	for i := range s.Compounds {
		s.Compounds[i].Have = slices.Contains(keys, "all pads") || slices.Contains(keys, s.Compounds[i].Key)
	}
	return s
}

var (
	tenAbrasives = []string{"p1200", "p1500", "p2000", "p2500", "p1500-film", "p2000-film", "p2500-film", "3000", "4000", "5000",
		"rigid", "rubber", "da-hard", "foam-disc", "all pads"}
	aFew = []string{"p1200", "p1500", "p2000", "p2500", "p2000-film", "3000", "rigid", "rubber", "da-hard", "foam-disc", "microfibre-heavy", "wool-medium", "foam-fine"}
)

func benchJob(aim plan.Aim, grade float64, c plan.Colour, s shelf.Shelf) plan.Job {
	j := plan.Job{Aim: aim, Grade: grade, Reference: 4, Colour: c, Hardness: 1, Scratch: plan.UsualSwirl, Nibs: 12, Area: 0.54e6, Perimeter: 3000, Shelf: s}
	for range 6 {
		j.Sections = append(j.Sections, plan.Rect{W: 300, H: 300})
	}
	return j
}

func offersOf(j plan.Job, room float64) error {
	o, err := plan.Find(j)
	if err == nil {
		_, _, err = o.Offers(room)
	}
	return err
}

func benchPlan(out io.Writer, rounds int) error {
	ten := only(shelf.Usual(), tenAbrasives...)
	if err := offersOf(benchJob(plan.Flat, 6, plan.Dark, ten), 12); err != nil { // the table of the short band is made once
		return err
	}
	for _, s := range []struct {
		name  string
		shelf shelf.Shelf
	}{{"10 abrasives, 4 backings, 8 pads", ten}, {"the whole usual shelf, 48 + 8", shelf.Usual()}} {
		var took []time.Duration
		for range max(rounds, 1) {
			for _, aim := range []plan.Aim{plan.Flat, plan.Match, plan.NibsOnly, plan.PolishOnly} {
				for _, c := range []plan.Colour{plan.Light, plan.Medium, plan.Dark} {
					for _, grade := range []float64{5, 6, 7, 8} {
						start := time.Now()
						if err := offersOf(benchJob(aim, grade, c, s.shelf), 12); err != nil {
							return err
						}
						took = append(took, time.Since(start))
					}
				}
			}
		}
		fmt.Fprintf(out, "all offers of a panel, %s: %s\n", s.name, spread(took))
	}
	if err := benchPlanCar(out, ten, rounds); err != nil {
		return err
	}
	return benchExhaustive(out, rounds)
}

func spread(took []time.Duration) string {
	slices.Sort(took)
	ms := func(d time.Duration) float64 { return math.Round(100*d.Seconds()*1000) / 100 }
	return fmt.Sprintf("middle %v ms, least %v, most %v of %d", ms(took[len(took)/2]), ms(took[0]), ms(took[len(took)-1]), len(took))
}

// benchPlanCar plans a car whose panels all differ.
func benchPlanCar(out io.Writer, s shelf.Shelf, rounds int) error {
	var took []time.Duration
	for range max(rounds, 1) {
		start := time.Now()
		errs := make([]error, carPanels)
		var wg sync.WaitGroup
		for i := range carPanels {
			wg.Go(func() { errs[i] = offersOf(benchJob(plan.Flat, 5+float64(i)/5, plan.Dark, s), 12) })
		}
		wg.Wait()
		took = append(took, time.Since(start))
		for _, err := range errs {
			if err != nil {
				return err
			}
		}
	}
	fmt.Fprintf(out, "all offers of a car of %d panels, all to flat, %d cores: %s\n", carPanels, runtime.GOMAXPROCS(0), spread(took))
	return nil
}

// benchExhaustive holds the planner against looking at every sequence.
func benchExhaustive(out io.Writer, rounds int) error {
	j := benchJob(plan.Flat, 6, plan.Dark, only(shelf.Usual(), aFew...))
	time1 := func(find func(plan.Job) (*plan.Options, error)) (time.Duration, *plan.Options, error) {
		best := time.Duration(math.MaxInt64)
		var o *plan.Options
		for range max(rounds, 1) {
			start := time.Now()
			var err error
			if o, err = find(j); err != nil {
				return 0, nil, err
			}
			best = min(best, time.Since(start))
		}
		return best, o, nil
	}
	all, every, err := time1(plan.FindAll)
	if err != nil {
		return err
	}
	exact, kept, err := time1(plan.FindExact)
	if err != nil {
		return err
	}
	quick, slack, err := time1(plan.Find)
	if err != nil {
		return err
	}
	same := "the same front"
	if !slices.EqualFunc(front(every), front(kept), func(a, b plan.Point) bool { return a.Film == b.Film && a.Minutes == b.Minutes }) {
		same = "ANOTHER FRONT"
	}
	worst := 0.0
	for _, p := range front(every) {
		near := math.Inf(1)
		for _, q := range front(slack) {
			if q.Minutes <= p.Minutes*1.02 {
				near = math.Min(near, q.Film-p.Film)
			}
		}
		worst = math.Max(worst, near)
	}
	fmt.Fprintf(out, "every sequence of a small shelf: %d in %v; with exact dominance %d in %v (%s, %.0f times as fast);\nwith slack %d in %v (%.0f times as fast), at most %.2f µm more on a point of the front\n",
		every.Looked, all.Round(10*time.Microsecond), kept.Looked, exact.Round(10*time.Microsecond), same, all.Seconds()/exact.Seconds(),
		slack.Looked, quick.Round(10*time.Microsecond), all.Seconds()/quick.Seconds(), worst)
	return nil
}

func front(o *plan.Options) []plan.Point {
	return slices.DeleteFunc(o.Fits(math.Inf(1)), func(p plan.Point) bool { return !p.Front })
}

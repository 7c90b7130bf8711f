package robot

import (
	"fmt"
	"io"
	"maps"
	"math"
	"runtime"
	"slices"
	"sync"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
)

// Finding is something that must always hold and did not.
type Finding struct {
	Rule   int
	What   string
	Script []byte
	Log    []string // what was asked for up to then
}

// Result is what came of one job. Sections that were worked count as Under the usual floor
// that they were over before, as Through, and as Finished in full by the truth.
type Result struct {
	Kind                               string
	Findings                           []Finding
	Asked, Readings, Taps              int
	Done                               bool
	Sections, Under, Through, Finished int
	Slowest                            time.Duration
	Slow                               string
}

// mostFindings is how many a job is followed for: what comes after follows from them.
const mostFindings = 8

// Run works the job of a script.
func Run(script []byte) (Result, error) {
	var out Result
	j := &job{dice: &dice{script: script}}
	seen := map[string]bool{}
	h, err := open(func(rule int, what string) {
		if key := fmt.Sprint(rule, what); len(out.Findings) < mostFindings && !seen[key] {
			seen[key] = true
			out.Findings = append(out.Findings, Finding{rule, what, script, slices.Clone(j.log)})
		}
		j.over = j.over || len(out.Findings) >= mostFindings
	})
	if err != nil {
		return out, err
	}
	defer h.close()
	j.house = h
	if j.takeIn() {
		j.follow()
		j.count(&out)
	}
	out.Kind, out.Asked, out.Readings, out.Taps, out.Done = j.kind, j.asked, j.reads, j.taps, j.done
	out.Slowest, out.Slow = h.slowest, h.slow
	return out, nil
}

// count says what became of the film by the truth.
func (j *job) count(out *Result) {
	for id := range j.wanted {
		t := j.panels[id]
		for _, s := range sectionsOf(t.shape) {
			if t.lost[s.Key] == 0 {
				continue
			}
			out.Sections++
			if !t.short[s.Key] {
				out.Finished++
			}
			part, least := t.left(s)
			if part < film.PolicyFor(film.Refinished).Floor && part+t.lost[s.Key] >= film.PolicyFor(film.Refinished).Floor {
				out.Under++
			}
			if least < film.WayThrough {
				out.Through++
			}
		}
	}
}

var grounds sync.Map // *film.Ground by the panel's key and size

func sectionsOf(p flatlay.Panel) []flatlay.Section {
	w, h := p.Size()
	key := fmt.Sprintf("%s %.0f %.0f", p.Key, w, h)
	if g, ok := grounds.Load(key); ok {
		return g.([]flatlay.Section)
	}
	out := film.NewGround(p).Sections
	grounds.Store(key, out)
	return out
}

func quantile(all []float64, q float64) float64 {
	if len(all) == 0 {
		return math.NaN()
	}
	slices.Sort(all)
	return all[int(q*float64(len(all)-1))]
}

// Shortest cuts a script down as long as its job still breaks the same rule, within so long.
func Shortest(f Finding, within time.Duration) Finding {
	end := time.Now().Add(within)
	best := f
	breaks := func(script []byte) bool {
		r, err := Run(script)
		if err != nil {
			return false
		}
		for _, one := range r.Findings {
			if one.Rule == f.Rule {
				best = one
				return true
			}
		}
		return false
	}
	for size := len(best.Script) / 2; size >= 1; size /= 2 {
		for at := len(best.Script) - size; at >= 0 && time.Now().Before(end); at -= size {
			if at+size > len(best.Script) {
				continue
			}
			if breaks(slices.Delete(slices.Clone(best.Script), at, at+size)) {
				continue
			}
			calm := slices.Clone(best.Script)
			clear(calm[at : at+size])
			if !slices.Equal(calm, best.Script) {
				breaks(calm)
			}
		}
	}
	return best
}

// Sum is what came of many jobs of one kind.
type Sum struct {
	Jobs, Done, Readings, Taps, Asked, Sections, Finished, Under, Through, Findings int
	Slowest                                                                         time.Duration
	Slow                                                                            string
}

// Many works so many jobs of a seed from the given one on, for so long at most (0 for as long as
// it takes), prints what they broke as it is found, and sums them up by kind.
func Many(out io.Writer, seed uint64, from, jobs int, most time.Duration, shrink time.Duration) (map[string]*Sum, []Finding, error) {
	sums, findings := map[string]*Sum{}, []Finding{}
	var mu sync.Mutex
	var wg sync.WaitGroup
	next := make(chan int)
	var failed error
	start := time.Now()
	for range runtime.GOMAXPROCS(0) {
		wg.Go(func() {
			for i := range next {
				r, err := Run(ScriptOf(seed, i))
				mu.Lock()
				if err != nil {
					failed = err
				}
				s := sums[r.Kind]
				if s == nil {
					s = &Sum{}
					sums[r.Kind] = s
				}
				s.add(r)
				for _, f := range r.Findings {
					fmt.Fprintf(out, "seed %d job %d, rule %d: %s\n", seed, i, f.Rule, f.What)
				}
				findings = append(findings, r.Findings...)
				mu.Unlock()
			}
		})
	}
	for i := from; i < from+jobs; i++ {
		if most > 0 && time.Since(start) > most {
			break
		}
		next <- i
	}
	close(next)
	wg.Wait()
	if len(findings) > 0 && shrink > 0 {
		f := Shortest(findings[0], shrink)
		fmt.Fprintf(out, "the shortest script for rule %d (%s) has %d bytes: %x\n", f.Rule, f.What, len(f.Script), f.Script)
		for _, line := range f.Log {
			fmt.Fprintln(out, "  "+line)
		}
	}
	return sums, findings, failed
}

func (s *Sum) add(r Result) {
	s.Jobs++
	if r.Done {
		s.Done++
	}
	s.Readings, s.Taps, s.Asked = s.Readings+r.Readings, s.Taps+r.Taps, s.Asked+r.Asked
	s.Sections, s.Finished, s.Under, s.Through, s.Findings = s.Sections+r.Sections, s.Finished+r.Finished, s.Under+r.Under, s.Through+r.Through, s.Findings+len(r.Findings)
	if r.Slowest > s.Slowest {
		s.Slowest, s.Slow = r.Slowest, r.Slow
	}
}

// Kinds are those of sums in their order.
func Kinds(sums map[string]*Sum) []string { return slices.Sorted(maps.Keys(sums)) }

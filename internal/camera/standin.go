package camera

import (
	"bytes"
	"encoding/json"
	"fmt"
	"hash/fnv"
	"image/jpeg"
	"io"
	"math"
	"math/rand/v2"
	"net/http"
	"sync"
	"time"

	"waxplanus/core/photo"
	"waxplanus/core/surface"
)

// StandIn is a camera with meters without hardware: what it shows is a hidden truth of each
// panel, drawn from its name, as the passes that were made have left it. Its panels are rougher
// or flatter than they were said to be, and are cut faster or slower.
type StandIn struct {
	Seed   uint64
	Card   bool // a scale card lies on the panel
	Coarse bool // its photos have fewer pixels of a smaller piece

	say   sync.Mutex
	out   io.Writer
	mu    sync.Mutex
	noise *rand.Rand
}

// NewStandIn makes a stand-in that tells on out what it does.
func NewStandIn(seed uint64, card bool, out io.Writer) *StandIn {
	return &StandIn{Seed: seed, Card: card, out: out, noise: rand.New(rand.NewPCG(seed, 0xca3))}
}

// standLamp is how the stand-in takes photos; the card on the panel hides the scale from whoever
// reads them.
var standLamp = photo.Lamp{Pitch: 20, Lamp: 500, Camera: 700, Aperture: 4, MMPerPx: 0.12, Lens: 0.8, Gamma: 2.2}

// lamp is how this one takes photos, of so many pixels.
func (c *StandIn) lamp() (l photo.Lamp, wide, high int) {
	if c.Coarse {
		l = standLamp
		l.MMPerPx = 0.17
		return l, 760, 520
	}
	return standLamp, 1280, 960
}

const (
	// How far a hidden truth is from what was said: of the grade, and of the logarithm of the cut.
	hiddenGrade, hiddenCut = 0.5, 0.2
	glossMeter, clearMeter = "stand-in gloss", "stand-in clarity"
	glossNoise, clearNoise = 0.4, 0.8
)

// About the stand-in.
func (c *StandIn) About() About {
	l, _, _ := c.lamp()
	out := About{Name: "stand-in camera", PitchMM: l.Pitch, LampMM: l.Lamp, CameraMM: l.Camera, ApertureMM: l.Aperture,
		MMPerPx: l.MMPerPx, LensPx: l.Lens, Gamma: l.Gamma, Scale: c.Card, Shiny: string(photo.Darker),
		Meters: []MeterAs{{"gloss", glossMeter, 20}, {"clarity", clearMeter, 0}}}
	if c.Card {
		out.MMPerPx, out.LensPx = 0, 0
	}
	return out
}

// ServeHTTP answers the application.
func (c *StandIn) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if r.URL.Path == pathAbout && r.Method == http.MethodGet {
		answer(w, c.About())
		return
	}
	var s Subject
	if err := json.NewDecoder(io.LimitReader(r.Body, mostSubject)).Decode(&s); err != nil || r.Method != http.MethodPost {
		http.Error(w, "a subject is wanted, as JSON", http.StatusBadRequest)
		return
	}
	if err := s.check(); err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	switch r.URL.Path {
	case pathReflection:
		c.tell("a photo of the lamps in %s", s.Panel)
		picture(w, c.Reflection(s))
	case pathDull:
		c.tell("a photo of %s, sanded", s.Panel)
		picture(w, c.Dull(s))
	case pathMeter:
		v, ok := c.Meter(r.URL.Query().Get("instrument"), s)
		if !ok {
			http.Error(w, "no such meter", http.StatusNotFound)
			return
		}
		c.tell("%s of %s: %.1f", r.URL.Query().Get("instrument"), s.Panel, v)
		answer(w, Value{v})
	default:
		http.NotFound(w, r)
	}
}

func answer(w http.ResponseWriter, v any) {
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(v) // one that is gone hears nothing
}

func picture(w http.ResponseWriter, p photo.Picture) {
	var out bytes.Buffer
	if err := jpeg.Encode(&out, p.Gray(), &jpeg.Options{Quality: 92}); err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	w.Header().Set("Content-Type", "image/jpeg")
	_, _ = w.Write(out.Bytes()) // one that is gone sees nothing
}

func (c *StandIn) tell(format string, args ...any) {
	c.say.Lock()
	defer c.say.Unlock()
	fmt.Fprintf(c.out, "%s  %s\n", time.Now().Format("15:04:05"), fmt.Sprintf(format, args...))
}

// check says what no panel can be.
func (s Subject) check() error {
	if !(s.PeelGrade >= 0 && s.PeelGrade <= 10) || len(s.Worked) > mostSteps {
		return fmt.Errorf("a peel grade from 0 to 10 and at most %d steps are wanted", mostSteps)
	}
	for _, st := range s.Worked {
		if st.Passes < 0 || st.Passes > mostPasses || !(st.CutUM >= 0 && st.CutUM <= 20) || !(st.StiffMPa > 0 && st.PressKPa > 0) || !(st.GrainUM >= 0 && st.ScratchUM >= 0) || !(st.SheetNM >= 0) {
			return fmt.Errorf("step %q cannot be", st.Title)
		}
	}
	return nil
}

// truth of a panel, hidden: its seed, how it was, and how it is.
func (c *StandIn) truth(s Subject) (seed uint64, was, is surface.Surface) {
	h := fnv.New64a()
	fmt.Fprintf(h, "%d|%s", c.Seed, s.Panel)
	seed = h.Sum64()
	rng := rand.New(rand.NewPCG(seed, 0x7a7))
	grade := math.Min(math.Max(s.PeelGrade+hiddenGrade*rng.NormFloat64(), 0), 10)
	cut := math.Exp(hiddenCut * rng.NormFloat64())
	sq := surface.PeelSq(grade)
	was = surface.New(sq, surface.PebbleSq(sq)*math.Exp(0.15*rng.NormFloat64()), 0)
	is = was
	for _, st := range s.Worked {
		if st.Passes == 0 {
			continue
		}
		is = is.Cut(surface.Backing{E: st.StiffMPa, D: st.SheetNM, P0: st.PressKPa}, st.GrainUM, float64(st.Passes)*st.CutUM*cut, st.ScratchUM)
	}
	return seed, was, is
}

// height of a surface as a field, its long waves the same before and after work.
func height(s surface.Surface, seed uint64, w, h int, mm float64) photo.Height {
	long, short := math.Max(s.SqLong(), 0.02), math.Max(s.SqShort(), 0.003)
	return photo.NewHeight(w, h, mm, []photo.Waves{{Length: surface.LongWave, Sq: long, Spread: 0.2}, {Length: 0.75, Sq: short, Spread: 0.2}}, seed)
}

// hazeOf is how far a scratch spreads the mirrored light, mrad (judgement).
func hazeOf(scratch float64) float64 { return 0.2 + 4*scratch }

// Reflection is a photo of the lamps in a panel.
func (c *StandIn) Reflection(s Subject) photo.Picture {
	seed, _, is := c.truth(s)
	lamp, wide, high := c.lamp()
	shot := photo.Shot{Lamp: lamp, Duty: 0.5, Dark: 0.03, Lit: 0.8, Noise: 0.005, Haze: math.Min(hazeOf(is.Scratch), 4), Uneven: 0.15, Seed: c.next(), ShiftShare: 0.2}
	if c.Card {
		shot.Laid = &photo.Laid{X: -0.28 * float64(wide) * lamp.MMPerPx, Y: -0.2 * float64(high) * lamp.MMPerPx, Turn: 0.1}
	}
	return shot.Mirror(height(is, seed, wide, high, lamp.MMPerPx))
}

// Dull is a photo of a sanded section, wiped dry.
func (c *StandIn) Dull(s Subject) photo.Picture {
	seed, was, is := c.truth(s)
	share := 1.0
	if is.Scratch > 0 {
		share = is.Shiny(is.Scratch)
	}
	lamp, wide, high := c.lamp()
	d := photo.Sanded{Share: share, Shine: 0.55, Light: 0.4, Uneven: 2, Noise: 0.005, Lens: 0.8, Gamma: 2.2, Seed: c.next()}
	return d.Photo(height(was, seed, wide/2, high/2, 2*lamp.MMPerPx))
}

// Meter reads one of its meters; false where it has none of that name.
func (c *StandIn) Meter(instrument string, s Subject) (float64, bool) {
	seed, _, is := c.truth(s)
	place := rand.New(rand.NewPCG(seed, uint64(int64(s.XMM/25))<<20^uint64(int64(s.YMM/25))))
	switch instrument {
	case glossMeter:
		return bounded(100*is.Gloss20()+0.3*place.NormFloat64()+glossNoise*c.normal(), 120), true
	case clearMeter:
		return bounded(is.Clarity()+1.5*place.NormFloat64()+clearNoise*c.normal(), 100), true
	}
	return 0, false
}

func bounded(v, most float64) float64 {
	return math.Round(10*math.Min(math.Max(v, 0), most)) / 10
}

func (c *StandIn) next() uint64 {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.noise.Uint64()
}

func (c *StandIn) normal() float64 {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.noise.NormFloat64()
}

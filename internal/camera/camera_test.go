package camera

import (
	"context"
	"errors"
	"io"
	"math"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"waxplanus/core/photo"
)

func door(worked ...Step) Subject {
	return Subject{Panel: "pilot-car.L-fdoor", Colour: "dark", PeelGrade: 6, Worked: worked}
}

var level = Step{Title: "P1500", Passes: 6, CutUM: 0.5, GrainUM: 12.6, ScratchUM: 1.26, StiffMPa: 5, SheetNM: 1e-4, PressKPa: 3}

func serve(t *testing.T, h http.Handler) *Link {
	t.Helper()
	srv := httptest.NewServer(h)
	t.Cleanup(srv.Close)
	return NewLink(srv.URL)
}

// What the stand-in shows is read back as the truth that it hides, before work and after.
func TestTheStandInShowsItsHiddenTruth(t *testing.T) {
	for _, card := range []bool{false, true} {
		c := NewStandIn(1, card, io.Discard)
		l := serve(t, c)
		about, err := l.About(context.Background())
		if err != nil || about.Scale != card || len(about.Meters) != 2 {
			t.Fatal(about, err)
		}
		polish := Step{Title: "polish", Passes: 2, CutUM: 0.03, ScratchUM: 0.03, StiffMPa: 0.1, PressKPa: 5}
		var peel []float64
		for _, s := range []Subject{door(), door(level, polish)} {
			data, err := l.Reflection(context.Background(), s, 32<<20)
			if err != nil {
				t.Fatal(err)
			}
			p, err := photo.Decode(data)
			if err != nil {
				t.Fatal(err)
			}
			r, _, _, err := photo.Take{Lamp: photo.Lamp{Pitch: about.PitchMM, Lamp: about.LampMM, Camera: about.CameraMM, Aperture: about.ApertureMM,
				MMPerPx: about.MMPerPx, Lens: about.LensPx, Gamma: about.Gamma}, Scale: about.Scale}.Read(p)
			if err != nil {
				t.Fatal(err)
			}
			_, _, is := c.truth(s)
			if r.Peel.Low > is.SqLong()*1.05 || r.Peel.High < is.SqLong()*0.95 {
				t.Errorf("card %v: %.3f is read as %.3f, %.3f to %.3f", card, is.SqLong(), r.Peel.Value, r.Peel.Low, r.Peel.High)
			}
			peel = append(peel, r.Peel.Value)
		}
		if peel[1] > 0.8*peel[0] {
			t.Errorf("card %v: work leaves %.2f of %.2f", card, peel[1], peel[0])
		}
	}
}

func TestTheStandInShowsWhatStillShines(t *testing.T) {
	c := NewStandIn(1, false, io.Discard)
	l := serve(t, c)
	s := door(level)
	data, err := l.Dull(context.Background(), s, 32<<20)
	if err != nil {
		t.Fatal(err)
	}
	p, err := photo.Decode(data)
	if err != nil {
		t.Fatal(err)
	}
	r, err := photo.ReadShiny(p, 2.2, photo.Darker)
	if err != nil {
		t.Fatal(err)
	}
	_, _, is := c.truth(s)
	if want := is.Shiny(is.Scratch); math.Abs(r.Share.Value-want) > 0.03 {
		t.Errorf("%.3f shines, %.3f is read", want, r.Share.Value)
	}
}

func TestMetersReadTheSurface(t *testing.T) {
	c := NewStandIn(1, false, io.Discard)
	l := serve(t, c)
	read := func(instrument string, s Subject) float64 {
		t.Helper()
		v, err := l.Meter(context.Background(), instrument, s)
		if err != nil {
			t.Fatal(err)
		}
		return v
	}
	if gloss, dull := read(glossMeter, door()), read(glossMeter, door(level)); gloss < 95 || dull > 30 {
		t.Errorf("gloss %.1f, sanded %.1f", gloss, dull)
	}
	_, was, _ := c.truth(door())
	if v := read(clearMeter, door()); math.Abs(v-was.Clarity()) > 8 {
		t.Errorf("clarity %.1f, %.1f by the surface", v, was.Clarity())
	}
	if _, err := l.Meter(context.Background(), "another", door()); err == nil {
		t.Error("a meter that is not there reads")
	}
}

func TestACameraThatSaysNothingUsable(t *testing.T) {
	silent := func(name string, h http.HandlerFunc) {
		t.Helper()
		l := serve(t, h)
		_, about := l.About(context.Background())
		_, taken := l.Reflection(context.Background(), door(), 1000)
		for _, err := range []error{about, taken} {
			var s *Silent
			if !errors.As(err, &s) {
				t.Errorf("%s: %v", name, err)
			}
		}
	}
	silent("faults", func(w http.ResponseWriter, _ *http.Request) { http.Error(w, "no", http.StatusInternalServerError) })
	silent("babble", func(w http.ResponseWriter, _ *http.Request) { _, _ = io.WriteString(w, strings.Repeat("x", 1<<20)) })
	if _, err := NewLink("127.0.0.1:1").About(context.Background()); err == nil {
		t.Error("nobody answers")
	}
}

func TestTheStandInRefusesWhatCannotBe(t *testing.T) {
	h := NewStandIn(1, false, io.Discard)
	for body, path := range map[string]string{
		"":                  pathReflection,
		"[1]":               pathDull,
		`{"peel_grade":11}`: pathReflection,
		`{"worked":[{"cut_um":-1,"stiff_mpa":1,"press_kpa":1}]}`: pathReflection,
	} {
		w := httptest.NewRecorder()
		h.ServeHTTP(w, httptest.NewRequest(http.MethodPost, path, strings.NewReader(body)))
		if w.Code != http.StatusBadRequest {
			t.Errorf("%q gives %d", body, w.Code)
		}
	}
	w := httptest.NewRecorder()
	h.ServeHTTP(w, httptest.NewRequest(http.MethodPost, "/elsewhere", strings.NewReader("{}")))
	if w.Code != http.StatusNotFound {
		t.Errorf("elsewhere gives %d", w.Code)
	}
}

package robot

import (
	"encoding/json"
	"slices"
	"testing"
	"time"

	"waxplanus/core/flatlay"
	flatbody "waxplanus/core/flatlay/body"
)

// Whole jobs of chance hold what must always hold. The fuzzer makes more of them, and cuts one
// that fails down; scripts that once failed are kept in testdata.
func FuzzJob(f *testing.F) {
	const jobs, seed, long = 14, 29, 5
	for i := range jobs {
		if !underRace && i != long { // the side of a van takes a minute
			f.Add(ScriptOf(seed, i))
		}
	}
	f.Add([]byte{}) // the calmest of all: one loose panel, flat, by its only painter
	f.Fuzz(func(t *testing.T, script []byte) {
		if len(script) > ScriptLength {
			return
		}
		r, err := Run(script)
		if err != nil {
			t.Fatal(err)
		}
		for _, one := range r.Findings {
			t.Errorf("rule %d: %s", one.Rule, one.What)
			for _, line := range one.Log[max(len(one.Log)-6, 0):] {
				t.Log(line)
			}
		}
		if !r.Done {
			t.Error("the car was not handed over")
		}
	})
}

// A calm script is a job from Take in to Hand over, with readings and passes; the same script is
// the same job.
func TestTheSameScriptIsTheSameJob(t *testing.T) {
	first, err := Run(nil)
	if err != nil {
		t.Fatal(err)
	}
	again, err := Run(nil)
	if err != nil {
		t.Fatal(err)
	}
	if !first.Done || first.Readings < 5 || first.Taps < 5 || first.Sections == 0 || first.Through > 0 {
		t.Errorf("the calm job: %+v", first)
	}
	if first.Asked != again.Asked || first.Taps != again.Taps || first.Readings != again.Readings {
		t.Errorf("the same script: %d requests, %d passes, then %d and %d", first.Asked, first.Taps, again.Asked, again.Taps)
	}
}

// What must hold is held: numbers that nothing has are seen wherever they stand.
func TestWhatIsImplausibleIsSeen(t *testing.T) {
	for text, want := range map[string]bool{
		`{"film_um":120,"clarity":96,"hours":{"mean":3,"sd":1}}`: false,
		`{"a":[{"film_um":120},{"headroom_um":-99999}]}`:         true,
		`{"clarity":101}`:                          true,
		`{"text":"1e+05 µm of film"}`:              true,
		`{"text":"NaN µm"}`:                        true,
		`{"hours":-1}`:                             true,
		`{"may_tap":260}`:                          true,
		`{"any":{"deep":{"number":123456789012}}}`: true,
		`{"name":"Infinity Lane","text":"a fine reading, 3 e+ more"}`: false,
	} {
		var v any
		if err := json.Unmarshal([]byte(text), &v); err != nil {
			t.Fatal(err)
		}
		if got := implausible("", v) != ""; got != want {
			t.Errorf("%s: implausible %v", text, got)
		}
	}
}

// The truth of a panel loses what is taken, and a slow cut needs more passes.
func TestTheTruthLosesWhatIsTaken(t *testing.T) {
	plate, err := flatbody.LoosePanel(900, 600)
	if err != nil {
		t.Fatal(err)
	}
	d := &dice{}
	truth := d.truthOf(plate.Panels[0], 150, 70)
	sections := sectionsOf(plate.Panels[0])
	part, least := truth.left(sections[0])
	if part < least || least < 30 || part > 90 {
		t.Errorf("a clear of 70 µm is %.1f at its thin end, %.1f at the least", part, least)
	}
	truth.lost[sections[0].Key] = 5
	if after, _ := truth.left(sections[0]); after != part-5 {
		t.Errorf("5 µm off leave %.2f of %.2f", after, part)
	}
	truth.cut = 0.5
	slow := truth.passes(4)
	truth.cut = 2
	if fast := truth.passes(4); slow <= fast {
		t.Errorf("%d passes by a slow cut, %d by a fast one", slow, fast)
	}
	if at := sectionOf(plate.Panels[0], flatlay.Point{X: 100, Y: 100}); at == "" {
		t.Error("a place on the paint is in no section")
	}
}

// A script that fails is cut down to what makes it fail.
func TestScriptsAreCutDown(t *testing.T) {
	d := &dice{script: []byte{0, 255, 128}}
	if d.oneIn(4) || !d.oneIn(4) || d.of(4) != 2 || d.oneIn(2) || d.of(9) != 0 {
		t.Error("a script draws other than its bytes say, or does not end calm")
	}
	if a, b := ScriptOf(3, 1), ScriptOf(3, 2); len(a) != ScriptLength || slices.Equal(a, b) {
		t.Error("two jobs of a seed are alike")
	}
	same := Finding{Rule: 99, Script: []byte{1, 2, 3}}
	if underRace {
		return
	}
	if got := Shortest(same, 10*time.Millisecond); !slices.Equal(got.Script, same.Script) {
		t.Errorf("a script that breaks no rule any more is cut to %v", got.Script)
	}
}

package web

import (
	"bytes"
	"encoding/json"
	"errors"
	"math"
	"net/http"
	"slices"
	"strings"
	"testing"

	"waxplanus/internal/web/api"
)

// Ordinary jobs are answered as the trade answers them, and none with an empty page.
func TestCheckAnswersOrdinaryJobs(t *testing.T) {
	b := newBed(t)
	for ask, want := range map[string]api.State{
		`{"total_um":130,"coats":3,"aim":"flat","peel_grade":6,"colour":"dark"}`: api.StateOpen,
		`{"total_um":110,"coats":2,"aim":"nibs"}`:                                api.StateOpen,
		`{"total_um":214,"under":"over","car_um":108,"aim":"flat"}`:              api.StateTight,
		`{"total_um":80,"finish":"factory","aim":"polish"}`:                      api.StateTight,
		`{"total_um":190,"finish":"single_stage","aim":"flat","peel_grade":8}`:   api.StateOpen,
		`{"total_um":118,"coats":2,"aim":"flat","peel_grade":8}`:                 api.StateShut,
		`{"total_um":70,"finish":"factory","aim":"flat"}`:                        api.StateShut,
		`{"total_um":100,"coats":1,"aim":"nibs"}`:                                api.StateShut,
	} {
		var c api.Check
		b.post("/api/check", ask, 200, &c)
		if c.State != want || c.Text == "" || c.Why == "" || len(c.ClearUm.Shape) == 0 || c.ClearUm.Low >= c.ClearUm.Mean || c.ClearUm.High <= c.ClearUm.Mean {
			t.Errorf("%s: %s, want %s: %s", ask, c.State, want, c.Text)
		}
		if c.State != api.StateOpen && !slices.ContainsFunc(c.Ways, func(w api.CheckWay) bool { return w.Code == api.CheckLeave }) {
			t.Errorf("%s: no way to go on: %+v", ask, c.Ways)
		}
		for _, w := range c.Ways {
			if w.State == api.StateShut || w.Text == "" {
				t.Errorf("%s: a way that is shut: %+v", ask, w)
			}
		}
		if c.State != api.StateShut && math.Abs(filmOf(c.Steps)-c.SpendUm) > 0.05 {
			t.Errorf("%s: the steps take %.2f, the aim %.2f", ask, filmOf(c.Steps), c.SpendUm)
		}
	}
}

func filmOf(steps []api.CheckStep) float64 {
	sum := 0.0
	for _, s := range steps {
		sum += s.FilmUm
	}
	return sum
}

// An agreed floor is what it says: with it the verdict is the one that the way promised.
func TestAnAgreedFloorBringsWhatItPromises(t *testing.T) {
	b := newBed(t)
	var c, agreed api.Check
	b.post("/api/check", `{"total_um":118,"coats":2,"aim":"flat","peel_grade":8}`, 200, &c)
	i := slices.IndexFunc(c.Ways, func(w api.CheckWay) bool { return w.Code == api.CheckFloor })
	if i < 0 || c.Ways[i].FloorUm < 15 || c.Ways[i].FloorUm >= 40 {
		t.Fatalf("%+v", c.Ways)
	}
	raw, _ := json.Marshal(map[string]any{"total_um": 118, "coats": 2, "aim": "flat", "peel_grade": 8, "floor_um": c.Ways[i].FloorUm})
	b.post("/api/check", string(raw), 200, &agreed)
	if agreed.State != c.Ways[i].State || agreed.ChanceFloor != c.Ways[i].ChanceFloor || agreed.FloorUm != c.Ways[i].FloorUm {
		t.Errorf("promised %+v, is %s, %s", c.Ways[i], agreed.State, agreed.ChanceFloor)
	}
}

func TestCheckRefusesWhatDoesNotGoTogether(t *testing.T) {
	b := newBed(t)
	for ask, want := range map[string]string{
		`{"total_um":0}`: "such as 130", `{"total_um":-4}`: "such as 130", `{"total_um":1e9}`: "3000",
		`{"total_um":120,"finish":"factory","coats":2}`: "do not go together",
		`{"total_um":120,"before_um":130}`:              "130 µm and now 120",
		`{"total_um":120,"floor_um":12}`:                "from 15 to 40",
		`{"total_um":120,"floor_um":60}`:                "from 15 to 40",
		`{"total_um":120,"peel_grade":11}`:              "10",
		`{"total_um":120,"coats":99}`:                   "10",
	} {
		w := b.send(http.MethodPost, "/api/check", ask)
		if w.Code != 422 || !strings.Contains(w.Body.String(), want) {
			t.Errorf("%s gives %d: %s", ask, w.Code, w.Body)
		}
	}
}

// From the command line the same is answered, without a shop.
func TestCheckFromTheCommandLine(t *testing.T) {
	b := newBed(t)
	const ask = `{"total_um":130,"coats":3,"aim":"flat"}`
	var served, said api.Check
	b.post("/api/check", ask, 200, &served)
	var out bytes.Buffer
	if err := CheckJSON(strings.NewReader(ask), &out, true); err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(out.Bytes(), &said); err != nil || said.Text != served.Text || said.UnderFloor != served.UnderFloor {
		t.Errorf("%v: %s, served %s", err, said.Text, served.Text)
	}
	out.Reset()
	if err := CheckJSON(strings.NewReader(ask), &out, false); err != nil || !strings.HasPrefix(out.String(), "Flat can be done. Needs ") {
		t.Errorf("%v: %s", err, out.String())
	}
	for _, bad := range []string{"", "{", "[]", `{"total_um":"130"}`, `{"film":130}`, `{"total_um":0}`} {
		var in BadInput
		if err := CheckJSON(strings.NewReader(bad), &out, true); !errors.As(err, &in) || !strings.HasSuffix(err.Error(), ".") {
			t.Errorf("%q: %v", bad, err)
		}
	}
}

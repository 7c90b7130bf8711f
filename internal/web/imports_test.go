package web

import (
	"context"
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"waxplanus/internal/web/api"
)

func TestImport(t *testing.T) {
	b := newBed(t)
	text := "time;x;y;film µm\n10:31;150;150;161,5\n10:32;450;150;163\n10:33;4500;150;163\n10:34;750;150;1,2\n10:35;;;160\n"
	file, _ := json.Marshal(api.ImportFile{FileName: "gauge.csv", Text: text})
	var p api.ImportPreview
	b.post(b.at("/import/preview"), string(file), 200, &p)
	if p.Delimiter != "semicolon" || p.Decimal != "comma" || p.NewRows != 3 || p.BadRows != 2 || p.KnownRows != 0 {
		t.Errorf("%+v", p)
	}
	for i, want := range []string{"new reading", "new reading", "outside", "As mil", "regular pattern"} {
		if !strings.Contains(p.Rows[i].Detail, want) {
			t.Errorf("row %d: %s, want %q", p.Rows[i].Row, p.Rows[i].Detail, want)
		}
	}
	if kept, _ := b.shop.Readings(context.Background(), b.panel); len(kept) != 0 {
		t.Fatalf("the preview kept %d readings", len(kept))
	}
	for i, want := range []api.ImportResult{{Kept: 3, Known: 0, LeftOut: 2}, {Kept: 0, Known: 3, LeftOut: 2}} {
		var r api.ImportResult
		b.post(b.at("/import"), string(file), 200, &r)
		if r != want {
			t.Errorf("time %d: %+v, want %+v", i+1, r, want)
		}
	}
	wrong, _ := json.Marshal(api.ImportFile{FileName: "roof.csv", Text: "panel,x,y,film_um\nroof,150,150,161\n"})
	b.post(b.at("/import/preview"), string(wrong), 200, &p)
	if p.BadRows != 1 || !strings.Contains(p.Rows[0].Detail, "no panel of this car is called \"roof\"") {
		t.Errorf("%+v", p.Rows)
	}
	dated, _ := json.Marshal(api.ImportFile{FileName: "dated.csv", Text: "time,x,y,film_um\n2031-05-03 09:00:00,300,200,161\n2044-01-01 09:00:00,600,200,161\n"})
	b.post(b.at("/import"), string(dated), 200, nil)
	kept, _ := b.shop.Readings(context.Background(), b.panel)
	if last := kept[len(kept)-1]; len(kept) != 4 || last.TakenAt.Year() != 2031 || last.TakenAt.Day() > 3 {
		t.Errorf("%d readings, the last %+v: a time in the file counts, one that lies ahead does not", len(kept), last)
	}
	many, _ := json.Marshal(api.ImportFile{FileName: "many.csv", Text: "x,y,film_um\n" + strings.Repeat("300,300,160\n", 300)})
	if w := b.send(http.MethodPost, b.at("/import"), string(many)); w.Code != 422 || !strings.Contains(w.Body.String(), "most for one panel") {
		t.Errorf("300 readings of one panel give %d: %s", w.Code, w.Body)
	}
	for text, want := range map[string]string{"": "empty", "\u0000": "not a text file"} {
		f, _ := json.Marshal(api.ImportFile{FileName: "f.csv", Text: text})
		if w := b.send(http.MethodPost, b.at("/import/preview"), string(f)); w.Code != 422 || !strings.Contains(w.Body.String(), want) {
			t.Errorf("%q gives %d: %s", text, w.Code, w.Body)
		}
	}
}

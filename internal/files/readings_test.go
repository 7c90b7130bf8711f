package files

import (
	"math"
	"strings"
	"testing"
	"time"
)

func TestUnderstandsWhatGaugesWrite(t *testing.T) {
	for _, c := range []struct {
		name, text    string
		delimiter     rune
		decimal       rune
		unit          string
		film          []float64
		x             float64
		panel, moment string
	}{
		{"plain", "time,panel,x_mm,y_mm,film_um\n10:31,left door,120,80,163\n10:32,left door,300,80,165\n", ',', '.', "um", []float64{163, 165}, 120, "left door", "10:31"},
		{"semicolon and comma", "\ufeffpanel;x;y;film [µm]\nroof;120,5;80;163,4\nroof;300;80,5;165\n", ';', ',', "um", []float64{163.4, 165}, 120.5, "roof", ""},
		{"tab and mil", "x\ty\tfilm mil\n120\t80\t6.4\n", '\t', '.', "mil", []float64{6.4 * 25.4}, 120, "", ""},
		{"mil by size", "x,y,film\n120,80,6.4\n200,80,6.5\n", ',', '.', "mil", []float64{6.4 * 25.4, 6.5 * 25.4}, 120, "", ""},
		{"other order and quotes", "\"Thickness (um)\",\"Y\",\"X\"\n163,80,120\n", ',', '.', "um", []float64{163}, 120, "", ""},
		{"bare list", "163\n165\n\n170\n", ',', '.', "um", []float64{163, 165, 170}, 0, "", ""},
		{"windows lines", "x;y;film\r\n120;80;163\r\n", ';', '.', "um", []float64{163}, 120, "", ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, err := ReadReadings(c.text, Layout{})
			if err != nil {
				t.Fatal(err)
			}
			if got.Delimiter != c.delimiter || got.Decimal != c.decimal || got.Unit != c.unit {
				t.Errorf("delimiter %q, decimal %q, unit %s", got.Delimiter, got.Decimal, got.Unit)
			}
			if len(got.Rows) != len(c.film) {
				t.Fatalf("%d rows, want %d", len(got.Rows), len(c.film))
			}
			for i, r := range got.Rows {
				if r.Fault != "" || math.Abs(r.Film-c.film[i]) > 1e-9 {
					t.Errorf("row %d: film %v, fault %q", i, r.Film, r.Fault)
				}
			}
			if r := got.Rows[0]; r.X != c.x || r.Panel != c.panel || r.Time != c.moment {
				t.Errorf("first row is %+v", r)
			}
		})
	}
}

func TestRefusesFilesThatAreNone(t *testing.T) {
	for name, c := range map[string]struct{ text, want string }{
		"empty":        {"  \n", "empty"},
		"binary":       {"\x00\x01PNG", "not a text file"},
		"wrong coding": {"panel,film\nK\xfcche,120\n", "UTF-8"},
		"heading only": {"x,y,film\n", "no readings under it"},
		"too large":    {strings.Repeat("x", MostBytes+1), "MB"},
		"too long":     {"film\n" + strings.Repeat("120\n", MostRows+1), "more than"},
	} {
		if _, err := ReadReadings(c.text, Layout{}); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v, want a sentence with %q", name, err, c.want)
		}
	}
}

func TestFaultsAreOfTheirRow(t *testing.T) {
	got, err := ReadReadings("x,y,film_um\n120,80,163\n120,80,1.2\n120,80,-4\n120,80,NaN\n120,80,9000\n120,,163\na,b,163\n120,80\n", Layout{})
	if err != nil {
		t.Fatal(err)
	}
	want := []string{"", "As mil it is 30", "cannot be", "is no film", "more than any paint", "is no place", "is no place", "is no film"}
	for i, r := range got.Rows {
		if want[i] == "" && r.Fault != "" || !strings.Contains(r.Fault, want[i]) {
			t.Errorf("row %d: %q, want %q", r.Line, r.Fault, want[i])
		}
		if r.Line != i+2 {
			t.Errorf("row %d says it is line %d", i+2, r.Line)
		}
	}
}

func TestWhatAPersonDecidesCounts(t *testing.T) {
	text := "a;b;c\n6,5;10;20\n"
	got, err := ReadReadings(text, Layout{Unit: "mil", Columns: &Columns{Film: 1, X: 2, Y: 3}})
	if err != nil || math.Abs(got.Rows[0].Film-165.1) > 1e-9 || got.Rows[0].Y != 20 {
		t.Errorf("%+v, %v", got.Rows, err)
	}
	if _, err := ReadReadings(text, Layout{Delimiter: ',', Decimal: ',', Columns: &Columns{Film: 1}}); err == nil {
		t.Error("comma parts columns and decimals at once")
	}
	if _, err := ReadReadings(text, Layout{Columns: &Columns{Film: 9}}); err == nil {
		t.Error("a ninth of three columns is taken")
	}
}

func TestNoFilmColumnAsksForOne(t *testing.T) {
	got, err := ReadReadings("x,y,depth\n1,2,163\n", Layout{})
	if err != nil || got.Columns.Film != 0 || len(got.Rows) != 1 || !strings.Contains(got.Rows[0].Fault, "choose the column") {
		t.Errorf("%+v, %v", got, err)
	}
}

func TestFingerprintsTellRowsApartAndKnowThemAgain(t *testing.T) {
	text := "x,y,film_um\n120,80,163\n120,80,163\n300,80,163\n"
	a, _ := ReadReadings(text, Layout{})
	b, _ := ReadReadings(text, Layout{})
	seen := map[string]bool{}
	for i := range a.Rows {
		if seen[a.Rows[i].Fingerprint] {
			t.Errorf("row %d has the fingerprint of another", i)
		}
		seen[a.Rows[i].Fingerprint] = true
		if a.Rows[i].Fingerprint != b.Rows[i].Fingerprint {
			t.Errorf("row %d is not known again", i)
		}
	}
}

func FuzzReadReadings(f *testing.F) {
	for _, s := range []string{"x,y,film\n1,2,3\n", "film;x\n1,5;2\n", "\ufeff163\n", "\"", "a\tb\n\t\n", "film\nNaN\n0x1p-2\n1e999\n"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		got, err := ReadReadings(text, Layout{})
		if err != nil {
			if err.Error() == "" {
				t.Error("refused without a word")
			}
			return
		}
		for _, r := range got.Rows {
			if r.Fault == "" && (!(r.Film >= FilmLeast) || r.Film > FilmMost || math.IsNaN(r.X) || math.IsInf(r.Y, 0)) {
				t.Errorf("kept %+v", r)
			}
			if r.Fault == "" && r.Fingerprint == "" || r.Line < 1 {
				t.Errorf("row without a name: %+v", r)
			}
		}
	})
}

func TestSeveralShotsInARow(t *testing.T) {
	got, err := ReadReadings("panel;x;y;shot 1;shot 2;film 3;phase\ndoor;100;200;150,5;151;150;total\ndoor;;;149;;;before clear\nroof;1;1;150;;;maybe\n", Layout{})
	if err != nil {
		t.Fatal(err)
	}
	if got.Columns.Film != 4 || len(got.Columns.Shots) != 2 || len(got.Rows) != 5 {
		t.Fatalf("%+v", got)
	}
	for i, want := range []float64{150.5, 151, 150, 149} {
		if r := got.Rows[i]; r.Film != want || r.Fault != "" || r.HasPlace != (i < 3) || (r.Phase == "before_clear") != (i == 3) {
			t.Errorf("%d: %+v, want %v", i, r, want)
		}
	}
	if !strings.Contains(got.Rows[4].Fault, `phase "maybe"`) {
		t.Errorf("%+v", got.Rows[4])
	}
	seen := map[string]bool{}
	for _, r := range got.Rows {
		seen[r.Fingerprint] = true
	}
	if len(seen) != 5 {
		t.Errorf("%d fingerprints of 5 rows", len(seen))
	}
}

// What is written is read back, but for what was struck out.
func TestReadingsGoOutAndComeBack(t *testing.T) {
	at := time.Date(2031, 5, 4, 10, 0, 0, 0, time.UTC)
	out := []Kept{
		{Panel: "left front door", Key: "L-fdoor", No: 1, X: 120.25, Y: 300, Film: 163.5, Phase: "total", Taken: at, Source: "typed", ID: "reading-1", Agreed: 25},
		{Panel: "left front door", Key: "L-fdoor", No: 2, X: 120, Y: 300, Film: 98, Phase: "before_clear", Taken: at, Gauge: "A-1", Source: "gauge", ID: "reading-2"},
		{Panel: "roof, \"big\"", Key: "roof", No: 1, X: 1, Y: 2, Film: 112, Phase: "total", Taken: at, Struck: "=1+1, tape", ID: "reading-3"},
	}
	var file strings.Builder
	if err := WriteReadings(&file, out); err != nil {
		t.Fatal(err)
	}
	got, err := ReadReadings(file.String(), Layout{})
	if err != nil || got.Unit != "um" || len(got.Rows) != 3 {
		t.Fatalf("%v %+v", err, got)
	}
	for i, k := range out {
		r := got.Rows[i]
		if k.Struck != "" {
			if !strings.Contains(r.Fault, "struck out") || !strings.Contains(r.Fault, "'=1+1") {
				t.Errorf("struck: %+v", r)
			}
			continue
		}
		if r.Fault != "" || r.Panel != k.Panel || r.X != k.X || r.Y != k.Y || r.Film != k.Film || r.ID != k.ID || (r.Phase == "before_clear") != (k.Phase == "before_clear") || r.Time != "2031-05-04T10:00:00Z" {
			t.Errorf("%+v comes back as %+v", k, r)
		}
	}
}

package files

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"strings"
	"testing"
	"time"
)

const flap = "../demo/testdata/car-1.waxplanus.json"

// document is a car as it is written by hand, changed.
func document(t testing.TB, change func(doc map[string]any)) []byte {
	t.Helper()
	raw, err := os.ReadFile(flap)
	if err != nil {
		t.Fatal(err)
	}
	var doc map[string]any
	if err := json.Unmarshal(raw, &doc); err != nil {
		t.Fatal(err)
	}
	change(doc)
	if raw, err = json.Marshal(doc); err != nil {
		t.Fatal(err)
	}
	return raw
}

type inZip struct {
	name string
	data []byte
}

func zipped(t testing.TB, all ...inZip) []byte {
	t.Helper()
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, f := range all {
		w, err := z.Create(f.name)
		if err == nil {
			_, err = w.Write(f.data)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func readCar(raw []byte) (*CarFile, error) { return ReadCar(bytes.NewReader(raw), int64(len(raw))) }

func firstPanel(doc map[string]any) map[string]any {
	return doc["car"].(map[string]any)["panels"].([]any)[0].(map[string]any)
}

func firstReading(doc map[string]any) map[string]any {
	return firstPanel(doc)["readings"].([]any)[0].(map[string]any)
}

// What comes from outside and is no car, or more than one may hold, is refused with what is
// wrong and where.
func TestHostileCarsAreRefused(t *testing.T) {
	fine := document(t, func(map[string]any) {})
	if _, err := readCar(fine); err != nil {
		t.Fatalf("the car itself: %v", err)
	}
	car := inZip{carName, fine}
	bomb := inZip{carName, append(append([]byte(nil), fine...), bytes.Repeat([]byte(" "), mostCarJSON)...)}
	photo := []byte("\xff\xd8\xff a photo")
	for name, c := range map[string]struct {
		raw  []byte
		want string
	}{
		"nothing":             {nil, "cut short"},
		"a letter":            {[]byte("Dear painter, the door is fine now."), "no JSON"},
		"half a document":     {fine[:len(fine)/2], "cut short"},
		"two documents":       {append(append([]byte(nil), fine...), '{'), "goes on"},
		"half an archive":     {zipped(t, car)[:300], "cut short"},
		"zip slip":            {zipped(t, car, inZip{"../../etc/passwd", nil}), `"../../etc/passwd" does not belong`},
		"zip slip of a photo": {zipped(t, car, inZip{"photos/../../x.jpg", nil}), "does not belong"},
		"an absolute path":    {zipped(t, car, inZip{"/photos/" + strings.Repeat("a", 64) + ".jpg", nil}), "does not belong"},
		"a program":           {zipped(t, car, inZip{"photos/run.exe", nil}), "does not belong"},
		"the document twice":  {zipped(t, car, car), "twice"},
		"no document":         {zipped(t, inZip{"photos/" + strings.Repeat("a", 64) + ".jpg", photo}), "has no car.waxplanus.json"},
		"a bomb":              {zipped(t, bomb), "MB"},
		"too many files":      {zipped(t, manyFiles(mostCarFiles+1)...), "are the most"},
		"another format":      {document(t, func(d map[string]any) { d["format"] = "something" }), `format is "something"`},
		"a list":              {[]byte("[1, 2]"), "no car"},
		"version of tomorrow": {document(t, func(d map[string]any) { d["version"] = CarVersion + 1 }), "bring this program up to date"},
		"version in words":    {document(t, func(d map[string]any) { d["version"] = "one" }), "version"},
		"no panels":           {document(t, func(d map[string]any) { d["car"].(map[string]any)["panels"] = []any{} }), "car/panels"},
		"an unknown column":   {document(t, func(d map[string]any) { firstPanel(d)["drop_table"] = 1 }), "car/panels/0"},
		"a huge film":         {document(t, func(d map[string]any) { firstReading(d)["film_um"] = 1e30 }), "film_um"},
		"a film in words":     {document(t, func(d map[string]any) { firstReading(d)["film_um"] = "thick" }), "film_um"},
		"a film below zero":   {document(t, func(d map[string]any) { firstReading(d)["film_um"] = -3 }), "film_um"},
		"a time that is none": {document(t, func(d map[string]any) { firstReading(d)["taken_at"] = "soon" }), "taken_at"},
		"an id with a path":   {document(t, func(d map[string]any) { firstReading(d)["id"] = "../../x" }), "readings/0/id"},
		"a colour of its own": {document(t, func(d map[string]any) { d["car"].(map[string]any)["colour"] = "green" }), "colour"},
		"words without end":   {document(t, func(d map[string]any) { d["car"].(map[string]any)["owner_words"] = strings.Repeat("x", 6000) }), "owner_words"},
		"too many readings":   {document(t, func(d map[string]any) { firstPanel(d)["readings"] = make([]any, 5001) }), "readings"},
		"an exponent":         {bytes.Replace(fine, []byte(`"film_um":118`), []byte(`"film_um":1e999999999`), 1), "film_um"},
	} {
		_, err := readCar(c.raw)
		var bad *BadCar
		if !errors.As(err, &bad) || !strings.Contains(bad.What, c.want) || len(bad.What) > 300 {
			t.Errorf("%s gives %v", name, err)
		}
	}
}

func manyFiles(n int) []inZip {
	out := make([]inZip, n)
	for i := range out {
		out[i].name = fmt.Sprintf("photos/%064x.jpg", i)
	}
	return out
}

// A photo counts only where it is what its name says.
func TestPhotosOfCarsAreHeldAgainstTheirNames(t *testing.T) {
	photo := []byte("\xff\xd8\xff a photo")
	hash := "97a2d1c1f2e9e1d6d0b0b9b6a5f7e8c3d4b5a697887766554433221100ffeedd"
	doc := document(t, func(d map[string]any) {})
	c, err := readCar(zipped(t, inZip{carName, doc}, inZip{"photos/" + hash + ".jpg", photo}))
	if err != nil {
		t.Fatal(err)
	}
	var bad *BadCar
	if _, err := c.Photo(hash); !errors.As(err, &bad) || !strings.Contains(bad.What, "was changed") {
		t.Errorf("another photo gives %v", err)
	}
	if _, err := c.Photo(strings.Repeat("0", 64)); !errors.As(err, &bad) {
		t.Errorf("no photo gives %v", err)
	}
}

// What is written is read again; a photo whose file is gone is left out.
func TestCarsAreWrittenAsTheyAreRead(t *testing.T) {
	c, err := readCar(document(t, func(map[string]any) {}))
	if err != nil {
		t.Fatal(err)
	}
	c.At, c.Gauges = time.Date(2026, 1, 2, 3, 4, 5, 0, time.UTC), []CarGauge{}
	var out bytes.Buffer
	if err := WriteCar(&out, c.CarDocument, func(string) (io.ReadCloser, error) { return nil, fs.ErrNotExist }); err != nil {
		t.Fatal(err)
	}
	again, err := readCar(out.Bytes())
	if err != nil {
		t.Fatal(err)
	}
	one, _ := json.Marshal(c.CarDocument)
	two, _ := json.Marshal(again.CarDocument)
	if again.CarDocument.Format = ""; !bytes.Equal(one, two) {
		t.Errorf("%s\n%s", one, two)
	}
}

func FuzzReadCar(f *testing.F) {
	fine := document(f, func(map[string]any) {})
	f.Add(fine)
	f.Add(zipped(f, inZip{carName, fine}))
	f.Add([]byte("PK\x03\x04"))
	f.Add([]byte(`{"format":"waxplanus.car","version":1,"car":{}}`))
	f.Fuzz(func(t *testing.T, raw []byte) {
		c, err := readCar(raw)
		var bad *BadCar
		if err != nil && !errors.As(err, &bad) {
			t.Errorf("%v is no refusal", err)
		}
		if err == nil && len(Rows(c.Car["panels"])) == 0 {
			t.Error("a car without panels")
		}
	})
}

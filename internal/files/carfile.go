package files

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	_ "embed"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"math"
	"regexp"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
)

// CarSchema is the JSON Schema of a car's document.
//
//go:embed car.schema.json
var CarSchema []byte

// The format of a car's document; docs/formats/car.md tells what is in it.
const (
	CarFormat  = "waxplanus.car"
	CarVersion = 1
	carName    = "car.waxplanus.json"
	photoDir   = "photos/"
)

// What a file of a car may hold.
const (
	mostCarJSON  = 64 << 20
	mostCarPhoto = 48 << 20
	mostCarAll   = 2 << 30 // all photos together
	mostCarFiles = 4000
)

// CarDocument is a car with all that is on record of it, as a document.
type CarDocument struct {
	Format  string         `json:"format"`
	Version int            `json:"version"`
	Program string         `json:"program,omitempty"`
	At      time.Time      `json:"at"`
	Gauges  []CarGauge     `json:"gauges"`
	Car     map[string]any `json:"car"`
}

// CarGauge is a gauge that readings of the car name.
type CarGauge struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	Repeat float64 `json:"repeat_um,omitempty"`
	Doubt  float64 `json:"doubt_um,omitempty"`
	Shots  int     `json:"shots,omitempty"`
}

// BadCar says why a file is no car that can be taken, and where.
type BadCar struct{ What string }

func (b *BadCar) Error() string { return b.What }

func badCar(format string, args ...any) error { return &BadCar{fmt.Sprintf(format, args...)} }

// CarPhoto is a photo that a document names, by its hash.
type CarPhoto struct{ Hash, Mime string }

// PhotosOf lists the photos that a document names, each once.
func PhotosOf(car map[string]any) []CarPhoto {
	var out []CarPhoto
	add := func(row map[string]any) {
		hash, _ := row["hash"].(string)
		mime, _ := row["mime"].(string)
		if hash != "" && row["dropped_at"] == nil && !slices.ContainsFunc(out, func(p CarPhoto) bool { return p.Hash == hash }) {
			out = append(out, CarPhoto{hash, mime})
		}
	}
	for _, p := range Rows(car["panels"]) {
		for _, f := range Rows(p["proof_photos"]) {
			add(f)
		}
		for _, m := range Rows(p["marks"]) {
			for _, f := range Rows(m["photos"]) {
				add(f)
			}
		}
	}
	return out
}

// Rows are the rows of a list of a document, read from a file or not.
func Rows(v any) []map[string]any {
	switch list := v.(type) {
	case []map[string]any:
		return list
	case []any:
		out := make([]map[string]any, 0, len(list))
		for _, one := range list {
			if row, ok := one.(map[string]any); ok {
				out = append(out, row)
			}
		}
		return out
	}
	return nil
}

// WriteCar writes a car with its photos as a ZIP, one photo after the other. A photo whose file
// is not there is left out.
func WriteCar(w io.Writer, doc CarDocument, open func(hash string) (io.ReadCloser, error)) error {
	doc.Format, doc.Version = CarFormat, CarVersion
	if doc.Gauges == nil {
		doc.Gauges = []CarGauge{}
	}
	out := zip.NewWriter(w)
	entry, err := out.CreateHeader(&zip.FileHeader{Name: carName, Method: zip.Deflate, Modified: doc.At})
	if err != nil {
		return err
	}
	enc := json.NewEncoder(entry)
	enc.SetIndent("", " ")
	if err := enc.Encode(doc); err != nil {
		return err
	}
	for _, p := range PhotosOf(doc.Car) {
		if err := addPhoto(out, p, doc.At, open); err != nil {
			return err
		}
	}
	return out.Close()
}

func addPhoto(out *zip.Writer, p CarPhoto, at time.Time, open func(hash string) (io.ReadCloser, error)) error {
	in, err := open(p.Hash)
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	if err != nil {
		return err
	}
	defer func() { _ = in.Close() }() // read only
	entry, err := out.CreateHeader(&zip.FileHeader{Name: photoDir + p.Hash + extension(p.Mime), Method: zip.Store, Modified: at})
	if err != nil {
		return err
	}
	_, err = io.Copy(entry, in)
	return err
}

func extension(mime string) string {
	if mime == "image/png" {
		return ".png"
	}
	return ".jpg"
}

var photoName = regexp.MustCompile(`^photos/[0-9a-f]{64}\.(jpg|png)$`)

// CarFile is a car as a file has it; its photos are read when they are asked for.
type CarFile struct {
	CarDocument
	photos map[string]*zip.File
}

// ReadCar reads a car from a ZIP or from its document alone. What is not as the format says is
// refused with a *BadCar, before memory or disk is given to it.
func ReadCar(in io.ReaderAt, size int64) (*CarFile, error) {
	head := make([]byte, 4)
	if _, err := in.ReadAt(head, 0); err != nil {
		return nil, badCar("the file is cut short: it has %d bytes", size)
	}
	out := &CarFile{photos: map[string]*zip.File{}}
	if !bytes.Equal(head, []byte("PK\x03\x04")) {
		return out, out.read(io.NewSectionReader(in, 0, size))
	}
	archive, err := zip.NewReader(in, size)
	if err != nil {
		return nil, badCar("the archive is damaged or cut short: %v", err)
	}
	if len(archive.File) > mostCarFiles {
		return nil, badCar("the archive has %d files; %d are the most", len(archive.File), mostCarFiles)
	}
	var document *zip.File
	total := uint64(0)
	seen := map[string]bool{}
	for _, f := range archive.File {
		total += f.UncompressedSize64
		switch name := f.Name; {
		case seen[name]:
			return nil, badCar("%q is in the archive twice", name)
		case name == carName:
			document = f
		case photoName.MatchString(name):
			if f.UncompressedSize64 > mostCarPhoto {
				return nil, badCar("%q would be %d MB; a photo has %d at most", name, f.UncompressedSize64>>20, mostCarPhoto>>20)
			}
			out.photos[strings.TrimSuffix(strings.TrimPrefix(name, photoDir), name[len(name)-4:])] = f
		default:
			return nil, badCar("%q does not belong into the file of a car: %s and photos/HASH.jpg or .png do", brief(f.Name), carName)
		}
		seen[f.Name] = true
	}
	switch {
	case document == nil:
		return nil, badCar("the archive has no %s", carName)
	case total > mostCarAll:
		return nil, badCar("the archive would be %d MB when unpacked; %d are the most", total>>20, mostCarAll>>20)
	case document.UncompressedSize64 > mostCarJSON:
		return nil, badCar("%s would be %d MB; %d are the most", carName, document.UncompressedSize64>>20, mostCarJSON>>20)
	}
	text, err := document.Open()
	if err != nil {
		return nil, badCar("%s cannot be unpacked: %v", carName, err)
	}
	defer func() { _ = text.Close() }() // read only
	return out, out.read(text)
}

// What a document may be made of, in all and in depth, and the largest number in it.
const (
	mostCarValues = 4_000_000
	mostCarDepth  = 40
	mostCarNumber = 1e12
)

// sane refuses what no document of a car needs: numbers beyond any workshop, written so that
// working them out takes for ever, lists in lists without end.
func sane(v any, where string, depth int, left *int) error {
	if *left--; *left < 0 {
		return badCar("the document has more than %d values", mostCarValues)
	}
	if depth > mostCarDepth {
		return badCar("%s: nested more than %d deep", brief(where), mostCarDepth)
	}
	switch value := v.(type) {
	case map[string]any:
		for k, one := range value {
			if err := sane(one, strings.TrimPrefix(where+"/"+brief(k), "/"), depth+1, left); err != nil {
				return err
			}
		}
	case []any:
		for i, one := range value {
			if err := sane(one, fmt.Sprintf("%s/%d", where, i), depth+1, left); err != nil {
				return err
			}
		}
	case json.Number:
		f, err := value.Float64()
		if text := value.String(); err != nil || len(text) > 40 || !(math.Abs(f) <= mostCarNumber) || farExponent.MatchString(text) {
			return badCar("%s: %s is beyond any number of a workshop", brief(where), brief(text))
		}
	}
	return nil
}

var farExponent = regexp.MustCompile(`[eE][+-]?\d{3,}`)

func brief(s string) string {
	if r := []rune(s); len(r) > 60 {
		return string(r[:60]) + "…"
	}
	return s
}

// read takes the document.
func (c *CarFile) read(in io.Reader) error {
	raw, err := io.ReadAll(io.LimitReader(in, mostCarJSON+1))
	if err != nil {
		return badCar("%s is damaged or cut short: %v", carName, err)
	}
	if len(raw) > mostCarJSON {
		return badCar("%s is larger than %d MB", carName, mostCarJSON>>20)
	}
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.UseNumber()
	var all any
	if err := dec.Decode(&all); err != nil {
		return badCar("the document is no JSON, or cut short: %v", err)
	}
	if _, err := dec.Token(); !errors.Is(err, io.EOF) {
		return badCar("the document goes on after its end")
	}
	left := mostCarValues
	if err := sane(all, "", 0, &left); err != nil {
		return err
	}
	doc, _ := all.(map[string]any)
	if format, _ := doc["format"].(string); format != CarFormat {
		return badCar("this is no car: its format is %q and should be %q", brief(fmt.Sprint(doc["format"])), CarFormat)
	}
	version, _ := doc["version"].(json.Number)
	if n, err := version.Int64(); err != nil || n < 1 || n > CarVersion {
		return badCar("its version is %s, and this program reads 1 to %d: bring this program up to date", brief(fmt.Sprint(doc["version"])), CarVersion)
	}
	if err := checkSchema(doc); err != nil {
		return err
	}
	again := json.NewDecoder(bytes.NewReader(raw))
	again.UseNumber()
	if err := again.Decode(&c.CarDocument); err != nil {
		return badCar("the document cannot be read: %v", err)
	}
	return nil
}

var carSchema = sync.OnceValue(func() *jsonschema.Schema {
	text, err := jsonschema.UnmarshalJSON(bytes.NewReader(CarSchema))
	if err != nil {
		panic(fmt.Sprintf("the schema of cars: %v", err)) // it is part of the program
	}
	c := jsonschema.NewCompiler()
	c.AssertFormat()
	if err := c.AddResource("waxplanus-car", text); err != nil {
		panic(fmt.Sprintf("the schema of cars: %v", err))
	}
	return c.MustCompile("waxplanus-car")
})

// checkSchema holds a document against the schema, and says the first thing that is not as it
// should be and where.
func checkSchema(doc any) error {
	var bad *jsonschema.ValidationError
	if err := carSchema().Validate(doc); !errors.As(err, &bad) {
		return err
	}
	for len(bad.Causes) > 0 {
		bad = bad.Causes[0]
	}
	where := strings.Join(bad.InstanceLocation, "/")
	if where == "" {
		where = "the document"
	}
	return badCar("%s: %s", brief(where), brief(bad.ErrorKind.LocalizedString(message.NewPrinter(language.English))))
}

// Photo reads a photo of the archive, whose name has to be the digest of what is in it; a
// *BadCar where it is not there or not that.
func (c *CarFile) Photo(hash string) ([]byte, error) {
	f := c.photos[hash]
	if f == nil {
		return nil, badCar("photo %s is named and not in the archive", brief(hash))
	}
	in, err := f.Open()
	if err != nil {
		return nil, badCar("%q cannot be unpacked: %v", f.Name, err)
	}
	defer func() { _ = in.Close() }() // read only
	data, err := io.ReadAll(io.LimitReader(in, mostCarPhoto+1))
	if err != nil {
		return nil, badCar("%q is damaged or cut short: %v", f.Name, err)
	}
	if sum := sha256.Sum256(data); hex.EncodeToString(sum[:]) != hash {
		return nil, badCar("%q is not the photo that its name says: it was changed", f.Name)
	}
	if pdf, _ := kindOf(data); pdf == "" {
		return nil, badCar("%q is no JPEG or PNG", f.Name)
	}
	return data, nil
}

// HasPhoto says whether a photo is in the archive.
func (c *CarFile) HasPhoto(hash string) bool { return c.photos[hash] != nil }

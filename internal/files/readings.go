// Package files reads and writes the shop's open formats.
package files

import (
	"cmp"
	"crypto/sha256"
	"encoding/csv"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"
)

// MicronsPerMil turns mil into µm.
const MicronsPerMil = 25.4

// The film that a reading may have, µm. Less than FilmLeast is thinner than any
// paint, more than FilmMost is no paint.
const (
	FilmLeast = 5.0
	FilmMost  = 5000.0
)

// Limits of a file of readings.
const (
	MostBytes = 4 << 20
	MostRows  = 20000
)

// Layout is how a file of readings is written: delimiter ',', ';' or '\t',
// decimal '.' or ',', film in mil or µm, and which column holds what, from 1, 0
// for none. A zero field is found out from the file.
type Layout struct {
	Delimiter rune
	Decimal   rune
	Unit      string // "um" or "mil"
	Columns   *Columns
}

// Columns are column numbers from 1; 0 is none. Shots are further columns of
// film, of shots at the same place.
type Columns struct {
	Film, X, Y, Panel, Time, Phase, ID, Struck int
	Shots                                      []int
}

func (c Columns) last() int {
	return slices.Max(append([]int{c.Film, c.X, c.Y, c.Panel, c.Time, c.Phase, c.ID, c.Struck}, c.Shots...))
}

// Row is one row of a file as understood. Fault, when not empty, says why it
// cannot be kept. A line with several shots gives as many rows.
type Row struct {
	Line        int // of the file, from 1
	Film        float64
	X, Y        float64
	HasPlace    bool
	Panel, Time string
	Phase       string // before_clear or clear; "" for the whole film
	ID          string // of a reading that the application wrote; "" for none
	Fault       string
	Fingerprint string
}

// Table is a file of readings as understood, before anything is kept.
type Table struct {
	Layout
	UnitFrom string // why the unit is what it is
	Headings []string
	Rows     []Row
}

// ReadReadings understands a file of gauge readings; set says what a person has
// decided already. It fails, with a sentence, on a file that is none; faults of
// single rows are in the rows. Where no column looks like film every row has
// that fault, and Columns.Film is 0.
func ReadReadings(text string, set Layout) (Table, error) {
	text, err := plain(text)
	if err != nil {
		return Table{}, err
	}
	t := Table{Layout: set}
	if t.Delimiter == 0 {
		t.Delimiter = findDelimiter(text)
	}
	records, lines, err := split(text, t.Delimiter)
	if err != nil {
		return Table{}, err
	}
	if len(records) == 0 {
		return Table{}, errors.New("the file has no value in any row: it needs a heading and one reading a row")
	}
	t.Headings, records, lines = headings(records, lines)
	if len(records) == 0 {
		return Table{}, errors.New("the file has a heading but no readings under it: put one reading on each row")
	}
	if t.Decimal == 0 {
		t.Decimal = findDecimal(records, t.Delimiter)
	}
	if t.Decimal == t.Delimiter {
		return Table{}, errors.New("comma cannot both part the columns and be the decimal sign: choose semicolon or tab for the columns")
	}
	if t.Columns == nil {
		c := findColumns(t.Headings, records, t.Decimal)
		t.Columns = &c
	}
	if t.Columns.last() > len(t.Headings) {
		return Table{}, fmt.Errorf("a column is chosen that the file does not have: it has %d", len(t.Headings))
	}
	if t.Columns.Film == 0 {
		t.Unit, t.UnitFrom = cmp.Or(t.Unit, "um"), "no column is the film yet"
		for _, line := range lines {
			t.Rows = append(t.Rows, Row{Line: line, Fault: noFilm})
		}
		return t, nil
	}
	if t.Unit == "" {
		t.Unit, t.UnitFrom = findUnit(t.Headings[t.Columns.Film-1], records, *t.Columns, t.Decimal)
	} else {
		t.UnitFrom = "chosen by hand"
	}
	seen := map[string]int{}
	for i, r := range records {
		for _, film := range t.films(r) {
			row := t.row(r, film, lines[i])
			row.Fingerprint = fingerprint(row, seen)
			t.Rows = append(t.Rows, row)
		}
	}
	return t, nil
}

// films are the columns of a line that hold its shots: all that are filled, and
// the first where none is.
func (t Table) films(r []string) []int {
	out := []int{}
	for _, c := range append([]int{t.Columns.Film}, t.Columns.Shots...) {
		if field(r, c) != "" {
			out = append(out, c)
		}
	}
	if len(out) == 0 {
		return []int{t.Columns.Film}
	}
	return out
}

const noFilm = "no column looks like film: choose the column, or name it film, film_um, thickness or mil in the heading"

// plain checks that the text is one that can hold readings and takes off a byte
// order mark.
func plain(text string) (string, error) {
	switch {
	case len(text) > MostBytes:
		return "", fmt.Errorf("the file has %.1f MB; readings of a whole car fit in one: %d MB at most", float64(len(text))/1e6, MostBytes>>20)
	case strings.Contains(text, "\x00"):
		return "", errors.New("this is not a text file: save the readings as CSV, UTF-8, one reading a row")
	case !utf8.ValidString(text):
		return "", errors.New("the file is not UTF-8 text: save it again as CSV with UTF-8 encoding")
	}
	text = strings.TrimPrefix(text, "\ufeff")
	if strings.TrimSpace(text) == "" {
		return "", errors.New("the file is empty: it needs a heading and one reading a row")
	}
	return text, nil
}

// findDelimiter takes the sign that parts the first rows most evenly.
func findDelimiter(text string) rune {
	lines := strings.SplitN(text, "\n", 12)
	best, most := ',', 0
	for _, d := range []rune{';', '\t', ','} {
		least := math.MaxInt
		for _, l := range lines[:min(len(lines), 11)] {
			if strings.TrimSpace(l) != "" {
				least = min(least, strings.Count(l, string(d)))
			}
		}
		if least != math.MaxInt && least > most {
			best, most = d, least
		}
	}
	return best
}

func split(text string, delimiter rune) (records [][]string, lines []int, err error) {
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.FieldsPerRecord, r.LazyQuotes, r.TrimLeadingSpace = delimiter, -1, true, true
	for {
		rec, err := r.Read()
		if errors.Is(err, io.EOF) {
			return records, lines, nil
		}
		if err != nil {
			return nil, nil, fmt.Errorf("the file cannot be read as rows and columns: %w", err)
		}
		if strings.TrimSpace(strings.Join(rec, "")) == "" {
			continue
		}
		if len(records) >= MostRows {
			return nil, nil, fmt.Errorf("the file has more than %d rows: that is no set of readings of one car; split it", MostRows)
		}
		line, _ := r.FieldPos(0)
		records, lines = append(records, rec), append(lines, line)
	}
}

// headings takes the first record as a heading unless it holds a number where a
// film could be; then columns are numbered.
func headings(records [][]string, lines []int) ([]string, [][]string, []int) {
	first := records[0]
	for _, f := range first {
		if v, ok := number(f, '.'); ok && v > 0 {
			return numbered(records), records, lines
		}
		if v, ok := number(f, ','); ok && v > 0 {
			return numbered(records), records, lines
		}
	}
	names := make([]string, len(first))
	for i, f := range first {
		names[i] = strings.TrimSpace(f)
	}
	return names, records[1:], lines[1:]
}

func numbered(records [][]string) []string {
	most := 0
	for _, r := range records {
		most = max(most, len(r))
	}
	out := make([]string, most)
	for i := range out {
		out[i] = fmt.Sprintf("column %d", i+1)
	}
	return out
}

func findDecimal(records [][]string, delimiter rune) rune {
	if delimiter == ',' {
		return '.'
	}
	for _, r := range records {
		for _, f := range r {
			if _, ok := number(f, '.'); ok {
				continue
			}
			if _, ok := number(f, ','); ok && strings.Contains(f, ",") {
				return ','
			}
		}
	}
	return '.'
}

// names are what columns are called, in lower case without signs.
var names = map[string][]string{
	"film":   {"film", "filmum", "film\u00b5m", "film\u03bcm", "filmmil", "filmmils", "thickness", "thicknessum", "thickness\u00b5m", "total", "totalum", "um", "\u00b5m", "\u03bcm", "mil", "mils", "value", "reading"},
	"x":      {"x", "xmm"},
	"y":      {"y", "ymm"},
	"panel":  {"panel", "part", "where"},
	"phase":  {"phase"},
	"id":     {"id"},
	"struck": {"struck", "struckout"},
	"time":   {"time", "when", "date", "datetime", "takenat"},
}

func bare(s string) string {
	return strings.Map(func(r rune) rune {
		if strings.ContainsRune(" _-()[],./", r) {
			return -1
		}
		return r
	}, strings.ToLower(s))
}

func findColumns(head []string, records [][]string, decimal rune) Columns {
	var c Columns
	for i, h := range head {
		for kind, list := range names {
			if !slices.Contains(list, bare(h)) {
				continue
			}
			at := map[string]*int{"film": &c.Film, "x": &c.X, "y": &c.Y, "panel": &c.Panel, "time": &c.Time,
				"phase": &c.Phase, "id": &c.ID, "struck": &c.Struck}[kind]
			if *at == 0 {
				*at = i + 1
			}
		}
		if isShot(h) {
			c.Shots = append(c.Shots, i+1)
		}
	}
	if c.Film == 0 && len(c.Shots) > 0 {
		c.Film, c.Shots = c.Shots[0], c.Shots[1:]
	}
	if c.Film == 0 && len(head) == 1 {
		if _, ok := number(records[0][0], decimal); ok {
			c.Film = 1 // a bare list of values
		}
	}
	return c
}

// isShot says whether a heading is that of one of several shots: a name of film,
// or shot, with a number.
func isShot(heading string) bool {
	h := bare(heading)
	stem := strings.TrimRight(h, "0123456789")
	return stem != h && (stem == "shot" || slices.Contains(names["film"], stem))
}

// findUnit goes by the heading, and by size where it does not say: a film of
// paint in mil is a number below FilmLeast..40, in µm above.
func findUnit(head string, records [][]string, c Columns, decimal rune) (unit, from string) {
	h := bare(head)
	switch {
	case strings.HasSuffix(h, "mil"), strings.HasSuffix(h, "mils"):
		return "mil", "the heading says " + head
	case strings.HasSuffix(h, "um"), strings.ContainsAny(h, "\u00b5\u03bc"):
		return "um", "the heading says " + head
	}
	var v []float64
	for _, r := range records {
		if f, ok := number(field(r, c.Film), decimal); ok {
			v = append(v, f)
		}
	}
	slices.Sort(v)
	if len(v) > 0 && v[len(v)/2] < 20 {
		return "mil", fmt.Sprintf("most values are near %.3g, too thin for paint in \u00b5m", v[len(v)/2])
	}
	return "um", "values of this size are \u00b5m"
}

func field(r []string, column int) string {
	if column < 1 || column > len(r) {
		return ""
	}
	return strings.TrimSpace(r[column-1])
}

// number reads a finite number with that decimal sign.
func number(s string, decimal rune) (float64, bool) {
	s = strings.TrimSpace(s)
	if decimal == ',' {
		if strings.Contains(s, ".") {
			return 0, false
		}
		s = strings.ReplaceAll(s, ",", ".")
	}
	if strings.ContainsAny(s, "xXpP_") { // what ParseFloat takes and a gauge does not write
		return 0, false
	}
	v, err := strconv.ParseFloat(s, 64)
	return v, err == nil && !math.IsNaN(v) && !math.IsInf(v, 0)
}

func (t Table) row(r []string, film, line int) Row {
	row := Row{Line: line, Panel: field(r, t.Columns.Panel), Time: field(r, t.Columns.Time), ID: field(r, t.Columns.ID)}
	switch phase := bare(field(r, t.Columns.Phase)); {
	case strings.HasPrefix(phase, "before"):
		row.Phase = "before_clear"
	case phase == "clear" || phase == "bare":
		row.Phase = phase
	case phase != "" && phase != "total" && phase != "all":
		row.Fault = fmt.Sprintf("phase %q is not known: total, before_clear, clear or bare is wanted", phase)
		return row
	}
	if why := field(r, t.Columns.Struck); why != "" {
		row.Fault = fmt.Sprintf("it is struck out in the file (%s)", why)
		return row
	}
	raw := field(r, film)
	v, ok := number(raw, t.Decimal)
	if !ok {
		row.Fault = fmt.Sprintf("%q is no film: a number with decimal %q is wanted", raw, string(t.Decimal))
		return row
	}
	row.Film = v
	if t.Unit == "mil" {
		row.Film = v * MicronsPerMil
	}
	if row.Fault = FilmFault(row.Film, v, t.Unit); row.Fault != "" {
		return row
	}
	x, y := field(r, t.Columns.X), field(r, t.Columns.Y)
	if x == "" && y == "" {
		return row
	}
	vx, okx := number(x, t.Decimal)
	vy, oky := number(y, t.Decimal)
	if !okx || !oky {
		row.Fault = fmt.Sprintf("%q, %q is no place: x and y in mm are wanted, or neither", x, y)
		return row
	}
	row.X, row.Y, row.HasPlace = vx, vy, true
	return row
}

// Plain writes a number with four decimals at most and never with an exponent.
func Plain(v float64) string { return strconv.FormatFloat(math.Round(v*1e4)/1e4, 'f', -1, 64) }

// FilmFault says what is wrong with a film of um µm that was written as v in
// that unit; "" for nothing.
func FilmFault(um, v float64, unit string) string {
	name := map[string]string{"um": "\u00b5m", "mil": "mil"}[unit]
	switch {
	case math.IsNaN(um) || math.IsInf(um, 0):
		return "the film is no number: type what the gauge shows"
	case um <= 0:
		return fmt.Sprintf("a film of %s %s cannot be: zero the gauge on bare steel and read again", Plain(v), name)
	case um < FilmLeast && unit == "um":
		return fmt.Sprintf("%s \u00b5m is thinner than any paint. Probe lifted, or mil instead of \u00b5m? As mil it is %.0f \u00b5m", Plain(v), v*MicronsPerMil)
	case um < FilmLeast:
		return fmt.Sprintf("%s %s is thinner than any paint: read again", Plain(v), name)
	case um > FilmMost && unit == "mil":
		return fmt.Sprintf("%s mil is %.0f \u00b5m, more than any paint. \u00b5m instead of mil?", Plain(v), um)
	case um > FilmMost:
		return fmt.Sprintf("%s %s is more than any paint, %.0f \u00b5m at most: read again", Plain(v), name, FilmMost)
	}
	return ""
}

// fingerprint names a row by what it says and by how many rows before it said
// the same, so that a file can be sent twice and a value can stand in it twice.
func fingerprint(r Row, seen map[string]int) string {
	place := "pattern"
	if r.HasPlace {
		place = fmt.Sprintf("%.1f,%.1f", r.X, r.Y)
	}
	key := fmt.Sprintf("%s|%s|%s|%.2f", r.Panel, r.Time, place, r.Film)
	if r.Phase != "" {
		key += "|" + r.Phase
	}
	seen[key]++
	sum := sha256.Sum256([]byte(fmt.Sprintf("%s|%d", key, seen[key])))
	return hex.EncodeToString(sum[:16])
}

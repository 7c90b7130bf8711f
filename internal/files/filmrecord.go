package files

import (
	"encoding/csv"
	"encoding/json"
	"io"
	"strconv"
	"strings"
	"time"
)

// FilmRecord is the film record of a car for a program, films in µm, places in mm from the
// top left of their panel; docs/formats/film-record.md names its fields.
type FilmRecord struct {
	Format   string          `json:"format"`
	Version  int             `json:"version"`
	Record   int64           `json:"record"`
	Car      string          `json:"car"`
	Colour   string          `json:"colour"`
	At       time.Time       `json:"at"`
	HandedAt *time.Time      `json:"handed_over_at,omitempty"`
	Seal     string          `json:"seal,omitempty"`
	Panels   []RecordedPanel `json:"panels"`
	Floors   []RecordedFloor `json:"floors"`
}

// The format of film records.
const (
	RecordFormat  = "waxplanus.film-record"
	RecordVersion = 1
)

// Value is a mean with its standard deviation.
type Value struct {
	Mean float64 `json:"mean"`
	SD   float64 `json:"sd"`
}

// RecordedPanel is one panel: film and clear of its thinnest section, nil where nothing was read.
type RecordedPanel struct {
	Key         string            `json:"key"`
	Name        string            `json:"name"`
	Substrate   string            `json:"substrate"`
	Origin      string            `json:"origin"`
	Layers      string            `json:"layers"`
	Film        *Value            `json:"film_um"`
	ClearBefore *Value            `json:"clear_before_um"`
	Taken       *Value            `json:"taken_um"`
	ClearLeft   *Value            `json:"clear_left_um"`
	Room        *float64          `json:"may_go_um"`
	Floor       *float64          `json:"floor_um"`
	Source      string            `json:"clear_from,omitempty"`
	Readings    []RecordedReading `json:"readings"`
	Steps       []RecordedStep    `json:"steps"`
}

// RecordedReading is one reading, struck out or not.
type RecordedReading struct {
	No     int       `json:"no"`
	X      float64   `json:"x_mm"`
	Y      float64   `json:"y_mm"`
	Film   float64   `json:"film_um"`
	Phase  string    `json:"phase"`
	At     time.Time `json:"at"`
	Struck string    `json:"struck,omitempty"`
}

// RecordedStep is what was worked with.
type RecordedStep struct {
	What   string    `json:"what"`
	Passes int       `json:"passes"`
	People []string  `json:"people"`
	Last   time.Time `json:"last"`
}

// RecordedFloor is a floor that the owner agreed to; Panel is empty for the whole car.
type RecordedFloor struct {
	Panel string    `json:"panel,omitempty"`
	Floor float64   `json:"floor_um"`
	At    time.Time `json:"at"`
}

// JSON writes the record.
func (r FilmRecord) JSON(w io.Writer) error {
	out := json.NewEncoder(w)
	out.SetIndent("", "  ")
	return out.Encode(r)
}

// CSV writes a line for each panel.
func (r FilmRecord) CSV(w io.Writer) error {
	out := csv.NewWriter(w)
	if err := out.Write([]string{"panel", "panel_key", "origin", "layers", "film_um", "film_sd_um", "clear_before_um", "taken_um", "taken_sd_um", "clear_left_um", "clear_left_sd_um", "may_go_um", "floor_um", "clear_from", "readings", "worked_with", "last"}); err != nil {
		return err
	}
	number := func(v *float64) string {
		if v == nil {
			return ""
		}
		return strconv.FormatFloat(*v, 'f', 2, 64)
	}
	part := func(v *Value) (mean, sd string) {
		if v == nil {
			return "", ""
		}
		return number(&v.Mean), number(&v.SD)
	}
	for _, p := range r.Panels {
		film, filmSD := part(p.Film)
		before, _ := part(p.ClearBefore)
		taken, takenSD := part(p.Taken)
		left, leftSD := part(p.ClearLeft)
		var with []string
		var last time.Time
		for _, s := range p.Steps {
			with = append(with, s.What+" x "+strconv.Itoa(s.Passes))
			if s.Last.After(last) {
				last = s.Last
			}
		}
		day := ""
		if !last.IsZero() {
			day = last.UTC().Format(time.RFC3339)
		}
		live := 0
		for _, one := range p.Readings {
			if one.Struck == "" {
				live++
			}
		}
		if err := out.Write([]string{text(p.Name), text(p.Key), p.Origin, p.Layers, film, filmSD, before, taken, takenSD, left, leftSD, number(p.Room), number(p.Floor), p.Source,
			strconv.Itoa(live), text(strings.Join(with, "; ")), day}); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// KeptMark is one mark as it is written to a file, sizes in mm and µm.
type KeptMark struct {
	Panel, Key                  string
	No                          int
	Kind                        string
	X, Y, Length, Width, Angle  float64
	Class                       string
	Size, Crest, Beside, Grade  float64
	Density, Spent              float64
	Note, Found, Person         string
	At                          time.Time
	Outcome, Reason, Struck, ID string
}

// WriteMarks writes marks as CSV with the columns of docs/formats/marks.md.
func WriteMarks(w io.Writer, all []KeptMark) error {
	out := csv.NewWriter(w)
	if err := out.Write([]string{"panel", "panel_key", "no", "kind", "x_mm", "y_mm", "length_mm", "width_mm", "angle_deg", "class", "size_um", "crest_um", "beside_um", "grade", "density_dm2", "found", "note", "outcome", "reason", "spent_um", "person", "time", "struck", "id"}); err != nil {
		return err
	}
	number := func(v float64) string {
		if v == 0 {
			return ""
		}
		return strconv.FormatFloat(v, 'f', -1, 64)
	}
	place := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	for _, m := range all {
		if err := out.Write([]string{text(m.Panel), text(m.Key), strconv.Itoa(m.No), m.Kind, place(m.X), place(m.Y), number(m.Length), number(m.Width), number(m.Angle), m.Class,
			number(m.Size), number(m.Crest), number(m.Beside), number(m.Grade), number(m.Density), m.Found, text(m.Note), m.Outcome, text(m.Reason), number(m.Spent), text(m.Person),
			m.At.UTC().Format(time.RFC3339), text(m.Struck), text(m.ID)}); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

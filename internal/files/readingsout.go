package files

import (
	"encoding/csv"
	"io"
	"strconv"
	"strings"
	"time"
)

// Kept is one reading as it is written to a file.
type Kept struct {
	Panel, Key       string
	No               int64
	X, Y, Film       float64
	Phase            string
	Taken            time.Time
	Gauge, Source    string
	Placed           bool
	Sure, Struck, ID string
	Agreed           float64 // floor that the owner agreed to on the panel, µm; 0 for none
}

// WriteReadings writes readings as CSV with the columns of
// docs/formats/readings.md; ReadReadings takes them back.
func WriteReadings(w io.Writer, readings []Kept) error {
	out := csv.NewWriter(w)
	if err := out.Write([]string{"panel", "panel_key", "no", "x_mm", "y_mm", "film_um", "phase", "time", "gauge", "source", "placed", "sure", "struck", "id", "agreed_floor_um"}); err != nil {
		return err
	}
	number := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	for _, r := range readings {
		agreed := ""
		if r.Agreed > 0 {
			agreed = number(r.Agreed)
		}
		if err := out.Write([]string{text(r.Panel), text(r.Key), strconv.FormatInt(r.No, 10), number(r.X), number(r.Y), number(r.Film), r.Phase,
			r.Taken.UTC().Format(time.RFC3339), text(r.Gauge), r.Source, strconv.FormatBool(r.Placed), text(r.Sure), text(r.Struck), text(r.ID), agreed}); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// text keeps a table program from taking what somebody wrote for a formula.
func text(s string) string {
	if s != "" && strings.ContainsRune("=+-@\t\r", rune(s[0])) {
		return "'" + s
	}
	return s
}

// Package gauge speaks the open line protocol between the application and a
// film gauge, or the bridge of one: one JSON object a line over TCP, as
// docs/formats/gauge.md tells. The gauge listens; the application dials.
package gauge

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"time"
)

// UsualAddr is where a gauge is looked for.
const UsualAddr = "127.0.0.1:7411"

// MostLine is the longest line in bytes that either side reads.
const MostLine = 4096

// Kind is what a line is.
type Kind string

// The kinds of lines: those of the gauge, then those of the application. A kind
// that is not known is passed over.
const (
	Hello  Kind = "hello"
	Zero   Kind = "zero"
	Shot   Kind = "reading"
	NoShot Kind = "no_reading"
	Alive  Kind = "alive"
	Kept   Kind = "kept"
	OpenAt Kind = "spot"
)

// Line is one line of either side; which fields it has depends on its kind.
type Line struct {
	Type     Kind       `json:"type"`
	Gauge    string     `json:"gauge,omitempty"`     // serial, in hello
	Name     string     `json:"name,omitempty"`      // in hello
	ZeroedAt *time.Time `json:"zeroed_at,omitempty"` // in hello and zero
	ID       string     `json:"id,omitempty"`        // of a reading; its own for ever
	FilmUM   float64    `json:"film_um,omitempty"`
	At       *time.Time `json:"at,omitempty"`
	Why      string     `json:"why,omitempty"` // in no_reading
	Spot     *Spot      `json:"spot,omitempty"`
}

// Spot is the place that is open in the application. A gauge may show it; the
// stand-in needs it to know what lies under its probe.
type Spot struct {
	Panel     string  `json:"panel"`
	Substrate string  `json:"substrate"`
	X         float64 `json:"x_mm"`
	Y         float64 `json:"y_mm"`
	Edge      float64 `json:"edge_mm"`
	Width     float64 `json:"width_mm"`
	Height    float64 `json:"height_mm"`
	Film      float64 `json:"usual_um"` // usual film of such a panel
}

// Parse reads one line. It fails with a sentence on what is no line of the
// protocol; kinds that are not known pass.
func Parse(raw []byte) (Line, error) {
	var l Line
	if len(raw) > MostLine {
		return l, fmt.Errorf("a line of %d bytes: %d at most", len(raw), MostLine)
	}
	if err := json.Unmarshal(raw, &l); err != nil {
		return l, fmt.Errorf("no JSON object: %w", err)
	}
	switch l.Type {
	case "":
		return l, errors.New("the line has no type")
	case Hello:
		if l.Gauge == "" || len(l.Gauge) > 40 {
			return l, errors.New("hello needs the gauge's serial, 1 to 40 signs")
		}
	case Shot, NoShot, Kept:
		if len(l.ID) < 8 || len(l.ID) > 64 {
			return l, fmt.Errorf("%s needs an id of 8 to 64 signs that stays its own", l.Type)
		}
		if l.Type == Shot && (math.IsNaN(l.FilmUM) || math.IsInf(l.FilmUM, 0) || l.FilmUM <= 0) {
			return l, fmt.Errorf("reading %s has no film above 0 µm: send no_reading instead", l.ID)
		}
	}
	return l, nil
}

// Package facts is what is known of cars and panels, as somebody said, read or saw it, without what
// anybody makes of it.
package facts

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"waxplanus/core/clearcoat"
	"waxplanus/core/cure"
	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/level"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/core/prove"
	"waxplanus/core/surface"
	"waxplanus/internal/store"
)

// Struck says when and why something was struck out.
type Struck struct {
	At     time.Time
	Reason string
}

func StruckOf(at *time.Time, reason string) *Struck {
	if at == nil {
		return nil
	}
	return &Struck{*at, reason}
}

// The layers of a finish, and substrates and ways to dry that decide something.
const (
	SingleStage = "single"
	ClearCoat   = "clear"
	Plastic     = "plastic"
	Baked       = "baked"
	AirDried    = "air"
)

// Panel is what was said of a panel.
type Panel struct {
	Substrate string
	Origin    film.Origin
	Layers    string
	Coats     int     // of clear, 0 when nobody knows
	WetUM     float64 // of a coat, 0 when nobody knows
	Solids    float64 // by volume, 0 to 1
	DryUM     float64 // of a coat, 0 when nobody knows
	SprayedAt *time.Time
	Cure      string
	Aim       plan.Aim
	Past      []string
	EyeGrade  float64        // peel grade as it was given by eye
	Photo     *prove.Texture // peel and pebble as a photo read them before any work; nil for none
	Paint     *cure.Paint    // maker's sheet of what it was sprayed with; nil for none
	Scratched float64        // depth of the scratches that stood when it was sent back (µm), 0 for none
	Hardness  string
	Under     clearcoat.Under
	Condition Condition
	Light     Lit // as somebody said
	Said      []Fact
}

// Fact is one of the facts of a panel that somebody may say.
type Fact string

// The facts whose usual answer is easily taken for one that was given.
const (
	FactOrigin Fact = "origin"
	FactAim    Fact = "aim"
	FactPeel   Fact = "peel_grade"
	FactCoats  Fact = "coats"
)

// Says says whether somebody said a fact.
func (k Panel) Says(f Fact) bool { return slices.Contains(k.Said, f) }

// Say notes that somebody said a fact.
func (k *Panel) Say(f Fact, said bool) {
	if said && !k.Says(f) {
		k.Said = append(slices.Clone(k.Said), f)
	}
}

// Lit is how a panel is seen.
type Lit string

// How panels are seen.
const (
	LitByPlace Lit = "" // by where it is on its car
	FacesUp    Lit = "faces_up"
	OnSide     Lit = "on_side"
	LiesLow    Lit = "lies_low"
	Covered    Lit = "covered" // by a moulding or cladding
)

var Lights = []Lit{LitByPlace, FacesUp, OnSide, LiesLow, Covered}

// PeelGrade is the panel's, by photo where there is one.
func (k Panel) PeelGrade() float64 {
	if k.Photo == nil {
		return k.EyeGrade
	}
	grade, _ := k.Photo.Grade()
	return math.Min(grade, MostGrade)
}

// MostGrade is the highest peel grade that there is.
const MostGrade = 10

// Texture of the panel: by photo, or else by eye.
func (k Panel) Texture() prove.Texture {
	if k.Photo == nil {
		return prove.ByEye(k.EyeGrade)
	}
	return *k.Photo
}

func photoOf(p store.Panel) *prove.Texture {
	if p.PhotoPeelUM <= 0 {
		return nil
	}
	return &prove.Texture{Peel: surface.Depth{Median: p.PhotoPeelUM, Spread: p.PhotoPeelSpread}, Pebble: surface.Depth{Median: p.PhotoPebbleUM, Spread: p.PhotoPebbleSpread}}
}

func PanelOf(p store.Panel) Panel {
	return Panel{Substrate: p.Substrate, Origin: film.Origin(p.Origin), Layers: p.Layers, Coats: p.Coats, WetUM: p.WetUM, Solids: p.Solids, DryUM: p.DryUM,
		SprayedAt: p.SprayedAt, Cure: p.Cure, Aim: plan.Aim(p.Aim), Past: strings.FieldsFunc(p.Past, func(r rune) bool { return r == ',' }),
		EyeGrade: p.PeelGrade, Photo: photoOf(p), Scratched: p.StandingUM, Hardness: p.Hardness, Under: clearcoat.Under(p.Under), Condition: ConditionOf(p), Paint: paintOf(p.Paint), Light: Lit(p.Light), Said: factsOf(p.Said)}
}

func factsOf(text string) []Fact {
	var out []Fact
	for _, f := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' }) {
		out = append(out, Fact(f))
	}
	return out
}

// paintOf is the sheet as it is kept; nil for none, or one that cannot be read.
func paintOf(text string) *cure.Paint {
	var p cure.Paint
	if text == "" || json.Unmarshal([]byte(text), &p) != nil {
		return nil
	}
	return &p
}

// Put writes what is known into a row.
func (k Panel) Put(p *store.Panel) {
	p.Substrate, p.Origin, p.Layers, p.Coats = k.Substrate, string(k.Origin), k.Layers, k.Coats
	p.WetUM, p.Solids, p.DryUM, p.SprayedAt = k.WetUM, k.Solids, k.DryUM, k.SprayedAt
	p.Cure, p.Aim, p.Past, p.PeelGrade, p.Hardness = k.Cure, string(k.Aim), strings.Join(k.Past, ","), k.EyeGrade, k.Hardness
	p.Under, p.Light = string(k.Under), string(k.Light)
	said := make([]string, len(k.Said))
	for i, f := range k.Said {
		said[i] = string(f)
	}
	p.Said = strings.Join(said, ",")
	if p.Paint = ""; k.Paint != nil {
		raw, _ := json.Marshal(k.Paint) // numbers and names
		p.Paint = string(raw)
	}
	k.Condition.Put(p)
}

// Spraying is how the finish was sprayed.
func (k Panel) Spraying() film.Spraying {
	return film.Spraying{Origin: k.Origin, Layers: k.Layers, Coats: k.Coats, WetUM: k.WetUM, Solids: k.Solids, Dry: k.DryUM, At: k.SprayedAt}
}

// History is what the core wants to know of it, without what the shop's other panels
// tell.
func (k Panel) History() film.History {
	return film.History{Finish: k.Finish(), Coats: k.Coats, Coat: k.Spraying().Coat(), Under: k.Under, Polished: slices.Contains(k.Past, "polished")}
}

// Finish is what the panel carries.
func (k Panel) Finish() film.Finish {
	return film.FinishOf(k.Origin, k.Layers == SingleStage, k.Coats)
}

// OfCar is what was said of a car.
type OfCar struct {
	ID, Name, Body, Colour, Painter string
	Size                            body.Size
	OwnerWords                      string
	CostLimit, HoursLimit           float64 // in the shop's money and hours; 0 for none
	DueAt                           *time.Time
}

func CarOf(c store.Car) OfCar {
	return OfCar{ID: c.ID, Name: c.Name, Body: c.Body, Colour: c.Colour, Painter: c.Painter,
		Size: body.Size{Length: c.LengthMM, Width: c.WidthMM, Height: c.HeightMM}, OwnerWords: c.OwnerWords, CostLimit: c.CostLimit, HoursLimit: c.HoursLimit, DueAt: c.DueAt}
}

// Sheet is what lies around a car's panels on its flat-lay.
type Sheet struct {
	Box     body.Box       `json:"box"`
	Scenery []body.Scenery `json:"scenery"`
}

// SheetOf is the sheet of a car: as it was kept, or of its type for cars that
// were taken in before sheets were kept.
func SheetOf(c store.Car) (Sheet, error) {
	var out Sheet
	if c.Sheet != "" {
		if err := json.Unmarshal([]byte(c.Sheet), &out); err != nil {
			return out, fmt.Errorf("sheet of car %s: %w", c.ID, err)
		}
		return out, nil
	}
	b, err := body.Find(c.Body, CarOf(c).Size)
	return Sheet{Box: b.Box, Scenery: b.Scenery}, err
}

// Phase says what a reading is of: the total film, the film before the clear went on,
// or the clear alone.
type Phase string

// The phases.
const (
	Total       Phase = store.PhaseTotal
	BeforeClear Phase = store.PhaseBefore
	ClearAlone  Phase = store.PhaseClear
	NoClear     Phase = store.PhaseBare // a place of the part that carries no clear
)

// Reading is one gauge reading: where the probe stood (mm) and what it said (µm).
type Reading struct {
	ID       string
	No       int // on its panel, from 1
	At       flatlay.Point
	Film     float64
	Phase    Phase
	Source   string
	Gauge    string // that sent it; empty for one that was typed
	Sure     string // why it is kept although it does not fit
	Placed   bool   // on a pattern: its file had no place
	TakenAt  time.Time
	KeptAt   time.Time
	Passes   int // made on its section before it was taken
	Struck   *Struck
	Earlier  []int // passes of each step of the plan of record by then
	Restored film.Estimate
}

func ReadingOf(r store.Reading) Reading {
	return Reading{ID: r.ID, No: int(r.Seq), At: flatlay.Point{X: r.XMM, Y: r.YMM}, Film: r.FilmUM, Phase: Phase(r.Phase), Source: r.Source, Gauge: r.Gauge,
		Sure: r.Sure, Placed: r.Placed, TakenAt: r.TakenAt, KeptAt: r.KeptAt, Struck: StruckOf(r.StruckAt, r.StruckReason)}
}

func (r Reading) Moment() level.Moment { return level.Moment{At: r.TakenAt, Kept: r.KeptAt} }

// Worked says whether passes had been made on its section by then.
func (r Reading) Worked() bool {
	return slices.ContainsFunc(r.Earlier, func(n int) bool { return n > 0 }) || r.Restored.Mean > 0
}

// Entry is one line of the log.
type Entry struct {
	level.Entry
	PlanID string
	Note   string // reason, of a pass over the stop or of going back
	Late   bool   // it came later than it was made
	Flag   Flag
	Struck *Struck
}

// Flag says why a late pass would have been refused, had it come in time: the film that it
// took is gone all the same.
type Flag string

// The flags.
const (
	FlagNone    Flag = ""
	FlagThrough Flag = "through" // made where nothing more may be cut
	FlagLimit   Flag = "limit"   // coarser than the person may run
)

func EntryOf(e store.Entry) Entry {
	return Entry{
		Entry: level.Entry{ID: e.ID, Section: e.Section, Step: e.Step, Kind: level.Kind(e.Kind), Value: e.Value, Mark: e.Mark, Person: e.Person, Moment: level.Moment{At: e.At, Kept: e.KeptAt},
			Struck: e.StruckAt != nil},
		PlanID: e.PlanID, Note: e.Note, Late: e.Late, Flag: Flag(e.Flag), Struck: StruckOf(e.StruckAt, e.StruckReason),
	}
}

// LogOf is the log of one plan, as the core wants it.
func LogOf(entries []Entry, ladder *plan.Ladder) level.Log {
	out := level.Log{Ladder: ladder}
	for _, e := range entries {
		out.Entries = append(out.Entries, e.Entry)
	}
	return out
}

// Outcome is what became of a mark.
type Outcome string

// The outcomes.
const (
	Standing Outcome = store.OutcomeOpen
	Gone     Outcome = store.OutcomeGone
	Softened Outcome = store.OutcomeSoft
	Left     Outcome = store.OutcomeLeft
)

// Mark is one defect of a panel.
type Mark struct {
	ID, PanelID string
	No          int // among those of its kind, from 1
	marks.Mark
	Note, Found, Person string
	At                  time.Time
	Outcome             Outcome
	Reason              string  // of the outcome
	Spent               float64 // film in µm that closing it took at its place
	ClosedAt            *time.Time
	ClosedBy            string
	Struck              *Struck
	HasPhoto            bool
}

func CoreMark(m store.Mark) marks.Mark {
	return marks.Mark{Kind: marks.Kind(m.Kind), X: m.XMM, Y: m.YMM, Length: m.LengthMM, Width: m.WidthMM, Angle: m.AngleDeg,
		Class: marks.Class(m.Class), Size: m.SizeUM, Crest: m.CrestUM, Beside: m.BesideUM, Grade: m.Grade, Density: m.DensityDM2}
}

// PutMark puts what the core says of a mark into its row.
func PutMark(m marks.Mark, row *store.Mark) {
	row.Kind, row.XMM, row.YMM = string(m.Kind), m.X, m.Y
	row.LengthMM, row.WidthMM, row.AngleDeg = m.Length, m.Width, m.Angle
	row.Class, row.SizeUM, row.CrestUM, row.BesideUM = string(m.Class), m.Size, m.Crest, m.Beside
	row.Grade, row.DensityDM2 = m.Grade, m.Density
}

// MarkRow is the row of a mark, without its panel and person.
func MarkRow(m marks.Mark) store.Mark {
	var row store.Mark
	PutMark(m, &row)
	return row
}

func markOf(m store.Mark) Mark {
	return Mark{ID: m.ID, PanelID: m.PanelID, Mark: CoreMark(m), Note: m.Note, Found: m.Found, Person: m.Person, At: m.At, Outcome: Outcome(m.Outcome),
		Reason: m.OutcomeReason, Spent: m.SpentUM, ClosedAt: m.ClosedAt, ClosedBy: m.ClosedBy, Struck: StruckOf(m.StruckAt, m.StruckReason), HasPhoto: m.HasPhoto}
}

// MarksOf numbers the marks of each kind in the order in which they were placed.
func MarksOf(rows []store.Mark) []Mark {
	out, n := make([]Mark, len(rows)), map[marks.Kind]int{}
	for i, row := range rows {
		out[i] = markOf(row)
		n[out[i].Kind]++
		out[i].No = n[out[i].Kind]
	}
	return out
}

// Open says whether a mark still has to be dealt with.
func (m Mark) Open() bool { return m.Struck == nil && m.Outcome == Standing }

// Zone is a part of a panel with a history of its own.
type Zone struct {
	Name    string          `json:"name"`
	Outline []flatlay.Point `json:"outline"`
	Origin  film.Origin     `json:"origin"`
	Layers  string          `json:"layers"`
	Coats   int             `json:"coats"`
}

func ZonesOf(p store.Panel) ([]Zone, error) {
	var out []Zone
	if p.Zones == "" {
		return nil, nil
	}
	err := json.Unmarshal([]byte(p.Zones), &out)
	return out, err
}

// History is the zone's own.
func (z Zone) History() film.History {
	return film.History{Finish: film.FinishOf(z.Origin, z.Layers == SingleStage, z.Coats), Coats: z.Coats}
}

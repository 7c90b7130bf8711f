// Package store keeps the shop's records in SQLite. It is the only room that
// knows SQL; it returns rows and leaves their meaning to the core.
package store

import "time"

// Car is one vehicle or loose part that was taken in. Sheet is what lies around
// its panels as it was drawn then, as JSON; empty for cars of the first shop.
type Car struct {
	ID         string `gorm:"primaryKey"`
	Seq        int64  // order of taking in
	Name       string
	Body       string
	Colour     string
	Painter    string
	LengthMM   float64 // of the vehicle; 0 for the usual
	WidthMM    float64
	HeightMM   float64
	Sheet      string
	OwnerWords string
	CostLimit  float64 // in the shop's money, 0 for none
	HoursLimit float64
	CreatedAt  time.Time
	// HandedOverAt is nil while the car is in the shop.
	HandedOverAt *time.Time
	DueAt        *time.Time // what was promised; nil for nothing
	ForgottenAt  *time.Time // when what was known of its owner was deleted
	Panels       []Panel
}

// Panel is one panel of a car. Shape is its outline as it was when the car was
// taken in, as JSON, so that places on it keep their meaning.
type Panel struct {
	ID        string `gorm:"primaryKey"`
	CarID     string
	Seq       int
	Key       string
	Name      string
	Substrate string
	Shape     string
	Origin    string // factory, here, elsewhere or unknown
	Layers    string // clear over colour, or single
	Coats     int    // of clear, 0 when nobody knows
	WetUM     float64
	Solids    float64
	DryUM     float64
	SprayedAt *time.Time
	Cure      string
	Aim       string
	Past      string // what it has been through, separated by commas
	PeelGrade float64
	Hardness  string `gorm:"default:medium"`  // soft, medium, hard, oxidised or lacquer
	Under     string `gorm:"default:unknown"` // what the paint lies on: new, over or unknown
	Zones     string // parts with a history of their own, as JSON; empty for none

	Swirls       string  // none, light, medium or heavy; empty where nobody looked
	SwirlsUM     float64 // mean depth as it was learned, 0 for as it was said
	SwirlsSpread float64 // of its logarithm
	Dead         string  // dead layer: none, light or heavy; empty where nobody looked
	DeadUM       float64 // depth as it was learned, 0 for as it was said
	DeadSpread   float64
	WaterSpots   bool
	Haze         bool
	WetTest      string  // gloss where water brings it back, dull where not, empty where nobody tried
	ClothTest    string  // colour or clean, of a damp cloth
	Gone         float64 // share of the swirls that shall go, 0 for gloss alone
	Parts        string  // sections that look other than the panel, as JSON; empty for none

	PhotoPeelUM       float64 // rms as a photo read it, 0 for as it was said
	PhotoPeelSpread   float64 // of its logarithm
	PhotoPebbleUM     float64
	PhotoPebbleSpread float64
	StandingUM        float64 // depth of the scratches that stood when it was sent back, 0 for none

	Paint string // maker's sheet of what it was sprayed with, as JSON; empty for none
	Light string // how it is seen: faces_up, on_side, lies_low or covered; empty for by where it is on its car
	Said  string // which of its facts somebody said, separated by commas; the others are the usual ones
}

// Mark is one defect of a panel. It is never deleted, only struck out.
type Mark struct {
	ID            string `gorm:"primaryKey"`
	PanelID       string
	Seq           int64 // order of keeping, from 1 on each panel
	Kind          string
	XMM           float64 `gorm:"column:x_mm"`
	YMM           float64 `gorm:"column:y_mm"`
	LengthMM      float64
	WidthMM       float64
	AngleDeg      float64
	Class         string
	SizeUM        float64
	CrestUM       float64
	BesideUM      float64
	Grade         float64
	DensityDM2    float64 `gorm:"column:density_dm2"`
	Note          string
	Found         string
	Person        string
	At            time.Time
	Outcome       string
	OutcomeReason string
	SpentUM       float64 // film that closing it took at its place
	ClosedAt      *time.Time
	ClosedBy      string
	StruckAt      *time.Time
	StruckReason  string
	HasPhoto      bool
}

// Photo is the photo of a mark. Hash names its file; Data is what is in it, in the row itself
// only in shops of before.
type Photo struct {
	MarkID string `gorm:"primaryKey"`
	Mime   string
	Data   []byte
	At     time.Time
	Hash   string
}

// Task is a ticked task of a car's checklist.
type Task struct {
	CarID  string `gorm:"primaryKey"`
	Task   string `gorm:"primaryKey"`
	DoneAt time.Time
	Person string
}

// Telling is what the owner was told would not come out, word for word.
type Telling struct {
	CarID  string `gorm:"primaryKey"`
	Key    string `gorm:"primaryKey"`
	Text   string
	Facts  string // that were told, without their words; empty where they were not kept
	SaidAt time.Time
	Person string
}

// Reading is one gauge reading in µm. It is never deleted, only struck out.
type Reading struct {
	ID           string `gorm:"primaryKey"`
	PanelID      string
	Seq          int64   // order of keeping, from 1 on each panel
	XMM          float64 `gorm:"column:x_mm"`
	YMM          float64 `gorm:"column:y_mm"`
	FilmUM       float64
	Phase        string
	Source       string
	Placed       bool
	Fingerprint  *string // of a row of a file, so that it is kept once
	Gauge        string  // that sent it; empty for one that was typed
	Sure         string  // why it is kept although it does not fit
	TakenAt      time.Time
	KeptAt       time.Time // when it came on record; as it was taken where nothing is said
	StruckAt     *time.Time
	StruckReason string
}

// Plan is a plan of record: the facts it was made from and what it takes.
type Plan struct {
	ID         string `gorm:"primaryKey"`
	PanelID    string
	Version    int
	AcceptedAt time.Time
	Basis      string
	PeelGrade  float64
	Colour     string
	Start      string
	FilmUM     float64
	State      string
	Risk       float64 // chance of ending under the floor that it was accepted with; 0 in plans of before
	Readings   int
	Offer      string     // the name that it was offered by
	Made       string     // what it was made from, as JSON; empty for plans of the first shop
	Facts      string     // the facts and readings that it rests on, as JSON
	Why        string     // its reasons in words, a line each
	EndedAt    *time.Time // when its panel was found not good enough and went back to be planned
	Steps      []Step
}

// Step is one step of a plan of record.
type Step struct {
	PlanID  string `gorm:"primaryKey"`
	No      int    `gorm:"primaryKey"`
	Kind    string
	Item    string
	Backing string
	Area    string // key of the section that it is for, empty for all others
	Title   string
	What    string
	Passes  int
	RateUM  float64
	FilmUM  float64
	Minutes float64
}

// Try is what was read on a try square. It is never deleted, only struck out.
type Try struct {
	ID            string `gorm:"primaryKey"`
	PanelID       string
	Seq           int64 // order of keeping, from 1 on each panel
	Section       string
	Ladder        string
	Made          string // the job that it was tried for, as JSON
	FilmBeforeUM  float64
	FilmAfterUM   float64
	Spots         int
	GlossBefore   *float64
	GlossAfter    *float64
	ClarityBefore float64
	ClarityAfter  float64
	Note          string
	Person        string
	At            time.Time
	StruckAt      *time.Time
	StruckReason  string
}

// Square is what was seen on a square that was polished, after so much removal by the model:
// the share of the swirls that is left, and between which removals the dead layer was off;
// each nil where nobody said. ClarityBefore and ClarityAfter are what a meter read of the half
// that was left and of the polished one, where the share is theirs. It is never deleted, only
// struck out.
type Square struct {
	ID            string `gorm:"primaryKey"`
	PanelID       string
	Seq           int64
	Ladder        string
	RemovedUM     float64
	LeftShare     *float64
	OffLowUM      *float64
	OffHighUM     *float64
	ClarityBefore *float64
	ClarityAfter  *float64
	Person        string
	At            time.Time
	StruckAt      *time.Time
	StruckReason  string
}

// Learned are the depths that squares taught of a panel, µm, with the spreads of their
// logarithms; 0 where none did.
type Learned struct{ SwirlsUM, SwirlsSpread, DeadUM, DeadSpread float64 }

// Constant is one value of the shelf that is not the usual one.
type Constant struct {
	Key   string `gorm:"primaryKey"`
	Value float64
}

// Entry is one line of the log of a section: a pass, a change of paper or the
// end of a step. It is never deleted, only struck out.
type Entry struct {
	ID           string `gorm:"primaryKey"`
	PlanID       string
	PanelID      string
	Seq          int64
	Section      string
	Step         int
	Kind         string
	Value        float64 // share seen, of a look; passes wanted, of going back; number of the first new step, of a rest
	Note         string  // reason, of a pass over the stop or of going back; the steps of a rest
	Mark         string  // that a stroke of the blade or a pass of the block was made on
	Person       string
	Device       string // that it was tapped on; empty where nobody knows
	At           time.Time
	KeptAt       time.Time // when it came on record; as it was made where nothing is said
	Late         bool      // it came later than it was made
	Flag         string    // why it would have been refused in time
	StruckAt     *time.Time
	StruckReason string
	Steps        []Step `gorm:"-"` // that a rest adds to its plan
}

// Grant is how many passes of a step the film of a section allowed when the last entry of
// its panel was kept; it holds while the panel and the shop are of these versions.
type Grant struct {
	PanelID string `gorm:"primaryKey"`
	Version int64
	House
	Section string
	Step    int
	Passes  int
}

// Floor is the clear (µm) that the owner of a car agreed to leave at least, on all of it or
// on one panel: who agreed, why and when. It is never deleted, only struck out.
type Floor struct {
	ID           string `gorm:"primaryKey"`
	CarID        string
	PanelID      *string // nil for the whole car
	Seq          int64   // order of keeping, from 1 on each car
	FloorUM      float64 `gorm:"column:floor_um"`
	Person       string
	Reason       string
	At           time.Time
	StruckAt     *time.Time
	StruckReason string
}

// Person is somebody who works in the shop, with the coarsest grit that they may run (empty
// for any), their hours and days off as JSON (empty for the shop's), the kinds of tasks that
// they do, separated by commas (empty for all), what an hour of theirs costs (0 for the
// usual), and for how many minutes a day they run machines.
type Person struct {
	Name       string `gorm:"primaryKey"`
	Coarsest   string
	Hours      string
	Off        string
	Kinds      string
	Rate       float64
	MachineMin float64
}

// UsualMachine is for how many minutes a day a person runs machines (judgement).
const UsualMachine = 240

// The kinds of entries.
const (
	KindPass  = "pass"
	KindPaper = "paper"
	KindDone  = "done"
	// KindShiny is a look at the shiny share, KindOver a pass over the stop, the
	// others what went wrong.
	KindShiny   = "shiny"
	KindOver    = "override"
	KindScrape  = "scrape"
	KindColour  = "colour"
	KindThrough = "through"
	// KindBack goes back to an earlier step; KindShave is a stroke of the blade and
	// KindBlock a pass of the block on one mark.
	KindBack  = "back"
	KindShave = "shave"
	KindBlock = "block"
	// KindRest plans the rest of a section anew.
	KindRest = "rest"
)

// The outcomes of marks.
const (
	OutcomeOpen = "open"
	OutcomeGone = "gone"
	OutcomeSoft = "softened"
	OutcomeLeft = "left"
)

// The phases of readings and where they come from.
const (
	PhaseTotal  = "total"
	PhaseBefore = "before_clear"
	PhaseClear  = "clear" // of the clear alone
	PhaseBare   = "bare"  // where the part carries no clear
	SourceTyped = "typed"
	SourceFile  = "file"
	SourceGauge = "gauge"
)

// ShopGauge is the gauge that typed readings come from.
const ShopGauge = "shop"

// Gauge is a film gauge of the shop. RepeatUM is 0 until it was studied.
type Gauge struct {
	ID       string `gorm:"primaryKey"`
	Name     string
	RepeatUM float64
	DoubtUM  float64
	Shots    int
}

// GaugeCheck is a look at zero and, with a FoilUM above 0, at a foil.
type GaugeCheck struct {
	ID      int64 `gorm:"primaryKey"`
	GaugeID string
	At      time.Time
	ZeroUM  float64
	FoilUM  float64
	ReadUM  float64
}

// Setting is what holds for the whole shop.
type Setting struct {
	Key   string `gorm:"primaryKey"`
	Value string
}

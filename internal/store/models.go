// Package store keeps the shop's records in SQLite. It is the only room that
// knows SQL; it returns rows and leaves their meaning to the core.
package store

import "time"

// Car is one vehicle or loose part that was taken in.
type Car struct {
	ID        string `gorm:"primaryKey"`
	Seq       int64  // order of taking in
	Name      string
	Body      string
	Colour    string
	Painter   string
	WidthMM   float64 // of a loose panel, else 0
	HeightMM  float64
	CreatedAt time.Time
	Panels    []Panel
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
	Finish    string
	Coats     int
	PeelGrade float64
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
	TakenAt      time.Time
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
	Readings   int
	Steps      []Step
}

// Step is one step of a plan of record.
type Step struct {
	PlanID  string `gorm:"primaryKey"`
	No      int    `gorm:"primaryKey"`
	Kind    string
	Item    string
	Title   string
	What    string
	Passes  int
	RateUM  float64
	FilmUM  float64
	Minutes float64
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
	Person       string
	At           time.Time
	StruckAt     *time.Time
	StruckReason string
}

// The kinds of entries.
const (
	KindPass  = "pass"
	KindPaper = "paper"
	KindDone  = "done"
)

// The phases of readings and where they come from.
const (
	PhaseTotal  = "total"
	PhaseBefore = "before_clear"
	SourceTyped = "typed"
	SourceFile  = "file"
)

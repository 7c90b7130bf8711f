// Package refuse is how a room says no: a code, the field, and the values that its sentence needs.
package refuse

import (
	"errors"

	"waxplanus/internal/store"
)

// What the records answer, whatever was asked of them: nothing of that id, an id that
// belongs to something else, a plan that cannot be replaced because work under it has
// begun, a file that others hold, a disk without room, and a car that was handed over.
var (
	ErrMissing = store.ErrMissing
	ErrTaken   = store.ErrTaken
	ErrWorked  = store.ErrWorked
	ErrBusy    = store.ErrBusy
	ErrFull    = store.ErrFull
	ErrClosed  = store.ErrClosed
)

// Code names why something was refused.
type Code string

// Kind is what sort of refusal it is.
type Kind int

// The kinds of refusals.
const (
	Bad      Kind = iota // what was sent cannot be taken
	Conflict             // it cannot be done as things stand
)

// Refusal says that something was not done and why: Code with the Values that its
// sentence needs, and the Field of what was sent that it is about, if any. Nothing was
// changed.
type Refusal struct {
	Kind   Kind
	Code   Code
	Field  string
	Values []any
	Offers []Offer
}

func (r *Refusal) Error() string { return "refused: " + string(r.Code) }

// Offer is another value of a reading that would be taken.
type Offer struct {
	Film float64 // in Unit
	Unit Unit
	Sure bool // as it was read, although it does not fit
}

// Because says that a field of what was sent cannot be taken.
func Because(code Code, field string, values ...any) error {
	return &Refusal{Kind: Bad, Code: code, Field: field, Values: values}
}

// NotNow says that something cannot be done as things stand.
func NotNow(code Code, values ...any) error { return Conflicting(code, values...) }

// Conflicting says that something cannot be done as things stand.
func Conflicting(code Code, values ...any) error {
	return &Refusal{Kind: Conflict, Code: code, Values: values}
}

// Film is a film of so many µm among the values of a refusal, Length one of so many mm, and
// Count so many things of one name.
type (
	Film   float64
	Length float64
	Count  struct {
		N    int
		What string
	}
)

// IsRefusal says whether an error is a refusal with that code.
func IsRefusal(err error, code Code) bool {
	var r *Refusal
	return errors.As(err, &r) && r.Code == code
}

// CountOf is so many things of that name.
func CountOf(n int, what string) Count { return Count{n, what} }

package wording

import (
	"fmt"
	"strings"
)

// WhyUnreadable names why a request could not be read.
type WhyUnreadable string

// Why a request could not be read.
const (
	Missing      WhyUnreadable = "missing"       // a field that is wanted
	TooLarge     WhyUnreadable = "too_large"     // At is the most, bytes
	TooMany      WhyUnreadable = "too_many"      // At is the most values
	OtherKind    WhyUnreadable = "other_kind"    // the field Is one, Wanted is another
	OutOfBounds  WhyUnreadable = "out_of_bounds" // Bound says which
	NoNumber     WhyUnreadable = "no_number"     // beyond any that a workshop has
	ControlSigns WhyUnreadable = "control_signs"
	NotJSON      WhyUnreadable = "not_json" // At is where, bytes
	UnknownField WhyUnreadable = "unknown_field"
	CutShort     WhyUnreadable = "cut_short" // or not as the contract says
	OtherHost    WhyUnreadable = "other_host"
	OtherMethod  WhyUnreadable = "other_method" // Is the method
)

// Kind is what a value is called.
type Kind string

// The kinds.
const (
	YesNo  Kind = "true or false"
	Text   Kind = "text"
	List   Kind = "list"
	Object Kind = "group of fields"
	Number Kind = "number"
)

// Unreadable is a request that could not be read.
type Unreadable struct {
	Why       WhyUnreadable
	Field, Is string
	Wanted    Kind
	Bound     string
	At        int64
}

// Unreadable says why a request could not be read, and what would be right.
func (w Words) Unreadable(u Unreadable) string {
	field := FieldName(u.Field)
	switch u.Why {
	case Missing:
		return field + " is missing. It is wanted here; see api/openapi.yaml."
	case TooLarge:
		return fmt.Sprintf("The request is larger than %d MB. Readings of a whole car fit in one.", u.At>>20)
	case TooMany:
		return fmt.Sprintf("The request holds more than %d values. Send it in parts.", u.At)
	case OtherKind:
		return fmt.Sprintf("%s is a %s; a %s is wanted.", field, u.Is, u.Wanted)
	case OutOfBounds:
		return fmt.Sprintf("%s does not fit; right is: %s.", field, u.Bound)
	case NoNumber:
		return field + " is beyond any number that a workshop has."
	case ControlSigns:
		return field + " has signs that cannot be printed. Type it again."
	case NotJSON:
		return fmt.Sprintf("The request is not one piece of JSON from byte %d on. Names and texts stand in double quotes; numbers are plain, without NaN or Infinity; nothing follows.", u.At)
	case OtherHost:
		return "The shop server is not called by that name. Call it by its number or by the machine's name; others are named with --name when it starts."
	case OtherMethod:
		return fmt.Sprintf("%s cannot be done here. The contract in api/openapi.yaml lists what can.", Short(u.Is))
	case UnknownField:
		return fmt.Sprintf("There is no field %q here. The contract in api/openapi.yaml lists the fields.", Short(u.Field))
	}
	return "The request could not be read to its end: send it again as one whole piece of JSON, with its path and query as api/openapi.yaml says."
}

// mostEcho is how many letters of what was sent a sentence repeats.
const mostEcho = 60

// Short is what was sent, no longer than a sentence may repeat.
func Short(text string) string {
	if r := []rune(text); len(r) > mostEcho {
		return string(r[:mostEcho]) + "…"
	}
	return text
}

// FieldName is a field of the contract as a form calls it.
func FieldName(field string) string {
	if field == "" {
		return "The request"
	}
	for end, unit := range map[string]string{"_um": " in µm", "_mm": " in mm", "_deg": " in degrees"} {
		if name, ok := strings.CutSuffix(field, end); ok {
			field = name + unit
		}
	}
	field = strings.ReplaceAll(field, "_", " ")
	return strings.ToUpper(field[:1]) + field[1:]
}

// What is shown in place of a page's file that is not there.
const (
	NoFile  = "There is no such file; reload the page."
	NoPages = "The pages are not built into this program; run make build."
)

package wording

import (
	"fmt"
	"reflect"
)

// WhyUnreadable names why a request could not be read.
type WhyUnreadable string

// Why a request could not be read.
const (
	Missing      WhyUnreadable = "missing"    // a field that is wanted
	TooLarge     WhyUnreadable = "too_large"  // At is the most, bytes
	OtherKind    WhyUnreadable = "other_kind" // the field Is one, Wanted is another
	NotJSON      WhyUnreadable = "not_json"   // At is where, bytes
	UnknownField WhyUnreadable = "unknown_field"
	CutShort     WhyUnreadable = "cut_short" // or not as the contract says
	OtherHost    WhyUnreadable = "other_host"
	OtherMethod  WhyUnreadable = "other_method" // Field is the method
)

// Unreadable is a request that could not be read.
type Unreadable struct {
	Why       WhyUnreadable
	Field, Is string
	Wanted    reflect.Kind
	At        int64
}

// Unreadable says why a request could not be read, and what would be right.
func (w Words) Unreadable(u Unreadable) string {
	switch u.Why {
	case Missing:
		return fmt.Sprintf("%s is missing or empty. It is wanted here; see api/openapi.yaml.", u.Field)
	case TooLarge:
		return fmt.Sprintf("The request is larger than %d MB. Readings of a whole car fit in one.", u.At>>20)
	case OtherKind:
		return fmt.Sprintf("%s is a %s; a %s is wanted.", u.Field, u.Is, kindWord(u.Wanted))
	case NotJSON:
		return fmt.Sprintf("The request is not JSON from byte %d on. Names and texts stand in double quotes; numbers are plain, without NaN or Infinity.", u.At)
	case OtherHost:
		return "The shop server is not called by that name. Call it by its number or by the machine's name; others are named with --name when it starts."
	case OtherMethod:
		return fmt.Sprintf("%s cannot be done here. The contract in api/openapi.yaml lists what can.", u.Field)
	case UnknownField:
		return fmt.Sprintf("There is no field %q here. The contract in api/openapi.yaml lists the fields.", u.Field)
	}
	return "The request could not be read to its end: send it again as one whole piece of JSON, with its path and query as api/openapi.yaml says."
}

// kindWord is what a kind of value is called in JSON.
func kindWord(k reflect.Kind) string {
	switch k {
	case reflect.Bool:
		return "true or false"
	case reflect.String:
		return "text"
	case reflect.Slice, reflect.Array:
		return "list"
	case reflect.Struct, reflect.Map:
		return "object"
	}
	return "number"
}

// What is shown in place of a page's file that is not there.
const (
	NoFile  = "There is no such file; reload the page."
	NoPages = "The pages are not built into this program; run make build."
)

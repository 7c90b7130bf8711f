package house

import (
	"strings"

	"waxplanus/internal/shop/refuse"
)

// LeastReason is how many letters a reason has that somebody has to answer for.
const LeastReason = 5

// The signs that an id has which a device makes.
const (
	leastID = 8
	mostID  = 64
)

// Thing names what an id is of.
type Thing string

// The things that devices make ids for.
const (
	OfReading  Thing = "reading"
	OfMark     Thing = "mark"
	OfEntry    Thing = "entry"
	OfFloor    Thing = "agreed floor"
	OfTry      Thing = "try"
	OfPhoto    Thing = "photo"
	OfLamp     Thing = "lamp"
	OfMeter    Thing = "reading of a meter"
	OfProof    Thing = "proof"
	OfHandover Thing = "hand over"
	OfOffer    Thing = "offer"
	OfStock    Thing = "goods"
)

func CheckID(id string, of Thing) error {
	plain := func(r rune) bool {
		return r >= '0' && r <= '9' || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || strings.ContainsRune("-_.:", r)
	}
	if len(id) < leastID || len(id) > mostID || strings.ContainsFunc(id, func(r rune) bool { return !plain(r) }) || strings.ContainsRune("-.:_", rune(id[0])) {
		return refuse.Because(refuse.BadID, "id", of, leastID, mostID)
	}
	return nil
}

// MostName is how many letters the name of a person has, and mostReason a reason.
const (
	MostName   = 40
	MostReason = 200
)

// PersonName is a person's name as it was typed.
func PersonName(name string) (string, error) {
	name = strings.TrimSpace(name)
	if name == "" || len([]rune(name)) > MostName {
		return "", refuse.Because(refuse.BadPerson, "person", MostName)
	}
	return name, nil
}

// StrikeReason is a reason as it was typed.
func StrikeReason(text string) (string, error) {
	reason := strings.TrimSpace(text)
	if n := len([]rune(reason)); n < 2 || n > MostReason {
		return "", refuse.Because(refuse.BadReason, "reason", MostReason)
	}
	return reason, nil
}

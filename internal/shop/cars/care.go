package cars

import (
	"context"
	"encoding/json"
	"time"

	"waxplanus/core/care"
	"waxplanus/core/film"
	"waxplanus/internal/shop/panel"
)

// Part is a part of the owner's report.
type Part string

// The parts, in their order on the sheet.
const (
	PartPictures Part = "pictures" // before and after, the same lamps
	PartDone     Part = "done"
	PartStays    Part = "stays"
	PartClear    Part = "clear"
	PartCores    Part = "cores" // film cores
	PartUntil    Part = "until"
	PartKeep     Part = "keep"
	PartWork     Part = "work" // people and passes
)

// What a car may be sealed with.
const (
	Unsealed = ""
	Waxed    = "wax"
	Coated   = "coating"
)

// ReportChoices are what goes into the report of a car. Trade has it in the words of the trade,
// Pair names the panel whose photos are shown (empty for the one that was worked most), Sealed
// says what it was sealed with and SealedAt when, Note is a line of the shop's own.
type ReportChoices struct {
	Parts    []Part     `json:"parts"`
	Trade    bool       `json:"trade,omitempty"`
	Pair     string     `json:"pair,omitempty"`
	Sealed   string     `json:"sealed,omitempty"`
	SealedAt *time.Time `json:"sealed_at,omitempty"`
	Sheet    care.Sheet `json:"sheet,omitzero"`
	Note     string     `json:"note,omitempty"`
}

// usualParts are those of a report that nobody chose anything for.
var usualParts = []Part{PartPictures, PartDone, PartStays, PartClear, PartCores, PartUntil, PartKeep}

// CareSheet is the maker's sheet that was chosen, else that of the car's fresh paint.
func CareSheet(c *panel.Car, chosen ReportChoices) care.Sheet {
	if chosen.Sheet != (care.Sheet{}) {
		return chosen.Sheet
	}
	if p := panel.FirstOf(c.Panels, func(p *panel.Panel) bool { return p.Origin == film.Here && p.Paint != nil }); p != nil {
		return (*p).Paint.Care()
	}
	return care.Sheet{}
}

// CareFor are the panels that want care: fresh ones, and those that were worked.
func CareFor(c *panel.Car) []care.Panel {
	var out []care.Panel
	for _, p := range c.Panels {
		if p.Origin == film.Here || p.Worked() {
			out = append(out, p.CaredFor())
		}
	}
	return out
}

func (s *Service) ReportChoices(ctx context.Context, carID string) (ReportChoices, error) {
	out := ReportChoices{Parts: usualParts}
	text, err := s.Store.ReportChoices(ctx, carID)
	if err == nil && text != "" {
		out.Parts = nil
		err = json.Unmarshal([]byte(text), &out)
	}
	return out, err
}

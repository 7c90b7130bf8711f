package facts

import (
	"encoding/json"
	"fmt"
	"io"

	"waxplanus/core/plan"
	"waxplanus/core/surface"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// Grade is how bad something looks by comparison.
type Grade string

// The grades; the empty one is that nobody looked.
const (
	NoneAtAll Grade = "none"
	Light     Grade = "light"
	Middling  Grade = "medium"
	Heavy     Grade = "heavy"
)

// Tests of dead paint: whether water brings the gloss back, and whether a damp cloth takes
// colour.
const (
	WetGloss    = "gloss"
	WetDull     = "dull"
	ClothColour = "colour"
	ClothClean  = "clean"
)

// Condition is what washing and sun left on a panel, as it was said and as a square taught
// it, and which share of the swirls shall go (0 for gloss alone).
type Condition struct {
	Swirls, Dead               Grade
	LearnedSwirls, LearnedDead surface.Depth // none where no square taught them
	WaterSpots, Haze           bool
	WetTest, ClothTest         string
	Gone                       float64
	Parts                      map[string]Looks // sections that look other than the panel, by key
}

var (
	swirlGrades = []Grade{NoneAtAll, Light, Middling, Heavy}
	deadGrades  = []Grade{NoneAtAll, Light, Heavy}
	wetTests    = []string{WetGloss, WetDull}
	clothTests  = []string{ClothColour, ClothClean}
)

func ConditionOf(p store.Panel) Condition {
	var parts map[string]Looks
	if p.Parts != "" {
		_ = json.Unmarshal([]byte(p.Parts), &parts) // the shop is looked over for rows that do not parse when it is opened
	}
	return Condition{Parts: parts, Swirls: Grade(p.Swirls), Dead: Grade(p.Dead), LearnedSwirls: surface.Depth{Median: p.SwirlsUM, Spread: p.SwirlsSpread},
		LearnedDead: surface.Depth{Median: p.DeadUM, Spread: p.DeadSpread}, WaterSpots: p.WaterSpots, Haze: p.Haze, WetTest: p.WetTest, ClothTest: p.ClothTest, Gone: p.Gone}
}

func (c Condition) Put(p *store.Panel) {
	p.Swirls, p.Dead, p.WaterSpots, p.Haze, p.WetTest, p.ClothTest, p.Gone = string(c.Swirls), string(c.Dead), c.WaterSpots, c.Haze, c.WetTest, c.ClothTest, c.Gone
	if p.Parts = ""; len(c.Parts) > 0 {
		raw, _ := json.Marshal(c.Parts) // two words a section
		p.Parts = string(raw)
	}
	p.SwirlsUM, p.SwirlsSpread, p.DeadUM, p.DeadSpread = c.LearnedSwirls.Median, c.LearnedSwirls.Spread, c.LearnedDead.Median, c.LearnedDead.Spread
}

// DepthsOf a section: as was said of it, or else those of the panel.
func (l Looks) DepthsOf(panel surface.Condition) surface.Condition {
	if l.Swirls != "" {
		panel.Swirls = SwirlsOf(l.Swirls)
	}
	if l.Dead != "" {
		panel.Dead = DeadOf(l.Dead)
	}
	return panel
}

// SwirlsOf and DeadOf are what a grade is said to be.
func SwirlsOf(g Grade) surface.Depth {
	return map[Grade]surface.Depth{Light: surface.SwirlsLight, Middling: surface.SwirlsMedium, Heavy: surface.SwirlsHeavy}[g]
}

// DeadOf is the dead layer of a grade; see SwirlsOf.
func DeadOf(g Grade) surface.Depth {
	return map[Grade]surface.Depth{Light: surface.DeadLight, Heavy: surface.DeadHeavy}[g]
}

// Depths are those that a panel is planned by: as learned, or else as said.
func (c Condition) Depths() surface.Condition {
	out := surface.Condition{Swirls: SwirlsOf(c.Swirls), Dead: DeadOf(c.Dead)}
	if c.LearnedSwirls.Median > 0 {
		out.Swirls = c.LearnedSwirls
	}
	if c.LearnedDead.Median > 0 {
		out.Dead = c.LearnedDead
	}
	return out
}

// Looked says whether anybody said how the panel looks.
func (c Condition) Looked() bool { return c.Swirls != "" || c.Dead != "" }

// Sum writes what a plan rests on of it, nothing where there is nothing to correct.
func (c Condition) Sum(w io.Writer) {
	if d := c.Depths(); d.Said() {
		fmt.Fprintf(w, "%.3f|%.3f|%.3f|", d.Swirls.Median, d.Dead.Median, c.Gone)
		if len(c.Parts) > 0 {
			fmt.Fprintf(w, "%v|", c.Parts)
		}
	}
}

// Check says what cannot be true of it together with the paint that it is on.
func (c Condition) Check(layers string) error {
	dead := c.Dead != "" && c.Dead != NoneAtAll
	switch {
	case !(c.Gone >= 0 && c.Gone <= plan.MostGone):
		return refuse.Because(refuse.BadGone, "gone", 100*plan.MostGone)
	case dead && c.WetTest == WetDull:
		return refuse.Because(refuse.WetContradicts, "wet_test")
	case c.Dead == NoneAtAll && c.WetTest == WetGloss:
		return refuse.Because(refuse.DryContradicts, "wet_test")
	case layers != SingleStage && c.ClothTest == ClothColour:
		return refuse.Because(refuse.ColourThroughClear, "cloth_test")
	}
	return nil
}

// SaidCondition is what is said of a condition; nil says nothing. Said anew, what a square
// taught of it no longer holds.
type SaidCondition struct {
	Swirls, Dead, WetTest, ClothTest *string
	WaterSpots, Haze                 *bool
	Gone                             *float64
}

func (f SaidCondition) Put(c *Condition) error {
	for _, one := range []struct {
		field string
		code  refuse.Code
		from  *string
		of    []string
		to    *string
	}{{"wet_test", refuse.BadTest, f.WetTest, wetTests, &c.WetTest}, {"cloth_test", refuse.BadTest, f.ClothTest, clothTests, &c.ClothTest}} {
		if err := Choose(one.from, one.field, one.code, one.of, one.to); err != nil {
			return err
		}
	}
	if err := Choose(f.Swirls, "swirls", refuse.BadSwirls, swirlGrades, &c.Swirls); err != nil {
		return err
	}
	if err := Choose(f.Dead, "dead", refuse.BadSwirls, deadGrades, &c.Dead); err != nil {
		return err
	}
	if f.Swirls != nil {
		c.LearnedSwirls = surface.Depth{}
	}
	if f.Dead != nil {
		c.LearnedDead = surface.Depth{}
	}
	if f.WaterSpots != nil {
		c.WaterSpots = *f.WaterSpots
	}
	if f.Haze != nil {
		c.Haze = *f.Haze
	}
	if f.Gone != nil {
		c.Gone = *f.Gone
	}
	return nil
}

// Looks are what a panel or a section of it may be said to look like.
type Looks struct {
	Swirls Grade `json:"swirls,omitempty"`
	Dead   Grade `json:"dead,omitempty"`
}

// Choices are the conditions that a panel is compared with.
var Choices = []Looks{{NoneAtAll, NoneAtAll}, {Light, NoneAtAll}, {Middling, NoneAtAll}, {Heavy, NoneAtAll}, {Heavy, Light}}

// Depths of a choice.
func (l Looks) Depths() surface.Condition {
	return surface.Condition{Swirls: SwirlsOf(l.Swirls), Dead: DeadOf(l.Dead)}
}

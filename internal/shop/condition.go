package shop

import (
	"context"
	"encoding/json"
	"fmt"
	"io"

	"waxplanus/core/level"
	"waxplanus/core/plan"
	"waxplanus/core/surface"
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

func conditionOf(p store.Panel) Condition {
	var parts map[string]Looks
	if p.Parts != "" {
		_ = json.Unmarshal([]byte(p.Parts), &parts) // the shop is looked over for rows that do not parse when it is opened
	}
	return Condition{Parts: parts, Swirls: Grade(p.Swirls), Dead: Grade(p.Dead), LearnedSwirls: surface.Depth{Median: p.SwirlsUM, Spread: p.SwirlsSpread},
		LearnedDead: surface.Depth{Median: p.DeadUM, Spread: p.DeadSpread}, WaterSpots: p.WaterSpots, Haze: p.Haze, WetTest: p.WetTest, ClothTest: p.ClothTest, Gone: p.Gone}
}

func (c Condition) put(p *store.Panel) {
	p.Swirls, p.Dead, p.WaterSpots, p.Haze, p.WetTest, p.ClothTest, p.Gone = string(c.Swirls), string(c.Dead), c.WaterSpots, c.Haze, c.WetTest, c.ClothTest, c.Gone
	if p.Parts = ""; len(c.Parts) > 0 {
		raw, _ := json.Marshal(c.Parts) // two words a section
		p.Parts = string(raw)
	}
	p.SwirlsUM, p.SwirlsSpread, p.DeadUM, p.DeadSpread = c.LearnedSwirls.Median, c.LearnedSwirls.Spread, c.LearnedDead.Median, c.LearnedDead.Spread
}

// depthsOf a section: as was said of it, or else those of the panel.
func (l Looks) depthsOf(panel surface.Condition) surface.Condition {
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

// sum writes what a plan rests on of it, nothing where there is nothing to correct.
func (c Condition) sum(w io.Writer) {
	if d := c.Depths(); d.Said() {
		fmt.Fprintf(w, "%.3f|%.3f|%.3f|", d.Swirls.Median, d.Dead.Median, c.Gone)
		if len(c.Parts) > 0 {
			fmt.Fprintf(w, "%v|", c.Parts)
		}
	}
}

// check says what cannot be true of it together with the paint that it is on.
func (c Condition) check(layers string) error {
	dead := c.Dead != "" && c.Dead != NoneAtAll
	switch {
	case !(c.Gone >= 0 && c.Gone <= plan.MostGone):
		return Refuse(BadGone, "gone", 100*plan.MostGone)
	case dead && c.WetTest == WetDull:
		return Refuse(WetContradicts, "wet_test")
	case c.Dead == NoneAtAll && c.WetTest == WetGloss:
		return Refuse(DryContradicts, "wet_test")
	case layers != SingleStage && c.ClothTest == ClothColour:
		return Refuse(ColourThroughClear, "cloth_test")
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

func (f SaidCondition) put(c *Condition) error {
	for _, one := range []struct {
		field string
		code  Code
		from  *string
		of    []string
		to    *string
	}{{"wet_test", BadTest, f.WetTest, wetTests, &c.WetTest}, {"cloth_test", BadTest, f.ClothTest, clothTests, &c.ClothTest}} {
		if err := choose(one.from, one.field, one.code, one.of, one.to); err != nil {
			return err
		}
	}
	if err := choose(f.Swirls, "swirls", BadSwirls, swirlGrades, &c.Swirls); err != nil {
		return err
	}
	if err := choose(f.Dead, "dead", BadSwirls, deadGrades, &c.Dead); err != nil {
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

// SetPart says how one section of a panel looks where it looks other than the panel; nothing
// said, it looks as the panel does.
func (s *Shop) SetPart(ctx context.Context, panelID, section string, looks Looks) (*Panel, error) {
	p, err := s.panel(ctx, panelID)
	if err != nil {
		return nil, err
	}
	if _, err := p.sectionNo(section); err != nil {
		return nil, err
	}
	_, err = s.store.ChangeCar(ctx, p.Car.ID, func(c *store.Car) error {
		row := find(c.Panels, func(o store.Panel) bool { return o.ID == panelID })
		if row == nil {
			return store.ErrMissing
		}
		k := conditionOf(*row)
		if k.Parts == nil {
			k.Parts = map[string]Looks{}
		}
		if k.Parts[section] = looks; looks == (Looks{}) {
			delete(k.Parts, section)
		}
		k.put(row)
		return nil
	})
	if err != nil {
		return nil, err
	}
	return s.Panel(ctx, panelID)
}

// Choices are the conditions that a panel is compared with.
var Choices = []Looks{{NoneAtAll, NoneAtAll}, {Light, NoneAtAll}, {Middling, NoneAtAll}, {Heavy, NoneAtAll}, {Heavy, Light}}

// DeadChoices are the dead layers that a wetted panel is compared with.
var DeadChoices = []Grade{NoneAtAll, Light, Heavy}

// Depths of a choice.
func (l Looks) Depths() surface.Condition {
	return surface.Condition{Swirls: SwirlsOf(l.Swirls), Dead: DeadOf(l.Dead)}
}

// Shares of the swirls that owners choose between.
var Shares = []float64{0.5, 0.8, 0.95}

// Share is a share of the swirls with what it takes: removal (µm), and where the panel was
// read the floor (µm) and how the section that decides would stand after it.
type Share struct {
	Gone, Removal, Floor float64
	Standing             *level.Standing
}

// SharesOf are what Shares take from a panel of some depths.
func (p *Panel) SharesOf(c surface.Condition) []Share {
	out := make([]Share, len(Shares))
	for i, gone := range Shares {
		out[i] = Share{Gone: gone, Removal: c.Removal(gone)}
		if p.Study == nil || len(p.Study.Sections) == 0 {
			continue
		}
		takes := make([]float64, len(p.Study.Sections))
		for k := range takes {
			takes[k] = out[i].Removal
		}
		sec := p.Study.Sections[level.DecidingFor(p.spendable(), takes)]
		st := p.StandingFor(sec, out[i].Removal)
		out[i].Standing, out[i].Floor = &st, sec.Policy.Floor
	}
	return out
}

// Ask has the panel's sequences asked for another share of the swirls; nil asks for nothing.
func (p *Panel) Ask(gone *float64) error {
	if gone == nil || p.Options == nil {
		return nil
	}
	if !(*gone >= 0 && *gone <= plan.MostGone) {
		return Refuse(BadGone, "gone", 100*plan.MostGone)
	}
	if p.Aim == plan.PolishOnly && p.Condition.Depths().Said() {
		p.Options, p.Condition.Gone = p.Options.For(*gone), *gone
	}
	return nil
}

// Comparison is a panel whose condition is compared, with the panels of its car that lie as
// it does, itself too: sponge and sun treat them alike.
type Comparison struct {
	*Look
	Alike []string // keys
}

// Compare is a panel with what its condition is compared with, as if that had been said of it.
func (s *Shop) Compare(ctx context.Context, panelID string, said SaidCondition) (*Comparison, error) {
	l, err := s.Look(ctx, panelID)
	if err != nil {
		return nil, err
	}
	if err := said.put(&l.Condition); err != nil {
		return nil, err
	}
	car, err := s.store.Car(ctx, l.Car.ID)
	if err != nil {
		return nil, err
	}
	out := &Comparison{Look: l}
	for _, row := range car.Panels {
		g, err := s.ground(ctx, row.Shape)
		if err != nil {
			return nil, &Unreadable{PanelID: row.ID, What: "outline", Err: err}
		}
		if row.ID == l.ID || g.Panel.Side == l.Shape.Side && row.Substrate != Plastic {
			out.Alike = append(out.Alike, row.Key)
		}
	}
	return out, nil
}

package cars

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"waxplanus/core/clearcoat"
	"waxplanus/core/cure"
	"waxplanus/core/film"
	"waxplanus/core/flatlay/body"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// UsualPeel is the peel grade of a panel that nobody has looked at: a usual gun
// finish.
const UsualPeel = 6.0

// Said is what is said of a panel; nil says nothing. Film in µm.
type Said struct {
	Origin, Layers, Cure, Substrate, Aim, Hardness, Under, Light *string
	Coats                                                        *int
	Wet, Solids, Dry, PeelGrade                                  *float64
	SprayedAt                                                    *time.Time
	Past                                                         *[]string
	Condition                                                    facts.SaidCondition
	Paint                                                        *string     // a paint of the workshop, empty for none
	sheet                                                        *cure.Paint // of that paint
}

// Group is many panels of which the same is said.
type Group struct {
	Keys []string
	Said Said
}

// The most that may be said of a coat, µm, and of coats.
const (
	mostWet       = 1000.0
	mostDry       = 500.0
	mostCoatsSaid = 10
)

// put changes what is known by what was said. now bounds the day of spraying.
func (f Said) put(k *facts.Panel, now time.Time) error {
	if f.Coats != nil {
		if *f.Coats < 0 || *f.Coats > mostCoatsSaid {
			return refuse.Because(refuse.BadCoats, "coats", mostCoatsSaid)
		}
		k.Coats = *f.Coats
	}
	for _, n := range []struct {
		field string
		code  refuse.Code
		from  *float64
		most  float64
		to    *float64
	}{
		{"wet_um", refuse.BadWet, f.Wet, mostWet, &k.WetUM}, {"solids", refuse.BadSolids, f.Solids, 1, &k.Solids},
		{"dry_um", refuse.BadDry, f.Dry, mostDry, &k.DryUM}, {"peel_grade", refuse.BadPeel, f.PeelGrade, facts.MostGrade, &k.EyeGrade},
	} {
		if n.from == nil {
			continue
		}
		if !(*n.from >= 0 && *n.from <= n.most) {
			return refuse.Because(n.code, n.field, n.most)
		}
		*n.to = *n.from
	}
	k.Say(facts.FactOrigin, f.Origin != nil)
	k.Say(facts.FactAim, f.Aim != nil)
	k.Say(facts.FactPeel, f.PeelGrade != nil)
	k.Say(facts.FactCoats, f.Coats != nil)
	if f.Paint != nil {
		f.putPaint(k)
	}
	if f.SprayedAt != nil {
		if f.SprayedAt.After(now.Add(time.Hour)) || f.SprayedAt.Year() < 1900 {
			return refuse.Because(refuse.BadSprayed, "sprayed_at", Day(*f.SprayedAt))
		}
		at := f.SprayedAt.UTC()
		k.SprayedAt = &at
	}
	return errors.Join(
		facts.Choose(f.Origin, "origin", refuse.BadOrigin, facts.Origins, &k.Origin), facts.Choose(f.Layers, "layers", refuse.BadLayers, facts.LayerKinds, &k.Layers),
		facts.Choose(f.Cure, "cure", refuse.BadCure, facts.Cures, &k.Cure), facts.Choose(f.Substrate, "substrate", refuse.BadSubstrate, facts.Substrates, &k.Substrate),
		facts.Choose(f.Aim, "aim", refuse.BadAim, facts.Aims, &k.Aim), facts.Choose(f.Hardness, "hardness", refuse.BadHardness, facts.Hardnesses, &k.Hardness),
		facts.Choose(f.Under, "under", refuse.BadUnder, facts.Unders, &k.Under), facts.Choose(f.Light, "light", refuse.BadLight, facts.Lights, &k.Light), f.putPast(k), f.Condition.Put(&k.Condition), k.Condition.Check(k.Layers))
}

// putPaint has the panel know the sheet of its paint, with the film a coat where nobody says
// another.
func (f Said) putPaint(k *facts.Panel) {
	k.Paint = f.sheet
	if f.sheet == nil {
		return
	}
	if f.sheet.CoatUM > 0 && f.Dry == nil {
		k.DryUM = f.sheet.CoatUM
	}
	if f.sheet.Colour && f.Layers == nil {
		k.Layers = facts.SingleStage
	}
}

// withSheet finds the sheet of the paint that is named.
func (s *Service) withSheet(ctx context.Context, f Said) (Said, error) {
	if f.Paint == nil || strings.TrimSpace(*f.Paint) == "" {
		return f, nil
	}
	w, err := s.LoadWorkshop(ctx)
	if err != nil {
		return f, err
	}
	sheet, ok := w.PaintNamed(*f.Paint)
	if !ok {
		return f, refuse.Because(refuse.NoPaint, "paint", *f.Paint)
	}
	f.sheet = sheet
	return f, nil
}

// Day is a day among the values of a refusal.
type Day time.Time

func (f Said) putPast(k *facts.Panel) error {
	if f.Past == nil {
		return nil
	}
	k.Past = nil
	for _, v := range *f.Past {
		if !slices.Contains(facts.Pasts, v) {
			return refuse.Because(refuse.BadPast, "past", v)
		}
		if !slices.Contains(k.Past, v) {
			k.Past = append(k.Past, v)
		}
	}
	return nil
}

// unsaid is a panel of which nobody has said anything yet.
func unsaid() facts.Panel {
	return facts.Panel{Origin: film.Nowhere, Layers: facts.ClearCoat, Cure: "unknown", Aim: plan.Flat, EyeGrade: UsualPeel, Hardness: shelf.Medium, Under: clearcoat.UnderUnknown}
}

// putGroup says the same of many panels.
func putGroup(c *store.Car, g Group, now time.Time) error {
	for _, key := range g.Keys {
		p := panel.FirstOf(c.Panels, func(p store.Panel) bool { return p.Key == key })
		if p == nil {
			return refuse.Because(refuse.NoPanel, "keys", c.Name, key)
		}
		k := facts.PanelOf(*p)
		if err := g.Said.put(&k, now); err != nil {
			return err
		}
		k.Put(p)
	}
	return nil
}

// CarSaid is what is said of a car; nil says nothing.
type CarSaid struct {
	Name, Painter, OwnerWords *string
	CostLimit, HoursLimit     *float64
}

// What bounds it.
const (
	mostCarName    = 60
	mostOwnerWords = 1000
	mostCost       = 1e6
	mostHours      = 1e4
)

func (f CarSaid) put(c *store.Car) error {
	if f.Name != nil {
		c.Name = strings.TrimSpace(*f.Name)
		if n := len([]rune(c.Name)); n == 0 || n > mostCarName {
			return refuse.Because(refuse.BadCarName, "name", mostCarName)
		}
	}
	if f.Painter != nil {
		var err error
		if c.Painter, err = house.PersonName(*f.Painter); err != nil {
			return refuse.Because(refuse.BadPainter, "painter", house.MostName)
		}
	}
	if f.OwnerWords != nil {
		c.OwnerWords = strings.TrimSpace(*f.OwnerWords)
		if n := len([]rune(c.OwnerWords)); n > mostOwnerWords {
			return refuse.Because(refuse.LongOwnerWords, "owner_words", mostOwnerWords, n)
		}
	}
	for _, n := range []struct {
		field    string
		code     refuse.Code
		from, to *float64
		most     float64
	}{{"cost_limit", refuse.BadCost, f.CostLimit, &c.CostLimit, mostCost}, {"hours_limit", refuse.BadHours, f.HoursLimit, &c.HoursLimit, mostHours}} {
		if n.from == nil {
			continue
		}
		if !(*n.from >= 0 && *n.from <= n.most) {
			return refuse.Because(n.code, n.field)
		}
		*n.to = *n.from
	}
	return nil
}

// Drawing is a drawing of a user's own outline: its file's name and text, and what is
// known of its scale; 0 for not.
type Drawing struct {
	FileName, Text     string
	MMPerUnit, KnownMM float64
	KnownPanel         string
}

// Outline reads a drawing.
func (d Drawing) Outline() (files.Drawing, error) {
	out, err := files.ReadDrawing(d.Text, files.Scale{PerUnit: d.MMPerUnit, Known: d.KnownMM, Panel: d.KnownPanel})
	if err != nil {
		return out, refuse.Because(refuse.BadDrawing, "outline", d.FileName, err)
	}
	return out, nil
}

// NewCar is a car to be taken in. The sizes are in mm, nil for the usual; Drawing is
// wanted for a body of its own; Like is the id of an earlier car whose panels are known
// alike.
type NewCar struct {
	CarSaid
	Body, Colour          string
	Length, Width, Height *float64
	Drawing               *Drawing
	Groups                []Group
	Like                  string
}

// drawn is the body that a new car asks for.
func (in NewCar) drawn() (body.Body, error) {
	if in.Body == body.Own {
		if in.Drawing == nil {
			return body.Body{}, refuse.Because(refuse.NoDrawing, "outline")
		}
		d, err := in.Drawing.Outline()
		if err == nil && d.Scale == 0 {
			err = refuse.Because(refuse.NoScale, "outline")
		}
		return d.Body, err
	}
	if in.Body == body.Loose && (in.Width == nil || in.Height == nil) {
		return body.Body{}, refuse.Because(refuse.NoSize, "width_mm")
	}
	return FindBody(in.Body, in.Length, in.Width, in.Height)
}

// FindBody is a body type in a size; nil for the usual, mm.
func FindBody(kind string, length, width, height *float64) (body.Body, error) {
	var size body.Size
	for _, v := range []struct{ from, to *float64 }{{length, &size.Length}, {width, &size.Width}, {height, &size.Height}} {
		if v.from != nil {
			*v.to = *v.from
		}
	}
	b, err := body.Find(kind, size)
	if err != nil {
		return b, refuse.Because(refuse.BadValue, "body", err)
	}
	return b, nil
}

// The size that a loose panel is offered in, mm.
const (
	looseWidth  = 900.0
	looseHeight = 600.0
)

// Bodies lists the body types in their usual sizes.
func Bodies() ([]body.Body, error) {
	var out []body.Body
	for _, kind := range body.Types() {
		size := body.Size{}
		if kind == body.Loose {
			size = body.Size{Width: looseWidth, Height: looseHeight}
		}
		b, err := body.Find(kind, size)
		if err != nil {
			return nil, err
		}
		out = append(out, b)
	}
	return out, nil
}

// NewCarRow makes the rows of a car: its panels with outlines and what was said of
// them. like, if not nil, is an earlier car whose panels are known alike; what
// is said now wins. now bounds the days of spraying.
func NewCarRow(id string, in NewCar, like *store.Car, now time.Time) (*store.Car, error) {
	c := &store.Car{ID: id, Colour: in.Colour, CreatedAt: now}
	if !slices.Contains(facts.Colours, plan.Colour(in.Colour)) {
		return nil, refuse.Because(refuse.BadColour, "colour")
	}
	nothing := ""
	if in.Name == nil {
		in.Name = &nothing
	}
	if in.Painter == nil {
		in.Painter = &nothing
	}
	if err := in.CarSaid.put(c); err != nil {
		return nil, err
	}
	b, err := in.drawn()
	if err != nil {
		return nil, err
	}
	c.Body, c.LengthMM, c.WidthMM, c.HeightMM = b.Type, b.Size.Length, b.Size.Width, b.Size.Height
	around, err := json.Marshal(facts.Sheet{Box: b.Box, Scenery: b.Scenery})
	if err != nil {
		return nil, err
	}
	c.Sheet = string(around)
	for i, p := range b.Panels {
		k := unsaid()
		k.Substrate = p.Substrate
		if like != nil {
			if old := panel.FirstOf(like.Panels, func(o store.Panel) bool { return o.Key == p.Key }); old != nil {
				k = facts.PanelOf(*old)
				k.SprayedAt = nil
			}
		}
		shape, err := json.Marshal(p)
		if err != nil {
			return nil, err
		}
		row := store.Panel{ID: id + "." + p.Key, CarID: id, Seq: i + 1, Key: p.Key, Name: p.Name, Shape: string(shape)}
		k.Put(&row)
		c.Panels = append(c.Panels, row)
	}
	for _, g := range in.Groups {
		if err := putGroup(c, g, now); err != nil {
			return nil, err
		}
	}
	return c, nil
}

// TakeIn keeps a new car.
func (s *Service) TakeIn(ctx context.Context, in NewCar) (*panel.Car, error) {
	var like *store.Car
	if in.Like != "" {
		c, err := s.Store.Car(ctx, in.Like)
		if errors.Is(err, store.ErrMissing) {
			return nil, refuse.Because(refuse.NoEarlierCar, "like")
		}
		if err != nil {
			return nil, err
		}
		like = &c
	}
	for i := range in.Groups {
		var err error
		if in.Groups[i].Said, err = s.withSheet(ctx, in.Groups[i].Said); err != nil {
			return nil, err
		}
	}
	row, err := NewCarRow(uuid.NewString(), in, like, s.Now())
	if err != nil {
		return nil, err
	}
	if err := s.Store.TakeIn(ctx, row); err != nil {
		return nil, err
	}
	return s.Car(ctx, row.ID)
}

// ChangePanel changes what is known of a panel.
func (s *Service) ChangePanel(ctx context.Context, id string, said Said) (*panel.Panel, error) {
	row, err := s.Store.Panel(ctx, id)
	if err != nil {
		return nil, err
	}
	if _, err := s.ChangePanels(ctx, row.CarID, Group{[]string{row.Key}, said}); err != nil {
		return nil, err
	}
	return s.Panel(ctx, id)
}

// ChangePanels says the same of many panels of a car.
func (s *Service) ChangePanels(ctx context.Context, carID string, g Group) (*panel.Car, error) {
	var err error
	if g.Said, err = s.withSheet(ctx, g.Said); err != nil {
		return nil, err
	}
	row, err := s.Store.ChangeCar(ctx, carID, func(c *store.Car) error { return putGroup(c, g, s.Now()) })
	if err != nil {
		return nil, err
	}
	return s.Car(ctx, row.ID)
}

// ChangeCar changes what was said of a car.
func (s *Service) ChangeCar(ctx context.Context, id string, said CarSaid) (*panel.Car, error) {
	row, err := s.Store.ChangeCar(ctx, id, said.put)
	if err != nil {
		return nil, err
	}
	return s.Car(ctx, row.ID)
}

// Guess is what may be said of a panel by its history alone.
type Guess struct {
	film.Guess
	History film.History
	Aim     plan.Aim
	Need    float64 // film that the aim takes, µm
	film.Verdict
}

// GuessOf says it of what was said of a panel.
func (s *Service) GuessOf(ctx context.Context, colour string, said Said) (Guess, error) {
	if !slices.Contains(facts.Colours, plan.Colour(colour)) {
		return Guess{}, refuse.Because(refuse.BadColour, "colour")
	}
	k := unsaid()
	said, err := s.withSheet(ctx, said)
	if err != nil {
		return Guess{}, err
	}
	if err := said.put(&k, s.Now()); err != nil {
		return Guess{}, err
	}
	h := k.History()
	if k.Origin == film.Here {
		v, err := s.Store.HouseVersion(ctx)
		if err != nil {
			return Guess{}, err
		}
		if h.Ratio, err = s.CoatRatio(ctx, v.Lessons, ""); err != nil {
			return Guess{}, err
		}
	}
	house, err := s.House(ctx)
	if err != nil {
		return Guess{}, err
	}
	// Film does not depend on the panel's size; any one of a usual section does.
	o, err := s.OptionsFor(ctx, house, plan.Job{Aim: k.Aim, Grade: k.PeelGrade(), Reference: plan.FactoryGrade, Colour: plan.Colour(colour), Single: k.Layers == facts.SingleStage, Factory: k.Finish() == film.FactoryFinish,
		Hardness: house.Shelf.Law.Hardness(k.Hardness), Scratch: plan.UsualSwirl, Area: 1e6, Sections: []plan.Rect{{W: 400, H: 400}}, Nibs: 1, Shelf: house.Shelf, Rules: house.Rules}.Clear())
	if err != nil {
		return Guess{}, err
	}
	need, reachable := o.Need()
	if !reachable {
		need = plan.MostFilm
	}
	out := Guess{Guess: film.GuessOf(h), History: h, Aim: k.Aim, Need: need}
	out.Verdict = out.Policy.Judge(out.Least, film.GateAsk, film.SpendUnmapped(out.Need), k.Aim.SpotsOnly())
	return out, nil
}

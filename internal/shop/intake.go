package shop

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
	"waxplanus/internal/store"
)

// What may be said of a panel or a car, where it is one of a few.
var (
	origins    = []film.Origin{film.AtFactory, film.Here, film.Elsewhere, film.Nowhere}
	layerKinds = []string{ClearCoat, SingleStage}
	cures      = []string{AirDried, Baked, "unknown"}
	substrates = []string{"steel", "aluminium", Plastic}
	aims       = []plan.Aim{plan.NibsOnly, plan.Match, plan.Flat, plan.PolishOnly}
	hardnesses = []string{"soft", shelf.Medium, "hard", "oxidised", "lacquer"}
	unders     = []clearcoat.Under{clearcoat.UnderNew, clearcoat.UnderOver, clearcoat.UnderUnknown}
	pasts      = []string{"polished", "repaired", "outside"}
	colours    = []plan.Colour{plan.Light, plan.Medium, plan.Dark}
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
	Condition                                                    SaidCondition
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
func (f Said) put(k *Known, now time.Time) error {
	if f.Coats != nil {
		if *f.Coats < 0 || *f.Coats > mostCoatsSaid {
			return Refuse(BadCoats, "coats", mostCoatsSaid)
		}
		k.Coats = *f.Coats
	}
	for _, n := range []struct {
		field string
		code  Code
		from  *float64
		most  float64
		to    *float64
	}{
		{"wet_um", BadWet, f.Wet, mostWet, &k.WetUM}, {"solids", BadSolids, f.Solids, 1, &k.Solids},
		{"dry_um", BadDry, f.Dry, mostDry, &k.DryUM}, {"peel_grade", BadPeel, f.PeelGrade, mostGrade, &k.EyeGrade},
	} {
		if n.from == nil {
			continue
		}
		if !(*n.from >= 0 && *n.from <= n.most) {
			return Refuse(n.code, n.field, n.most)
		}
		*n.to = *n.from
	}
	k.say(FactOrigin, f.Origin != nil)
	k.say(FactAim, f.Aim != nil)
	k.say(FactPeel, f.PeelGrade != nil)
	k.say(FactCoats, f.Coats != nil)
	if f.Paint != nil {
		f.putPaint(k)
	}
	if f.SprayedAt != nil {
		if f.SprayedAt.After(now.Add(time.Hour)) || f.SprayedAt.Year() < 1900 {
			return Refuse(BadSprayed, "sprayed_at", Day(*f.SprayedAt))
		}
		at := f.SprayedAt.UTC()
		k.SprayedAt = &at
	}
	return errors.Join(
		choose(f.Origin, "origin", BadOrigin, origins, &k.Origin), choose(f.Layers, "layers", BadLayers, layerKinds, &k.Layers),
		choose(f.Cure, "cure", BadCure, cures, &k.Cure), choose(f.Substrate, "substrate", BadSubstrate, substrates, &k.Substrate),
		choose(f.Aim, "aim", BadAim, aims, &k.Aim), choose(f.Hardness, "hardness", BadHardness, hardnesses, &k.Hardness),
		choose(f.Under, "under", BadUnder, unders, &k.Under), choose(f.Light, "light", BadLight, lights, &k.Light), f.putPast(k), f.Condition.put(&k.Condition), k.Condition.check(k.Layers))
}

// putPaint has the panel know the sheet of its paint, with the film a coat where nobody says
// another.
func (f Said) putPaint(k *Known) {
	k.Paint = f.sheet
	if f.sheet == nil {
		return
	}
	if f.sheet.CoatUM > 0 && f.Dry == nil {
		k.DryUM = f.sheet.CoatUM
	}
	if f.sheet.Colour && f.Layers == nil {
		k.Layers = SingleStage
	}
}

// withSheet finds the sheet of the paint that is named.
func (s *Shop) withSheet(ctx context.Context, f Said) (Said, error) {
	if f.Paint == nil || strings.TrimSpace(*f.Paint) == "" {
		return f, nil
	}
	w, err := s.workshop(ctx)
	if err != nil {
		return f, err
	}
	sheet, ok := w.PaintNamed(*f.Paint)
	if !ok {
		return f, Refuse(NoPaint, "paint", *f.Paint)
	}
	f.sheet = sheet
	return f, nil
}

// Day is a day among the values of a refusal.
type Day time.Time

// choose takes an answer that is one of a few.
func choose[T ~string](from *string, field string, code Code, of []T, to *T) error {
	if from == nil {
		return nil
	}
	if !slices.Contains(of, T(*from)) {
		return Refuse(code, field, *from)
	}
	*to = T(*from)
	return nil
}

func (f Said) putPast(k *Known) error {
	if f.Past == nil {
		return nil
	}
	k.Past = nil
	for _, v := range *f.Past {
		if !slices.Contains(pasts, v) {
			return Refuse(BadPast, "past", v)
		}
		if !slices.Contains(k.Past, v) {
			k.Past = append(k.Past, v)
		}
	}
	return nil
}

// unsaid is a panel of which nobody has said anything yet.
func unsaid() Known {
	return Known{Origin: film.Nowhere, Layers: ClearCoat, Cure: "unknown", Aim: plan.Flat, EyeGrade: UsualPeel, Hardness: shelf.Medium, Under: clearcoat.UnderUnknown}
}

// putGroup says the same of many panels.
func putGroup(c *store.Car, g Group, now time.Time) error {
	for _, key := range g.Keys {
		p := find(c.Panels, func(p store.Panel) bool { return p.Key == key })
		if p == nil {
			return Refuse(NoPanel, "keys", c.Name, key)
		}
		k := knownOf(*p)
		if err := g.Said.put(&k, now); err != nil {
			return err
		}
		k.put(p)
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
			return Refuse(BadCarName, "name", mostCarName)
		}
	}
	if f.Painter != nil {
		var err error
		if c.Painter, err = personName(*f.Painter); err != nil {
			return Refuse(BadPainter, "painter", mostName)
		}
	}
	if f.OwnerWords != nil {
		c.OwnerWords = strings.TrimSpace(*f.OwnerWords)
		if n := len([]rune(c.OwnerWords)); n > mostOwnerWords {
			return Refuse(LongOwnerWords, "owner_words", mostOwnerWords, n)
		}
	}
	for _, n := range []struct {
		field    string
		code     Code
		from, to *float64
		most     float64
	}{{"cost_limit", BadCost, f.CostLimit, &c.CostLimit, mostCost}, {"hours_limit", BadHours, f.HoursLimit, &c.HoursLimit, mostHours}} {
		if n.from == nil {
			continue
		}
		if !(*n.from >= 0 && *n.from <= n.most) {
			return Refuse(n.code, n.field)
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
		return out, Refuse(BadDrawing, "outline", d.FileName, err)
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
			return body.Body{}, Refuse(NoDrawing, "outline")
		}
		d, err := in.Drawing.Outline()
		if err == nil && d.Scale == 0 {
			err = Refuse(NoScale, "outline")
		}
		return d.Body, err
	}
	if in.Body == body.Loose && (in.Width == nil || in.Height == nil) {
		return body.Body{}, Refuse(NoSize, "width_mm")
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
		return b, Refuse(BadValue, "body", err)
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
	if !slices.Contains(colours, plan.Colour(in.Colour)) {
		return nil, Refuse(BadColour, "colour")
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
	around, err := json.Marshal(Sheet{Box: b.Box, Scenery: b.Scenery})
	if err != nil {
		return nil, err
	}
	c.Sheet = string(around)
	for i, p := range b.Panels {
		k := unsaid()
		k.Substrate = p.Substrate
		if like != nil {
			if old := find(like.Panels, func(o store.Panel) bool { return o.Key == p.Key }); old != nil {
				k = knownOf(*old)
				k.SprayedAt = nil
			}
		}
		shape, err := json.Marshal(p)
		if err != nil {
			return nil, err
		}
		row := store.Panel{ID: id + "." + p.Key, CarID: id, Seq: i + 1, Key: p.Key, Name: p.Name, Shape: string(shape)}
		k.put(&row)
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
func (s *Shop) TakeIn(ctx context.Context, in NewCar) (*Car, error) {
	var like *store.Car
	if in.Like != "" {
		c, err := s.store.Car(ctx, in.Like)
		if errors.Is(err, store.ErrMissing) {
			return nil, Refuse(NoEarlierCar, "like")
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
	row, err := NewCarRow(uuid.NewString(), in, like, s.now())
	if err != nil {
		return nil, err
	}
	if err := s.store.TakeIn(ctx, row); err != nil {
		return nil, err
	}
	return s.Car(ctx, row.ID)
}

// ChangePanel changes what is known of a panel.
func (s *Shop) ChangePanel(ctx context.Context, id string, said Said) (*Panel, error) {
	row, err := s.store.Panel(ctx, id)
	if err != nil {
		return nil, err
	}
	if _, err := s.ChangePanels(ctx, row.CarID, Group{[]string{row.Key}, said}); err != nil {
		return nil, err
	}
	return s.Panel(ctx, id)
}

// ChangePanels says the same of many panels of a car.
func (s *Shop) ChangePanels(ctx context.Context, carID string, g Group) (*Car, error) {
	var err error
	if g.Said, err = s.withSheet(ctx, g.Said); err != nil {
		return nil, err
	}
	row, err := s.store.ChangeCar(ctx, carID, func(c *store.Car) error { return putGroup(c, g, s.now()) })
	if err != nil {
		return nil, err
	}
	return s.Car(ctx, row.ID)
}

// ChangeCar changes what was said of a car.
func (s *Shop) ChangeCar(ctx context.Context, id string, said CarSaid) (*Car, error) {
	row, err := s.store.ChangeCar(ctx, id, said.put)
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
func (s *Shop) GuessOf(ctx context.Context, colour string, said Said) (Guess, error) {
	if !slices.Contains(colours, plan.Colour(colour)) {
		return Guess{}, Refuse(BadColour, "colour")
	}
	k := unsaid()
	said, err := s.withSheet(ctx, said)
	if err != nil {
		return Guess{}, err
	}
	if err := said.put(&k, s.now()); err != nil {
		return Guess{}, err
	}
	h := k.History()
	if k.Origin == film.Here {
		v, err := s.store.HouseVersion(ctx)
		if err != nil {
			return Guess{}, err
		}
		if h.Ratio, err = s.coatRatio(ctx, v.Lessons, ""); err != nil {
			return Guess{}, err
		}
	}
	house, err := s.House(ctx)
	if err != nil {
		return Guess{}, err
	}
	// Film does not depend on the panel's size; any one of a usual section does.
	o, err := s.optionsFor(ctx, house, plan.Job{Aim: k.Aim, Grade: k.PeelGrade(), Reference: plan.FactoryGrade, Colour: plan.Colour(colour), Single: k.Layers == SingleStage, Factory: k.Finish() == film.FactoryFinish,
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

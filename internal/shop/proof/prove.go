package proof

import (
	"cmp"
	"context"
	"math"
	"slices"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/core/prove"
	"waxplanus/core/surface"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/store"
)

// MeterRead is one reading of a meter.
type MeterRead struct {
	ID string
	No int
	prove.Read
	Person string
	At     time.Time
	Struck *facts.Struck
}

func meterOf(r store.MeterReading) MeterRead {
	return MeterRead{ID: r.ID, No: int(r.Seq), Person: r.Person, At: r.At, Struck: facts.StruckOf(r.StruckAt, r.StruckReason),
		Read: prove.Read{Meter: prove.Meter{Quantity: prove.Quantity(r.Quantity), Instrument: r.Instrument, Angle: r.AngleDeg}, X: r.XMM, Y: r.YMM, Value: r.Value, After: r.After}}
}

// Source says where a texture is known from.
type Source string

// Where it may be known from.
const (
	FromEye   Source = "eye"
	FromPhoto Source = "photo"
	FromModel Source = "model" // the cut as learned
)

// KnownTexture is a texture with where it is known from, and the photo that it was read from.
type KnownTexture struct {
	prove.Texture
	Source
	Photo *Photo
	// Gloss is that of the scratches that stand, 0 to 1 of a perfect mirror: no texture tells it.
	Gloss float64
	Usual bool // nobody said or saw it: it is what such a finish usually has
}

// Clarity is how sharp a lamp stands in it, 0 to 100.
func (t KnownTexture) Clarity() float64 {
	return surface.Clarity(t.Peel.Median, t.Pebble.Median, t.Gloss)
}

// PanelProof is a panel as it is proven: what it was and is, what scratches may lie under its
// gloss, and what is still to do.
type PanelProof struct {
	*panel.Panel
	Before, Beside KnownTexture
	BesideName     string        // panel whose photo the one beside is known from; empty for none
	After          *KnownTexture // nil of a panel that nobody worked
	Outcome        prove.Outcome
	Photos         []Photo
	Meters         []MeterRead
	Changes        []prove.Change
	Proofs         []panel.Proof
	Hidden         []prove.Hidden
	Wipes          []Wipe
	Spent          film.Estimate // film that went of the section that decides
	AtMark         float64       // of it at a closed mark
	Section        *film.SectionFilm
	Found          []panel.JudgedMark // marks that were not struck out
	Todos          []prove.Todo
	Swirls         float64           // share of the swirls that is gone, by the model; 0 where none were said
	Unread         []flatlay.Section // worked since they were last read
}

// Wipe is a section to wipe the oils off and look at: for the scratch that may lie under its
// gloss, or only because it was polished. Seen says what somebody saw there since.
type Wipe struct {
	Section, Name string
	Hidden        *prove.Hidden
	Step          string // that left the scratch
	Direction     int    // that its strokes went in, degrees; the look goes across it
	Seen          *panel.Proof
}

// Prove is a panel as it is proven.
func (s *Service) Prove(ctx context.Context, panelID string) (*PanelProof, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return nil, err
	}
	return s.ProofOf(ctx, p)
}

func (s *Service) ProofOf(ctx context.Context, p *panel.Panel) (*PanelProof, error) {
	out := &PanelProof{Panel: p}
	rows, err := s.Store.ProofRows(ctx, p.ID)
	if err != nil {
		return nil, err
	}
	for _, r := range rows.Photos {
		one, err := photoRow(r)
		if err != nil {
			return nil, &panel.Unreadable{PanelID: p.ID, What: "photos", Err: err}
		}
		out.Photos = append(out.Photos, one)
	}
	var reads []prove.Read
	for _, r := range rows.Meters {
		one := meterOf(r)
		// Passes have been made since: it is neither before nor after.
		old := one.After && p.CutSince(p.SectionAt(flatlay.Point{X: one.X, Y: one.Y}), one.At)
		if out.Meters = append(out.Meters, one); one.Struck == nil && !old {
			reads = append(reads, one.Read)
		}
	}
	out.Changes = prove.Changes(reads)
	for _, r := range rows.Proofs {
		out.Proofs = append(out.Proofs, panel.ProofOf(r))
	}
	if out.Found, err = p.JudgedMarks(s.Now()); err != nil {
		return nil, err
	}
	if err := s.putTextures(ctx, out); err != nil {
		return nil, err
	}
	out.putScratches()
	if sec, _, ok := p.Decides(); ok {
		out.Section, out.Spent, out.AtMark = &sec, SpentOn(p, sec.Key), p.Spotted(sec.Key)
	}
	if d := p.Condition.Depths(); d.Swirls.Median > 0 && p.Worked() {
		out.Swirls = d.Gone(leastRemoved(p))
	}
	out.Todos = out.stands().Todos()
	return out, nil
}

// SpentOn is the film that went of a section, µm: of closed marks, of earlier plans, and of the
// passes of the plan of record.
func SpentOn(p *panel.Panel, section string) film.Estimate {
	out := p.Gone(section)
	if p.Work != nil {
		taken := p.Work.Taken(p.Log.Passes(section))
		out = film.Estimate{Mean: out.Mean + taken.Mean, SD: math.Hypot(out.SD, taken.SD)}
	}
	return out
}

// leastRemoved is the least mean removal of any section, µm.
func leastRemoved(p *panel.Panel) float64 {
	least := math.Inf(1)
	for _, s := range p.Sections {
		um := 0.0
		if p.Work != nil {
			um = p.Work.Removed(p.Log.Passes(s.Key))
		}
		least = math.Min(least, um)
	}
	if math.IsInf(least, 1) {
		least = 0
	}
	return p.Removed() + least
}

// putTextures says how rough the panel was, is, and the one beside it is.
func (s *Service) putTextures(ctx context.Context, out *PanelProof) error {
	p := out.Panel
	last := func(after bool) *Photo {
		for i := len(out.Photos) - 1; i >= 0; i-- {
			f := &out.Photos[i]
			if f.counts() && f.After == after && f.Texture() != nil && !(after && p.CutSince("", f.At)) {
				return f
			}
		}
		return nil
	}
	was, is := 1.0, 1.0
	if p.Options != nil {
		was = p.SurfaceNow().Gloss20()
	}
	if p.Work != nil && p.Log.Worked() {
		is = roughest(p).Gloss20()
	}
	out.Before = KnownTexture{prove.ByEye(p.EyeGrade), FromEye, nil, was, !p.Says(facts.FactPeel)}
	if f := last(false); f != nil {
		out.Before = KnownTexture{*f.Texture(), FromPhoto, f, was, false}
	} else if p.Photo != nil { // it was sent back
		out.Before = KnownTexture{*p.Photo, FromModel, nil, was, false}
	}
	if f := last(true); f != nil {
		out.After = &KnownTexture{*f.Texture(), FromPhoto, f, is, false}
	} else if p.Work != nil && p.Log.Worked() {
		out.After = &KnownTexture{prove.ByModel(roughest(p), p.Texture()), FromModel, nil, is, false}
	} else if p.Worked() {
		out.After = &KnownTexture{p.Texture(), FromModel, nil, is, false}
	}
	var err error
	if out.Beside, out.BesideName, err = s.beside(ctx, p); err != nil {
		return err
	}
	now := out.After
	if now == nil && p.Photo != nil {
		now = &out.Before
	}
	var texture *prove.Texture
	if now != nil {
		texture = &now.Texture
	}
	out.Outcome = prove.Held(p.Aim, texture, out.Before.Texture, out.Beside.Texture)
	return nil
}

// beside is the texture that a panel is held against: by photo of a factory panel beside it
// where there is one, or else the grade that its plan goes to.
func (s *Service) beside(ctx context.Context, p *panel.Panel) (KnownTexture, string, error) {
	car, err := s.Store.Car(ctx, p.Car.ID)
	if err != nil {
		return KnownTexture{}, "", err
	}
	for _, row := range car.Panels {
		k := facts.PanelOf(row)
		if p.Adjoins(row.Key) && k.Origin == film.AtFactory && k.Photo != nil {
			return KnownTexture{*k.Photo, FromPhoto, nil, 1, false}, row.Name, nil
		}
	}
	return KnownTexture{prove.ByEye(p.Grade), FromEye, nil, 1, false}, "", nil
}

// roughest is the surface of the section that the passes have levelled least, by the cut as
// learned.
func roughest(p *panel.Panel) surface.Surface {
	out := p.Ladder().Start
	worst := -1.0
	for _, s := range p.Sections {
		now := p.Work.Reached(p.Log.Passes(s.Key))
		if sq := now.SqLong(); sq > worst {
			out, worst = now, sq
		}
	}
	return out
}

// putScratches lists what may lie under the gloss, and the sections to wipe and look at.
func (out *PanelProof) putScratches() {
	p := out.Panel
	if p.Work == nil || p.Ladder() == nil {
		return
	}
	for _, sec := range p.Sections {
		passes := p.Log.Passes(sec.Key)
		if !p.Log.Done(sec.Key) || !slices.ContainsFunc(passes, func(n int) bool { return n > 0 }) {
			continue
		}
		hidden := prove.HiddenUnder(sec.Key, p.Work, passes, p.Colour(), p.House.Shelf.Law)
		out.Hidden = append(out.Hidden, hidden...)
		w := Wipe{Section: sec.Key, Name: sec.Name, Seen: out.seenOn(sec.Key)}
		if len(hidden) > 0 {
			worst := slices.MaxFunc(hidden, func(a, b prove.Hidden) int { return cmp.Compare(a.Depth*a.Showing, b.Depth*b.Showing) })
			st := p.Ladder().Steps[worst.Step]
			w.Hidden, w.Step, w.Direction = &worst, strings.TrimSpace(st.Title+" "+st.What), st.Stroke
		}
		out.Wipes = append(out.Wipes, w)
	}
	rank := func(w Wipe) int {
		switch {
		case w.Hidden == nil:
			return 0
		case w.Hidden.Likely:
			return 2
		}
		return 1
	}
	slices.SortStableFunc(out.Wipes, func(a, b Wipe) int { return rank(b) - rank(a) })
}

// seenOn is what was seen last on a section, or on the whole panel, once it was wiped after its
// last pass; nil where nobody looked since.
func (out *PanelProof) seenOn(section string) *panel.Proof {
	for i := len(out.Proofs) - 1; i >= 0; i-- {
		f := &out.Proofs[i]
		looked := f.Kind == store.ProofWiped || f.Kind == store.ProofScratched
		if looked && f.Struck == nil && (f.Section == section || f.Section == "") && !out.CutSince(section, f.At) {
			return f
		}
	}
	return nil
}

// stands says what is on record of the panel.
func (out *PanelProof) stands() prove.Stands {
	p := out.Panel
	s := prove.Stands{Worked: p.Worked(), Planned: p.Ladder() != nil, Aim: p.Aim, OpenMarks: p.Outline().OpenMarks, Before: out.Before.Photo != nil,
		After: out.After != nil && out.After.Photo != nil, BesideSeen: out.BesideName != ""}
	out.Unread = nil
	if s.Planned && p.Log.Worked() {
		for _, sec := range p.Sections {
			if !p.Ended(sec.Key) {
				s.Unfinished++
			} else if p.Log.SinceAny(sec.Key, p.LastRead(sec.Key)) && p.Substrate != facts.Plastic {
				out.Unread = append(out.Unread, sec)
			}
		}
	}
	s.Unread = len(out.Unread)
	for _, w := range out.Wipes {
		switch {
		case w.Seen == nil:
			s.ToWipe++
		case w.Seen.Kind == store.ProofScratched:
			s.Scratched++
		}
	}
	return s
}

// CarProof is a whole car as it is proven.
type CarProof struct {
	*panel.Car
	Proofs []*PanelProof // of the panels that something was wanted of
}

// ProveCar is every panel of a car that was worked, planned, marked or kept, or whose texture
// is wanted otherwise.
func (s *Service) ProveCar(ctx context.Context, carID string) (*CarProof, error) {
	c, err := s.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	out := &CarProof{Car: c}
	wanted := c.Wanted()
	for _, p := range c.Panels {
		f, err := s.ProofOf(ctx, p)
		if err != nil {
			return nil, err
		}
		if p.Worked() || p.Ladder() != nil || len(f.Found) > 0 || len(f.Photos)+len(f.Meters)+len(f.Proofs) > 0 || slices.Contains(wanted, p) && (p.Aim.Levels() || p.Said()) {
			out.Proofs = append(out.Proofs, f)
		}
	}
	return out, nil
}

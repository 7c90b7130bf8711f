package proof

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"waxplanus/core/level"
	"waxplanus/core/photo"
	"waxplanus/core/prove"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// MostProof is how large a photo that is read may be, bytes.
const MostProof = 32 << 20

// PhotoKind is what a photo shows.
type PhotoKind string

// The kinds of photos.
const (
	Reflection PhotoKind = store.PhotoReflection // striped lamps mirrored in the panel
	DullPanel  PhotoKind = store.PhotoDull       // a sanded section, wiped dry
)

// Photo is a photo of a panel with what was read from it: Read is nil where it was refused, and
// Refused nil where it was read.
type Photo struct {
	ID, PanelID, Section, Person string
	No                           int
	Kind                         PhotoKind
	After                        bool // it shows the panel after work
	Width, Height                int
	Bytes                        int64
	How                          Taken
	Read                         *PhotoRead
	Refused                      *photo.Refusal
	At                           time.Time
	AcceptedAt                   *time.Time
	Dropped                      bool // its file was deleted
	Struck                       *facts.Struck
	hash                         string
}

// Taken is how a photo was taken and what of it is read.
type Taken struct {
	photo.Take
	LampName string
	Shiny    photo.Looks // how what shines looks beside what is dull
}

// PhotoRead is what a photo tells: of a reflection, or the share that still shines.
type PhotoRead struct {
	Reflection *photo.Reading  `json:"reflection,omitempty"`
	Share      *photo.Interval `json:"share,omitempty"`
	LeftOut    float64         `json:"left_out,omitempty"` // share of the photo
	MMPerPx    float64         `json:"mm_per_px,omitempty"`
	Lens       float64         `json:"lens_px,omitempty"`
	Drawn      string          `json:"drawn"` // names the picture with what was found
	Width      int             `json:"width_px"`
	Height     int             `json:"height_px"`
}

// Texture that a reflection tells; nil of another photo.
func (p Photo) Texture() *prove.Texture {
	if p.Read == nil || p.Read.Reflection == nil {
		return nil
	}
	t := prove.OfPhoto(*p.Read.Reflection)
	return &t
}

// counts says whether a photo is taken at its word.
func (p Photo) counts() bool { return p.Struck == nil && p.AcceptedAt != nil && p.Read != nil }

func photoRow(r store.ProofPhoto) (Photo, error) {
	out := Photo{ID: r.ID, PanelID: r.PanelID, No: int(r.Seq), Section: r.Section, Person: r.Person, Kind: PhotoKind(r.Kind), After: r.After, Width: r.WidthPx, Height: r.HeightPx,
		Bytes: r.Bytes, At: r.At, AcceptedAt: r.AcceptedAt, Dropped: r.DroppedAt != nil, Struck: facts.StruckOf(r.StruckAt, r.StruckReason), hash: r.Hash}
	for _, part := range []struct {
		from string
		to   any
	}{{r.Take, &out.How}, {r.Reading, &out.Read}, {r.Refused, &out.Refused}} {
		if part.from == "" {
			continue
		}
		if err := json.Unmarshal([]byte(part.from), part.to); err != nil {
			return out, fmt.Errorf("photo %s: %w", r.ID, err)
		}
	}
	return out, nil
}

// NewPhoto is a photo as it was sent. After nil says nothing: it shows the panel after work where
// passes were made under its plan. Without How it is read as the last one.
type NewPhoto struct {
	ID, Person, Section string
	Kind                PhotoKind
	After               *bool
	How                 *Taken
	Data                []byte
}

// mostPhotos is how many photos a panel may have.
const mostPhotos = 200

// AddPhoto keeps a photo of a panel as it is and reads it. One that tells nothing is kept too,
// with the reason. Sent again under the same id it changes nothing.
func (s *Service) AddPhoto(ctx context.Context, panelID string, in NewPhoto) (Photo, error) {
	if err := house.CheckID(in.ID, house.OfPhoto); err != nil {
		return Photo{}, err
	}
	var err error
	if in.Person, err = house.PersonName(in.Person); err != nil {
		return Photo{}, err
	}
	if in.Kind != Reflection && in.Kind != DullPanel {
		return Photo{}, refuse.Because(refuse.BadPhotoKind, "kind", in.Kind)
	}
	if len(in.Data) > MostProof {
		return Photo{}, refuse.Because(refuse.LargeProof, "photo", MostProof>>20)
	}
	p, err := s.OpenPanel(ctx, panelID)
	if err != nil {
		return Photo{}, err
	}
	if in.Section != "" {
		if _, err := p.SectionNo(in.Section); err != nil {
			return Photo{}, err
		}
	}
	rows, err := s.Store.ProofRows(ctx, p.ID)
	if err != nil {
		return Photo{}, err
	}
	if len(rows.Photos) >= mostPhotos {
		return Photo{}, refuse.Conflicting(refuse.TooManyPhotos, p.Name, mostPhotos)
	}
	if in.How == nil {
		if in.How, err = s.howLast(ctx, rows.Photos, in.Kind); err != nil {
			return Photo{}, err
		}
	}
	row := store.ProofPhoto{ID: in.ID, PanelID: p.ID, Kind: string(in.Kind), After: p.Log.Worked(), Section: in.Section, Person: in.Person, At: s.Now(), Bytes: int64(len(in.Data)), Mime: "image/jpeg"}
	if bytes.HasPrefix(in.Data, []byte("\x89PNG")) {
		row.Mime = "image/png"
	}
	if in.After != nil {
		row.After = *in.After
	}
	if err := s.readInto(&row, in.Data, *in.How); err != nil {
		return Photo{}, err
	}
	if row.Hash, err = s.Store.Pictures().Keep(in.Data); err != nil {
		return Photo{}, err
	}
	if err := s.Store.AddProofPhoto(ctx, &row); err != nil {
		return Photo{}, err
	}
	return photoRow(row)
}

// changePhoto changes a photo and what photos say of its panel: peel and pebble as the last
// that was accepted from before any work has them.
func (s *Service) changePhoto(ctx context.Context, id string, change func(*store.ProofPhoto) error) (Photo, error) {
	row, err := s.Store.ChangeProofPhoto(ctx, id, change, textureBefore)
	if err != nil {
		return Photo{}, err
	}
	return photoRow(row)
}

// textureBefore is what photos say of a panel before any work, or since it was sent back; then
// without a photo what was found when it was sent back holds.
func textureBefore(all []store.ProofPhoto, sentBack bool) (*store.PhotoTexture, error) {
	out := &store.PhotoTexture{}
	if sentBack {
		out = nil
	}
	for _, row := range all {
		p, err := photoRow(row)
		if err != nil {
			return nil, err
		}
		if t := p.Texture(); t != nil && p.counts() && !p.After {
			out = &store.PhotoTexture{PeelUM: t.Peel.Median, PeelSpread: t.Peel.Spread, PebbleUM: t.Pebble.Median, PebbleSpread: t.Pebble.Spread}
		}
	}
	return out, nil
}

// AcceptPhoto takes a photo at its word, or takes that back. Of a panel before any work its
// peel and pebble count from then on in place of the grade by eye; what still shines of a
// section counts in Level as a look does.
func (s *Service) AcceptPhoto(ctx context.Context, id, person string, accept bool) (Photo, error) {
	person, err := house.PersonName(person)
	if err != nil {
		return Photo{}, err
	}
	row, err := s.Store.ProofPhoto(ctx, id)
	if err != nil {
		return Photo{}, err
	}
	p, err := photoRow(row)
	switch {
	case err != nil:
		return Photo{}, err
	case p.Struck != nil:
		return Photo{}, refuse.Conflicting(refuse.PhotoStruck)
	case accept && p.Read == nil:
		return Photo{}, refuse.Conflicting(refuse.PhotoTellsNothing)
	}
	if accept && p.AcceptedAt == nil {
		err = s.lookBy(ctx, p, person)
	} else if !accept {
		err = s.unlook(ctx, p)
	}
	if err != nil {
		return Photo{}, err
	}
	return s.changePhoto(ctx, id, func(row *store.ProofPhoto) error {
		if row.AcceptedAt, row.AcceptedBy = nil, ""; accept {
			now := s.Now()
			row.AcceptedAt, row.AcceptedBy = &now, person
		}
		return nil
	})
}

// lookBy logs what a photo shows to shine as a look at its section, where the step in hand
// there is one that a look tells something of.
func (s *Service) lookBy(ctx context.Context, p Photo, person string) error {
	if p.Kind != DullPanel || p.Section == "" {
		return nil
	}
	current, id, err := s.lookOf(ctx, p)
	if err != nil || current {
		return err
	}
	panel, err := s.Panel(ctx, p.PanelID)
	if err != nil {
		return err
	}
	if panel.Ladder() == nil || panel.Log.Done(p.Section) {
		return nil
	}
	step := panel.Log.Step(p.Section)
	if panel.Work == nil || !panel.Work.LookPays(step) || panel.Log.Passes(p.Section)[step] == 0 {
		return nil
	}
	_, err = s.LogEntry(ctx, p.PanelID, panelwork.NewEntry{ID: id, Plan: panel.Record.ID, Section: p.Section, Step: step + 1,
		Kind: level.KindShiny, Person: person, Device: "photo", Share: &p.Read.Share.Value})
	return err
}

// lookOf is the id of the look that a photo counts as: of the one that counts now, which current
// says, or of the next.
func (s *Service) lookOf(ctx context.Context, p Photo) (current bool, id string, err error) {
	for n := 0; ; n++ {
		id = "look-" + store.HashOf(fmt.Appendf(nil, "%s|%d", p.ID, n))[:32]
		e, err := s.Store.Entry(ctx, id)
		if errors.Is(err, refuse.ErrMissing) {
			return false, id, nil
		}
		if err != nil || e.StruckAt == nil {
			return err == nil, id, err
		}
	}
}

// unlook strikes out the look that a photo counts as.
func (s *Service) unlook(ctx context.Context, p Photo) error {
	if p.Kind != DullPanel {
		return nil
	}
	current, id, err := s.lookOf(ctx, p)
	if err == nil && current {
		_, err = s.StrikeEntry(ctx, id, "its photo was taken back")
	}
	return err
}

// StrikePhoto strikes a photo out with what it told; its file stays until the rule lets it go.
func (s *Service) StrikePhoto(ctx context.Context, id, reason string) (Photo, error) {
	reason, err := house.StrikeReason(reason)
	if err != nil {
		return Photo{}, err
	}
	row, err := s.Store.ProofPhoto(ctx, id)
	if err != nil {
		return Photo{}, err
	}
	p, err := photoRow(row)
	if err == nil {
		err = s.unlook(ctx, p)
	}
	if err != nil {
		return Photo{}, err
	}
	return s.changePhoto(ctx, id, func(p *store.ProofPhoto) error {
		if p.StruckAt == nil {
			now := s.Now()
			p.StruckAt, p.StruckReason = &now, reason
		}
		return nil
	})
}

// PhotoForm is how a photo is asked for.
type PhotoForm string

// The forms: as it was sent, small, and with what was found drawn in.
const (
	AsSent    PhotoForm = "original"
	SmallOne  PhotoForm = "small"
	WithFound PhotoForm = "drawn"
)

// jpegFormat is what small and drawn ones are written in.
const jpegFormat = "image/jpeg"

// PhotoFile is a photo in a form; ErrMissing where its file was deleted, or nothing was found.
func (s *Service) PhotoFile(ctx context.Context, id string, form PhotoForm) (mime string, data []byte, err error) {
	row, err := s.Store.ProofPhoto(ctx, id)
	if err != nil {
		return "", nil, err
	}
	kept := s.Store.Pictures()
	switch form {
	case AsSent:
		data, err = kept.Photo(row.Hash)
		return row.Mime, data, err
	case WithFound:
		p, err := photoRow(row)
		if err != nil {
			return "", nil, err
		}
		if p.Read == nil {
			return "", nil, refuse.ErrMissing
		}
		data, err = kept.Drawn(row.Hash, p.Read.Drawn)
		return jpegFormat, data, err
	}
	if data, err = kept.Small(row.Hash); err == nil || !errors.Is(err, refuse.ErrMissing) {
		return jpegFormat, data, err
	}
	whole, err := kept.Photo(row.Hash)
	if err != nil {
		return "", nil, err
	}
	if data, err = s.small(whole); err != nil {
		return "", nil, err
	}
	return jpegFormat, data, kept.KeepSmall(row.Hash, data)
}

func (s *Service) small(data []byte) ([]byte, error) {
	s.Heavy <- struct{}{}
	defer func() { <-s.Heavy }()
	return files.Small(data)
}

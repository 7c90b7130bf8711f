package panelwork

import (
	"context"
	"errors"

	"waxplanus/internal/files"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// MostPhoto is how large a photo may be, bytes.
const MostPhoto = 6 << 20

// KeepPhoto keeps the photo of a mark.
func (s *Service) KeepPhoto(ctx context.Context, id string, data []byte) (PanelMark, error) {
	if _, err := s.Store.Mark(ctx, id); err != nil {
		return PanelMark{}, err
	}
	if len(data) > MostPhoto {
		return PanelMark{}, refuse.Because(refuse.LargePhoto, "photo", MostPhoto>>20)
	}
	mime, data, err := s.upright(data)
	switch {
	case errors.Is(err, files.ErrNoPhoto):
		return PanelMark{}, refuse.Because(refuse.NoPhoto, "photo")
	case errors.Is(err, files.ErrPhotoCut):
		return PanelMark{}, refuse.Because(refuse.PhotoCut, "photo")
	case errors.Is(err, files.ErrPhotoLarge):
		return PanelMark{}, refuse.Because(refuse.LargePhoto, "photo", MostPhoto>>20)
	case err != nil:
		return PanelMark{}, err
	}
	if err := s.Store.SavePhoto(ctx, store.Photo{MarkID: id, Mime: mime, Data: data, At: s.Now()}); err != nil {
		return PanelMark{}, err
	}
	row, err := s.Store.Mark(ctx, id)
	if err != nil {
		return PanelMark{}, err
	}
	return s.panelMark(ctx, row)
}

// upright is a photo as it is kept; it takes much memory while it is turned.
func (s *Service) upright(data []byte) (mime string, kept []byte, err error) {
	s.Heavy <- struct{}{}
	defer func() { <-s.Heavy }()
	return files.Photo(data)
}

// Photo is the photo of a mark with its kind.
func (s *Service) Photo(ctx context.Context, id string) (mime string, data []byte, err error) {
	p, err := s.Store.Photo(ctx, id)
	return p.Mime, p.Data, err
}

// Look is a panel with its marks.
type Look struct {
	*panel.Panel
	Marks   []panel.JudgedMark
	Tally   Tally
	PanelNo int // of the car's, from 1
	Panels  []string
}

// Look is a panel with its marks and what will be done about each.
func (s *Service) Look(ctx context.Context, panelID string) (*Look, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return nil, err
	}
	out := &Look{Panel: p}
	if out.Marks, err = p.JudgedMarks(s.Now()); err != nil {
		return nil, err
	}
	if out.Tally, err = TallyOf(p, out.Marks); err != nil {
		return nil, err
	}
	for i, o := range p.Siblings {
		out.Panels = append(out.Panels, o.ID)
		if o.ID == p.ID {
			out.PanelNo = i + 1
		}
	}
	return out, nil
}

// JudgedMarks are the marks of a panel that were not struck out, judged now.
func (s *Service) JudgedMarks(p *panel.Panel) ([]panel.JudgedMark, error) {
	return p.JudgedMarks(s.Now())
}

package shop

import (
	"context"
	"errors"

	"waxplanus/internal/files"
	"waxplanus/internal/store"
)

// MostPhoto is how large a photo may be, bytes.
const MostPhoto = 6 << 20

// KeepPhoto keeps the photo of a mark.
func (s *Shop) KeepPhoto(ctx context.Context, id string, data []byte) (PanelMark, error) {
	if _, err := s.store.Mark(ctx, id); err != nil {
		return PanelMark{}, err
	}
	if len(data) > MostPhoto {
		return PanelMark{}, Refuse(LargePhoto, "photo", MostPhoto>>20)
	}
	mime, data, err := s.upright(data)
	switch {
	case errors.Is(err, files.ErrNoPhoto):
		return PanelMark{}, Refuse(NoPhoto, "photo")
	case errors.Is(err, files.ErrPhotoCut):
		return PanelMark{}, Refuse(PhotoCut, "photo")
	case errors.Is(err, files.ErrPhotoLarge):
		return PanelMark{}, Refuse(LargePhoto, "photo", MostPhoto>>20)
	case err != nil:
		return PanelMark{}, err
	}
	if err := s.store.SavePhoto(ctx, store.Photo{MarkID: id, Mime: mime, Data: data, At: s.now()}); err != nil {
		return PanelMark{}, err
	}
	row, err := s.store.Mark(ctx, id)
	if err != nil {
		return PanelMark{}, err
	}
	return s.panelMark(ctx, row)
}

// upright is a photo as it is kept; it takes much memory while it is turned.
func (s *Shop) upright(data []byte) (mime string, kept []byte, err error) {
	s.heavy <- struct{}{}
	defer func() { <-s.heavy }()
	return files.Photo(data)
}

// Photo is the photo of a mark with its kind.
func (s *Shop) Photo(ctx context.Context, id string) (mime string, data []byte, err error) {
	p, err := s.store.Photo(ctx, id)
	return p.Mime, p.Data, err
}

// Look is a panel with its marks.
type Look struct {
	*Panel
	Marks   []JudgedMark
	Tally   Tally
	PanelNo int // of the car's, from 1
	Panels  []string
}

// Look is a panel with its marks and what will be done about each.
func (s *Shop) Look(ctx context.Context, panelID string) (*Look, error) {
	p, err := s.Panel(ctx, panelID)
	if err != nil {
		return nil, err
	}
	out := &Look{Panel: p}
	if out.Marks, err = p.JudgedMarks(s.now()); err != nil {
		return nil, err
	}
	if out.Tally, err = p.Tally(out.Marks); err != nil {
		return nil, err
	}
	for i, o := range p.siblings {
		out.Panels = append(out.Panels, o.ID)
		if o.ID == p.ID {
			out.PanelNo = i + 1
		}
	}
	return out, nil
}

// JudgedMarks are the marks of a panel that were not struck out, judged now.
func (s *Shop) JudgedMarks(p *Panel) ([]JudgedMark, error) { return p.JudgedMarks(s.now()) }

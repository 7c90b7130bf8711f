package proof

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"image"
	"image/jpeg"

	"waxplanus/core/photo"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// howLast is how the last photo of that kind of a panel was taken, or else the last in the
// shop.
func (s *Service) howLast(ctx context.Context, of []store.ProofPhoto, kind PhotoKind) (*Taken, error) {
	for i := len(of) - 1; i >= 0; i-- {
		if p, err := photoRow(of[i]); err == nil && p.Kind == kind {
			p.How.Area = photo.Area{}
			return &p.How, nil
		}
	}
	lamps, err := s.Lamps(ctx)
	if err != nil {
		return nil, err
	}
	l := house.UsualLamp
	if len(lamps) > 0 {
		l = lamps[0]
	}
	return &Taken{Take: photo.Take{Lamp: l.Lamp, Scale: l.Scale}, LampName: l.Name, Shiny: photo.Brighter}, nil
}

// drawnSide is the longest side of the picture with what was found, pixels.
const drawnSide = 1200

// readInto reads a photo as it was taken, and puts what it tells, or why it tells nothing, into
// its row. What is no picture at all is refused. It takes much memory while it is read.
func (s *Service) readInto(row *store.ProofPhoto, data []byte, how Taken) error {
	if how.Shiny != photo.Brighter && how.Shiny != photo.Darker && row.Kind == store.PhotoDull {
		return refuse.Because(refuse.BadShiny, "shiny")
	}
	if a := how.Area; !a.Whole() && !(a.Left >= 0 && a.Top >= 0 && a.Right <= 1 && a.Bottom <= 1 && a.Left < a.Right && a.Top < a.Bottom) {
		return refuse.Because(refuse.BadArea, "area")
	}
	s.Heavy <- struct{}{}
	defer func() { <-s.Heavy }()
	p, err := photo.Decode(data)
	var no *photo.Refusal
	if errors.As(err, &no) {
		return refuse.Because(refuse.BadPicture, "photo", no)
	}
	if err != nil {
		return err
	}
	row.WidthPx, row.HeightPx, row.Reading, row.Refused = p.W, p.H, "", ""
	how.Card = nil
	if row.Take, err = asText(how); err != nil {
		return err
	}
	var read PhotoRead
	drawn, err := read.from(p, how, PhotoKind(row.Kind))
	switch {
	case errors.As(err, &no):
		row.Refused, err = asText(no)
		return err
	case err != nil:
		return err
	}
	if err := s.keepDrawn(data, row, &read, drawn); err != nil {
		return err
	}
	row.Reading, err = asText(read)
	return err
}

// from reads a photo; it gives the picture with what was found.
func (r *PhotoRead) from(p photo.Picture, how Taken, kind PhotoKind) (*image.RGBA, error) {
	if kind == DullPanel {
		shiny, part, err := photo.ReadShinyIn(p, how.Area, how.Gamma, how.Shiny)
		if err != nil {
			return nil, err
		}
		r.Share, r.LeftOut, r.Width, r.Height = &shiny.Share, shiny.LeftOut, part.W, part.H
		return shiny.Drawn(part, drawnSide), nil
	}
	reading, lamp, part, err := how.Read(p)
	if err != nil {
		return nil, err
	}
	drawn := reading.Drawn(part, drawnSide)
	reading.Edges = photo.Edges{}
	r.Reflection, r.MMPerPx, r.Lens, r.Width, r.Height = &reading, lamp.MMPerPx, lamp.Lens, part.W, part.H
	return drawn, nil
}

// keepDrawn keeps the picture with what was found beside the photo, named by how it was read.
func (s *Service) keepDrawn(data []byte, row *store.ProofPhoto, read *PhotoRead, drawn *image.RGBA) error {
	var out bytes.Buffer
	if err := jpeg.Encode(&out, drawn, &jpeg.Options{Quality: 85}); err != nil {
		return err
	}
	h := fnv.New64a()
	fmt.Fprintf(h, "%s|%s", row.Kind, row.Take)
	read.Drawn = fmt.Sprintf("%016x", h.Sum64())
	return s.Store.Pictures().KeepDrawn(store.HashOf(data), read.Drawn, out.Bytes())
}

func asText(v any) (string, error) {
	raw, err := json.Marshal(v)
	return string(raw), err
}

// ReadAgain reads a photo as it was taken, or as somebody says now. What was accepted of it is
// taken back.
func (s *Service) ReadAgain(ctx context.Context, id string, how Taken) (Photo, error) {
	row, err := s.Store.ProofPhoto(ctx, id)
	if err != nil {
		return Photo{}, err
	}
	if row.StruckAt != nil {
		return Photo{}, refuse.Conflicting(refuse.PhotoStruck)
	}
	data, err := s.Store.Pictures().Photo(row.Hash)
	if errors.Is(err, refuse.ErrMissing) {
		return Photo{}, refuse.Conflicting(refuse.PhotoGone)
	}
	if err != nil {
		return Photo{}, err
	}
	if err := s.readInto(&row, data, how); err != nil {
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
		p.Take, p.Reading, p.Refused, p.AcceptedAt, p.AcceptedBy = row.Take, row.Reading, row.Refused, nil, ""
		return nil
	})
}

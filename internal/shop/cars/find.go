package cars

import (
	"context"
	"strconv"
	"strings"
	"time"

	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// Found is one thing that words or a number were found in. Film is that of a reading, µm.
type Found struct {
	Kind, Ref          string
	CarID, CarName     string
	PanelID, PanelName string
	Text               string
	Film               float64
	HandedOverAt       *time.Time
}

// What can be found.
const (
	FoundCar     = store.FoundCar
	FoundWords   = store.FoundWords
	FoundMark    = store.FoundMark
	FoundReading = store.FoundReading
	FoundFilm    = store.FoundFilm
)

// Find lists what all words of a text begin words of, the newest first; a number alone finds
// readings of that film too, in the shop's unit.
func (s *Service) Find(ctx context.Context, text string, most int) ([]Found, error) {
	const letters = 80
	text = strings.TrimSpace(text)
	if n := len([]rune(text)); n < 1 || n > letters {
		return nil, refuse.Because(refuse.BadSearch, "q", 1, letters)
	}
	rows, err := s.Store.Find(ctx, text, most)
	if err != nil {
		return nil, err
	}
	if v, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64); err == nil && v > 0 && v < 1e6 {
		set, err := s.Settings(ctx)
		if err != nil {
			return nil, err
		}
		half := 0.5
		if set.Unit == refuse.Mil {
			half = 0.05
		}
		films, err := s.Store.FindFilm(ctx, set.Unit.Microns(v-half), set.Unit.Microns(v+half), most)
		if err != nil {
			return nil, err
		}
		rows = append(rows, films...)
	}
	out := make([]Found, 0, len(rows))
	for _, r := range rows {
		out = append(out, Found{r.Kind, r.Ref, r.CarID, r.CarName, r.PanelID, r.PanelName, r.Text, r.FilmUM, r.HandedOverAt})
	}
	return out, nil
}

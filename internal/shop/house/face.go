package house

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"waxplanus/core/care"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/refuse"
)

// Face is how the shop shows itself: its name, and how it writes paper, money, lengths, times
// and days. Logo names the file of its logo, empty for none.
type Face struct {
	Name        string `json:"name,omitempty"`
	Logo        string `json:"logo,omitempty"`
	Paper       string `json:"paper"`       // a4 or letter
	Money       string `json:"money"`       // sign of the currency
	Length      string `json:"length"`      // mm or in
	Temperature string `json:"temperature"` // c or f
	Clock       string `json:"clock"`       // 24 or 12
	Week        string `json:"week"`        // its first day: monday, sunday or saturday
	Dates       string `json:"dates"`       // dmy, mdy or ymd
}

// UsualFace is that of a shop that said nothing.
var UsualFace = Face{Paper: "a4", Money: "€", Length: "mm", Temperature: "c", Clock: "24", Week: "monday", Dates: "dmy"}

// The choices of a face.
var faceChoices = []struct {
	field string
	of    func(*Face) *string
	may   []string
}{
	{"paper", func(f *Face) *string { return &f.Paper }, []string{"a4", "letter"}},
	{"length", func(f *Face) *string { return &f.Length }, []string{"mm", "in"}},
	{"temperature", func(f *Face) *string { return &f.Temperature }, []string{"c", "f"}},
	{"clock", func(f *Face) *string { return &f.Clock }, []string{"24", "12"}},
	{"week", func(f *Face) *string { return &f.Week }, []string{"monday", "sunday", "saturday"}},
	{"dates", func(f *Face) *string { return &f.Dates }, []string{"dmy", "mdy", "ymd"}},
}

const (
	faceSetting  = "face"
	careSetting  = "care"
	mostShopName = 60
	mostMoney    = 4
	mostLogo     = 512 << 10
)

// check says what of a face cannot be.
func (f *Face) check() error {
	f.Name, f.Money = strings.TrimSpace(f.Name), strings.TrimSpace(f.Money)
	if len([]rune(f.Name)) > mostShopName {
		return refuse.Because(refuse.BadShopName, "name", mostShopName)
	}
	if n := len([]rune(f.Money)); n < 1 || n > mostMoney {
		return refuse.Because(refuse.BadFace, "money", "money", fmt.Sprintf("1-%d", mostMoney))
	}
	for _, c := range faceChoices {
		if !slices.Contains(c.may, *c.of(f)) {
			return refuse.Because(refuse.BadFace, c.field, c.field, strings.Join(c.may, ", "))
		}
	}
	return nil
}

func (s *Service) loadFace(ctx context.Context) (Face, error) {
	out := UsualFace
	text, err := s.Store.Setting(ctx, faceSetting, "{}")
	if err == nil {
		err = json.Unmarshal([]byte(text), &out)
	}
	return out, err
}

// ChangeFace changes how the shop shows itself; change gets it as it is.
func (s *Service) ChangeFace(ctx context.Context, change func(*Face)) error {
	return s.Store.ChangeSetting(ctx, faceSetting, "{}", func(text string) (string, error) {
		f := UsualFace
		if err := json.Unmarshal([]byte(text), &f); err != nil {
			return "", err
		}
		change(&f)
		if err := f.check(); err != nil {
			return "", err
		}
		raw, err := json.Marshal(f)
		return string(raw), err
	})
}

// SetLogo keeps a picture as the shop's logo; nothing takes it away.
func (s *Service) SetLogo(ctx context.Context, data []byte) error {
	hash := ""
	if len(data) > 0 {
		if len(data) > mostLogo {
			return refuse.Because(refuse.BadLogo, "logo", mostLogo>>10)
		}
		_, data, err := files.Photo(data)
		if err != nil {
			return refuse.Because(refuse.BadLogo, "logo", mostLogo>>10)
		}
		if hash, err = s.Store.Pictures().Keep(data); err != nil {
			return err
		}
		if err := s.Store.AddFile(ctx, hash, int64(len(data))); err != nil {
			return err
		}
	}
	return s.ChangeFace(ctx, func(f *Face) { f.Logo = hash })
}

// Logo of the shop; ErrMissing where it has none.
func (s *Service) Logo(ctx context.Context) ([]byte, error) {
	set, err := s.Settings(ctx)
	if err != nil {
		return nil, err
	}
	if set.Logo == "" {
		return nil, refuse.ErrMissing
	}
	return s.Store.Pictures().Photo(set.Logo)
}

// CareRule is how long the shop has its owners be careful.
func (s *Service) CareRule(ctx context.Context) (care.Rule, error) {
	out := care.Usual
	text, err := s.Store.Setting(ctx, careSetting, "{}")
	if err == nil {
		err = json.Unmarshal([]byte(text), &out)
	}
	return out, err
}

// SetCareRule changes it.
func (s *Service) SetCareRule(ctx context.Context, r care.Rule) error {
	if err := r.Check(); err != nil {
		return refuse.Because(refuse.BadCare, "care", err)
	}
	raw, err := json.Marshal(r)
	if err != nil {
		return err
	}
	return s.Store.SetSetting(ctx, careSetting, string(raw))
}

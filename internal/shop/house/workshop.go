package house

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"waxplanus/core/cure"
	"waxplanus/core/price"
	"waxplanus/core/schedule"
	"waxplanus/internal/shop/refuse"
)

// Workshop is where and by what a shop works: its hours, holidays, bays and machines, how
// warm it is, what it asks for its work, and the makers' sheets of its paints.
type Workshop struct {
	schedule.Shop
	Climate cure.Climate `json:"climate"`
	Rates   price.Rates  `json:"rates"`
	Paints  []cure.Paint `json:"paints,omitempty"`
}

// usualWorkshop is that of a shop that said nothing.
func usualWorkshop() Workshop {
	return Workshop{Shop: schedule.Shop{Week: schedule.UsualWeek()}, Climate: cure.UsualClimate, Rates: price.UsualRates}
}

const (
	workshopSetting = "workshop"
	mostPaints      = 60
	mostHolidays    = 200
	mostBays        = 60
)

func (s *Service) LoadWorkshop(ctx context.Context) (Workshop, error) {
	out := usualWorkshop()
	text, err := s.Store.Setting(ctx, workshopSetting, "{}")
	if err == nil {
		err = json.Unmarshal([]byte(text), &out)
	}
	return out, err
}

// Workshop of the shop, with what an hour of its work costs by the shelf.
func (s *Service) Workshop(ctx context.Context) (Workshop, error) {
	out, err := s.LoadWorkshop(ctx)
	if err != nil {
		return out, err
	}
	h, err := s.House(ctx)
	out.Rates.Labour = h.Shelf.Law.Labour
	return out, err
}

// ChangeWorkshop changes it; change gets it as it is.
func (s *Service) ChangeWorkshop(ctx context.Context, change func(*Workshop)) error {
	return s.Store.ChangeSetting(ctx, workshopSetting, "{}", func(text string) (string, error) {
		w := usualWorkshop()
		if err := json.Unmarshal([]byte(text), &w); err != nil {
			return "", fmt.Errorf("workshop: %w", err)
		}
		change(&w)
		if err := w.check(); err != nil {
			return "", err
		}
		raw, err := json.Marshal(w)
		return string(raw), err
	})
}

// check says what of a workshop cannot be.
func (w *Workshop) check() error {
	if err := checkWeek(w.Week); err != nil {
		return err
	}
	if w.Week.Minutes() == 0 {
		return refuse.Because(refuse.BadShift, "week", "the shop is never open: give at least one day its hours")
	}
	if err := checkDays(w.Holidays, "holidays"); err != nil {
		return err
	}
	if w.Bays < 0 || w.Bays > mostBays || w.PerCar < 0 || w.PerCar > 6 {
		return refuse.Because(refuse.BadShift, "bays", fmt.Sprintf("bays go from 0, for as many as are needed, to %d, people at one car from 0 to 6", mostBays))
	}
	for tool, n := range w.Machines {
		if !slices.Contains(machineTools, tool) || n < 0 || n > 40 {
			return refuse.Because(refuse.BadShift, "machines", fmt.Sprintf("machines are %s, from 0 to 40 of each", strings.Join(machineTools, " and ")))
		}
	}
	if !(w.Climate.Usual >= cure.Coldest && w.Climate.Usual <= cure.Hottest) {
		return refuse.Because(refuse.BadWarmth, "usual_c", cure.Coldest, cure.Hottest)
	}
	for day, c := range w.Climate.Days {
		if _, err := time.Parse(time.DateOnly, day); err != nil || !(c >= cure.Coldest && c <= cure.Hottest) {
			return refuse.Because(refuse.BadWarmth, "days", cure.Coldest, cure.Hottest)
		}
	}
	if err := w.Rates.Check(); err != nil {
		return refuse.Because(refuse.BadValue, "rates", err)
	}
	if len(w.Paints) > mostPaints {
		return refuse.Because(refuse.BadValue, "paints", fmt.Errorf("a shop keeps %d sheets at most", mostPaints))
	}
	for i, p := range w.Paints {
		if err := p.Check(); err != nil {
			return refuse.Because(refuse.BadValue, "paints", err)
		}
		if slices.ContainsFunc(w.Paints[:i], func(o cure.Paint) bool { return strings.EqualFold(o.Name, p.Name) }) {
			return refuse.Because(refuse.BadValue, "paints", fmt.Errorf("two sheets are called %s", p.Name))
		}
	}
	return nil
}

// machineTools are the machines that a shop counts.
var machineTools = []string{"orbital", "rotary"}

// checkWeek says what of the hours of a week cannot be.
func checkWeek(w schedule.Week) error {
	for day, spans := range w {
		last := 0
		for _, s := range spans {
			if s.From < last || s.To <= s.From || s.To > 24*60 {
				return refuse.Because(refuse.BadShift, "week", fmt.Sprintf("on %s the hours %s to %s cannot be: they begin before they end, and after those before them", time.Weekday(day), clock(s.From), clock(s.To)))
			}
			last = s.To
		}
	}
	return nil
}

func clock(minutes int) string { return fmt.Sprintf("%02d:%02d", minutes/60, minutes%60) }

// checkDays says which days off are none.
func checkDays(all []schedule.Days, field string) error {
	if len(all) > mostHolidays {
		return refuse.Because(refuse.BadValue, field, fmt.Errorf("at most %d stretches of days off are kept", mostHolidays))
	}
	for _, d := range all {
		from, err := time.Parse(time.DateOnly, d.From)
		to, wrong := time.Parse(time.DateOnly, d.To)
		if err != nil || wrong != nil || to.Before(from) {
			return refuse.Because(refuse.BadValue, field, fmt.Errorf("days off from %q to %q cannot be: days look like 2026-12-24, and the first comes first", d.From, d.To))
		}
	}
	return nil
}

// PaintNamed is the sheet of a paint of the shop.
func (w Workshop) PaintNamed(name string) (*cure.Paint, bool) {
	i := slices.IndexFunc(w.Paints, func(p cure.Paint) bool { return strings.EqualFold(p.Name, strings.TrimSpace(name)) })
	if i < 0 {
		return nil, false
	}
	return &w.Paints[i], true
}

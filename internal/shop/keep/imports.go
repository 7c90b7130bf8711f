package keep

import (
	"context"
	"fmt"
	"maps"
	"strings"
	"time"

	"github.com/google/uuid"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// ImportFile is a file of readings with what a person said of its layout.
type ImportFile struct {
	FileName, Text string
	Layout         files.Layout
}

// RowFault names why a row of a file is not taken.
type RowFault string

// Why a row is not taken.
const (
	RowFine       RowFault = ""
	RowUnreadable RowFault = "unreadable" // as the reader of files says
	RowNoPanel    RowFault = "no_panel"   // it names none, and none is open
	RowOtherPanel RowFault = "other_panel"
	RowPlastic    RowFault = "plastic"
	RowPlace      RowFault = "place"
	RowNoRoom     RowFault = "no_room" // for one without a place
	RowAhead      RowFault = "ahead"   // its time has not come
)

// ImportRow is a row of a file as it is understood. Known says that it is kept already;
// Placed that it had no place and was put on a pattern.
type ImportRow struct {
	files.Row
	Panel   *panel.Panel
	At      flatlay.Point
	Fault   RowFault
	Nearest string // panel, of one that is called otherwise
	Refusal error  // of its place
	Known   bool
	Placed  bool
}

// Import is a file as understood.
type Import struct {
	FileName string
	Table    files.Table
	Rows     []ImportRow
	Known    int
	keep     []store.Reading
}

// New is how many readings it would add.
func (i *Import) New() int { return len(i.keep) }

// target is where the rows of a file may go: the panels of a car, and the one
// that is open, which takes the rows that name none; nil without one.
type target struct {
	panels []*panel.Panel
	open   *panel.Panel
}

func (s *Service) panelTarget(ctx context.Context, panelID string) (target, error) {
	row, err := s.Store.Panel(ctx, panelID)
	if err != nil {
		return target{}, err
	}
	t, err := s.carTarget(ctx, row.CarID)
	if p := panel.FirstOf(t.panels, func(p *panel.Panel) bool { return p.ID == panelID }); p != nil {
		t.open = *p
	}
	return t, err
}

func (s *Service) carTarget(ctx context.Context, carID string) (target, error) {
	r, err := s.CarBatch(ctx, carID)
	if err != nil {
		return target{}, err
	}
	var t target
	for _, row := range r.Car.Panels {
		p, err := s.LoadPanel(ctx, r, row.ID)
		if err != nil {
			return t, err
		}
		t.panels = append(t.panels, p)
	}
	return t, nil
}

// find is the panel that a row means, or why there is none.
func (t target) find(name string) (p *panel.Panel, fault RowFault, nearest string) {
	if name == "" {
		if t.open == nil {
			return nil, RowNoPanel, ""
		}
		return t.open, RowFine, ""
	}
	for _, p := range t.panels {
		if samePanel(name, p) {
			return p, RowFine, ""
		}
	}
	return nil, RowOtherPanel, t.nearest(name)
}

// nearest is the panel whose name shares most words with a name.
func (t target) nearest(name string) string {
	best, most := "", -1
	for _, p := range t.panels {
		n := 0
		for _, w := range strings.Fields(strings.ToLower(name)) {
			if strings.Contains(strings.ToLower(p.Name), w) {
				n++
			}
		}
		if n > most {
			best, most = p.Name, n
		}
	}
	return best
}

// samePanel says whether a name in a file means this panel, whatever its case
// and spacing.
func samePanel(name string, p *panel.Panel) bool {
	plain := func(s string) string {
		return strings.Map(func(r rune) rune {
			if strings.ContainsRune(" -_.", r) {
				return -1
			}
			return r
		}, strings.ToLower(s))
	}
	return plain(name) == plain(p.Name) || plain(name) == plain(p.Key)
}

func (s *Service) understand(ctx context.Context, t target, in ImportFile) (*Import, error) {
	table, err := files.ReadReadings(in.Text, in.Layout)
	if err != nil {
		return nil, refuse.Because(refuse.BadFile, "text", in.FileName, err)
	}
	out := &Import{FileName: in.FileName, Table: table}
	kept, patterns, fresh := map[string]bool{}, map[*panel.Panel]*pattern{}, map[*panel.Panel]int{}
	for _, p := range t.panels {
		known, err := s.Store.Fingerprints(ctx, p.ID)
		if err != nil {
			return nil, err
		}
		maps.Copy(kept, known)
		for _, r := range p.Readings {
			kept[r.ID] = true
		}
		patterns[p] = newPattern(p, t, table)
	}
	settings, err := s.Settings(ctx)
	if err != nil {
		return nil, err
	}
	for _, r := range table.Rows {
		row, reading := s.rowOf(t, patterns, r, settings.Zone)
		switch {
		case row.Fault != RowFine:
		case kept[*reading.Fingerprint] || kept[reading.ID]:
			row.Known = true
			out.Known++
		default:
			if other, err := s.Store.HasReading(ctx, reading.ID); err != nil {
				return nil, err
			} else if other { // written out for another car
				reading.ID = uuid.NewString()
			}
			out.keep = append(out.keep, reading)
			fresh[row.Panel]++
		}
		out.Rows = append(out.Rows, row)
	}
	for p, n := range fresh {
		if err := panelwork.CheckCrowd(p, n, "text"); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// rowOf is a row as it is understood, with the reading that it would become. Times
// without a zone are of place.
func (s *Service) rowOf(t target, patterns map[*panel.Panel]*pattern, r files.Row, place *time.Location) (ImportRow, store.Reading) {
	row := ImportRow{Row: r}
	none := store.Reading{}
	if r.Fault != "" {
		row.Fault = RowUnreadable
		return row, none
	}
	if row.Panel, row.Fault, row.Nearest = t.find(r.Panel); row.Fault != RowFine {
		return row, none
	}
	if row.Panel.Substrate == facts.Plastic {
		row.Fault = RowPlastic
		return row, none
	}
	if row.At, row.Placed = (flatlay.Point{X: r.X, Y: r.Y}), !r.HasPlace; row.Placed {
		ok := false
		if row.At, ok = patterns[row.Panel].at(r.Line); !ok {
			row.Fault = RowNoRoom
			return row, none
		}
	} else if row.Refusal = advice.CheckPlace(row.Panel.Shape, row.At); row.Refusal != nil {
		row.Fault = RowPlace
		return row, none
	}
	taken, past := takenAt(r.Time, s.Now(), place)
	if !past {
		row.Fault = RowAhead
		return row, none
	}
	print := row.Panel.ID + ":" + r.Fingerprint
	reading := store.Reading{ID: r.ID, PanelID: row.Panel.ID, XMM: row.At.X, YMM: row.At.Y, FilmUM: r.Film,
		Phase: store.PhaseTotal, Source: store.SourceFile, Placed: row.Placed, Fingerprint: &print, TakenAt: taken, KeptAt: s.Now()}
	if r.Phase != "" {
		reading.Phase = r.Phase
	}
	if house.CheckID(reading.ID, house.OfReading) != nil {
		reading.ID = uuid.NewString()
	}
	return row, reading
}

// firstYear is that of the oldest reading that a file may bring.
const firstYear = 1990

// takenAt reads the time of a row; a row that says no day was taken now. past is false
// for a time that has not come yet, or of long before any gauge.
func takenAt(text string, now time.Time, place *time.Location) (at time.Time, past bool) {
	for _, layout := range []string{time.RFC3339, "2006-01-02 15:04:05", "2006-01-02T15:04:05", "2006-01-02 15:04"} {
		if at, err := time.ParseInLocation(layout, text, place); err == nil {
			return at.UTC(), at.Before(now.Add(time.Minute)) && at.Year() >= firstYear
		}
	}
	return now, true
}

// pattern places the rows of a panel that have no coordinates: as far from edges
// and from each other as the panel allows, one place a line.
type pattern struct {
	spots []flatlay.Point
	lines map[int]flatlay.Point
}

// mostPattern is how many readings without a place a panel can take.
const mostPattern = 40

func newPattern(p *panel.Panel, t target, table files.Table) *pattern {
	lines := map[int]bool{}
	for _, r := range table.Rows {
		if at, _, _ := t.find(r.Panel); !r.HasPlace && r.Fault == "" && at == p {
			lines[r.Line] = true
		}
	}
	out := &pattern{lines: map[int]flatlay.Point{}}
	if len(lines) > 0 {
		out.spots = film.NextSpots(p.Ground, p.Ground.Cells, nil, 0, nil, min(len(lines), mostPattern))
	}
	return out
}

// at is the place of a line; false where there is no room left.
func (p *pattern) at(line int) (flatlay.Point, bool) {
	if at, ok := p.lines[line]; ok {
		return at, true
	}
	if len(p.lines) >= len(p.spots) {
		return flatlay.Point{}, false
	}
	at := p.spots[len(p.lines)]
	p.lines[line] = at
	return at, true
}

// PreviewImport says what a file is understood as for a panel and keeps nothing.
func (s *Service) PreviewImport(ctx context.Context, panelID string, in ImportFile) (*Import, error) {
	t, err := s.panelTarget(ctx, panelID)
	if err != nil {
		return nil, err
	}
	return s.understand(ctx, t, in)
}

// PreviewCarImport is PreviewImport for a file of a whole car.
func (s *Service) PreviewCarImport(ctx context.Context, carID string, in ImportFile) (*Import, error) {
	t, err := s.carTarget(ctx, carID)
	if err != nil {
		return nil, err
	}
	return s.understand(ctx, t, in)
}

// Keep keeps the good rows of a file that are not known yet: added are new, known were
// kept already, leftOut are bad.
func (s *Service) Keep(ctx context.Context, i *Import) (added, known, leftOut int, err error) {
	added, err = s.Store.AddReadings(ctx, i.keep, panelwork.MostReadings)
	if err != nil {
		return 0, 0, 0, s.Crowded(ctx, err, "text")
	}
	known = i.Known + len(i.keep) - added
	return added, known, len(i.Rows) - added - known, err
}

// ReadingsFile is all readings of a car as they are written to a file.
func (s *Service) ReadingsFile(ctx context.Context, carID string) ([]files.Kept, error) {
	car, err := s.Store.Car(ctx, carID)
	if err != nil {
		return nil, err
	}
	rows, err := s.Store.CarReadings(ctx, car.ID)
	if err != nil {
		return nil, err
	}
	panels := map[string]store.Panel{}
	for _, p := range car.Panels {
		panels[p.ID] = p
	}
	floors, err := s.Floors(ctx, car.ID)
	if err != nil {
		return nil, err
	}
	var out []files.Kept
	for _, k := range rows {
		p := panels[k.PanelID]
		out = append(out, files.Kept{Panel: p.Name, Key: p.Key, No: k.Seq, X: k.XMM, Y: k.YMM, Film: k.FilmUM, Phase: k.Phase, Taken: k.TakenAt,
			Gauge: k.Gauge, Source: k.Source, Placed: k.Placed, Sure: k.Sure, Struck: k.StruckReason, ID: k.ID, Agreed: panel.AgreedOn(floors, k.PanelID)})
	}
	return out, nil
}

// Dots are the readings and marks of a panel as they are drawn on its outline.
func (s *Service) Dots(ctx context.Context, panelID string, label func(um float64) string) (*panel.Panel, []files.Dot, error) {
	p, err := s.OpenPanel(ctx, panelID)
	if err != nil {
		return nil, nil, err
	}
	var out []files.Dot
	for _, r := range p.Live() {
		out = append(out, files.Dot{Role: "reading", X: r.At.X, Y: r.At.Y, Size: 8, Text: label(r.Film), Data: map[string]string{"film-um": fmt.Sprint(r.Film)}})
	}
	for _, m := range p.Marks {
		if m.Struck == nil {
			out = append(out, files.Dot{Role: "mark", X: m.X, Y: m.Y, Size: max(m.Length, m.Width) / 2, Text: m.Kind.Name(),
				Data: map[string]string{"kind": string(m.Kind), "outcome": string(m.Outcome)}})
		}
	}
	return p, out, nil
}

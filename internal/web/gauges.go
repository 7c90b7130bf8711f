package web

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/flatlay"
	"waxplanus/internal/files"
	"waxplanus/internal/gauge"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// checkLasts is how long a check of a gauge holds: zero and foil once a day.
const checkLasts = 24 * time.Hour

// microns is a value of that unit in µm.
func microns(v float64, unit api.Unit) float64 {
	if unit == api.Mil {
		return v * files.MicronsPerMil
	}
	return v
}

// characterOf is what is known of a gauge: studied, or usual.
func characterOf(g store.Gauge) film.Gauge {
	out := film.UsualGauge
	if g.RepeatUM > 0 {
		out.A = g.RepeatUM
	}
	return out
}

// gaugeOf is the gauge that a panel was read with: of several, one that repeats
// as they do on the mean.
func (s *Server) gaugeOf(ctx context.Context, readings []store.Reading) (film.Gauge, error) {
	used := map[string]float64{}
	for _, r := range readings {
		if r.StruckAt == nil {
			used[gaugeID(r)]++
		}
	}
	out, sum, n := film.UsualGauge, 0.0, 0.0
	for id, count := range used {
		g, err := s.store.Gauge(ctx, id)
		if err != nil {
			return out, err
		}
		a := characterOf(g).A
		sum, n = sum+count*a*a, n+count
	}
	if n > 0 {
		out.A = math.Round(math.Sqrt(sum/n)*1e6) / 1e6
	}
	return out, nil
}

func gaugeID(r store.Reading) string {
	if r.Gauge == "" {
		return store.ShopGauge
	}
	return r.Gauge
}

// gaugeView is a gauge with how its last check stands.
func (s *Server) gaugeView(ctx context.Context, g store.Gauge) (api.Gauge, error) {
	known := characterOf(g)
	out := api.Gauge{Id: g.ID, Name: g.Name, RepeatUm: api.Estimate{Mean: known.A, Sd: g.DoubtUM}, Shots: g.Shots}
	if g.Shots == 0 {
		out.RepeatUm = estimate(film.StudyGauge(nil).A)
	}
	last, err := s.store.LastCheck(ctx, g.ID)
	if err != nil {
		return out, err
	}
	if last == nil {
		out.Check = "Zero and foil were never looked at: zero it on bare metal and write down what it shows."
		return out, nil
	}
	out.CheckedAt = &last.At
	fault, off, may := film.GaugeCheck{Zero: last.ZeroUM, Foil: last.FoilUM, Read: last.ReadUM}.Judge(known)
	at := last.At.Local().Format("2 Jan 15:04")
	switch {
	case fault == film.CheckZero:
		out.Check = fmt.Sprintf("Off at zero on %s: it shows %s µm on bare metal, %s may be. Zero it and check again.", at, um(off), um(may))
	case fault == film.CheckFoil:
		out.Check = fmt.Sprintf("Off on the foil of %s µm on %s: %s µm, %s may be. Calibrate it before you read.", um(last.FoilUM), at, um(off), um(may))
	case s.now().Sub(last.At) > checkLasts:
		out.Check = fmt.Sprintf("Last checked %s, over a day ago: zero it on bare metal and check again.", at)
	default:
		out.Fine, out.Check = true, fmt.Sprintf("Checked %s, as it should be.", at)
	}
	return out, nil
}

// ListGauges lists the shop's gauges.
func (s *Server) ListGauges(ctx context.Context, _ api.ListGaugesRequestObject) (api.ListGaugesResponseObject, error) {
	rows, err := s.store.Gauges(ctx)
	if err != nil {
		return nil, err
	}
	out := api.ListGauges200JSONResponse{}
	for _, g := range rows {
		v, err := s.gaugeView(ctx, g)
		if err != nil {
			return nil, err
		}
		out = append(out, v)
	}
	return out, nil
}

// CheckGauge keeps a check of zero and foil.
func (s *Server) CheckGauge(ctx context.Context, r api.CheckGaugeRequestObject) (api.CheckGaugeResponseObject, error) {
	g, err := s.store.Gauge(ctx, r.GaugeId)
	if err != nil {
		return nil, err
	}
	in := *r.Body
	if !in.Unit.Valid() {
		return nil, refuse("unit", "The unit is um or mil.")
	}
	zero, foil, read := microns(in.Zero, in.Unit), microns(in.Foil, in.Unit), microns(in.Read, in.Unit)
	switch {
	case math.Abs(zero) > files.FilmMost:
		return nil, refuse("zero", "%.4g on bare metal is no zero: put the probe on bare metal and type what it shows, such as 0.3 or -0.5.", in.Zero)
	case foil < 0 || foil > files.FilmMost:
		return nil, refuse("foil", "The foil's own thickness stands on it, such as 125 µm; 0 for no foil.")
	case foil > 0 && (read <= 0 || read > files.FilmMost):
		return nil, refuse("read", "Type what the gauge shows on the foil of %.4g.", in.Foil)
	}
	if err := s.store.AddCheck(ctx, store.GaugeCheck{GaugeID: g.ID, At: s.now(), ZeroUM: zero, FoilUM: foil, ReadUM: read}); err != nil {
		return nil, err
	}
	v, err := s.gaugeView(ctx, g)
	return api.CheckGauge201JSONResponse(v), err
}

// StudyGauge takes a gauge's repeatability from shots of one place.
func (s *Server) StudyGauge(ctx context.Context, r api.StudyGaugeRequestObject) (api.StudyGaugeResponseObject, error) {
	g, err := s.store.Gauge(ctx, r.GaugeId)
	if err != nil {
		return nil, err
	}
	if !r.Body.Unit.Valid() {
		return nil, refuse("unit", "The unit is um or mil.")
	}
	var shots []float64
	for i, v := range r.Body.Shots {
		um := microns(v, r.Body.Unit)
		if text := files.FilmFault(um, v, string(r.Body.Unit)); text != "" {
			return nil, refuse("shots", "Shot %d: %s.", i+1, text)
		}
		shots = append(shots, um)
	}
	study := film.StudyGauge(shots)
	if !study.Enough {
		return nil, refuse("shots", "Five shots of one place are the least: lift the probe and put it back each time.")
	}
	g.RepeatUM, g.DoubtUM, g.Shots = study.A.Mean, study.A.SD, study.N
	if err := s.store.StudyGauge(ctx, g); err != nil {
		return nil, err
	}
	v, err := s.gaugeView(ctx, g)
	return api.StudyGauge201JSONResponse(v), err
}

// probeWaits is how long a question for news of the gauge is held.
const probeWaits = 20 * time.Second

// GetProbe answers once something is new of the gauge that sends.
func (s *Server) GetProbe(ctx context.Context, r api.GetProbeRequestObject) (api.GetProbeResponseObject, error) {
	if s.link == nil {
		return api.GetProbe200JSONResponse{State: api.None, Text: "No gauge is looked for. Type the number.", Shots: []api.Shot{}}, nil
	}
	seen := -1
	if r.Params.Seen != nil {
		seen = *r.Params.Seen
	}
	ctx, cancel := context.WithTimeout(ctx, probeWaits)
	defer cancel()
	return api.GetProbe200JSONResponse(probeOf(s.link.Watch(ctx, seen))), nil
}

func probeOf(st gauge.Status) api.Probe {
	out := api.Probe{Seq: st.Seq, State: api.None, Text: "No gauge found at " + st.Addr + ". Type the number.", Shots: []api.Shot{}}
	switch {
	case st.Connected:
		out.State, out.Text = api.Sending, fmt.Sprintf("%s is sending.", st.Gauge)
		if !st.ZeroedAt.IsZero() {
			out.Text += " Last zero " + clockOf(st.ZeroedAt) + "."
		}
	case st.Known:
		out.State, out.Text = api.Lost, fmt.Sprintf("Gauge stopped sending at %s. Type the number; it is marked as typed.", clockOf(st.HeardAt))
	}
	if st.Gauge != "" {
		out.Gauge = &st.Gauge
	}
	if st.Refused > 0 {
		out.Text += fmt.Sprintf(" %s not understood, the last: %s.", count(st.Refused, "line"), st.LastRefused)
	}
	for _, w := range st.Waiting {
		shot := api.Shot{Id: w.ID, At: *w.At}
		if w.Type == gauge.Shot {
			shot.FilmUm, shot.Text = &w.FilmUM, um(w.FilmUM)+" µm at "+clockOf(*w.At)
		} else {
			shot.Text = fmt.Sprintf("No reading at %s: %s.", clockOf(*w.At), w.Why)
		}
		out.Shots = append(out.Shots, shot)
	}
	return out
}

func clockOf(at time.Time) string { return at.Local().Format("15:04") }

// AimProbe tells the gauge which place is open.
func (s *Server) AimProbe(ctx context.Context, r api.AimProbeRequestObject) (api.AimProbeResponseObject, error) {
	if s.link == nil {
		return api.AimProbe204Response{}, nil
	}
	b, err := s.open(ctx, r.Body.PanelId)
	if err != nil {
		return nil, err
	}
	at := flatlay.Point{X: r.Body.XMm, Y: r.Body.YMm}
	w, h := b.shape.Size()
	spot := gauge.Spot{Panel: b.row.ID, Substrate: b.row.Substrate, X: at.X, Y: at.Y, Edge: b.shape.EdgeDistance(at), Width: w, Height: h}
	if b.opened.Study != nil {
		spot.Film = math.Round(b.opened.Study.Map.Level())
	}
	s.link.Aim(spot)
	return api.AimProbe204Response{}, nil
}

// DropShot puts a shot away that belongs nowhere.
func (s *Server) DropShot(_ context.Context, r api.DropShotRequestObject) (api.DropShotResponseObject, error) {
	if s.link != nil {
		s.link.Done(r.ShotId)
	}
	return api.DropShot204Response{}, nil
}

const (
	unitSetting = "unit"
	perMil      = 1 / files.MicronsPerMil
)

func shopOf(unit string) api.Shop {
	if unit == string(api.Mil) {
		return api.Shop{Unit: api.Mil, PerUm: perMil}
	}
	return api.Shop{Unit: api.Um, PerUm: 1}
}

// unit is what films are shown in; µm where it cannot be looked up.
func (s *Server) unit(ctx context.Context) api.Unit {
	unit, err := s.store.Setting(ctx, unitSetting, string(api.Um))
	if err != nil {
		return api.Um
	}
	return shopOf(unit).Unit
}

// GetShop is what holds for the whole shop.
func (s *Server) GetShop(ctx context.Context, _ api.GetShopRequestObject) (api.GetShopResponseObject, error) {
	unit, err := s.store.Setting(ctx, unitSetting, string(api.Um))
	return api.GetShop200JSONResponse(shopOf(unit)), err
}

// SetShop changes it.
func (s *Server) SetShop(ctx context.Context, r api.SetShopRequestObject) (api.SetShopResponseObject, error) {
	if !r.Body.Unit.Valid() {
		return nil, refuse("unit", "The unit is um or mil.")
	}
	err := s.store.SetSetting(ctx, unitSetting, string(r.Body.Unit))
	return api.SetShop200JSONResponse(shopOf(string(r.Body.Unit))), err
}

// zone is a zone as it is stored.
type zone struct {
	Name    string          `json:"name"`
	Outline []flatlay.Point `json:"outline"`
	Origin  string          `json:"origin"`
	Layers  string          `json:"layers"`
	Coats   int             `json:"coats"`
}

func zonesOf(p store.Panel) ([]zone, error) {
	var out []zone
	if p.Zones == "" {
		return nil, nil
	}
	err := json.Unmarshal([]byte(p.Zones), &out)
	return out, err
}

func zoneViews(zones []zone) []api.Zone {
	out := []api.Zone{}
	for _, z := range zones {
		out = append(out, api.Zone{Name: z.Name, Outline: points(z.Outline), Origin: api.Origin(z.Origin), Layers: api.Layers(z.Layers), Coats: z.Coats})
	}
	return out
}

// leastZone is the least side, in mm, of the box around a zone.
const leastZone = 60.0

// SetZones keeps the parts of a panel that have a history of their own.
func (s *Server) SetZones(ctx context.Context, r api.SetZonesRequestObject) (api.SetZonesResponseObject, error) {
	b, err := s.lay(ctx, r.PanelId)
	if err != nil {
		return nil, err
	}
	if b.worked() {
		return nil, conflict("Passes were made on the %s: its zones stay as they were planned with.", b.row.Name)
	}
	out := []zone{}
	for i, z := range r.Body.Zones {
		n := zone{Name: z.Name, Origin: string(z.Origin), Layers: string(z.Layers), Coats: z.Coats}
		if !z.Origin.Valid() || !z.Layers.Valid() || z.Coats < 0 || z.Coats > 12 {
			return nil, refuse("zones", "Zone %d: say where its finish comes from, its layers, and 0 to 12 coats of clear.", i+1)
		}
		if len(z.Outline) < 3 || len(z.Outline) > 60 {
			return nil, refuse("zones", "Zone %d has %s: 3 to 60 bound it.", i+1, count(len(z.Outline), "corner"))
		}
		var xs, ys []float64
		for j, q := range z.Outline {
			if math.IsNaN(q.X+q.Y) || math.Abs(q.X)+math.Abs(q.Y) > 1e5 {
				return nil, refuse("zones", "Corner %d of zone %d is no place: x and y in mm are wanted.", j+1, i+1)
			}
			xs, ys = append(xs, q.X), append(ys, q.Y)
			n.Outline = append(n.Outline, flatlay.Point{X: q.X, Y: q.Y})
		}
		if w, h := slices.Max(xs)-slices.Min(xs), slices.Max(ys)-slices.Min(ys); w < leastZone || h < leastZone {
			return nil, refuse("zones", "Zone %d is %.0f by %.0f mm: %.0f mm each way is the least that a map can tell.", i+1, w, h, leastZone)
		}
		out = append(out, n)
	}
	raw, err := json.Marshal(out)
	if err != nil {
		return nil, err
	}
	if err := s.store.SetZones(ctx, b.row.ID, string(raw)); err != nil {
		return nil, err
	}
	return api.SetZones200JSONResponse{Zones: zoneViews(out)}, nil
}

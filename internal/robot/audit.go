package robot

import (
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"

	"waxplanus/internal/web/api"
)

// audit holds that all screens say the same of every panel.
func (j *job) audit() {
	car, ok := get[api.Car](j.house, "/api/cars/"+j.car)
	if !ok {
		return
	}
	proofs, ok := get[api.CarProof](j.house, "/api/cars/"+j.car+"/prove")
	if !ok {
		return
	}
	hand, ok := get[api.Handing](j.house, "/api/cars/"+j.car+"/handover")
	if !ok {
		return
	}
	record := j.ask(http.MethodGet, "/api/cars/"+j.car+"/papers/record.json", nil)
	var film api.FilmRecord
	_ = json.Unmarshal(record.body, &film)
	lines := map[string]api.ProofLine{}
	for _, l := range proofs.Lines {
		lines[l.PanelId] = l
	}
	todo := map[string]bool{}
	for _, t := range hand.Todos {
		if t.PanelId != nil {
			todo[*t.PanelId] = true
		}
	}
	for _, p := range car.Panels {
		if !j.wanted[p.Id] {
			continue
		}
		line, listed := lines[p.Id]
		if !listed {
			j.found(3, fmt.Sprintf("%s, %s, %s, with the aim %s is not in Prove's list", p.Name, p.Origin, p.Substrate, p.Aim))
		} else if !line.Kept && !todo[p.Id] {
			j.found(3, fmt.Sprintf("%s, %s, %s, with the aim %s was not kept and Hand over does not ask for it", p.Name, p.Origin, p.Substrate, p.Aim))
		}
		j.alike(p, line)
	}
	j.report(lines)
	j.parts()
}

// alike holds the views of one panel against each other.
func (j *job) alike(p api.Panel, line api.ProofLine) {
	path := "/api/panels/" + p.Id
	read, ok := get[api.Read](j.house, path+"/read")
	if !ok {
		return
	}
	plan, ok := get[api.Plan](j.house, path+"/plan")
	if !ok {
		return
	}
	level, ok := get[api.Level](j.house, path+"/level")
	if !ok {
		return
	}
	proof, ok := get[api.PanelProof](j.house, path+"/prove")
	if !ok {
		return
	}
	for name, o := range map[string]api.Panel{"Read": read.Panel, "Plan": plan.Panel, "Level": level.Panel, "Prove": proof.Panel} {
		if text(p.State) != text(o.State) || um(p.HeadroomUm) != um(o.HeadroomUm) {
			j.found(4, fmt.Sprintf("%s: the car says %s, %.2f can go; %s says %s, %.2f", p.Name, text(p.State), um(p.HeadroomUm), name, text(o.State), um(o.HeadroomUm)))
		}
	}
	if proof.State != nil && p.State != nil && *proof.State != *p.State {
		j.found(4, fmt.Sprintf("%s: the car says %s, Prove %s", p.Name, *p.State, *proof.State))
	}
	if line.ClearUm != nil && proof.ClearUm != nil && math.Abs(line.ClearUm.Mean-proof.ClearUm.Mean) > 0.01 {
		j.found(4, fmt.Sprintf("%s: %.2f µm of clear in the car's list, %.2f in Prove", p.Name, line.ClearUm.Mean, proof.ClearUm.Mean))
	}
	states := map[string]api.State{}
	for _, s := range read.Sections {
		if s.State != nil {
			states[s.Key] = *s.State
		}
	}
	for _, s := range level.Sections {
		if was, ok := states[s.Key]; ok && s.State != nil && was != *s.State {
			j.found(4, fmt.Sprintf("%s, %s: Read says %s, Level %s", p.Name, s.Name, was, *s.State))
		}
	}
	if p.HeadroomUm != nil && *p.HeadroomUm < 0 {
		j.found(4, fmt.Sprintf("%s: %.2f µm can go", p.Name, *p.HeadroomUm))
	}
	if p.Reason != nil && (strings.Contains(*p.Reason, " -") || strings.Contains(*p.Reason, "−")) {
		j.found(4, fmt.Sprintf("%s: %s", p.Name, *p.Reason))
	}
}

func text[T ~string](v *T) string {
	if v == nil {
		return ""
	}
	return string(*v)
}

func um(v *float64) float64 {
	if v == nil {
		return 0
	}
	return math.Round(*v*100) / 100
}

// parts holds that parts add up to their whole.
func (j *job) parts() {
	week := j.week()
	a := j.ask(http.MethodGet, "/api/cars/"+j.car+"/offers", nil)
	var of api.CarOffers
	if a.ok() && json.Unmarshal(a.body, &of) == nil {
		for _, o := range of.Offers {
			if o.Name == api.CarOfferNameSaid && week != nil {
				j.sameWork(o, *week)
			}
			hours := 0.0
			for _, p := range o.Panels {
				hours += p.Hours
			}
			if o.Hours.High < hours*0.3 {
				j.found(7, fmt.Sprintf("the offer %s takes %.1f to %.1f h and its panels %.1f", o.Name, o.Hours.Low, o.Hours.High, hours))
			}
		}
	}
}

// week is the car in the week's plan, whose tasks add up to its hours; nil where it is not in it or
// where the plan is being made anew.
func (j *job) week() *api.WeekCar {
	w, ok := get[api.Week](j.house, "/api/week")
	if !ok || w.Renewing != nil && *w.Renewing {
		return nil
	}
	at := slices.IndexFunc(w.Cars, func(c api.WeekCar) bool { return c.Id == j.car })
	if at < 0 {
		j.found(3, "the car is not in the week")
		return nil
	}
	minutes := 0.0
	for _, t := range w.Tasks {
		if t.CarId == j.car {
			minutes += t.Minutes
		}
	}
	if h := w.Cars[at].Hours; minutes/60 > h.High+0.1 || minutes/60 < h.Low-0.1 {
		j.found(7, fmt.Sprintf("the week has %.1f to %.1f h of the car, its tasks add up to %.1f", h.Low, h.High, minutes/60))
	}
	return &w.Cars[at]
}

// sameWork holds that the work as it is planned takes as long in an offer as in the week, and is
// ready when the week says.
func (j *job) sameWork(o api.CarOffer, w api.WeekCar) {
	if math.Abs(o.Hours.High-w.Hours.High) > 0.1+0.02*w.Hours.High {
		j.found(7, fmt.Sprintf("the work as planned takes %.1f to %.1f h in the offers, %.1f to %.1f in the week", o.Hours.Low, o.Hours.High, w.Hours.Low, w.Hours.High))
	}
	if o.ReadyAt != nil && w.DoneAt != nil && o.ReadyAt.Sub(*w.DoneAt).Abs() > time.Hour {
		j.found(7, fmt.Sprintf("the work as planned is ready %s in the offers, %s in the week; %.2f to %.2f h and %.2f to %.2f h", o.ReadyAt, w.DoneAt, o.Hours.Low, o.Hours.High, w.Hours.Low, w.Hours.High))
	}
}

// went is what was planned of each work of the car, whose sum is the whole.
func (j *job) went() map[string]float64 {
	w, ok := get[api.CarWent](j.house, "/api/cars/"+j.car+"/went")
	if !ok {
		return nil
	}
	out, sum := map[string]float64{}, 0.0
	for _, l := range w.Lines {
		out[l.What], sum = out[l.What]+l.PlannedMin, sum+l.PlannedMin
	}
	for _, f := range w.Figures {
		if f.Range != nil && math.Abs(f.Range.Planned-sum/60) > 0.05+0.01*sum/60 {
			j.found(7, fmt.Sprintf("went says that %.2f h were planned, and its lines add up to %.2f", f.Range.Planned, sum/60))
		}
	}
	return out
}

// report holds that what the owner reads was seen: nothing is called flat or like what is beside
// it of which no photo was read.
func (j *job) report(lines map[string]api.ProofLine) {
	a := j.ask(http.MethodGet, "/api/cars/"+j.car+"/papers/report.html", nil)
	if !a.ok() {
		j.found(12, "the report cannot be read: "+short(a.body))
		return
	}
	seen := false
	for _, l := range lines {
		seen = seen || l.After != nil && l.After.Source == api.KnownPhoto
	}
	for _, claim := range []string{"Levelled flat", "Levelled to match"} {
		if !seen && a.says(claim) {
			j.found(12, fmt.Sprintf("the report says %q and no photo was read", claim))
		}
	}
	if !seen && a.says("of 100, now") {
		j.found(12, "the report tells how sharp lamps are, and nobody measured it")
	}
}

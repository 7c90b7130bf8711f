package robot

import (
	"fmt"
	"math"
	"net/http"
	"time"

	"waxplanus/core/flatlay"
	"waxplanus/internal/web/api"
)

// follow does what is next until the car is handed over, or it has taken too long.
func (j *job) follow() {
	most := 100
	for id := range j.wanted {
		most += 60 + 45*len(sectionsOf(j.panels[id].shape)) // some steps, some stretches of each, on every section
	}
	same, last := 0, ""
	for j.steps = 0; !j.done; j.steps++ {
		if j.steps > most {
			j.found(2, fmt.Sprintf("not handed over after %d steps; next is %s", j.steps, last))
			return
		}
		j.habit()
		n, version, ok := j.next()
		if !ok {
			return
		}
		if n.Action == "" || n.PanelId == "" {
			j.found(2, "next is empty")
			return
		}
		now := fmt.Sprintf("%s %s: %s, version %d", n.Stage, n.PanelName, n.Action, version)
		if same++; now != last {
			same = 0
		}
		if last = now; same >= 3 {
			j.found(2, "following next changes nothing: "+now)
			return
		}
		if n.From != nil && n.From.After(j.time()) && !j.oneIn(3) {
			j.wait(n.From.Sub(j.time()) + time.Minute)
			continue
		}
		switch n.Stage {
		case api.NextActionStageLook:
			j.look(n.PanelId)
		case api.NextActionStageRead:
			j.read(n.PanelId)
		case api.NextActionStagePlan:
			j.plan(n.PanelId)
		case api.NextActionStageLevel:
			if j.taps == 0 {
				j.parts()
			}
			j.level(n.PanelId, "")
		case api.NextActionStageProve:
			j.prove(n.PanelId)
		case api.NextActionStageHandOver:
			j.handOver()
		}
		if j.over {
			return
		}
	}
}

// next is what is next by the car; now and then it is held against the list of cars.
func (j *job) next() (n api.NextAction, version int64, ok bool) {
	car, ok := get[api.Car](j.house, "/api/cars/"+j.car)
	if !ok || j.steps%5 != 0 {
		return car.Next, car.Version, ok
	}
	list, ok := get[api.CarPage](j.house, "/api/cars")
	if !ok {
		return car.Next, car.Version, ok
	}
	if len(list.Cars) != 1 {
		j.found(3, fmt.Sprintf("the list has %d cars", len(list.Cars)))
	} else if c := list.Cars[0]; c.Renewing == nil && (c.Next.Action != car.Next.Action || c.Next.PanelId != car.Next.PanelId) {
		j.found(2, fmt.Sprintf("the car says %q on %s, the list %q on %s", car.Next.Action, car.Next.PanelName, c.Next.Action, c.Next.PanelName))
	}
	return car.Next, car.Version, true
}

// look spots what stands, or looks a panel over and keeps it.
func (j *job) look(id string) {
	look, ok := get[api.Look](j.house, "/api/panels/"+id+"/look")
	if !ok {
		return
	}
	j.closeMarks(id, look.Marks)
	for _, m := range look.Marks {
		if m.Outcome == "open" {
			return
		}
	}
	j.keep(id, "looked over")
}

// closeMarks says what became of the open marks of a panel: soft ones are waited for.
func (j *job) closeMarks(id string, all []api.Mark) {
	var out []body
	for _, m := range all {
		if m.Outcome != "open" {
			continue
		}
		if m.ReadyAt != nil && m.ReadyAt.After(j.time()) {
			j.wait(m.ReadyAt.Sub(j.time()) + time.Minute)
		}
		one := body{"id": m.Id, "outcome": "gone"}
		if m.Do == "leaves" || m.Do == "respray" || m.Do == "keep_off" || m.Do == "read" {
			one["outcome"], one["reason"] = "left", "too deep"
		} else if m.Do == "softens" {
			one["outcome"] = "softened"
		}
		out = append(out, one)
	}
	if len(out) == 0 {
		return
	}
	if a := j.ask(http.MethodPost, "/api/panels/"+id+"/marks/close", body{"person": j.painter, "marks": out}); !a.ok() {
		j.found(10, "marks cannot be closed: "+short(a.body))
	}
}

// keep says that a panel is good.
func (j *job) keep(id, note string) bool {
	a := j.ask(http.MethodPost, "/api/panels/"+id+"/proofs", body{"id": j.id(), "kind": "kept", "person": j.painter, "note": note})
	if !a.ok() && a.status != http.StatusConflict {
		j.found(10, "keeping is refused: "+short(a.body))
	}
	return a.ok()
}

// probe reads the film at a place.
func (j *job) probe(id string, at api.Place) bool {
	t := j.panels[id]
	if t.plastic {
		return false
	}
	q := flatlay.Point{X: at.XMm, Y: at.YMm}
	section := sectionOf(t.shape, q)
	um := t.film(section, q)
	film := um
	if j.unit == api.Mil {
		film = float64(int(um/25.4*100+0.5)) / 100
	}
	in := body{"id": j.id(), "x_mm": at.XMm, "y_mm": at.YMm, "film": film, "unit": j.unit, "phase": "total"}
	j.reads++
	a := j.ask(http.MethodPost, "/api/panels/"+id+"/readings", in)
	if a.status == http.StatusConflict || a.status == http.StatusUnprocessableEntity {
		in["sure"] = "read it twice"
		in["id"] = j.id()
		a = j.ask(http.MethodPost, "/api/panels/"+id+"/readings", in)
	}
	if !a.ok() {
		j.found(10, fmt.Sprintf("a reading of %.1f µm is refused twice: %s", um, short(a.body)))
	}
	return a.ok()
}

func sectionOf(p flatlay.Panel, q flatlay.Point) string { return flatlay.SectionAt(sectionsOf(p), q) }

func (j *job) read(id string) {
	r, ok := get[api.Read](j.house, "/api/panels/"+id+"/read")
	if !ok {
		return
	}
	if len(r.Next) == 0 {
		j.found(2, "Read is next and names no place: "+r.Why)
		return
	}
	const spots = 5
	if w, h := j.panels[id].shape.Size(); r.Panel.Readings == 0 && len(r.Next) >= spots {
		low, high := r.Next[0], r.Next[0]
		for _, at := range r.Next[:spots] {
			low.XMm, low.YMm, high.XMm, high.YMm = min(low.XMm, at.XMm), min(low.YMm, at.YMm), max(high.XMm, at.XMm), max(high.YMm, at.YMm)
		}
		if span := max(high.XMm-low.XMm, high.YMm-low.YMm); span < max(w, h)/4 {
			j.found(2, fmt.Sprintf("%s is read at %d places within %.0f mm of %.0f", j.keys[id], spots, span, max(w, h)))
		}
	}
	for _, at := range r.Next[:min(len(r.Next), max(spots-r.Panel.Readings, 1))] {
		if !j.probe(id, at) {
			return
		}
	}
}

// plan accepts an offer, or takes one of the ways on.
func (j *job) plan(id string) {
	p, ok := get[api.Plan](j.house, "/api/panels/"+id+"/plan")
	if !ok {
		return
	}
	if p.Waits != "" {
		j.found(2, "Plan is next and waits: "+p.Waits)
		return
	}
	if len(p.Offers) > 0 && p.Refusal == nil {
		offer := p.Offers[j.of(len(p.Offers))]
		j.accept(id, p.Basis, string(offer.Name), offer.State)
		return
	}
	if p.Refusal == nil || len(p.Refusal.Ways) == 0 {
		j.found(10, "Plan refuses without a way on")
		return
	}
	j.retries[id]++
	ways := p.Refusal.Ways
	way := ways[j.of(len(ways))]
	if j.retries[id] > 6 {
		for _, w := range ways {
			if w.Code == "leave" {
				way = w
			}
		}
	}
	j.takeWay(id, p, way)
}

// accept makes an offer the plan of record and holds that Level grants it.
func (j *job) accept(id, basis, ladder string, state api.State) {
	a := j.ask(http.MethodPost, "/api/panels/"+id+"/plan", body{"basis": basis, "ladder": ladder})
	if !a.ok() {
		j.found(10, fmt.Sprintf("the offer %s, %s, is refused: %s", ladder, state, short(a.body)))
		return
	}
	j.accepted(id)
}

// accepted holds that a plan is granted in full at its first step on every section that it works.
func (j *job) accepted(id string) {
	l, ok := get[api.Level](j.house, "/api/panels/"+id+"/level")
	if !ok || l.Waits != "" {
		return
	}
	for _, s := range l.Sections {
		if s.Done {
			continue
		}
		one, ok := get[api.Level](j.house, "/api/panels/"+id+"/level?section="+s.Key)
		if !ok || one.Hand == nil || one.Hand.PassesDone > 0 || one.Hand.NotFor != "" || one.Hand.MarksFirst > 0 || waits(one.Hand) {
			continue
		}
		if h := one.Hand; h.PassesGranted < h.PassesNeeded {
			j.found(6, fmt.Sprintf("the plan was accepted and %s gets %d of %d passes of step 1: %s, %s", s.Name, h.PassesGranted, h.PassesNeeded, h.State, h.Reason))
		}
	}
}

// takeWay takes a way on where nothing reaches the aim.
func (j *job) takeWay(id string, p api.Plan, w api.WayOn) {
	switch w.Code {
	case "agreed_floor":
		a := j.ask(http.MethodPost, "/api/panels/"+id+"/floor", body{"id": j.id(), "floor_um": *w.FloorUm, "person": "The owner", "reason": "it shall be flat", "whole_car": false})
		if !a.ok() {
			j.found(10, "a floor that is offered is refused: "+short(a.body))
			return
		}
		if again, ok := get[api.Plan](j.house, "/api/panels/"+id+"/plan"); ok && again.Refusal != nil {
			j.found(10, fmt.Sprintf("with the floor of %.0f µm that was offered (%s) nothing reaches it still: %s", *w.FloorUm, w.Text, again.Refusal.Text))
		}
	case "aim", "softer_aim":
		if w.Aim != nil {
			j.patch(id, body{"aim": *w.Aim})
			if w.FloorUm != nil && *w.FloorUm > 0 {
				j.ask(http.MethodPost, "/api/panels/"+id+"/floor", body{"id": j.id(), "floor_um": *w.FloorUm, "person": "The owner", "reason": "it shall be done"})
			}
			if again, ok := get[api.Plan](j.house, "/api/panels/"+id+"/plan"); ok && again.Refusal != nil {
				j.found(10, fmt.Sprintf("the milder aim %s that was offered (%s) is refused: %s", *w.Aim, w.Text, again.Refusal.Text))
			}
			return
		}
		if len(p.Offers) > 0 {
			j.accept(id, p.Basis, string(p.Offers[0].Name), p.Offers[0].State)
			return
		}
		j.found(10, "a softer aim is told and not offered: "+w.Text)
	case "question":
		j.answer(id, w)
	case "read":
		j.read(id)
	default: // a coat, the shelf, leaving it
		if look, ok := get[api.Look](j.house, "/api/panels/"+id+"/look"); ok {
			j.closeMarks(id, look.Marks)
		}
		if !j.keep(id, "left as it is") {
			j.found(10, "leaving the panel is refused")
		}
	}
}

// answer says what a question asks, as the truth has it.
func (j *job) answer(id string, w api.WayOn) {
	t := j.panels[id]
	mid := flatlay.Point{X: 0, Y: 0}
	if s := sectionsOf(t.shape); len(s) > 0 {
		mid = s[0].Cells[len(s[0].Cells)/2]
	}
	if w.Help == nil {
		return
	}
	switch *w.Help {
	case "under":
		j.patch(id, body{"under": pick(j.dice, "new", "over")})
	case "coats":
		j.patch(id, body{"coats": 2 + j.of(2)})
	case "bare":
		j.ask(http.MethodPost, "/api/panels/"+id+"/readings", body{"id": j.id(), "x_mm": mid.X, "y_mm": mid.Y, "film": t.base.Film(mid), "unit": "um", "phase": "bare"})
	case "layers", "witness":
		j.ask(http.MethodPost, "/api/panels/"+id+"/readings", body{"id": j.id(), "x_mm": mid.X, "y_mm": mid.Y, "film": t.clear.Film(mid), "unit": "um", "phase": "clear"})
	case "car":
		car, ok := get[api.Car](j.house, "/api/cars/"+j.car)
		if !ok {
			return
		}
		for _, p := range car.Panels {
			if p.Id != id && p.Substrate != "plastic" {
				j.patch(p.Id, body{"origin": "factory"})
				for range 3 {
					if r, ok := get[api.Read](j.house, "/api/panels/"+p.Id+"/read"); ok && len(r.Next) > 0 {
						j.probe(p.Id, r.Next[0])
					}
				}
				return
			}
		}
	}
}

func (j *job) patch(id string, facts body) {
	if a := j.ask(http.MethodPatch, "/api/panels/"+id, facts); !a.ok() {
		j.found(10, "facts are refused: "+short(a.body))
	}
}

// prove does what is still to do on a panel and keeps it.
func (j *job) prove(id string) {
	p, ok := get[api.PanelProof](j.house, "/api/panels/"+id+"/prove")
	if !ok {
		return
	}
	for _, t := range p.Todos {
		switch t.Task {
		case "finish", "scratch":
			if t.Task == "scratch" {
				j.ask(http.MethodPost, "/api/panels/"+id+"/proofs", body{"id": j.id(), "kind": "wiped", "person": j.painter})
				continue
			}
			j.level(id, "")
			return
		case "wipe":
			j.ask(http.MethodPost, "/api/panels/"+id+"/proofs", body{"id": j.id(), "kind": "wiped", "person": j.painter})
		case "read":
			j.readAgain(id)
		case "marks":
			j.closeMarks(id, p.Marks)
		}
	}
	if p, ok = get[api.PanelProof](j.house, "/api/panels/"+id+"/prove"); !ok {
		return
	}
	for _, t := range p.Todos {
		if t.Task == "read" {
			j.found(2, fmt.Sprintf("Prove still asks for film after it was read where it says: %s", t.Text))
		}
	}
	if !j.keep(id, "") {
		why := ""
		if p.Barred != nil {
			why = *p.Barred
		}
		j.found(2, "Prove is next and the panel cannot be kept: "+why)
	}
}

// readAgain reads every section of a panel that was worked since it was last read.
func (j *job) readAgain(id string) {
	l, ok := get[api.Level](j.house, "/api/panels/"+id+"/level")
	if !ok || l.Waits != "" {
		return
	}
	for _, s := range l.Sections {
		if one, ok := get[api.Level](j.house, "/api/panels/"+id+"/level?section="+s.Key); ok && len(one.Spots) > 0 {
			j.probe(id, one.Spots[0])
		}
	}
}

// handOver does what is still to do and hands the car over.
func (j *job) handOver() {
	h, ok := get[api.Handing](j.house, "/api/cars/"+j.car+"/handover")
	if !ok {
		return
	}
	for _, t := range h.Todos {
		if t.Task == "tell" {
			car, ok := get[api.Car](j.house, "/api/cars/"+j.car)
			if !ok {
				return
			}
			for _, one := range car.Tellings {
				if a := j.ask(http.MethodPost, "/api/cars/"+j.car+"/said", body{"key": one.Key, "said": true, "person": j.painter}); !a.ok() {
					j.found(10, "telling is refused: "+short(a.body))
				}
			}
		}
	}
	if h, ok = get[api.Handing](j.house, "/api/cars/"+j.car+"/handover"); !ok {
		return
	}
	in := body{"id": j.id(), "person": j.painter}
	if len(h.Todos) > 0 {
		for _, t := range h.Todos {
			if t.Task != "after" && t.Task != "wipe" && t.Task != "read" {
				j.found(2, fmt.Sprintf("to hand over is next and there is still to do: %s on %s", t.Text, t.Name))
			}
		}
		in["as_it_is"], in["reason"] = true, "no photo was taken"
	}
	j.audit()
	planned := j.went()
	a := j.ask(http.MethodPost, "/api/cars/"+j.car+"/handover", in)
	if !a.ok() {
		j.found(2, "handing over is refused: "+short(a.body))
		j.over = true
		return
	}
	j.done = true
	for what, minutes := range j.went() {
		if was, there := planned[what]; there && math.Abs(was-minutes) > 0.1 {
			j.found(7, fmt.Sprintf("%s was planned with %.1f min before the car was handed over, with %.1f after", what, was, minutes))
		}
	}
}

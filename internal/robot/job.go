package robot

import (
	"fmt"
	"math"
	"net/http"
	"slices"
	"sort"
	"time"

	"waxplanus/core/flatlay"
	flatbody "waxplanus/core/flatlay/body"
	"waxplanus/internal/web/api"
)

// job is one car from Take in to Hand over.
type job struct {
	*dice
	*house
	kind    string // what the table counts it under
	car     string
	painter string
	person  string // who taps
	unit    api.Unit
	shapes  map[string]flatlay.Panel // by key
	panels  map[string]*truth        // by id
	keys    map[string]string        // key by id
	wanted  map[string]bool          // by id, those whose aim was said
	aims    map[string]string        // by id
	ids     int
	steps   int
	taps    int
	reads   int
	retries map[string]int // of what was tried on a panel
	over    bool
	done    bool // handed over
}

// id is a new id as a device makes it.
func (j *job) id() string {
	j.ids++
	return fmt.Sprintf("robot-%05d", j.ids)
}

const painter, helper = "Tove", "Issa"

// conditions of a job.
var (
	colours  = []string{"medium", "dark", "light"}
	origins  = []string{"here", "elsewhere", "factory", "unknown"}
	aimNames = []string{"flat", "match", "nibs", "polish"}
)

// takeIn draws the shop and the car and takes it in.
func (j *job) takeIn() bool {
	j.painter, j.person, j.unit = painter, painter, api.Um
	if j.oneIn(5) {
		j.unit = api.Mil
		j.ask(http.MethodPut, "/api/shop", body{"unit": "mil"})
	}
	for range j.of(4) {
		j.rule()
	}
	j.ask(http.MethodPut, "/api/people", body{"name": painter})
	if j.oneIn(3) {
		j.ask(http.MethodPut, "/api/people", body{"name": helper, "coarsest": "P2500"})
	}
	kind := bodyOf(j.dice)
	b, err := flatbody.Find(kind, flatbody.Size{})
	in := body{"name": "Job", "body": kind, "colour": pick(j.dice, colours...), "painter": painter}
	if kind == flatbody.Loose {
		b, err = flatbody.LoosePanel(900, 600)
		in["width_mm"], in["height_mm"] = 900, 600
	}
	if err != nil {
		j.found(1, err.Error())
		return false
	}
	j.shapes = map[string]flatlay.Panel{}
	var keys []string
	for _, p := range b.Panels {
		j.shapes[p.Key] = p
		keys = append(keys, p.Key)
	}
	sort.Strings(keys)
	// Mostly one to three panels, now and then all of them.
	n := 1 + j.of(3)
	if j.oneIn(12) && len(keys) < manyPanels || j.oneIn(250) {
		n = len(keys)
	}
	first := j.of(len(keys))
	var chosen []string
	for i := range min(n, len(keys)) {
		chosen = append(chosen, keys[(first+i)%len(keys)])
	}
	groups := []body{}
	type drawn struct{ total, clear float64 }
	films := map[string]drawn{}
	aimOf := map[string]string{}
	for _, key := range chosen {
		facts, total, clear := j.facts()
		films[key], aimOf[key] = drawn{total, clear}, facts["aim"].(string)
		groups = append(groups, body{"keys": []string{key}, "facts": facts})
	}
	j.kind = fmt.Sprint(aimOf[chosen[0]])
	in["groups"] = groups
	if a := j.ask(http.MethodPost, "/api/cars", in); !a.ok() {
		j.found(10, "the car is refused: "+short(a.body))
		return false
	}
	cars, ok := get[api.CarPage](j.house, "/api/cars")
	if !ok || len(cars.Cars) != 1 {
		j.found(3, "the car is not in the list")
		return false
	}
	j.car = cars.Cars[0].Id
	j.panels, j.keys, j.wanted, j.aims, j.retries = map[string]*truth{}, map[string]string{}, map[string]bool{}, map[string]string{}, map[string]int{}
	car, ok := get[api.Car](j.house, "/api/cars/"+j.car)
	if !ok {
		return false
	}
	for _, p := range car.Panels {
		f, said := films[p.Key]
		if !said {
			f = drawn{115, 48}
		}
		shape := j.shapes[p.Key]
		j.panels[p.Id], j.keys[p.Id] = j.truthOf(shape, f.total, f.clear), p.Key
		j.panels[p.Id].plastic = p.Substrate == "plastic"
		if said {
			j.wanted[p.Id], j.aims[p.Id] = true, aimOf[p.Key]
		}
	}
	for _, id := range j.sorted() {
		for range j.of(5) - 1 {
			j.mark(id)
		}
	}
	return true
}

// sorted are the ids of the wanted panels in an order that does not change.
func (j *job) sorted() []string {
	var out []string
	for id := range j.wanted {
		out = append(out, id)
	}
	slices.SortFunc(out, func(a, b string) int {
		if j.keys[a] < j.keys[b] {
			return -1
		}
		return 1
	})
	return out
}

// facts of one panel as they are said, and what is true.
func (j *job) facts() (facts body, total, clear float64) {
	origin, aim := pick(j.dice, origins...), pick(j.dice, aimNames...)
	facts = body{"origin": origin, "aim": aim}
	coats := 2 + j.of(3)
	each := 26 * math.Exp(0.2*j.off())
	base := 80 + 20*j.off()
	switch origin {
	case "here":
		facts["coats"] = coats
		if j.oneIn(4) {
			facts["dry_um"] = math.Round(each)
		}
		days := pick(j.dice, 30.0, 3, 1, 0.2, 400, 0.01)
		facts["sprayed_at"] = j.time().Add(-time.Duration(days * 24 * float64(time.Hour))).Format(time.RFC3339)
		facts["cure"] = pick(j.dice, "air", "baked", "unknown")
		clear, total = float64(coats)*each, float64(coats)*each+base
	case "factory":
		total = 110 + 12*j.off()
		clear = 0.42 * total
		if j.oneIn(3) {
			facts["past"] = []string{"polished"}
			clear -= 3
		}
	default:
		clear, total = float64(coats)*each, float64(coats)*each+base
		if j.oneIn(3) { // over the old finish
			total += 110
			facts["under"] = "over"
		}
		if j.oneIn(12) { // and filler
			total += 700
		}
	}
	if j.oneIn(6) {
		facts["layers"] = "single"
		clear = 0.65 * total
	}
	if j.oneIn(6) {
		facts["substrate"] = pick(j.dice, "aluminium", "plastic")
	}
	if j.oneIn(2) {
		facts["peel_grade"] = math.Round(10*j.between(5, 9)) / 10
	}
	if j.oneIn(5) {
		facts["hardness"] = pick(j.dice, "soft", "hard")
	}
	if aim == "polish" && j.oneIn(2) {
		facts["swirls"] = pick(j.dice, "light", "medium", "heavy")
		facts["gone"] = pick(j.dice, 0.8, 0.5, 0.95)
		if j.oneIn(4) {
			facts["dead"] = pick(j.dice, "light", "heavy")
		}
	}
	return facts, total, math.Max(clear, 12)
}

// rule changes a house rule.
func (j *job) rule() {
	rules, ok := get[[]api.HouseRule](j.house, "/api/rules")
	if !ok || len(rules) == 0 {
		return
	}
	r := rules[j.of(len(rules))]
	school := r.Schools[j.of(len(r.Schools))]
	j.ask(http.MethodPut, "/api/rules", body{"key": r.Key, "school": school.Key})
}

// mark places a mark somewhere on a panel.
func (j *job) mark(id string) {
	p := j.shapes[j.keys[id]]
	w, h := p.Size()
	for range 6 {
		q := flatlay.Point{X: w * j.between(0.5, 0.9), Y: h * j.between(0.5, 0.9)}
		if !p.Inside(q) || p.EdgeDistance(q) < 5 {
			continue
		}
		kind := pick(j.dice, "nib", "run", "scratch", "nib", "pit", "etch")
		in := body{"id": j.id(), "kind": kind, "x_mm": math.Round(q.X), "y_mm": math.Round(q.Y), "person": j.painter}
		if kind == "run" && j.oneIn(2) {
			in["sizes"] = body{"size_um": math.Round(j.between(20, 120))}
		}
		j.ask(http.MethodPost, "/api/panels/"+id+"/marks", in)
		return
	}
}

// manyPanels is from how many panels on all of them are hardly ever wanted: such a job takes as
// long as a hundred others.
const manyPanels = 8

// bodyOf is mostly a loose panel or parts of a motorcycle: what holds on one panel holds on many.
func bodyOf(d *dice) string {
	if n := d.of(20); n < 13 {
		return flatbody.Loose
	} else if n < 16 {
		return flatbody.Motorcycle
	}
	return pick(d, flatbody.Saloon, flatbody.Hatchback, flatbody.Estate, flatbody.Coupe, flatbody.PeopleCarrier, flatbody.Pickup, flatbody.PanelVan)
}

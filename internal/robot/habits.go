package robot

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"time"

	"waxplanus/internal/web/api"
)

// habit does now and then what people do.
func (j *job) habit() {
	if !j.oneIn(4) {
		return
	}
	all := j.sorted()
	id := all[j.of(len(all))]
	habits := []func(string){j.undo, j.tapTwice, j.strikeReading, j.strikeAndBack, j.doneEarly, j.changePerson, j.changeSheet, func(string) { j.rule() }, j.changeUnit,
		j.wrongUnit, j.comeLate, j.keepTapping, j.answerForIt, j.goBack, j.tellTrouble, j.changeFacts, j.mark, j.lookAtShine, j.otherSection, j.quickCheck, j.audits}
	habits[j.of(len(habits))](id)
}

// inHand is the section in hand of a panel that is being worked.
func (j *job) inHand(id string) (api.Level, bool) {
	l, ok := get[api.Level](j.house, "/api/panels/"+id+"/level?person="+j.person)
	return l, ok && l.Waits == "" && l.Hand != nil && l.Hand.NotFor == ""
}

// undo makes a pass and takes it back: all is as before.
func (j *job) undo(id string) {
	l, ok := j.inHand(id)
	if !ok || l.Hand.MayTap == 0 || l.Hand.MarksFirst > 0 {
		return
	}
	path := "/api/panels/" + id + "/level?section=" + l.Section
	before := j.ask(http.MethodGet, path, nil)
	a := j.tap(id, l, "pass", nil)
	if !a.ok() {
		return
	}
	var e api.Entry
	_ = json.Unmarshal(a.body, &e)
	if a := j.ask(http.MethodPost, "/api/log/"+e.Id+"/strike", body{"reason": "undone"}); !a.ok() {
		j.found(8, "a pass cannot be undone: "+short(a.body))
		return
	}
	after := j.ask(http.MethodGet, path, nil)
	if differ(before.body, after.body) != "" {
		j.found(8, "a pass that was undone leaves the section other than it was: "+differ(before.body, after.body))
	}
}

// differ names what differs between two views.
func differ(a, b []byte) string {
	var x, y map[string]any
	_, _ = json.Unmarshal(a, &x), json.Unmarshal(b, &y)
	return where("", x, y)
}

func where(name string, a, b any) string {
	x, isMap := a.(map[string]any)
	y, both := b.(map[string]any)
	if isMap && both {
		for k := range x {
			if k == "cooling" || k == "version" || k == "log" || k == "earlier" || k == "car" {
				continue
			}
			if w := where(name+"."+k, x[k], y[k]); w != "" {
				return w
			}
		}
		return ""
	}
	u, v := mustJSON(a), mustJSON(b)
	if u == v {
		return ""
	}
	return fmt.Sprintf("%s was %s and is %s", name, short([]byte(u)), short([]byte(v)))
}

func mustJSON(v any) string {
	out, _ := json.Marshal(v)
	return string(out)
}

// tapTwice sends one tap twice: it counts once.
func (j *job) tapTwice(id string) {
	l, ok := j.inHand(id)
	if !ok || l.Hand.MayTap == 0 || l.Hand.MarksFirst > 0 || waits(l.Hand) {
		return
	}
	in := body{"id": j.id()}
	if a := j.tap(id, l, "pass", in); !a.ok() {
		return
	}
	j.takes(id, l)
	path := "/api/panels/" + id + "/level?section=" + l.Section
	once := j.ask(http.MethodGet, path, nil)
	if a := j.tap(id, l, "pass", in); !a.ok() {
		j.found(8, "a tap that is sent again is refused: "+short(a.body))
	}
	if twice := j.ask(http.MethodGet, path, nil); differ(once.body, twice.body) != "" {
		j.found(8, "a tap that is sent again changes something: "+differ(once.body, twice.body))
	}
}

func (j *job) strikeReading(id string) {
	r, ok := get[api.Read](j.house, "/api/panels/"+id+"/read")
	if !ok {
		return
	}
	var live []string
	for _, one := range r.Readings {
		if one.StruckAt == nil {
			live = append(live, one.Id)
		}
	}
	if len(live) == 0 {
		return
	}
	if a := j.ask(http.MethodPost, "/api/readings/"+live[j.of(len(live))]+"/strike", body{"reason": "the probe tilted"}); !a.ok() {
		j.found(10, "a reading cannot be struck out: "+short(a.body))
	}
}

// strikeAndBack strikes a mark out and takes that back.
func (j *job) strikeAndBack(id string) {
	before, ok := get[api.Look](j.house, "/api/panels/"+id+"/look")
	if !ok {
		return
	}
	for _, m := range before.Marks {
		if m.Outcome != "open" {
			continue
		}
		j.ask(http.MethodPost, "/api/marks/"+m.Id+"/strike", body{"reason": "it was dust"})
		j.ask(http.MethodPost, "/api/marks/"+m.Id+"/restore", nil)
		after, ok := get[api.Look](j.house, "/api/panels/"+id+"/look")
		if ok && mustJSON(before.Marks) != mustJSON(after.Marks) {
			j.found(8, "a mark that was struck out and taken back is other than it was")
		}
		return
	}
}

func (j *job) doneEarly(id string) {
	if l, ok := j.inHand(id); ok && !l.Hand.Locked {
		j.end(id, l)
	}
}

func (j *job) changePerson(string) {
	people, ok := get[api.Hands](j.house, "/api/people")
	if ok && len(people.People) > 0 {
		j.person = people.People[j.of(len(people.People))].Name
	}
}

func (j *job) changeSheet(id string) {
	if l, ok := j.inHand(id); ok {
		j.tap(id, l, "paper", nil)
	}
}

func (j *job) changeUnit(string) {
	if j.unit == api.Um {
		j.unit = api.Mil
	} else {
		j.unit = api.Um
	}
	j.ask(http.MethodPut, "/api/shop", body{"unit": j.unit})
}

// wrongUnit types a reading in the other unit.
func (j *job) wrongUnit(id string) {
	r, ok := get[api.Read](j.house, "/api/panels/"+id+"/read")
	if !ok || len(r.Next) == 0 || r.Panel.Substrate == "plastic" {
		return
	}
	at := r.Next[0]
	film := 5.5
	if j.unit == api.Mil {
		film = 140
	}
	in := body{"id": j.id(), "x_mm": at.XMm, "y_mm": at.YMm, "film": film, "unit": j.unit, "phase": "total"}
	if a := j.ask(http.MethodPost, "/api/panels/"+id+"/readings", in); a.ok() {
		var kept api.Reading
		_ = json.Unmarshal(a.body, &kept)
		j.found(9, fmt.Sprintf("a reading of %v %s is not questioned", film, j.unit))
		j.ask(http.MethodPost, "/api/readings/"+kept.Id+"/strike", body{"reason": "the wrong unit"})
	}
}

// comeLate sends a pass that was made a while ago, by another tablet.
func (j *job) comeLate(id string) {
	l, ok := j.inHand(id)
	if !ok || l.Hand.MayTap == 0 {
		return
	}
	j.wait(20 * time.Minute)
	if a := j.tap(id, l, "pass", body{"seconds_ago": 600, "device": "tablet-two"}); a.ok() {
		j.takes(id, l)
	}
}

// keepTapping taps on until nothing is granted any more.
func (j *job) keepTapping(id string) {
	l, ok := j.inHand(id)
	if !ok || l.Hand.MarksFirst > 0 || waits(l.Hand) {
		return
	}
	const most = 130
	for n := range most {
		a := j.pass(id, l)
		if !a.ok() {
			return
		}
		if after, ok := get[api.Level](j.house, "/api/panels/"+id+"/level?section="+l.Section); ok && n == most-1 && after.Hand != nil && after.Hand.Ledger.BalanceUm.Mean < after.Hand.Ledger.FloorUm {
			j.found(5, fmt.Sprintf("%d passes of one step are taken, down to %.1f µm of clear under a floor of %.1f", most, after.Hand.Ledger.BalanceUm.Mean, after.Hand.Ledger.FloorUm))
		}
		if n%8 == 7 {
			if again, ok := j.inHand(id); ok && again.Section == l.Section {
				j.stands(again)
				l = again
			}
		}
	}
}

// answerForIt makes passes over the stop until that is refused.
func (j *job) answerForIt(id string) {
	l, ok := j.inHand(id)
	if !ok || l.Hand.MayTap > 0 || waits(l.Hand) || l.Hand.MarksFirst > 0 {
		return
	}
	const most = 60
	for n := range most {
		a := j.tap(id, l, "override", body{"reason": "the owner wants it flat"})
		if n == 0 && a.ok() != l.Hand.MayOverride {
			j.found(10, fmt.Sprintf("answering for a pass is told as %v and answered %d", l.Hand.MayOverride, a.status))
		}
		if !a.ok() {
			break
		}
		j.takes(id, l)
		if n == most-1 {
			j.found(5, fmt.Sprintf("%d passes over the stop are taken", most))
		}
	}
	after, ok := get[api.Level](j.house, "/api/panels/"+id+"/level?section="+l.Section)
	if ok && after.Hand != nil && after.Hand.Ledger.BalanceUm.Mean < 8 && l.Hand.Ledger.BalanceUm.Mean > 12 {
		j.found(5, fmt.Sprintf("passes over the stop left %.1f µm of %.1f", after.Hand.Ledger.BalanceUm.Mean, l.Hand.Ledger.BalanceUm.Mean))
	}
}

func (j *job) goBack(id string) {
	l, ok := get[api.Level](j.house, "/api/panels/"+id+"/level")
	if !ok || l.Waits != "" {
		return
	}
	if len(l.Again) == 0 {
		return
	}
	g := l.Again[0]
	in := body{"id": j.id(), "plan": l.Plan, "section": l.Section, "step": g.Step, "kind": "back", "person": j.painter, "reason": "marks of the old direction"}
	a := j.ask(http.MethodPost, "/api/panels/"+id+"/log", in)
	if g.Ready != a.ok() {
		j.found(10, fmt.Sprintf("going back to %s is told as ready %v and answered %d", g.Title, g.Ready, a.status))
	}
}

func (j *job) tellTrouble(id string) {
	if l, ok := j.inHand(id); ok {
		j.tap(id, l, pick(j.dice, "scrape", "colour", "through"), nil)
	}
}

func (j *job) changeFacts(id string) {
	facts := pick(j.dice, body{"coats": 3}, body{"peel_grade": 6.5}, body{"hardness": "hard"}, body{"past": []string{"polished"}}, body{"aim": pick(j.dice, aimNames...)})
	a := j.ask(http.MethodPatch, "/api/panels/"+id, facts)
	if a.ok() {
		if aim, ok := facts["aim"].(string); ok {
			j.aims[id] = aim
		}
	}
}

func (j *job) lookAtShine(id string) {
	if l, ok := j.inHand(id); ok && l.Hand.PassesDone > 0 && !l.Hand.Locked {
		j.tap(id, l, "shiny", body{"share": j.between(0, 0.6)})
	}
}

func (j *job) otherSection(id string) {
	l, ok := get[api.Level](j.house, "/api/panels/"+id+"/level")
	if !ok || l.Waits != "" || len(l.Sections) == 0 {
		return
	}
	s := l.Sections[j.of(len(l.Sections))]
	if !s.Done {
		j.level(id, s.Key)
	}
}

// quickCheck holds the order of verdicts: more film is never worse.
func (j *job) quickCheck(string) {
	in := body{"finish": pick(j.dice, "refinished", "factory", "single_stage"), "aim": pick(j.dice, aimNames...), "colour": pick(j.dice, colours...)}
	if j.oneIn(2) {
		in["coats"] = 2 + j.of(2)
	}
	// Where nobody says what lies under the paint, or the film contradicts what was said, more
	// film may say that it lies on an old finish: the order holds for one story at a time.
	if in["finish"] == "refinished" {
		in["under"] = pick(j.dice, "new", "over")
	}
	ranks := []string{"open", "tight", "shut"}
	last, lastUM, room := 3, 0.0, 0.0
	for um := 60.0; um <= 260; um += j.between(15, 40) {
		in["total_um"] = um
		a := j.ask(http.MethodPost, "/api/check", in)
		var c api.Check
		if !a.ok() || json.Unmarshal(a.body, &c) != nil {
			continue
		}
		if c.Unlike {
			if c.State == api.StateOpen {
				j.found(9, fmt.Sprintf("%v: %.0f µm is open, and does not agree with what was said", in, um))
			}
			continue
		}
		// Near where the film contradicts what was said, an older finish under it grows likelier, and
		// what may go turns by a little; never where the verdict gets better.
		turn := 2.0
		if r := slices.Index(ranks, string(c.State)); r > last {
			j.found(9, fmt.Sprintf("%v: %.0f µm is %s, %.0f was better", in, um, c.State, lastUM))
		} else {
			if r < last {
				turn = 0.05
			}
			last = r
		}
		if c.HeadroomUm < room-turn && in["coats"] == nil {
			j.found(9, fmt.Sprintf("%v: of %.0f µm %.2f can go, of %.0f it was %.2f", in, um, c.HeadroomUm, lastUM, room))
		}
		lastUM, room = um, c.HeadroomUm
	}
}

func (j *job) audits(string) { j.audit() }

package robot

import (
	"fmt"
	"net/http"
	"time"

	"waxplanus/internal/web/api"
)

// through is the clear (µm) from which on paint counts as gone through.
const through = 10.0

// waits says whether a section waits for the clock.
func waits(h *api.Hand) bool { return h.Cooling != nil || h.SoftUntil != nil }

// level works the section in hand by one step.
func (j *job) level(id, section string) {
	path := "/api/panels/" + id + "/level?person=" + j.person
	if section != "" {
		path += "&section=" + section
	}
	l, ok := get[api.Level](j.house, path)
	if !ok {
		return
	}
	if l.Waits != "" {
		if len(l.Marks) > 0 {
			j.closeMarks(id, l.Marks)
			return
		}
		j.found(2, "Level is next and waits: "+l.Waits)
		return
	}
	if l.Hand == nil {
		return
	}
	h := l.Hand
	if h.NotFor != "" && j.person != j.painter {
		j.person = j.painter
		return
	}
	if waits(h) {
		if h.Cooling != nil {
			j.wait(time.Duration(h.Cooling.Seconds+1) * time.Second)
		} else {
			j.softPaint(id, l)
		}
		return
	}
	if h.MarksFirst > 0 {
		if a := j.tap(id, l, "pass", nil); a.ok() && l.Steps[h.Step-1].Kind != "file" {
			j.found(11, fmt.Sprintf("a pass goes over %d marks that stand: %s", h.MarksFirst, l.MarksHere.Head))
		}
		j.closeMarks(id, l.Marks)
		return
	}
	j.stands(l)
	if h.Locked { // it says so; the next section goes on
		for _, s := range l.Sections {
			if !s.Done && s.Key != l.Section && (s.State == nil || *s.State != api.StateShut || section == "") {
				j.level(id, s.Key)
				return
			}
		}
		j.found(2, "Level is next on a section that is locked: "+h.Headline)
		j.over = true
		return
	}
	t := j.panels[id]
	need := t.passes(l.Steps[h.Step-1].Passes)
	switch {
	case h.PassesDone >= need:
		j.end(id, l)
	case h.PassesNeeded == 0: // a dry wipe shows that it is not out yet
		if h.MayTap == 0 {
			t.short[l.Section] = t.short[l.Section] || l.Steps[h.Step-1].Kind != "level"
			j.end(id, l)
		} else if a := j.pass(id, l); !a.ok() {
			j.found(5, fmt.Sprintf("%d passes are granted and one is refused: %s", h.MayTap, short(a.body)))
		}
	case h.MayTap == 0:
		if a := j.tap(id, l, "pass", nil); a.ok() {
			j.found(5, fmt.Sprintf("nothing is granted and a pass is taken: %s, %s", h.Headline, h.Reason))
		}
		t.short[l.Section] = true
		j.wayOn(id, l)
	case h.ReadAfter == 0:
		if len(l.Spots) == 0 {
			j.found(2, "Level wants a reading and names no place")
			return
		}
		j.retries[id+l.Section]++
		if !j.probe(id, l.Spots[0]) {
			return
		}
		if again, ok := get[api.Level](j.house, path); ok && again.Hand != nil && again.Section == l.Section && again.Hand.Step == h.Step && again.Hand.ReadAfter == 0 && again.Hand.PassesNeeded > 0 && again.Hand.MayTap > 0 {
			if j.retries[id+l.Section]++; j.retries[id+l.Section] > 12 {
				j.found(2, "Level wants a reading again and again")
				j.over = true
			}
		}
	default:
		n, anothers := min(h.ReadAfter, h.MayTap, need-h.PassesDone), t.others(h.Step, j.person, j.painter)
		for range n {
			if a := j.pass(id, l); !a.ok() {
				j.found(5, fmt.Sprintf("%d passes are granted and one is refused: %s", h.MayTap, short(a.body)))
				return
			}
		}
		if again, ok := get[api.Level](j.house, path); ok && !anothers {
			j.foretold(l, again, n)
		}
	}
}

// foretold holds that after n passes Level says what it told of them before, by which a tablet
// without a network goes on. Where somebody takes over a step that was another's, their own cut
// counts from then on, and it may say otherwise.
func (j *job) foretold(before, now api.Level, n int) {
	h := now.Hand
	if h == nil || n == 0 || n > len(before.Hand.Ahead) || now.Section != before.Section || h.Step != before.Hand.Step || h.Locked || waits(h) {
		return
	}
	if told := before.Hand.Ahead[n-1]; told.PassesLeft != h.PassesLeft || told.ReadAfter != h.ReadAfter {
		j.found(4, fmt.Sprintf("after %d passes %d were said to be left and a reading after %d; Level says %d and %d", n, told.PassesLeft, told.ReadAfter, h.PassesLeft, h.ReadAfter))
	}
}

// pass makes a pass: the film is gone.
func (j *job) pass(id string, l api.Level) answer {
	j.wait(time.Duration(l.Hand.PassS * float64(time.Second)))
	a := j.tap(id, l, "pass", nil)
	if a.ok() {
		j.takes(id, l)
	}
	return a
}

// takes has the truth lose what a pass takes.
func (j *job) takes(id string, l api.Level) {
	j.taps++
	st, t := l.Steps[l.Hand.Step-1], j.panels[id]
	if t.by[l.Hand.Step] == nil {
		t.by[l.Hand.Step] = map[string]int{}
	}
	t.by[l.Hand.Step][j.person]++
	t.lost[l.Section] += st.FilmUm.Mean / float64(max(st.Passes, 1)) * t.cut
}

// tap logs an entry on the section in hand.
func (j *job) tap(id string, l api.Level, kind string, more body) answer {
	in := body{"id": j.id(), "plan": l.Plan, "section": l.Section, "step": l.Hand.Step, "kind": kind, "person": j.person, "device": "tablet-one"}
	for k, v := range more {
		in[k] = v
	}
	return j.ask(http.MethodPost, "/api/panels/"+id+"/log", in)
}

// end says that the step is done.
func (j *job) end(id string, l api.Level) {
	if a := j.tap(id, l, "done", body{"reason": "nothing shows any more"}); !a.ok() {
		j.found(10, "a step cannot be ended: "+short(a.body))
		j.over = true
	}
}

// wayOn takes a way where nothing is granted.
func (j *job) wayOn(id string, l api.Level) {
	h := l.Hand
	for _, w := range h.Ways {
		if w.Code == "read" && len(l.Spots) > 0 {
			j.probe(id, l.Spots[0])
			return
		}
	}
	for _, w := range h.Ways {
		if w.Rest != nil {
			if a := j.tap(id, l, "rest", body{"rest": *w.Rest}); !a.ok() {
				j.found(10, fmt.Sprintf("the way %s is told and refused: %s", w.Code, short(a.body)))
			} else {
				return
			}
		}
	}
	if len(h.Ways) == 0 && h.PassesDone == 0 && h.Step == 1 {
		j.found(10, fmt.Sprintf("nothing is granted and no way on is told: %s, %s", h.Headline, h.Reason))
	}
	j.end(id, l)
}

// stands holds what a section says of itself.
func (j *job) stands(l api.Level) {
	h := l.Hand
	if h.State == api.StateOpen && h.Ledger.BalanceUm.Mean < h.Ledger.FloorUm-0.01 {
		j.found(5, fmt.Sprintf("open is said of %.1f µm of clear under a floor of %.1f", h.Ledger.BalanceUm.Mean, h.Ledger.FloorUm))
	}
	if takes := h.RateUm.Mean * float64(h.MayTap); h.MayTap > 0 && h.Ledger.BalanceUm.Mean-takes < through {
		j.found(5, fmt.Sprintf("%d passes of %.2f µm are granted where %.1f µm of clear are left", h.MayTap, h.RateUm.Mean, h.Ledger.BalanceUm.Mean))
	}
	if h.State == api.StateShut && h.MayTap > 0 {
		j.found(5, fmt.Sprintf("the section is shut and %d passes are granted: %s", h.MayTap, h.Reason))
	}
	for _, s := range l.Sections {
		if s.Key == l.Section && s.State != nil && *s.State != h.State {
			j.found(4, fmt.Sprintf("the section is %s in the list and %s in hand", *s.State, h.State))
		}
	}
}

// softPaint holds that nothing is granted on soft paint, then waits; now and then somebody
// answers for it.
func (j *job) softPaint(id string, l api.Level) {
	if a := j.tap(id, l, "pass", nil); a.ok() {
		j.found(11, fmt.Sprintf("a pass is taken on paint that is soft until %s", l.Hand.SoftUntil))
	}
	if l.Hand.MayOverride && l.Hand.MarksFirst == 0 && j.oneIn(8) {
		if a := j.tap(id, l, "override", body{"reason": "it leaves today"}); a.ok() {
			j.takes(id, l)
		} else {
			j.found(10, "an override that is offered on soft paint is refused: "+short(a.body))
		}
		return
	}
	j.wait(l.Hand.SoftUntil.Sub(j.time()) + time.Minute)
}

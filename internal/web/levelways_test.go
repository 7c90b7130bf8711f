package web

import (
	"context"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"

	"waxplanus/core/marks"
	"waxplanus/internal/web/api"
)

// levelled is a bed with its usual plan accepted, and the section in hand.
func levelled(t *testing.T) (*bed, string) {
	b := newBed(t)
	b.readings()
	b.accept()
	return b, b.level().Section
}

func (b *bed) log(n int, id, section, kind string, step int) {
	b.t.Helper()
	for i := range n {
		if w := b.entry(fmt.Sprintf("%s-%02d", id, i), section, kind, step); w.Code != 201 {
			b.t.Fatal(w.Body)
		}
	}
}

// Going back to a coarser grit says its price, wants a fresh reading and a reason,
// and then all finer steps come once more.
func TestGoingBackWantsAReadingAndAReason(t *testing.T) {
	b, section := levelled(t)
	b.log(3, "first", section, "pass", 1)
	b.log(1, "done", section, "done", 1)
	b.log(2, "second", section, "pass", 2)
	l := b.level()
	if len(l.Again) != 1 || l.Again[0].Step != 1 || l.Again[0].TakesUm.Mean <= 0 || !strings.Contains(l.Again[0].Text, "Read the film here first") {
		t.Fatalf("%+v", l.Again)
	}
	if w := b.tell("back-1", "back", `,"reason":"peel is left"`, 1); w.Code != 409 || !strings.Contains(w.Body.String(), "Read the film") {
		t.Errorf("back without a reading: %d %s", w.Code, w.Body)
	}
	b.reading("fresh", 150, 150, 157.6)
	for _, c := range []struct {
		more string
		step int
		code int
	}{{``, 1, 422}, {`,"reason":" no "`, 1, 422}, {`,"reason":"peel is left"`, 3, 409}, {`,"reason":"peel is left"`, 1, 201}} {
		if w := b.tell("back-2", "back", c.more, c.step); w.Code != c.code {
			t.Errorf("back to step %d with %q gives %d: %s", c.step, c.more, w.Code, w.Body)
		}
	}
	h := b.level().Hand
	if h.Step != 1 || h.PassesNeeded != 2 || h.PassesDone != 3 {
		t.Errorf("%+v", h)
	}
	b.log(1, "again", section, "pass", 1)
	if h := b.level().Hand; h.PassesNeeded != 1 {
		t.Errorf("%d passes more of %d", h.PassesNeeded, 2)
	}
	b.log(1, "done-again", section, "done", 1)
	if h := b.level().Hand; h.Step != 2 || h.PassesNeeded < 2 {
		t.Errorf("the finer step is not done again: %+v", h)
	}
}

// Every pass of the log says what it left, a fresh look what is left of a scratch.
func TestTheLogSaysWhatIsLeft(t *testing.T) {
	b, section := levelled(t)
	b.log(3, "first", section, "pass", 1)
	last := 1e9
	for _, e := range b.level().Log {
		if e.LeftUm == nil || e.LeftUm.Mean >= last || e.LeftUm.Sd <= 0 {
			t.Fatalf("%+v after %.1f µm", e, last)
		}
		last = e.LeftUm.Mean
	}
	h := b.level().Hand
	if h.Scratch != "" || h.PassS < 5 || h.PassS > 300 || h.PaperWord != "Paper changed" || h.PaperDue {
		t.Errorf("%+v", h)
	}
	whole := strings.Join(h.Why, " ")
	for _, w := range []string{"a guess from 4 coats", "kept back for doubt", "is the floor", "The plan has 7 passes", "Read after"} {
		if !strings.Contains(whole, w) {
			t.Errorf("%q lacks %q", whole, w)
		}
	}
	b.log(1, "done", section, "done", 1)
	if h = b.level().Hand; !strings.Contains(h.Scratch, "100 % still show") {
		t.Errorf("before the first pass of the second grit: %q", h.Scratch)
	}
	b.log(1, "second", section, "pass", 2)
	if again := b.level().Hand; again.Scratch == h.Scratch {
		t.Errorf("a pass takes nothing out of the scratch: %q", again.Scratch)
	}
}

func TestPadsAreCleanedEverySecondCycle(t *testing.T) {
	b, section := levelled(t)
	for step := 1; step <= 3; step++ {
		b.log(1, fmt.Sprint("done", step), section, "done", step)
	}
	h := b.level().Hand
	if h.Step != 4 || h.PaperWord != "Pad cleaned" || h.PaperDue || h.Paper != "0 cycles since it was cleaned" {
		t.Fatalf("%+v", h)
	}
	b.log(2, "cycle", section, "pass", 4)
	if h = b.level().Hand; !h.PaperDue || h.Paper != "2 cycles since it was cleaned" {
		t.Errorf("%+v", h)
	}
	if !strings.Contains(strings.Join(h.Why, " "), "never with another grade") {
		t.Error(h.Why)
	}
	b.log(1, "clean", section, "paper", 4)
	if h = b.level().Hand; h.PaperDue {
		t.Error("a pad that was cleaned is due")
	}
}

// Where the film is short, ways that fit it are named.
func TestWaysWhereTheFilmIsShort(t *testing.T) {
	b := newBed(t)
	b.into(b.send("PATCH", "/api/panels/"+b.panel, `{"coats":3,"dry_um":24}`), 200, nil)
	b.readings()
	b.accept()
	section := b.level().Section
	if ways := b.level().Hand.Ways; len(ways) != 0 {
		t.Errorf("enough film, and %+v", ways)
	}
	b.log(4, "first", section, "pass", 1)
	if w := b.tell("much", "shiny", `,"share":0.95`, 1); w.Code != 201 { // far from flat
		t.Fatal(w.Body)
	}
	h := b.level().Hand
	if h.PassesGranted >= h.PassesNeeded {
		t.Fatalf("granted %d of %d", h.PassesGranted, h.PassesNeeded)
	}
	codes := map[api.WayCode]string{}
	for _, w := range h.Ways {
		codes[w.Code] = w.Text
	}
	if !strings.Contains(codes[api.WayCodeStop], "the peel stays at") {
		t.Errorf("%+v", h.Ways)
	}
}

// A helper is offered sections whose grit they may run, and no pass of another's.
func TestAHelperRunsFineGritsOnly(t *testing.T) {
	b, section := levelled(t)
	var hands api.Hands
	b.into(b.send("PUT", "/api/people", `{"name":"Nele","coarsest":"P2500"}`), 200, &hands)
	if len(hands.People) != 2 || hands.People[0].May != "P2500 and finer" || hands.People[1].May != "any grit" || hands.Grits[0] != "P600" {
		t.Errorf("%+v", hands)
	}
	b.into(b.send("PUT", "/api/people", `{"name":" Nele "}`), 200, &hands)
	if len(hands.People) != 2 || hands.People[0].Coarsest != "P2500" {
		t.Errorf("taken in again Nele may run more: %+v", hands.People)
	}
	if w := b.send("PUT", "/api/people", `{"name":"Nele","coarsest":"P7"}`); w.Code != 422 || !strings.Contains(w.Body.String(), "no grit") {
		t.Errorf("%d %s", w.Code, w.Body)
	}
	if w := b.send("PUT", "/api/people", `{"name":"  "}`); w.Code != 422 {
		t.Errorf("somebody without a name: %d", w.Code)
	}
	nele := func(rest string) api.Level {
		var l api.Level
		b.get(b.at("/level?person=Nele"+rest), &l)
		return l
	}
	if h := nele("").Hand; !strings.Contains(h.NotFor, "P2000 is coarser than Nele may run") {
		t.Errorf("%q", h.NotFor)
	}
	pass := fmt.Sprintf(`{"id":"entry-nele","section":%q,"step":1,"kind":"pass","person":"Nele"}`, section)
	if w := b.send("POST", b.at("/log"), pass); w.Code != 409 || !strings.Contains(w.Body.String(), "coarser than Nele may run") {
		t.Errorf("%d %s", w.Code, w.Body)
	}
	second := b.level().Sections[1].Key
	b.log(1, "done", second, "done", 1)
	l := nele("")
	if l.Section != second || l.Hand.NotFor != "" || len(l.People) != 2 {
		t.Errorf("Nele is given %s, %q", l.Section, l.Hand.NotFor)
	}
	if w := b.send("POST", b.at("/log"), strings.NewReplacer(section, second, `"step":1`, `"step":2`, "entry-nele", "entry-fine").Replace(pass)); w.Code != 201 {
		t.Errorf("%d %s", w.Code, w.Body)
	}
	if b.level().Section == second {
		t.Error("whoever may run any grit is given the helper's section")
	}
}

// A run is shaved and blocked by the count, and its strokes are on record.
func TestARunIsAJobOfItsOwn(t *testing.T) {
	b, section := levelled(t)
	b.post(b.at("/marks"), `{"id":"mark-run-1","kind":"run","x_mm":150,"y_mm":150,"sizes":{"size_um":40}}`, 201, nil)
	guide := func() api.Guide {
		for _, g := range b.level().Guides {
			if g.Mark == "mark-run-1" {
				return g
			}
		}
		t.Fatal("the run is no job")
		return api.Guide{}
	}
	g := guide()
	if g.Stage != api.GuideStageShave || g.StrokesLeft < 2 || g.StandingUm != 40 || !strings.Contains(g.Caution, "Cut away from hands") {
		t.Fatalf("%+v", g)
	}
	stroke := func(id, kind, mark string) int {
		return b.send("POST", b.at("/log"), fmt.Sprintf(`{"id":"entry-%s","section":%q,"step":1,"kind":%q,"person":"Tove","mark":%q}`, id, section, kind, mark)).Code
	}
	for i := range g.StrokesLeft {
		if code := stroke(fmt.Sprintf("s%02d", i), "shave", g.Mark); code != 201 {
			t.Fatal(code)
		}
	}
	if g = guide(); g.Stage != api.GuideStageBlock || g.PassesLeft < 1 || g.StandingUm >= 40 {
		t.Fatalf("%+v", g)
	}
	for i := range g.PassesLeft {
		stroke(fmt.Sprintf("b%02d", i), "block", g.Mark)
	}
	if g = guide(); g.Stage != api.GuideStageDone || g.ShoulderUm <= 0 {
		t.Errorf("%+v", g)
	}
	if h := b.level().Hand; h.PassesDone != 0 {
		t.Errorf("strokes on a run are %d passes of the section", h.PassesDone)
	}
	if code := stroke("none", "shave", "no-such-mark"); code != 422 {
		t.Errorf("a stroke on no mark gives %d", code)
	}
	if code := stroke("none", "block", ""); code != 422 {
		t.Errorf("a stroke on nothing gives %d", code)
	}
}

// A through spot that is told by its key is a mark, until it is struck out.
func TestAThroughSpotIsAMark(t *testing.T) {
	b, section := levelled(t)
	b.log(1, "through", section, "through", 1)
	find := func() api.Mark {
		var look api.Look
		b.get(b.at("/look"), &look)
		for _, m := range look.Marks {
			if m.Kind == api.MarkKind(marks.Through) {
				return m
			}
		}
		t.Fatal("no mark of it in Look")
		return api.Mark{}
	}
	if m := find(); *m.Section != section || m.StruckAt != nil || m.Person != "Tove" {
		t.Errorf("%+v", m)
	}
	b.into(b.send("POST", "/api/log/entry-through-00/strike", `{"reason":"it was tape"}`), 200, nil)
	if m, err := b.shop.Mark(context.Background(), "through-entry-through-00"); err != nil || m.StruckAt == nil || m.StruckReason != "it was tape" {
		t.Errorf("%+v %v", m, err)
	}
}

// Where only nibs are wanted, each finer step reaches further around them.
func TestCirclesWidenAroundNibs(t *testing.T) {
	b := newBed(t)
	b.into(b.send("PATCH", "/api/panels/"+b.panel, `{"aim":"nibs"}`), 200, nil)
	b.readings()
	b.post(b.at("/marks"), `{"id":"mark-nib-1","kind":"nib","x_mm":300,"y_mm":200}`, 201, nil)
	p := b.plan("")
	if len(p.Offers) == 0 {
		t.Fatalf("%+v", p.Refusal)
	}
	b.post(b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, p.Basis, p.Offers[0].Name), 201, nil)
	l := b.level()
	if len(l.Circles) != len(l.Steps) || len(l.Guides) != 1 || l.Guides[0].Stage != api.GuideStageFile {
		t.Fatalf("%d circles of %d steps, %+v", len(l.Circles), len(l.Steps), l.Guides)
	}
	last := 0.0
	for i, c := range l.Circles {
		if c.XMm != 300 || c.RMm < last || i == 1 && c.RMm < last+5 {
			t.Errorf("%s reaches %.0f mm, the step before %.0f", c.Title, c.RMm, last)
		}
		last = c.RMm
	}
}

// Film does not grow: a reading after passes that shows more than there can be is asked
// back, and one that is kept all the same gives no pass that the others do not.
func TestASlipAfterPassesIsAskedBack(t *testing.T) {
	b, section := levelled(t)
	b.log(2, "first", section, "pass", 1)
	l := b.level()
	spot := l.Spots[0]
	if spot.TotalUm == nil || spot.TotalUm.Sd < 0.8 || spot.TotalUm.Sd > 8 {
		t.Fatalf("%+v is expected", spot.TotalUm)
	}
	body := func(id string, um float64, more string) string {
		return fmt.Sprintf(`{"id":%q,"x_mm":%v,"y_mm":%v,"film":%v,"unit":"um","phase":"total"%s}`, id, spot.XMm, spot.YMm, um, more)
	}
	var p api.Problem
	b.post(b.at("/readings"), body("slip-asked", spot.TotalUm.Mean+30, ""), 409, &p)
	if !strings.Contains(p.Detail, "above") || p.Offers == nil {
		t.Errorf("%+v", p)
	}
	b.post(b.at("/readings"), body("slip-as-told", spot.TotalUm.Mean, ""), 201, nil)
	fits := b.level().Hand.PassesGranted
	b.post(b.at("/readings"), body("slip-kept", spot.TotalUm.Mean+30, `,"sure":"read three times"`), 201, nil)
	if with := b.level().Hand.PassesGranted; with > fits+2 {
		t.Errorf("%d passes were granted, with a slip that was kept %d", fits, with)
	}
}

// A section that ran short is planned anew by the way that is told: its own steps follow,
// other sections keep theirs, nothing else is taken for a way, and it can be taken back
// until passes stand on it.
func TestTheRestIsPlannedAnew(t *testing.T) {
	b := newBed(t)
	b.into(b.send(http.MethodPatch, "/api/panels/"+b.panel, `{"origin":"elsewhere","coats":2,"under":"new","peel_grade":7}`), 200, nil)
	b.post(b.at("/floor"), `{"id":"floor-rest-1","floor_um":20,"person":"Mrs Holm","reason":"rather flat than thick"}`, 201, nil)
	b.readings()
	p := b.plan("")
	b.post(b.at("/plan"), fmt.Sprintf(`{"basis":%q,"ladder":%q}`, p.Basis, p.Offers[0].Name), 201, nil)
	section := b.level().Section
	b.log(2, "first", section, "pass", 1)
	// What was agreed is taken back while the section is worked: nothing more may go.
	b.into(b.send(http.MethodPost, "/api/floors/floor-rest-1/strike", `{"reason":"changed her mind"}`), 204, nil)
	l := b.level()
	if l.Hand.PassesGranted != 0 || l.Hand.Headline != "no more here" {
		t.Fatalf("%d passes are granted: %s", l.Hand.PassesGranted, l.Hand.Headline)
	}
	i := slices.IndexFunc(l.Hand.Ways, func(w api.Way) bool { return w.Code == api.WayCodeShort })
	if i < 0 || l.Hand.Ways[i].Rest == nil {
		t.Fatalf("%+v", l.Hand.Ways)
	}
	rest := *l.Hand.Ways[i].Rest
	if w := b.tell("rest-none", "rest", "", 1); w.Code != 422 {
		t.Errorf("a rest without steps: %d %s", w.Code, w.Body)
	}
	if w := b.tell("rest-own", "rest", `,"rest":"foam-fine*1"`, 1); w.Code != 409 || !strings.Contains(w.Body.String(), "not open any more") {
		t.Errorf("a rest that was not told: %d %s", w.Code, w.Body)
	}
	taken := func(id string) {
		if w := b.tell(id, "rest", fmt.Sprintf(`,"rest":%q`, rest), 1); w.Code != 201 {
			t.Fatalf("the rest that was told: %d %s", w.Code, w.Body)
		}
	}
	planned := func() (minutes float64) {
		for _, l := range b.went().Lines {
			minutes += l.PlannedMin
		}
		return minutes
	}
	before := planned()
	taken("rest-told")
	if after := planned(); after > 1.3*before || after < 0.7*before {
		t.Errorf("the rest of one section makes %.0f of %.0f planned minutes", after, before)
	}
	anew := b.level()
	if len(anew.Steps) <= len(l.Steps) || anew.Hand.Step != len(l.Steps)+1 || anew.Hand.PassesGranted < anew.Hand.PassesNeeded || anew.Hand.PassesNeeded == 0 {
		t.Fatalf("step %d of %d, %d of %d passes granted", anew.Hand.Step, len(anew.Steps), anew.Hand.PassesGranted, anew.Hand.PassesNeeded)
	}
	other := b.sectionBeside(section)
	if other.Hand.Step != 1 {
		t.Errorf("another section is at step %d", other.Hand.Step)
	}
	// Taken back, the section is where it was; taken again, its passes hold it.
	b.into(b.send(http.MethodPost, "/api/log/entry-rest-told/strike", `{"reason":"a slip"}`), 200, nil)
	if back := b.level(); back.Hand.Step != 1 || back.Hand.PassesDone != 2 {
		t.Errorf("taken back, step %d with %d passes", back.Hand.Step, back.Hand.PassesDone)
	}
	taken("rest-again")
	step := b.level().Hand.Step
	b.log(1, "cut", section, "pass", step)
	if w := b.send(http.MethodPost, "/api/log/entry-rest-again/strike", `{"reason":"a slip"}`); w.Code != 409 || !strings.Contains(w.Body.String(), "strike those out first") {
		t.Errorf("a rest with passes is taken back: %d %s", w.Code, w.Body)
	}
	for range 40 { // to the end, as told
		h := b.level().Hand
		if h == nil || h.Step < step {
			break
		}
		kind := "pass"
		if h.PassesNeeded == 0 {
			kind = "done"
		}
		if w := b.entry(fmt.Sprintf("end-%d-%d", h.Step, h.PassesDone)+kind, section, kind, h.Step); w.Code != 201 {
			t.Fatalf("%s at step %d: %d %s", kind, h.Step, w.Code, w.Body)
		}
	}
	var end api.Level
	b.get(b.at("/level?section="+section), &end)
	if end.Hand != nil {
		t.Errorf("the section ends at step %d", end.Hand.Step)
	}
}

// sectionBeside is Level with another section in hand.
func (b *bed) sectionBeside(section string) api.Level {
	b.t.Helper()
	var out api.Level
	for _, s := range b.level().Sections {
		if s.Key != section {
			b.get(b.at("/level?section="+s.Key), &out)
			break
		}
	}
	return out
}

package web

import (
	"context"
	"fmt"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/marks"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// telling is one thing that will not come out, in the owner's words: no grit and
// no µm.
type telling struct{ key, panel, title, text string }

// plainKinds are the marks as an owner calls them.
var plainKinds = map[marks.Kind][2]string{
	marks.Nib: {"speck of dust", "specks of dust"}, marks.Run: {"run", "runs"}, marks.Sag: {"sag", "sags"},
	marks.Peel: {"rough patch", "rough patches"}, marks.Pit: {"pinhole", "pinholes"}, marks.Crater: {"crater", "craters"},
	marks.Scratch: {"scratch", "scratches"}, marks.Etch: {"stain", "stains"}, marks.Overspray: {"patch of dust", "patches of dust"},
	marks.Dull: {"dull patch", "dull patches"}, marks.Curl: {"curly scratch", "curly scratches"},
	marks.ThinEdge: {"thin edge", "thin edges"}, marks.Through: {"bare spot", "bare spots"},
}

var smallNumbers = []string{"", "", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine", "Ten"}

func several(n int) string {
	if n < len(smallNumbers) {
		return smallNumbers[n]
	}
	return fmt.Sprint(n)
}

// tellings lists what will not come out of a car: marks that are left or
// softened, then texture that stays by the aim or for want of film.
func tellings(all []*bench, now time.Time) ([]telling, error) {
	var out []telling
	for _, b := range all {
		js, err := b.liveMarks(now)
		if err != nil {
			return nil, err
		}
		groups := map[string][]judged{}
		var order []string
		for _, j := range js {
			told := openMark(j.row) && j.Do.Tell() || j.row.Outcome == store.OutcomeLeft || j.row.Outcome == store.OutcomeSoft
			if !told || j.Verdict.Why == marks.WhyTextStays {
				continue
			}
			key := fmt.Sprintf("%s|%s|%s", b.row.ID, j.Kind, j.Do)
			if groups[key] == nil {
				order = append(order, key)
			}
			groups[key] = append(groups[key], j)
		}
		for _, key := range order {
			g := groups[key]
			names := plainKinds[g[0].Kind]
			title := fmt.Sprintf("The %s on the %s.", names[0], b.row.Name)
			if len(g) > 1 {
				title = fmt.Sprintf("%s %s on the %s.", several(len(g)), names[1], b.row.Name)
			}
			out = append(out, telling{key, b.row.ID, title, plainWhy(g, b.settled())})
		}
	}
	return append(out, stays(all)...), nil
}

// settled says whether enough was read to say what the film does not allow.
func (b *bench) settled() bool { return len(b.live()) >= enoughSpots }

// plainWhy says to the owner why marks stay, or that they may while too little
// was read.
func plainWhy(g []judged, settled bool) string {
	it, goes, stay, get, them := "It", "goes", "stays", "gets", "it"
	if len(g) > 1 {
		it, goes, stay, get, them = "They", "go", "stay", "get", "them"
	}
	j := g[0]
	switch {
	case j.row.Outcome == store.OutcomeLeft && j.row.OutcomeReason != "":
		return fmt.Sprintf("%s %s: %s.", it, stay, strings.TrimSuffix(j.row.OutcomeReason, "."))
	case j.Do == marks.DoRespray:
		return fmt.Sprintf("%s %s down to the colour. Only new paint helps.", it, goes)
	case j.row.Outcome == store.OutcomeOpen && !settled && (j.Verdict.Why == marks.WhyNoFilm || j.Verdict.Why == marks.WhyDeep || j.Verdict.Why == marks.WhyPartly):
		return fmt.Sprintf("%s may stay: how much clear there is over the colour has still to be measured.", it)
	case j.Do == marks.DoSoften || j.row.Outcome == store.OutcomeSoft:
		return fmt.Sprintf("%s %s softer and %s.", it, get, stay)
	case j.Verdict.Why == marks.WhyNoSanding:
		return fmt.Sprintf("%s %s: this panel is polished and not sanded.", it, stay)
	}
	return fmt.Sprintf("%s %s: there is not enough clear over the colour to take %s out.", it, stay, them)
}

// stays are the panels whose texture will not come out, together by reason.
func stays(all []*bench) []telling {
	type reason struct{ key, one, many string }
	groups := map[reason][]*bench{}
	var order []reason
	for _, b := range all {
		var r reason
		switch {
		case b.aim() == plan.Match:
			r = reason{"match", "It will not be glass. It will look like what is beside it.", "They will not be glass. They will look like what is beside them."}
		case b.aim() == plan.NibsOnly:
			r = reason{"nibs", "It keeps its texture. Dust and runs come out, nothing else is touched.", "They keep their texture. Dust and runs come out, nothing else is touched."}
		case b.aim() == plan.Flat && b.opened.Study != nil && !b.settled() && len(b.sections) > 0 && b.worstState() == film.Shut:
			r = reason{"unsure", "It may not become flat all over: how much clear there is has still to be measured.", "They may not become flat all over: how much clear there is has still to be measured."}
		case b.aim() == plan.Flat && b.opened.Study != nil && len(b.sections) > 0 && b.worstState() == film.Shut:
			r = reason{"thin", "It cannot be made flat all over. There is not enough clear over the colour.", "They cannot be made flat all over. There is not enough clear over the colour."}
		default:
			continue
		}
		if groups[r] == nil {
			order = append(order, r)
		}
		groups[r] = append(groups[r], b)
	}
	var out []telling
	for _, r := range order {
		g := groups[r]
		title, text := "The "+g[0].row.Name+".", r.one
		if len(g) > 1 {
			var names []string
			for _, b := range g {
				names = append(names, b.row.Name)
			}
			title = "The " + strings.Join(names[:len(names)-1], ", ") + " and " + names[len(names)-1] + "."
			text = r.many
		}
		out = append(out, telling{"aim|" + r.key, g[0].row.ID, title, text})
	}
	return out
}

// tellingsOf are the tellings of a car as the screens show them. What was said
// counts only while the words are the same.
func (s *Server) tellingsOf(ctx context.Context, car string, all []*bench) ([]api.Telling, error) {
	said, err := s.store.Tellings(ctx, car)
	if err != nil {
		return nil, err
	}
	list, err := tellings(all, s.now())
	if err != nil {
		return nil, err
	}
	out := []api.Telling{}
	for _, t := range list {
		v := api.Telling{Key: t.key, PanelId: t.panel, Title: t.title, Text: t.text}
		for _, k := range said {
			if k.Key == t.key && k.Text == t.title+" "+t.text {
				v.SaidAt, v.Person = ptr(k.SaidAt), ptr(k.Person)
			}
		}
		out = append(out, v)
	}
	return out, nil
}

// TellOwner keeps that the owner was told.
func (s *Server) TellOwner(ctx context.Context, r api.TellOwnerRequestObject) (api.TellOwnerResponseObject, error) {
	c, err := s.store.Car(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	person, err := personOf(r.Body.Person)
	if err != nil {
		return nil, err
	}
	v, err := s.look(ctx, c)
	if err != nil {
		return nil, err
	}
	if !r.Body.Said {
		if err := s.store.Untell(ctx, c.ID, r.Body.Key); err != nil {
			return nil, err
		}
	} else {
		list, err := tellings(v.all, s.now())
		if err != nil {
			return nil, err
		}
		known := false
		for _, t := range list {
			if t.key == r.Body.Key {
				known = true
				err = s.store.Tell(ctx, store.Telling{CarID: c.ID, Key: t.key, Text: t.title + " " + t.text, SaidAt: s.now(), Person: person})
			}
		}
		if err != nil {
			return nil, err
		}
		if !known {
			return nil, conflict("There is nothing of that kind to tell any more: marks or film have changed. Look again.")
		}
	}
	out, err := s.tellingsOf(ctx, c.ID, v.all)
	return api.TellOwner200JSONResponse(out), err
}

// personOf is a person's name as it was typed.
func personOf(name string) (string, error) {
	name = strings.TrimSpace(name)
	if name == "" || len([]rune(name)) > 40 {
		return "", refuse("person", "Say who does it, in 1 to 40 letters.")
	}
	return name, nil
}

// checklist is what is done to a car before it is looked over, in its order.
var checklist = []struct {
	task api.TaskKind
	text string
}{
	{api.Wash, "Pre-soak and wash, blow out the gaps"},
	{api.Decontaminate, "Remove bonded dirt"},
	{api.Strip, "Strip wax and oils with panel wipe"},
	{api.TakeOff, "Take off what comes off easily"},
	{api.Mask, "Mask rubber, trim, lamps, hard edges"},
}

func (s *Server) checklistOf(ctx context.Context, car string) ([]api.Task, error) {
	done, err := s.store.Tasks(ctx, car)
	if err != nil {
		return nil, err
	}
	out := []api.Task{}
	for _, c := range checklist {
		t := api.Task{Task: c.task, Text: c.text}
		for _, d := range done {
			if d.Task == string(c.task) {
				t.DoneAt, t.Person = ptr(d.DoneAt), ptr(d.Person)
			}
		}
		out = append(out, t)
	}
	return out, nil
}

// TickTask ticks a task or takes the tick back.
func (s *Server) TickTask(ctx context.Context, r api.TickTaskRequestObject) (api.TickTaskResponseObject, error) {
	c, err := s.store.Car(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	if !r.Body.Task.Valid() {
		return nil, refuse("task", "The checklist has wash, decontaminate, strip, take_off and mask; %q is none of these.", r.Body.Task)
	}
	person, err := personOf(r.Body.Person)
	if err != nil {
		return nil, err
	}
	if r.Body.Done {
		err = s.store.Tick(ctx, store.Task{CarID: c.ID, Task: string(r.Body.Task), DoneAt: s.now(), Person: person})
	} else {
		err = s.store.Untick(ctx, c.ID, string(r.Body.Task))
	}
	if err != nil {
		return nil, err
	}
	out, err := s.checklistOf(ctx, c.ID)
	return api.TickTask200JSONResponse(out), err
}

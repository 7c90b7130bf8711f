package wording

import (
	"strings"
	"testing"
	"time"

	"waxplanus/core/care"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/handover"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/keep"
	"waxplanus/internal/shop/refuse"
)

// Days, times, lengths and films are written as the shop writes them.
func TestAShopWritesInItsOwnWay(t *testing.T) {
	at := time.Date(2026, 11, 28, 15, 4, 0, 0, time.UTC)
	for name, c := range map[string]struct {
		face             house.Face
		day, time, clock string
		length           string
	}{
		"usual":    {house.Face{}, "28 November 2026", "28 Nov 15:04", "15:04", "25 mm"},
		"American": {house.Face{Dates: "mdy", Clock: "12", Length: "in"}, "November 28, 2026", "Nov 28 3:04 pm", "3:04 pm", "0.98 in"},
		"ordered":  {house.Face{Dates: "ymd", Clock: "24", Length: "mm"}, "2026-11-28", "2026-11-28 15:04", "15:04", "25 mm"},
	} {
		w := Words{Face: c.face}
		if w.day(at) != c.day || w.dayTime(at) != c.time || w.clock(at) != c.clock || w.length(25) != c.length {
			t.Errorf("%s: %q, %q, %q, %q", name, w.day(at), w.dayTime(at), w.clock(at), w.length(25))
		}
	}
	refused := (Words{Face: house.Face{Length: "in"}}).Refusal(refuse.Because(refuse.PlaceOutside, "x_mm", refuse.Length(254), refuse.Length(508), "door", refuse.Length(127), refuse.Length(127)))
	if refused != "10 in, 20 in is outside the door, which is 5 in wide and 5 in high." {
		t.Error(refused)
	}
}

// A wait is told with its day and what it is about; one that nobody knows the day of says so.
func TestWaitsAreTold(t *testing.T) {
	now := time.Date(2026, 11, 28, 15, 0, 0, 0, time.UTC)
	w := Words{}
	for _, c := range []struct {
		wait       care.Wait
		when, text string
	}{
		{care.Wait{Kind: care.Dry, Panels: []string{"roof"}, Until: now.Add(20 * time.Hour), Sealed: true}, "Sun 11:00", "keep the roof dry: no rain, no dew, no hose: it was sealed."},
		{care.Wait{Kind: care.Breathe, Panels: []string{"roof", "left door"}, Until: now.Add(30 * 24 * time.Hour), Sheet: true}, "28 December 2026",
			"no wax, coating, film or cover on the roof and left door before that: fresh paint has to breathe (the paint maker's sheet)."},
		{care.Wait{Kind: care.Wash, Panels: []string{"roof"}}, "ask us", "no washing of the roof before that; the day it was sprayed is not known here."},
	} {
		if when, text := w.Until(c.wait, now), w.Wait(c.wait); when != c.when || text != c.text {
			t.Errorf("%q, %q", when, text)
		}
	}
	h := &handover.Handing{At: now, Waits: []care.Wait{{Kind: care.Dry, Panels: []string{"roof"}}, {Kind: care.Wash, Panels: []string{"roof", "bonnet"}}, {Kind: care.Dry, Panels: []string{"door"}, Until: now.Add(time.Hour)}}}
	if all := w.until(h); len(all) != 2 || all[0].Bold != "Sat 16:00" || all[1].Text != "how long to keep the roof and bonnet dry, unwashed and unsealed: the day of spraying is not known here." {
		t.Errorf("%+v", all)
	}
	if got := w.WaitTitle(care.Wait{Kind: care.Breathe}, "Van"); got != "Van may be waxed or coated" {
		t.Error(got)
	}
}

// Everything that may be still to do, that a list may differ in, that a hand over may be, has its
// words.
func TestHandOverHasItsWords(t *testing.T) {
	for task := range todoWords {
		one, many := HandTodo(handover.HandTodo{Task: task, Count: 1}), HandTodo(handover.HandTodo{Task: task, Count: 3})
		if one == "" || strings.Contains(one+many, "%") || strings.Contains(one, "sections") {
			t.Errorf("%s: %q and %q", task, one, many)
		}
	}
	for _, c := range []struct {
		change     keep.CarChange
		name, text string
	}{
		{keep.CarChange{Panel: "roof", List: "readings", New: 1, Own: 2}, "roof", "1 reading more; 2 readings only here, which stays"},
		{keep.CarChange{Panel: "roof", List: "log", New: 12}, "roof", "12 entries of the log more"},
		{keep.CarChange{Panel: "roof", List: "panels", Changed: 1, Columns: map[string]int{"aim": 1, "coats": 1}}, "roof", "other than here (coats, the aim)"},
		{keep.CarChange{List: "tellings", New: 2}, "the car", "2 things told more"},
		{keep.CarChange{Panel: "roof", List: "readings", Changed: 1, Columns: map[string]int{"struck_at": 1, "struck_reason": 1}}, "roof", "1 reading other than here (struck out)"},
	} {
		if name, text := CarChange(c.change); name != c.name || text != c.text {
			t.Errorf("%q: %q", name, text)
		}
	}
	for kind, want := range map[string]string{handover.HandedOver: "Handed over on 28 November 2026 by Tove: in a hurry.", handover.Reopened: "Opened again on 28 November 2026 by Tove: in a hurry.",
		handover.Forgotten: "What was known of the owner was deleted on 28 November 2026 by Tove: in a hurry."} {
		if got := (Words{}).HandHistory(handover.Handover{Kind: kind, Person: "Tove", Reason: "in a hurry.", OnDay: time.Date(2026, 11, 28, 0, 0, 0, 0, time.UTC)}); got != want {
			t.Error(got)
		}
	}
	if car, owner := Nameless("panel-van", 12); car != "Panel van no. 12" || owner != "the owner" {
		t.Errorf("%q, %q", car, owner)
	}
}

// What was found is told, with a link to where it is.
func TestWhatWasFoundIsTold(t *testing.T) {
	for _, c := range []struct {
		found      cars.Found
		text, link string
	}{
		{cars.Found{Kind: cars.FoundCar, CarID: "c"}, "a car", "/cars/c"},
		{cars.Found{Kind: cars.FoundWords, CarID: "c", Text: "too dull"}, "the owner: “too dull”", "/cars/c/take-in"},
		{cars.Found{Kind: cars.FoundMark, PanelID: "p", PanelName: "left door", Text: "nib felt beside the handle open  left door"}, "a mark: nib felt beside the handle open", "/panels/p/look"},
		{cars.Found{Kind: cars.FoundFilm, PanelID: "p", Film: 118.4}, "a reading of 118 µm", "/panels/p/read"},
		{cars.Found{Kind: cars.FoundReading, PanelID: "p", PanelName: "roof", Film: 80, Text: "tape  roof"}, "a reading of 80 µm: tape", "/panels/p/read"},
	} {
		if text, link := (Words{}).Found(c.found); text != c.text || link != c.link {
			t.Errorf("%q %q", text, link)
		}
	}
}

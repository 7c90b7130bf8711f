package web

import (
	"fmt"
	"strings"
	"testing"

	"waxplanus/internal/web/api"
)

// A worked panel whose readings were all struck out has no film to go by: Level waits
// for new ones, and every other screen goes on.
func TestAWorkedPanelWithoutReadingsWaits(t *testing.T) {
	b, section := levelled(t)
	b.log(2, "pass", section, "pass", 1)
	for i := range 3 {
		for _, k := range []string{"a", "b"} {
			b.into(b.send("POST", fmt.Sprintf("/api/readings/reading-%s%d/strike", k, i), `{"reason":"wrong panel"}`), 200, nil)
		}
	}
	for _, path := range []string{b.at("/plan"), b.at("/read"), b.at("/look"), "/api/people", "/api/cars", "/api/cars/" + b.car, "/api/cars/" + b.car + "/plans"} {
		if w := b.send("GET", path, ""); w.Code != 200 {
			t.Errorf("%s gives %d: %s", path, w.Code, w.Body)
		}
	}
	var l api.Level
	b.get(b.at("/level"), &l)
	if l.Hand != nil || !strings.Contains(l.Waits, "Waits for Read") || len(l.Log) != 2 {
		t.Errorf("%q, %d entries", l.Waits, len(l.Log))
	}
	if w := b.entry("blind", section, "pass", 1); w.Code != 409 || !strings.Contains(w.Body.String(), "Read") {
		t.Errorf("a pass without film gives %d: %s", w.Code, w.Body)
	}
	b.reading("new", 150, 150, 158)
	if l := b.level(); l.Hand == nil || l.Hand.PassesDone != 2 || l.Hand.Ledger.OpeningUm.Mean <= l.Hand.Ledger.BalanceUm.Mean {
		t.Errorf("with a reading after the passes: %q, %+v", l.Waits, l.Hand)
	}
}

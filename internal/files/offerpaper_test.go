package files

import (
	"fmt"
	"strings"
	"testing"
)

// What will not come out is never cut off: where the front has no room for it, all of it is
// on the back, and the front says so.
func TestNobodySignsForWhatWasCutOff(t *testing.T) {
	for _, things := range []int{1, 3, 12} {
		s := &OfferSheet{Title: "Van", Shop: "Saltmarsh Refinish", Paper: "a4", StaysHead: "Will not come out:", OverLeaf: "All of it is on the back.", Number: "number", Sign: "name"}
		for range 4 {
			c := OfferColumn{Head: "Flat as glass", Looks: "The lamps stand straight.", Price: "980 €", Ready: "Mon", Clear: &OfferClear{Before: 50, Stays: 41, Floor: 40}}
			for i := range things {
				c.Stays = append(c.Stays, fmt.Sprintf("Scratch-%d on the left rear door. It gets softer and stays, as there is not enough clear over the colour.", i+1))
			}
			s.Columns = append(s.Columns, c)
		}
		p, err := OfferPaper(s)
		if err != nil {
			t.Fatal(err)
		}
		full := string(p.SVG(0))
		if p.Pages() > 1 {
			full = ""
			for i := range p.Pages() - 1 {
				full += string(p.SVG(i + 1))
			}
		}
		if overleaf := strings.Contains(string(p.SVG(0)), s.OverLeaf); overleaf != (p.Pages() > 1) || strings.Count(full, "Scratch-") < 4*things || things == 1 && overleaf || things == 12 && !overleaf {
			t.Errorf("%d things: %d pages, %d of %d told", things, p.Pages(), strings.Count(full, "Scratch-"), 4*things)
		}
	}
}

// What is in a column stays in it, however many columns there are.
func TestTextIsSetSmallerWhereItWouldRunOver(t *testing.T) {
	for _, text := range []string{"Flat", "Each panel as wanted by the owner"} {
		size := fitting(Head, 12, 40, text)
		if size > 12 || Wide(Head, size, text) > 40.001 || size < 12 && Wide(Head, size, text) < 39.9 {
			t.Errorf("%q at %.1f points is %.1f mm wide", text, size, Wide(Head, size, text))
		}
	}
}

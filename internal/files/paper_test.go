package files

import (
	"bytes"
	"encoding/json"
	"encoding/xml"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"math"
	"regexp"
	"strings"
	"testing"
	"time"

	"waxplanus/core/flatlay"
)

func photoOf(t *testing.T, w, h int) []byte {
	t.Helper()
	var out bytes.Buffer
	if err := jpeg.Encode(&out, image.NewGray(image.Rect(0, 0, w, h)), nil); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func flapFlat() *Flat {
	return &Flat{W: 900, H: 600, Text: "Before: 3 marks found", Dots: []Spot{{Point: flatlay.Point{X: 100, Y: 100}, Size: 1, Fill: "#eade54"}}, Legend: []Swatch{{"#474c61", "worked on"}},
		Shapes: []Shape{{Outlines: [][]flatlay.Point{{{X: 0, Y: 0}, {X: 900, Y: 0}, {X: 900, Y: 600}, {X: 0, Y: 600}}}, Fill: "#7ac9af", Ink: "#1d1f37", Label: "42", LabelInk: "#1d1f37", At: flatlay.Point{X: 450, Y: 300}}}}
}

func report(t *testing.T, panels int) *Report {
	r := &Report{Title: "Łódź & Brückner’s <van>", Sub: "What was done", Shop: "Saltmarsh Refinish", Logo: photoOf(t, 60, 30), Paper: "a4", Foot: "Saltmarsh · van", Kind: "owner’s report",
		Heads: ReportHeads{"What was done", "What stays", "Clear that is left", "Until when", "How to keep it", "Who", "Mind"}, Before: flapFlat(), After: flapFlat(),
		Pair:  &Pair{Before: photoOf(t, 90, 46), After: photoOf(t, 90, 46), BeforeText: "Before", AfterText: "After", BeforeAlt: "wavy lamps", AfterAlt: "straight lamps"},
		Until: []Item{{"Thu 09:00", "keep it dry"}}, Keep: []Item{{"", "Two buckets."}}, Work: []Item{{"Tove.", "104 passes."}}, Cautions: []string{"Dust can harm."}, Note: "Come by in June.",
		Clear: &PaperTable{Caption: "Clear", Head: []string{"", "before", "left"}, Right: []bool{false, true, true}, Wide: []float64{0.4, 0.2, 0.2, 0.2}}}
	for i := range panels {
		r.Done = append(r.Done, Item{fmt.Sprintf("Panel %d.", i), "Levelled flat: 14 specks of dust and one run gone, and some more words so that it wants two lines of the column."})
		r.Stays = append(r.Stays, Item{fmt.Sprintf("The scratch %d.", i), "It stays."})
		r.Clear.Rows = append(r.Clear.Rows, TableRow{Cells: []string{fmt.Sprintf("panel %d", i), "49", "40 ± 3"}, Strong: true, Bar: &FilmBar{Clear: 40, Taken: 9, Floor: 30, Doubt: 3}})
	}
	return r
}

// Whatever is on a paper lies on its page, for one panel and for many, on both sizes.
func TestNothingRunsOffThePage(t *testing.T) {
	for _, size := range []string{"a4", "letter"} {
		last := 0
		for _, panels := range []int{0, 1, 6, 20, 60} {
			r := report(t, panels)
			r.Paper = size
			p, err := ReportPaper(r)
			if err != nil {
				t.Fatal(err)
			}
			if p.Pages() < max(last, 1) || panels <= 1 && p.Pages() > 1 {
				t.Errorf("%s, %d panels: %d pages after %d", size, panels, p.Pages(), last)
			}
			last = p.Pages()
			for no, page := range p.pages {
				for _, d := range page {
					onPage(t, p, fmt.Sprintf("%s, %d panels, page %d", size, panels, no+1), d)
				}
			}
		}
	}
	if _, err := NewPaper("x", "a5"); !errors.Is(err, ErrPaper) {
		t.Errorf("a5 gives %v", err)
	}
}

func onPage(t *testing.T, p *Paper, where string, d drawing) {
	t.Helper()
	inside := func(x, y float64) {
		if x < 5 || x > p.W-5 || y < 5 || y > p.H-5 {
			t.Errorf("%s: %q lies at %.0f, %.0f of %.0f by %.0f", where, d.text, x, y, p.W, p.H)
		}
	}
	switch {
	case d.text != "":
		inside(d.x, d.y)
		inside(d.x+d.w, d.y)
	case d.picture != nil:
		inside(d.x, d.y)
		inside(d.x+d.w, d.y+d.h)
	}
	for _, path := range d.paths {
		for _, q := range path {
			inside(q.X, q.Y)
		}
	}
}

// A PDF has its fonts in it and its pages; an SVG is well formed, says the same, and has no
// script.
func TestPapersArePrintedAsTheyAreShown(t *testing.T) {
	p, err := ReportPaper(report(t, 20))
	if err != nil {
		t.Fatal(err)
	}
	var pdf bytes.Buffer
	if err := p.PDF(&pdf); err != nil {
		t.Fatal(err)
	}
	if n := len(regexp.MustCompile(`/Type /Page\b`).FindAll(pdf.Bytes(), -1)); n != p.Pages() {
		t.Errorf("%d pages of %d", n, p.Pages())
	}
	if n := bytes.Count(pdf.Bytes(), []byte("/FontFile2")); n < 4 { // text, bold and headings, and letters of central Europe
		t.Errorf("%d fonts are in it", n)
	}
	if bytes.Contains(pdf.Bytes(), []byte("/Helvetica")) {
		t.Error("a font is not in it")
	}
	said := ""
	for i := range p.Pages() {
		dec := xml.NewDecoder(bytes.NewReader(p.SVG(i)))
		for {
			token, err := dec.Token()
			if errors.Is(err, io.EOF) {
				break
			}
			if err != nil {
				t.Fatalf("page %d: %v", i, err)
			}
			if s, ok := token.(xml.StartElement); ok && s.Name.Local == "script" {
				t.Error("a script is in it")
			}
			if text, ok := token.(xml.CharData); ok {
				said += string(text) + " "
			}
		}
	}
	for _, want := range []string{"Łódź & Brückner’s", "Saltmarsh Refinish", "page 1 of", "panel 19", "Come by in June.", "Dust can harm."} {
		if !strings.Contains(said, want) {
			t.Errorf("no page says %q", want)
		}
	}
	var html bytes.Buffer
	if err := ReportHTML(&html, report(t, 3)); err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{`alt="wavy lamps"`, `<th scope="row">panel 2</th>`, `<th scope="col" class="right">left</th>`, "<caption>Clear</caption>", "&lt;van&gt;", `<html lang="en">`, "<meter"} {
		if !strings.Contains(html.String(), want) {
			t.Errorf("the page does not have %s", want)
		}
	}
}

// Lines are no wider than they may be, and nothing is lost between them.
func TestTextIsBroken(t *testing.T) {
	text := "Levelled to match what is beside it: 14 dust spots, runs and pits gone. Donaudampfschifffahrtsgesellschaft µm ± Žluťoučký"
	for _, wide := range []float64{12, 30, 70, 500} {
		all := Broken(Text, 10, wide, text)
		for _, line := range all {
			if w := Wide(Text, 10, line); w > wide && len([]rune(line)) > 1 {
				t.Errorf("%q is %.1f mm wide, and may be %.0f", line, w, wide)
			}
		}
		if squeezed(strings.Join(all, "")) != squeezed(text) {
			t.Errorf("at %.0f mm: %q", wide, all)
		}
	}
	if a, b := Wide(Text, 10, "mm"), Wide(Text, 20, "mm"); math.Abs(b-2*a) > 1e-9 || a <= 0 {
		t.Errorf("%v and %v", a, b)
	}
	if got := runs(Text, "a漢b"); len(got) != 1 || got[0].text != "a?b" {
		t.Errorf("%+v", got)
	}
}

func squeezed(s string) string { return strings.ReplaceAll(s, " ", "") }

// The film record goes out as CSV and JSON, marks as CSV, waits as a calendar that folds its lines
// and hides its signs.
func TestRecordsMarksAndCalendarsAreWritten(t *testing.T) {
	room, floor := 8.25, 30.0
	r := FilmRecord{Format: RecordFormat, Version: RecordVersion, Car: "Van", Panels: []RecordedPanel{
		{Key: "bonnet", Name: "=cmd()", Film: &Value{120, 3}, ClearLeft: &Value{40, 5}, Room: &room, Floor: &floor, Readings: []RecordedReading{{No: 1}, {No: 2, Struck: "tape"}},
			Steps: []RecordedStep{{What: "P1500", Passes: 6, Last: time.Date(2026, 1, 2, 3, 4, 5, 0, time.UTC)}}}, {Key: "roof", Name: "roof"}}}
	var csv, raw, all, ics bytes.Buffer
	if err := errors.Join(r.CSV(&csv), r.JSON(&raw), WriteMarks(&all, []KeptMark{{Panel: "roof", Kind: "nib", X: 10, Size: 12, Note: "-5, beside"}}),
		WriteCalendar(&ics, "Van; old", time.Unix(0, 0), []Event{{ID: "a", Title: "Van, may get wet", Text: strings.Repeat("é, ", 60), From: time.Unix(3600, 0), To: time.Unix(7200, 0)}})); err != nil {
		t.Fatal(err)
	}
	if lines := strings.Split(csv.String(), "\n"); len(lines) != 4 || !strings.HasPrefix(lines[1], "'=cmd(),bonnet,") || !strings.Contains(lines[1], ",8.25,30.00,,1,P1500 x 6,2026-01-02T03:04:05Z") || !strings.HasPrefix(lines[2], "roof,roof,,,,,") {
		t.Errorf("%s", csv.String())
	}
	var back FilmRecord
	if err := json.Unmarshal(raw.Bytes(), &back); err != nil || *back.Panels[0].Room != room || back.Panels[1].Film != nil {
		t.Errorf("%v %s", err, raw.String())
	}
	if !strings.Contains(all.String(), `roof,,0,nib,10,0,,,,,12,,,,,,"'-5, beside",`) {
		t.Errorf("%s", all.String())
	}
	for line := range strings.SplitSeq(strings.TrimSuffix(ics.String(), "\r\n"), "\r\n") {
		if len(line) > mostOctets || strings.ContainsAny(line, "\r\n") {
			t.Errorf("a line of %d: %q", len(line), line)
		}
	}
	for _, want := range []string{`X-WR-CALNAME:Van\; old`, `SUMMARY:Van\, may get wet`, "DTSTART:19700101T010000Z", "END:VCALENDAR"} {
		if !strings.Contains(ics.String(), want) {
			t.Errorf("no %s in %s", want, ics.String())
		}
	}
}

// What stands out of an item may be longer than its column, as the names of many panels are: it
// stands above then. Nothing is lost, and text ends however narrow a column is.
func TestLongNamesOfAnItemStandAbove(t *testing.T) {
	names := strings.Repeat("left front door, right rear side, ", 6) + "bonnet:"
	for _, wide := range []float64{84, 30} {
		above, lines := itemLines(Item{Bold: names, Text: "levelled flat in four passes"}, wide, 0)
		if len(above) < 2 || strings.Join(above, " ") != names || strings.Join(lines, " ") != "levelled flat in four passes" {
			t.Errorf("%v mm: %q, then %q", wide, above, lines)
		}
		for _, line := range above {
			if Wide(Bold, usual, line) > wide {
				t.Errorf("%v mm: %q is wider", wide, line)
			}
		}
	}
	if got := strings.Join(Broken(Text, usual, -1, "two words"), ""); got != "twowords" {
		t.Errorf("in no room at all the text is %q", got)
	}
}

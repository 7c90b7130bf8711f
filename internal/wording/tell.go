package wording

import (
	"fmt"
	"strings"

	"waxplanus/core/marks"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/panel"
)

// What the owner hears: no grit and no µm.

// plainKinds are the marks as an owner calls them, one and several.
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

// Telling says one thing that will not come out: what, and why.
func (w Words) Telling(t cars.Telling) (title, text string) {
	if len(t.Marks) == 0 {
		return textureStays(t)
	}
	names := plainKinds[t.Marks[0].Kind]
	title = fmt.Sprintf("The %s on the %s.", names[0], t.Panels[0])
	if n := len(t.Marks); n > 1 {
		title = fmt.Sprintf("%s %s on the %s.", several(n), names[1], t.Panels[0])
	}
	return title, marksStay(t.Marks, t.Reason)
}

// Told is a telling as it is said to the owner, in one piece.
func (w Words) Told(t cars.Telling) string {
	title, text := w.Telling(t)
	return title + " " + text
}

// marksStay says why marks stay, or that they may while too little was read.
func marksStay(all []panel.JudgedMark, reason cars.TellReason) string {
	it, goes, stays, gets, them := "It", "goes", "stays", "gets", "it"
	if len(all) > 1 {
		it, goes, stays, gets, them = "They", "go", "stay", "get", "them"
	}
	switch reason {
	case cars.StaysAsSaid:
		return fmt.Sprintf("%s %s: %s.", it, stays, strings.TrimSuffix(all[0].Reason, "."))
	case cars.StaysToColour:
		return fmt.Sprintf("%s %s down to the colour. Only new paint helps.", it, goes)
	case cars.StaysUnread:
		return fmt.Sprintf("%s may stay: how much clear there is over the colour has still to be measured.", it)
	case cars.StaysSofter:
		return fmt.Sprintf("%s %s softer and %s.", it, gets, stays)
	case cars.StaysUnsanded:
		return fmt.Sprintf("%s %s: this panel is polished and not sanded.", it, stays)
	}
	return fmt.Sprintf("%s %s: there is not enough clear over the colour to take %s out.", it, stays, them)
}

// stayWords are why texture stays, on one panel and on several.
var stayWords = map[cars.TellReason][2]string{
	cars.StaysByMatch: {"It will not be glass. It will look like what is beside it.", "They will not be glass. They will look like what is beside them."},
	cars.StaysByNibs:  {"It keeps its texture. Dust and runs come out, nothing else is touched.", "They keep their texture. Dust and runs come out, nothing else is touched."},
	cars.StaysUnsure: {"It may not become flat all over: how much clear there is has still to be measured.",
		"They may not become flat all over: how much clear there is has still to be measured."},
	cars.StaysLittle: {"It can be made flat, but little clear stays over the colour: it can hardly be polished again later.",
		"They can be made flat, but little clear stays over the colour: they can hardly be polished again later."},
	cars.StaysThin: {"It cannot be made flat all over. There is not enough clear over the colour.", "They cannot be made flat all over. There is not enough clear over the colour."},
}

func textureStays(t cars.Telling) (title, text string) {
	n := len(t.Panels)
	if n == 1 {
		return "The " + t.Panels[0] + ".", stayWords[t.Reason][0]
	}
	return "The " + strings.Join(t.Panels[:n-1], ", ") + " and " + t.Panels[n-1] + ".", stayWords[t.Reason][1]
}

// Task names a task of the checklist.
func (w Words) Task(k cars.TaskKind) string {
	return map[cars.TaskKind]string{
		cars.Wash: "Pre-soak and wash, blow out the gaps", cars.Decontaminate: "Remove bonded dirt", cars.StripWax: "Strip wax and oils with panel wipe",
		cars.TakeOff: "Take off what comes off easily", cars.Mask: "Mask rubber, trim, lamps, hard edges",
	}[k]
}

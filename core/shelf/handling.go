package shelf

// Handling is the time of a job that no tool touches the paint in. Areas are of the panels
// that are worked, lengths of their outlines. All of it is judgement, set so that whole jobs
// take what practice takes; a shop changes it.
type Handling struct {
	Wash       float64 // min a m²: wash, bonded dirt, dry, blow out, panel wipe
	Mask       float64 // s a m: rubber, trim, lamps and gaps before sanding, and off again
	MaskPolish float64 // s a m: the same before a polish alone
	Move       float64 // s a panel and step: lamps, stool, hoses, cords
	Rinse      float64 // s a m² and pass with an abrasive: paper and panel
	Between    float64 // min a m² and grit: the panel is washed and dried before the next one
	Again      float64 // share of passes with an abrasive that are done again after a look
	AgainPad   float64 // share of the cycles of a pad
	Break      float64 // min an hour of work with a machine
	BreakHand  float64 // min an hour of work by hand
	Clean      float64 // min a m²: compound out of gaps, jambs, wash
}

var usualHandling = Handling{Wash: 12, Mask: 65, MaskPolish: 30, Move: 180, Rinse: 75, Between: 4.5, Again: 0.38, AgainPad: 0.13, Break: 9, BreakHand: 8, Clean: 4}

// Share is what the minutes of work become with what is done again and with breaks.
func (h Handling) Share(abrasive, machine bool) float64 {
	again, rest := h.AgainPad, h.BreakHand
	if abrasive {
		again = h.Again
	}
	if machine {
		rest = h.Break
	}
	return (1 + again) * (1 + rest/60)
}

func (h *Handling) slots(add func(key, name, unit string, least, most float64, at *float64)) {
	add("wash", "wash, dirt off, dry, blow out and wipe", "min a m²", 0, 60, &h.Wash)
	add("mask", "masking before sanding, and off again", "s a m of outline", 0, 600, &h.Mask)
	add("mask_polish", "masking before a polish, and off again", "s a m of outline", 0, 600, &h.MaskPolish)
	add("move", "lamps, stool and hoses to a panel, each step", "s", 0, 1800, &h.Move)
	add("rinse", "rinsing paper and panel, each pass", "s a m²", 0, 600, &h.Rinse)
	add("between", "washing between grits", "min a m²", 0, 60, &h.Between)
	add("again", "passes done again after a look, grits", "of the passes", 0, 3, &h.Again)
	add("again_pad", "cycles done again after a look, pads", "of the cycles", 0, 3, &h.AgainPad)
	add("break", "breaks in an hour with a machine", "min", 0, 60, &h.Break)
	add("break_hand", "breaks in an hour by hand", "min", 0, 60, &h.BreakHand)
	add("clean", "compound out of gaps, jambs, last wash", "min a m²", 0, 60, &h.Clean)
}

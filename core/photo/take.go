package photo

// Area is a part of a photo: its corners as shares (0 to 1) of the photo's sides. The zero
// value is all of it.
type Area struct {
	Left, Top, Right, Bottom float64
}

// Whole says whether it is all of a photo.
func (a Area) Whole() bool { return a == Area{} || a == Area{0, 0, 1, 1} }

// of cuts the area out of a photo, and says where it begins there, in pixels.
func (a Area) of(p Picture) (part Picture, x, y float64) {
	if a.Whole() {
		return p, 0, 0
	}
	return p.Cut(a.Left, a.Top, a.Right, a.Bottom), float64(at(a.Left, p.W)), float64(at(a.Top, p.H))
}

// Take is how a photo of a lamp was taken and what of it is read. Scale says that a card lies
// on the panel, which tells mm a pixel and the blur of the lens; it may lie beside the area.
type Take struct {
	Lamp
	Scale bool
	Area  Area
}

// Read reads a reflection, with the lamp as the card has it and the part that was read. It
// returns a Refusal where the photo tells nothing.
func (t Take) Read(p Picture) (r Reading, l Lamp, part Picture, err error) {
	l = t.Lamp
	part, x, y := t.Area.of(p)
	if t.Scale {
		c, err := FindCard(p, l.Gamma)
		if err != nil {
			return r, l, part, err
		}
		for i := range c.Corners {
			c.Corners[i][0] -= x
			c.Corners[i][1] -= y
		}
		l = l.With(c)
	}
	r, err = Reflect(part, l)
	return r, l, part, err
}

// ReadShinyIn reads which share of an area of a photo still shines, with that area.
func ReadShinyIn(p Picture, a Area, gamma float64, shiny Looks) (Shiny, Picture, error) {
	part, _, _ := a.of(p)
	r, err := ReadShiny(part, gamma, shiny)
	return r, part, err
}

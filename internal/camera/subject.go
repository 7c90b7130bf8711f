package camera

import "waxplanus/internal/shop/advice"

// Of is what stands before the camera, as the shop knows it.
func Of(p advice.Subject) Subject {
	out := Subject{Panel: p.Panel, Section: p.Section, Colour: p.Colour, PeelGrade: p.EyeGrade}
	for _, st := range p.Worked {
		out.Worked = append(out.Worked, Step{Title: st.Title, Passes: st.Passes, CutUM: st.Rate, GrainUM: st.D50, ScratchUM: st.Scratch,
			StiffMPa: st.Backing.E, SheetNM: st.Backing.D, PressKPa: st.Backing.P0})
	}
	return out
}

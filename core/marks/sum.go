package marks

// Judged is a mark with what is known of the film at its place, and its verdict.
type Judged struct {
	Mark
	Place Place
	Verdict
}

// Sum is a panel's marks together.
type Sum struct {
	Count   map[Kind]int
	Do      map[Do]int
	Nibs    int
	PerM2   float64 // nibs a square metre
	Spot    Way     // spotting its nibs, runs and pits one by one
	Panel   Way     // the whole panel
	Even    int     // nibs from which spotting takes longer than the panel
	Quicker string  // "spot" or "panel"
	Feather float64 // how far the finish of a nib spreads around it, mm
}

// Way is one way to be rid of marks: its time in s and the film it takes where a
// nib was, µm.
type Way struct{ Seconds, Film float64 }

// SumUp counts the marks of a panel of m2 square metres and holds spotting
// against working the whole panel, which takes the time and film of whole.
func SumUp(all []Judged, m2 float64, whole Way, colour string) Sum {
	s := Sum{Count: map[Kind]int{}, Do: map[Do]int{}, Panel: whole}
	spots, own := 0, 0.0
	for _, j := range all {
		s.Count[j.Kind]++
		s.Do[j.Do]++
		if j.Seconds > 0 {
			spots++
			own += j.Seconds - UsualSpots.Each
			if j.Do == DoSpot {
				s.Spot.Film = max(s.Spot.Film, j.Film)
			}
		}
	}
	s.Nibs = s.Count[Nib]
	if m2 > 0 {
		s.PerM2 = float64(s.Nibs) / m2
	}
	s.Spot.Seconds = UsualSpots.Time(spots, m2) + own
	s.Even = UsualSpots.BreakEven(m2, whole.Seconds)
	s.Quicker = "spot"
	if s.Spot.Seconds > whole.Seconds {
		s.Quicker = "panel"
	}
	s.Feather = Feather(s.Spot.Film, Arcmin(colour))
	return s
}

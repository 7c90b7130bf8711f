package photo

import (
	"math"
	"math/rand/v2"

	"gonum.org/v1/gonum/dsp/fourier"
)

// Lamp is how a reflection is taken: the pitch of the stripes, how far lamp and camera are from
// the panel, the opening of the lens (all mm), and how much of the panel a pixel of the photo
// shows. Lens is its blur in pixels (standard deviation), Gamma that of the stored values.
type Lamp struct {
	Pitch, Lamp, Camera, Aperture, MMPerPx float64
	Lens, Gamma                            float64 // a Lens of 0 is not known
	Card                                   *Card   // where one lies in the photo, which is left out; nil for none
}

// Height is a height field, µm, row by row.
type Height struct {
	W, H    int
	MMPerPx float64
	Z       []float64
}

// Waves are waves of about one length (mm) and rms (µm), spread by a factor of e^Spread; Along
// draws them out so many times along the rows.
type Waves struct{ Length, Sq, Spread, Along float64 }

// NewHeight makes a height field of waves, the same for the same seed.
func NewHeight(w, h int, mmPerPx float64, waves []Waves, seed uint64) Height {
	rng := rand.New(rand.NewPCG(seed, 0x9e1))
	out := Height{w, h, mmPerPx, make([]float64, w*h)}
	for _, one := range waves {
		if one.Sq <= 0 {
			continue
		}
		z := one.field(w, h, mmPerPx, rng)
		sum := 0.0
		for _, v := range z {
			sum += v * v
		}
		k := one.Sq / math.Sqrt(sum/float64(len(z)))
		for i, v := range z {
			out.Z[i] += k * v
		}
	}
	return out
}

// field is noise of the waves' lengths: of random phase, filtered in the frequency domain.
func (o Waves) field(w, h int, mmPerPx float64, rng *rand.Rand) []float64 {
	rows, cols := fourier.NewCmplxFFT(w), fourier.NewCmplxFFT(h)
	grid := make([]complex128, w*h)
	for i := range grid {
		grid[i] = complex(rng.NormFloat64(), 0)
	}
	line := make([]complex128, h)
	over := func(row func(dst, src []complex128) []complex128, col func(dst, src []complex128) []complex128) {
		for y := range h {
			row(grid[y*w:][:w], grid[y*w:][:w])
		}
		for x := range w {
			for y := range h {
				line[y] = grid[y*w+x]
			}
			col(line, line)
			for y := range h {
				grid[y*w+x] = line[y]
			}
		}
	}
	over(rows.Coefficients, cols.Coefficients)
	along := max(o.Along, 1)
	for y := range h {
		fy := cols.Freq(y) / mmPerPx
		for x := range w {
			fx := rows.Freq(x) / mmPerPx * along
			f := math.Hypot(fx, fy)
			gain := 0.0
			if f > 0 {
				d := math.Log(f*o.Length) / o.Spread
				gain = math.Exp(-d*d/4) / f // power log-normal about the length, whatever the ring's size
			}
			grid[y*w+x] *= complex(gain, 0)
		}
	}
	over(rows.Sequence, cols.Sequence)
	out := make([]float64, w*h)
	for i, v := range grid {
		out[i] = real(v)
	}
	return out
}

// Skew makes crests rounder than valleys, or the other way: z + by z²/Sq, with the same rms.
func (h Height) Skew(by float64) {
	sq := h.rms()
	if sq == 0 {
		return
	}
	for i, v := range h.Z {
		h.Z[i] = v + by*(v*v/sq-sq)
	}
	k := sq / h.rms()
	for i := range h.Z {
		h.Z[i] *= k
	}
}

func (h Height) rms() float64 {
	mean, sum := 0.0, 0.0
	for _, v := range h.Z {
		mean += v
	}
	mean /= float64(len(h.Z))
	for _, v := range h.Z {
		sum += (v - mean) * (v - mean)
	}
	return math.Sqrt(sum / float64(len(h.Z)))
}

// Scratch cuts a line of that depth (µm) into a height field, from place to place in pixels.
func (h Height) Scratch(x0, y0, x1, y1, depth float64) {
	n := int(math.Hypot(x1-x0, y1-y0)) + 1
	for i := range n {
		t := float64(i) / float64(n)
		x, y := int(x0+t*(x1-x0)), int(y0+t*(y1-y0))
		if x >= 0 && y >= 0 && x < h.W && y < h.H {
			h.Z[y*h.W+x] -= depth
		}
	}
}

// Shot is how a photo of a lamp comes out besides its geometry.
type Shot struct {
	Lamp
	Radius     float64 // of the panel, mm; 0 for flat
	Turn       float64 // of the stripes, rad
	Tilt       float64 // perspective: how much larger the far side is, as a share
	Duty       float64 // bright share of a stripe
	Haze       float64 // mrad
	Veil       float64 // light that lies over all, as a share
	Uneven     float64 // of the light from side to side, as a share
	Noise      float64 // of a pixel, as a share of white
	Dark, Lit  float64 // linear light of both stripes, 0 to 1
	Defocus    float64 // blur in pixels; the lens's own where 0
	Seed       uint64
	ShiftShare float64 // where the first stripe lies, share of the pitch
	Laid       *Laid   // a card on the panel
}

// Laid is where a card lies: mm from the middle of the picture, turned by so much (rad).
type Laid struct{ X, Y, Turn float64 }

// Printed light of a card.
const (
	cardBlack, cardPaper = 0.03, 0.75
)

// shows is how bright a card is at a place of the panel (mm), or that it does not lie there.
func (c *Laid) shows(x, y float64) (light float64, there bool) {
	if c == nil {
		return 0, false
	}
	dx, dy := x-c.X, y-c.Y
	u, v := dx*math.Cos(c.Turn)+dy*math.Sin(c.Turn), dy*math.Cos(c.Turn)-dx*math.Sin(c.Turn)
	far := math.Max(math.Abs(u), math.Abs(v))
	switch {
	case far < CardSide/2:
		return cardBlack, true
	case far < CardSide/2+CardFrame:
		return cardPaper, true
	}
	return 0, false
}

// M is what lamp places are stretched by on the panel.
func (s Shot) M() float64 {
	m := 1 + s.Lamp.Lamp/s.Camera
	if s.Radius != 0 {
		m += 2 * s.Lamp.Lamp / s.Radius
	}
	return m
}

// Picture is grey stored values, 0 to 1, row by row.
type Picture struct {
	W, H int
	V    []float32
}

// Mirror takes a photo of a lamp in a height field. One pixel of the photo is one of the field.
func (s Shot) Mirror(h Height) Picture {
	rng := rand.New(rand.NewPCG(s.Seed, 0x71e))
	w, m, d := h.W, s.M(), s.Lamp.Lamp
	light := make([]float64, w*h.H)
	blur := math.Hypot(d*s.Haze*1e-3, 1e-3) // mm on the lamp
	profile := s.profile(blur, s.Aperture*d/s.Camera)
	cos, sin := math.Cos(s.Turn), math.Sin(s.Turn)
	slope := h.slopes(cos, sin)
	at := func(x, y int) float64 { return slope[min(max(y, 0), h.H-1)*w+min(max(x, 0), w-1)] }
	const across = 3 // samples of a pixel, each way
	for y := range h.H {
		for x := range w {
			sum := 0.0
			s0, l, r, o, b := at(x, y), at(x-1, y), at(x+1, y), at(x, y-1), at(x, y+1)
			for j := range across {
				for i := range across {
					fx, fy := (float64(i)+0.5)/across-0.5, (float64(j)+0.5)/across-0.5
					px, py := float64(x)+fx, float64(y)+fy
					slope := s0 + fx*(r-l)/2 + fx*fx*(r+l-2*s0)/2 + fy*(b-o)/2 + fy*fy*(b+o-2*s0)/2
					mx, my := (px-float64(w)/2)*h.MMPerPx, (py-float64(h.H)/2)*h.MMPerPx
					if v, there := s.Laid.shows(mx, my); there {
						sum += v
						continue
					}
					u := m * (mx*cos + my*sin) * (1 + s.Tilt*my/(float64(h.H)*h.MMPerPx))
					t := (u+2*d*slope)/s.Pitch + s.ShiftShare
					t = (t - math.Floor(t)) * profilePoints
					k := int(t)
					sum += s.Dark + (s.Lit-s.Dark)*lerp(profile[k], profile[k+1], t-float64(k))
				}
			}
			v := sum / (across * across)
			v *= 1 + s.Uneven*(float64(x)/float64(w)-0.5)
			light[y*w+x] = v*(1-s.Veil) + s.Veil*0.5
		}
	}
	lens := s.Lens
	if s.Defocus > 0 {
		lens = s.Defocus
	}
	blurred(light, w, h.H, lens, lens)
	out := Picture{w, h.H, make([]float32, w*h.H)}
	for i, v := range light {
		v = math.Pow(math.Max(v, 0), 1/s.Gamma) + s.Noise*rng.NormFloat64()
		out.V[i] = float32(math.Min(math.Max(v, 0), 1))
	}
	return out
}

// slopes are those of a height field in a direction (its cosine and sine), rad.
func (h Height) slopes(cos, sin float64) []float64 {
	at := func(x, y int) float64 { return h.Z[min(max(y, 0), h.H-1)*h.W+min(max(x, 0), h.W-1)] }
	out := make([]float64, len(h.Z))
	for y := range h.H {
		for x := range h.W {
			sx := (45*(at(x+1, y)-at(x-1, y)) - 9*(at(x+2, y)-at(x-2, y)) + at(x+3, y) - at(x-3, y)) / 60
			sy := (45*(at(x, y+1)-at(x, y-1)) - 9*(at(x, y+2)-at(x, y-2)) + at(x, y+3) - at(x, y-3)) / 60
			out[y*h.W+x] = (sx*cos + sy*sin) * 1e-3 / h.MMPerPx
		}
	}
	return out
}

func lerp(a, b, t float64) float64 { return a + (b-a)*t }

// profilePoints is how finely the light of one stripe is tabled.
const profilePoints = 2048

// profile is how bright the lamp is over one pitch for a blur (standard deviation) and a round
// opening (width), mm.
func (s Shot) profile(blur, opening float64) []float64 {
	const rays = 41
	out := make([]float64, profilePoints+1)
	total := 0.0
	for i := range rays {
		o := (float64(i)+0.5)/rays - 0.5
		weight := math.Sqrt(1 - 4*o*o)
		total += weight
		for k := range out {
			out[k] += weight * s.edge(float64(k)/profilePoints+opening*o/s.Pitch, blur/s.Pitch)
		}
	}
	for k := range out {
		out[k] /= total
	}
	return out
}

// edge is a stripe of pitch 1 with soft edges.
func (s Shot) edge(t, blur float64) float64 {
	t -= math.Floor(t)
	v := 0.0
	for _, k := range []float64{-1, 0, 1} {
		v += 0.5 * (math.Erf((t-k)/(blur*math.Sqrt2)) - math.Erf((t-k-s.Duty)/(blur*math.Sqrt2)))
	}
	return v
}

// blurred smooths values with Gaussians of those standard deviations in pixels, in place.
func blurred(v []float64, w, h int, sx, sy float64) {
	along := func(n int, sigma float64, at func(line, i int) int, lines int) {
		if sigma <= 0 {
			return
		}
		reach := int(math.Ceil(3.5 * sigma))
		kernel, sum := make([]float64, 2*reach+1), 0.0
		for i := range kernel {
			d := float64(i-reach) / sigma
			kernel[i] = math.Exp(-d * d / 2)
			sum += kernel[i]
		}
		for i := range kernel {
			kernel[i] /= sum
		}
		from := make([]float64, n)
		for line := range lines {
			for i := range n {
				from[i] = v[at(line, i)]
			}
			for i := range n {
				sum := 0.0
				for j, k := range kernel {
					sum += k * from[min(max(i+j-reach, 0), n-1)]
				}
				v[at(line, i)] = sum
			}
		}
	}
	along(w, sx, func(line, i int) int { return line*w + i }, h)
	along(h, sy, func(line, i int) int { return i*w + line }, w)
}

package surface

import (
	"math"
	"math/rand/v2"
	"slices"
)

// Field is a piece of texture as two unit bands of random waves on a grid, and
// a unit field of scratches: what pictures of a surface are made from. A Field
// holds no height of its own; Surfaces of the model give it theirs.
type Field struct {
	NX, NY      int
	Step        float64 // mm between points
	long, short []float64
	longRank    []float64 // share of the long band below each point
	shortRank   []float64
	groove      []float64 // 0 to 1 of a scratch's depth
}

// NewField makes a field of w x h mm from a seed: the same seed gives the same
// piece of paint.
func NewField(w, h, step float64, seed uint64) *Field {
	f := &Field{NX: int(w/step + 0.5), NY: int(h/step + 0.5), Step: step}
	rng := rand.New(rand.NewPCG(seed, 0x9e37))
	f.long = f.waves(rng, 40, 0.76*LongWave, 1.5*LongWave)
	f.short = f.waves(rng, 26, 0.8*ShortWave, 1.36*ShortWave)
	f.longRank, f.shortRank = ranks(f.long), ranks(f.short)
	f.groove = f.grooves(rng)
	return f
}

// waves sums n cosines of random direction and phase, wavelengths lo to hi mm,
// to a band of rms 1.
func (f *Field) waves(rng *rand.Rand, n int, lo, hi float64) []float64 {
	out := make([]float64, f.NX*f.NY)
	for range n {
		k := 2 * math.Pi / (lo * math.Pow(hi/lo, rng.Float64()))
		a, phase := rng.Float64()*2*math.Pi, rng.Float64()*2*math.Pi
		kx, ky := k*math.Cos(a)*f.Step, k*math.Sin(a)*f.Step
		for y := range f.NY {
			for x := range f.NX {
				out[y*f.NX+x] += math.Cos(kx*float64(x) + ky*float64(y) + phase)
			}
		}
	}
	scale := math.Sqrt(2 / float64(n))
	for i := range out {
		out[i] *= scale
	}
	return out
}

func ranks(v []float64) []float64 {
	order := make([]int, len(v))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int {
		switch {
		case v[a] < v[b]:
			return -1
		case v[a] > v[b]:
			return 1
		}
		return a - b
	})
	r := make([]float64, len(v))
	for i, k := range order {
		r[k] = (float64(i) + 0.5) / float64(len(v))
	}
	return r
}

// grooves draws scratches along the diagonal, 6 to 26 mm long, each of its own
// depth.
func (f *Field) grooves(rng *rand.Rand) []float64 {
	out := make([]float64, f.NX*f.NY)
	count := int(float64(f.NX*f.NY) * f.Step * f.Step * 2.2)
	for range count {
		x0, y0 := rng.Float64()*float64(f.NX), rng.Float64()*float64(f.NY)
		long, depth := (6+20*rng.Float64())/f.Step, 0.35+0.65*rng.Float64()
		angle := math.Pi/4 + (rng.Float64()-0.5)*0.14
		dx, dy := math.Cos(angle), -math.Sin(angle)
		for t := 0.0; t < long; t++ {
			x, y := int(x0+t*dx), int(y0+t*dy)
			if x < 0 || y < 0 || x >= f.NX || y >= f.NY {
				break
			}
			out[y*f.NX+x] = math.Max(out[y*f.NX+x], depth)
		}
	}
	return out
}

// Shape is a Field with the heights of one Surface: Z in µm from the mean of the
// fresh surface without scratches, Groove the depth of scratch below it in µm,
// Touched whether the paper has been there.
type Shape struct {
	*Field
	Z, Groove []float64
	Touched   []bool
	surface   Surface
}

// relief gives points of a field the heights that the model gives to their rank
// in each band, so that picture and figures have one source.
type relief struct {
	field        *Field
	surface      Surface
	fresh        Band // the short band where nothing has touched it
	worn, unworn float64
}

func (f *Field) relief(s Surface) relief {
	fresh := NewBand(s.sqShort0, 0)
	return relief{f, s, fresh, s.short.mean(), fresh.mean()}
}

// at is the height and the groove of one point in µm, and whether the paper has
// been there. The bands' removal is the same film: the short band gives its
// shape only.
func (r relief) at(i int) (z, groove float64, touched bool) {
	f, s := r.field, r.surface
	k := min(int(f.longRank[i]*quantiles), quantiles-1)
	z = s.long.quantile(f.longRank[i])
	if s.long.lost[k] == 0 {
		return z + r.fresh.quantile(f.shortRank[i]) - r.unworn, 0, false
	}
	return z + s.short.quantile(f.shortRank[i]) - r.worn, s.Scratch * f.groove[i], true
}

// Shape gives the whole field the heights of a surface.
func (f *Field) Shape(s Surface) *Shape {
	n := f.NX * f.NY
	p := &Shape{Field: f, Z: make([]float64, n), Groove: make([]float64, n), Touched: make([]bool, n), surface: s}
	r := f.relief(s)
	for i := range n {
		p.Z[i], p.Groove[i], p.Touched[i] = r.at(i)
	}
	return p
}

// Profile is the cross-section of a surface along the middle of the field: pairs
// of place in mm and height in µm, scratches included, every nth point.
func (f *Field) Profile(s Surface, every int) [][2]float64 {
	var out [][2]float64
	r := f.relief(s)
	for x := 0; x < f.NX; x += every {
		z, groove, _ := r.at(f.NY/2*f.NX + x)
		out = append(out, [2]float64{float64(x) * f.Step, z - groove})
	}
	return out
}

func (b Band) mean() float64 {
	m := 0.0
	for _, v := range b.h {
		m += v
	}
	return m / float64(len(b.h))
}

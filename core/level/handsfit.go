package level

import (
	"cmp"
	"errors"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"

	"waxplanus/core/surface"
)

// handsFit is the fit of a shop's history: damped Gauss-Newton on the effects that all
// panels share, with the block of each panel's own unknowns eliminated (its Schur
// complement) at every step.
type handsFit struct {
	names  []string // of the shared effects
	sds    []float64
	reads  map[string]int
	panels []*panelFit
	noise  float64 // of one reading, and of an opening reading, µm
	x      []float64
}

// panelFit is what one panel has to itself: the effects of its steps, and its spots.
type panelFit struct {
	shared []int     // effects of the whole shop that its readings depend on
	steps  []int     // of its ladder
	z      []float64 // effect of each step
	works  []*workFit
	spots  []*spotFit
}

// spotFit is the readings of one spot after passes, which share the error of its opening
// reading.
type spotFit struct {
	reads []pastFit
	off   float64 // that error by the last step, µm
}

// pastFit is one reading after passes: by how much less it read (µm), and the work that
// had been done by then.
type pastFit struct {
	loss float64
	work *workFit
}

// workFit is what had been done on a panel by some readings. on and step are the places
// of its effects among the panel's shared ones and its steps, for each step that had
// passes. loss is what such a reading should show as the unknowns stand (µm), and slope
// that by each of the panel's unknowns, the shared ones first.
type workFit struct {
	offset float64
	moved  []float64
	curves []surface.Curve
	on     [][3]int
	step   []int
	loss   float64
	slope  []float64
}

// newHandsFit sorts a history by panels and spots, in an order of its own.
func newHandsFit(history []WorkedSpot, noise float64) *handsFit {
	f := &handsFit{reads: map[string]int{}, noise: noise}
	index := map[string]int{}
	share := func(name string, sd float64) int {
		i, known := index[name]
		if !known {
			i = len(f.names)
			index[name] = i
			f.names, f.sds = append(f.names, name), append(f.sds, sd)
		}
		return i
	}
	sorted := slices.Clone(history)
	slices.SortStableFunc(sorted, func(a, b WorkedSpot) int { return cmp.Or(cmp.Compare(a.Panel, b.Panel), cmp.Compare(a.Spot, b.Spot)) })
	for i, p := range sorted {
		if i == 0 || p.Panel != sorted[i-1].Panel {
			f.panels = append(f.panels, &panelFit{})
		}
		panel := f.panels[len(f.panels)-1]
		if len(panel.spots) == 0 || p.Spot != sorted[i-1].Spot {
			panel.spots = append(panel.spots, &spotFit{})
		}
		spot := panel.spots[len(panel.spots)-1]
		w := &workFit{offset: p.Offset, moved: p.Moved, curves: p.Curves}
		for k, c := range p.Cuts {
			var on [3]int
			for i, name := range c.unknowns() {
				on[i] = place(&panel.shared, share(name, [3]float64{PersonSpread, PaintSpread, AbrasiveSpread}[i]))
				f.reads[name]++
			}
			w.on, w.step = append(w.on, on), append(w.step, place(&panel.steps, p.Step[k]))
		}
		spot.reads = append(spot.reads, pastFit{p.Loss, panel.workLike(w)})
	}
	for _, p := range f.panels {
		p.z = make([]float64, len(p.steps))
	}
	f.x = make([]float64, len(f.names))
	return f
}

// place is where a value stands in a list, which it joins when it is new.
func place[T comparable](all *[]T, v T) int {
	if i := slices.Index(*all, v); i >= 0 {
		return i
	}
	*all = append(*all, v)
	return len(*all) - 1
}

// workLike is the work of the panel that is the same as w, or w from now on.
func (p *panelFit) workLike(w *workFit) *workFit {
	for _, o := range p.works {
		if o.offset == w.offset && slices.Equal(o.moved, w.moved) && slices.Equal(o.on, w.on) && slices.Equal(o.step, w.step) {
			return o
		}
	}
	p.works = append(p.works, w)
	return w
}

// update works out what readings after it should show as the unknowns stand.
func (w *workFit) update(f *handsFit, p *panelFit) {
	w.loss, w.slope = w.offset, make([]float64, len(p.shared)+len(p.z))
	for k, moved := range w.moved {
		e := p.z[w.step[k]]
		for _, i := range w.on[k] {
			e += f.x[p.shared[i]]
		}
		mean := moved * math.Exp(e)
		film := w.curves[k].At(mean)
		w.loss += film
		d := (w.curves[k].At(mean*math.Exp(nudge)) - film) / nudge
		for _, i := range w.on[k] {
			w.slope[i] += d
		}
		w.slope[len(p.shared)+w.step[k]] += d
	}
}

var errHands = errors.New("the cut rates of the shop do not resolve from its readings")

// solve gives the shared effects with their covariance.
func (f *handsFit) solve() (Posterior, error) {
	n := len(f.x)
	for range iterations {
		info, grad, back, err := f.step()
		if err != nil {
			return Posterior{}, err
		}
		var chol mat.Cholesky
		if !chol.Factorize(info) {
			return Posterior{}, errHands
		}
		dx := mat.NewVecDense(n, nil)
		if err := chol.SolveVecTo(dx, grad); err != nil {
			return Posterior{}, err
		}
		most := 0.0
		for i := range f.x {
			f.x[i] += damping * dx.AtVec(i)
			most = math.Max(most, math.Abs(dx.AtVec(i)))
		}
		for k, p := range f.panels {
			most = math.Max(most, back[k].apply(p, dx))
		}
		if most < settled {
			break
		}
	}
	info, _, _, err := f.step()
	if err != nil {
		return Posterior{}, err
	}
	var chol mat.Cholesky
	if !chol.Factorize(info) {
		return Posterior{}, errHands
	}
	cov := mat.NewSymDense(n, nil)
	return Posterior{f.x, cov}, chol.InverseTo(cov)
}

// substitution gives a panel's own unknowns once the shared ones are known:
// dz = A⁻¹ (g - B dx).
type substitution struct {
	chol  mat.Cholesky // of A
	g     *mat.VecDense
	cross *mat.Dense // B
}

// apply moves a panel's own unknowns and says by how much at most.
func (s *substitution) apply(p *panelFit, dx *mat.VecDense) float64 {
	if len(p.z) == 0 {
		return 0
	}
	own := mat.NewVecDense(len(p.shared), nil)
	for a, i := range p.shared {
		own.SetVec(a, dx.AtVec(i))
	}
	var right, dz mat.VecDense
	right.MulVec(s.cross, own)
	right.SubVec(s.g, &right)
	if s.chol.SolveVecTo(&dz, &right) != nil {
		return 0 // the matrix was factorised a moment ago
	}
	most := 0.0
	for i := range p.z {
		p.z[i] += damping * dz.AtVec(i)
		most = math.Max(most, math.Abs(dz.AtVec(i)))
	}
	return most
}

// step is the information matrix and the gradient of the shared effects with the panels'
// own eliminated, and how to get those back.
func (f *handsFit) step() (*mat.SymDense, *mat.VecDense, []*substitution, error) {
	n := len(f.x)
	info, grad := mat.NewSymDense(n, nil), mat.NewVecDense(n, nil)
	for i, sd := range f.sds {
		info.SetSym(i, i, 1/(sd*sd))
		grad.SetVec(i, -f.x[i]/(sd*sd))
	}
	back := make([]*substitution, len(f.panels))
	for k, p := range f.panels {
		var err error
		if back[k], err = f.eliminate(p, info, grad); err != nil {
			return nil, nil, nil, err
		}
	}
	return info, grad, back, nil
}

// eliminate adds what a panel tells of the shared effects to info and grad.
func (f *handsFit) eliminate(p *panelFit, info *mat.SymDense, grad *mat.VecDense) (*substitution, error) {
	ns, nz := len(p.shared), len(p.z)
	all := ns + nz
	h, g := mat.NewSymDense(all, nil), mat.NewVecDense(all, nil)
	for i, z := range p.z {
		h.SetSym(ns+i, ns+i, 1/(StepSpread*StepSpread))
		g.SetVec(ns+i, -z/(StepSpread*StepSpread))
	}
	for _, w := range p.works {
		w.update(f, p)
	}
	for _, s := range p.spots {
		f.add(s, h, g)
	}
	out := &substitution{g: mat.NewVecDense(nz, nil), cross: mat.NewDense(nz, ns, nil)}
	own := mat.NewSymDense(nz, nil)
	for i := range nz {
		out.g.SetVec(i, g.AtVec(ns+i))
		for j := i; j < nz; j++ {
			own.SetSym(i, j, h.At(ns+i, ns+j))
		}
		for j := range ns {
			out.cross.Set(i, j, h.At(ns+i, j))
		}
	}
	if !out.chol.Factorize(own) {
		return nil, errHands
	}
	var solved mat.Dense
	if err := out.chol.SolveTo(&solved, out.cross); err != nil {
		return nil, err
	}
	var explained mat.VecDense
	explained.MulVec(solved.T(), out.g)
	var schur mat.Dense
	schur.Mul(out.cross.T(), &solved)
	for a, i := range p.shared {
		grad.SetVec(i, grad.AtVec(i)+g.AtVec(a)-explained.AtVec(a))
		for b := a; b < ns; b++ {
			j := p.shared[b]
			info.SetSym(i, j, info.At(i, j)+h.At(a, b)-schur.At(a, b))
		}
	}
	return out, nil
}

// add adds the readings of one spot to a panel's information and gradient. The error of
// the opening reading is common to them, so their covariance is D + noise² 1 1', whose
// inverse Sherman and Morrison give.
func (f *handsFit) add(s *spotFit, h *mat.SymDense, g *mat.VecDense) {
	v := f.noise * f.noise
	all := g.Len()
	joint := make([]float64, all) // Σ w slope
	sum, pulled := 1/v, 0.0
	for _, r := range s.reads {
		miss := r.loss - r.work.loss
		w := weight((miss-s.off)/f.noise) / v
		sum += w
		pulled += w * miss
		for a, da := range r.work.slope {
			if da == 0 {
				continue
			}
			joint[a] += w * da
			g.SetVec(a, g.AtVec(a)+w*da*miss)
			for b := a; b < all; b++ {
				h.SetSym(a, b, h.At(a, b)+w*da*r.work.slope[b])
			}
		}
	}
	s.off = pulled / sum
	for a, ja := range joint {
		if ja == 0 {
			continue
		}
		g.SetVec(a, g.AtVec(a)-ja*pulled/sum)
		for b := a; b < all; b++ {
			h.SetSym(a, b, h.At(a, b)-ja*joint[b]/sum)
		}
	}
}

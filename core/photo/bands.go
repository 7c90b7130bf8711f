package photo

import "math"

// bands are the variances of height (µm²) by wavelength (mm).
type bands struct {
	wave, q []float64
}

// explained is what the lags of a photo are explained by: by how much slopes differ at each for
// each band, and how far stripes have wandered where a share differs.
type explained struct {
	variogram
	lamp    Lamp
	wave    []float64
	kernel  [][]float64 // by lag and band
	wanders wanders
}

func (v variogram) explain(l Lamp, duty float64) explained {
	out := explained{variogram: v, lamp: l, wanders: newWanders(duty)}
	for x := bandFrom; x <= bandTo; x *= bandRatio {
		out.wave = append(out.wave, x)
	}
	blur := l.blur()
	for _, h := range v.lag {
		line := make([]float64, len(out.wave))
		for j, x := range out.wave {
			if seenThrough(x, blur) {
				line[j] = slopes(x, h, blur)
			}
		}
		out.kernel = append(out.kernel, line)
	}
	return out
}

// fit finds the bands that explain how rows differ, without one band of rows (-1: with all).
func (e explained) fit(without int) bands {
	out, n := bands{wave: e.wave}, len(e.wave)
	var rows [][]float64
	var want []float64
	for i, share := range e.values(without) {
		s := e.wanders.of(share)
		d := e.lamp.Pitch * e.lamp.Pitch * s * s / (4 * e.lamp.Lamp * e.lamp.Lamp) // rad²
		if d <= 0 {
			continue
		}
		line := make([]float64, n+2)
		for j, k := range e.kernel[i] {
			line[j] = k / d
		}
		line[n] = 1e-9 / d                          // noise of the edges, as much at every lag
		line[n+1] = 1e-12 * e.lag[i] * e.lag[i] / d // what the smooth trend has left
		rows, want = append(rows, line), append(want, 1)
	}
	out.q = make([]float64, n)
	if len(rows) > 0 {
		copy(out.q, nonNegative(rows, want, ridge))
	}
	return out
}

// seenThrough says whether waves of a length are still seen through a blur (both mm).
func seenThrough(length, blur float64) bool {
	k := 2 * math.Pi / length
	return k*k*blur*blur <= mostBlurred
}

// slopes is by how much slopes across the stripes differ (rad²) at places so far apart (mm) along
// them for a variance of height of 1 µm² at a wavelength (mm), as a lens of that blur (mm) shows it.
func slopes(length, h, blur float64) float64 {
	const parts = 5
	sum, all := 0.0, 0.0
	for i := range parts {
		z := 2*float64(i)/(parts-1) - 1
		weight := math.Exp(-2 * z * z)
		k := 2 * math.Pi / (length * math.Exp(2*bandWide*z))
		kh := k * h
		d := 2 * 1e-6 * k * k * (0.5 - math.J1(kh)/kh) * math.Exp(-k*k*blur*blur)
		sum, all = sum+weight*d, all+weight
	}
	return sum / all
}

// nonNegative solves rows x = want for x >= 0 in least squares, with a ridge, by coordinate
// descent on the normal equations.
func nonNegative(rows [][]float64, want []float64, ridge float64) []float64 {
	n := len(rows[0])
	scale := make([]float64, n) // columns of about one size
	for j := range n {
		for _, r := range rows {
			scale[j] += r[j] * r[j]
		}
		scale[j] = math.Sqrt(scale[j])
		if scale[j] == 0 {
			scale[j] = 1
		}
	}
	g, b := make([][]float64, n), make([]float64, n)
	for i := range n {
		g[i] = make([]float64, n)
		for j := range n {
			for _, r := range rows {
				g[i][j] += r[i] / scale[i] * r[j] / scale[j]
			}
		}
		g[i][i] += ridge
		for k, r := range rows {
			b[i] += r[i] / scale[i] * want[k]
		}
	}
	x := make([]float64, n)
	const most, still = 20000, 1e-9
	for range most {
		moved := 0.0
		for i := range n {
			at := b[i]
			for j := range n {
				if j != i {
					at -= g[i][j] * x[j]
				}
			}
			next := math.Max(at/g[i][i], 0)
			moved = math.Max(moved, math.Abs(next-x[i]))
			x[i] = next
		}
		if moved < still {
			break
		}
	}
	for i := range n {
		x[i] /= scale[i]
	}
	return x
}

// sq is the rms height (µm) of wavelengths from to to, mm.
func (b bands) sq(from, to float64) Interval {
	sum := 0.0
	for i, x := range b.wave {
		if x > from && x <= to {
			sum += b.q[i]
		}
	}
	return Interval{Value: math.Sqrt(sum)}
}

// length is the usual wavelength (mm) among some.
func (b bands) length(from, to float64) float64 {
	sum, all := 0.0, 0.0
	for i, x := range b.wave {
		if x > from && x <= to {
			sum, all = sum+b.q[i]*math.Log(x), all+b.q[i]
		}
	}
	if all == 0 {
		return math.Sqrt(math.Max(from, bandFrom) * math.Min(to, bandTo))
	}
	return math.Exp(sum / all)
}

// curve is the sum of variance times k to the 4th, µm²/mm⁴.
func (b bands) curve() float64 {
	sum := 0.0
	for i, x := range b.wave {
		k := 2 * math.Pi / x
		sum += b.q[i] * k * k * k * k
	}
	return sum
}

// fold is how far the waves fold the stripes: 2 D rms(s') / M.
func (b bands) fold(l Lamp, m float64) float64 {
	// E s_xx² of an isotropic field is 3/8 k⁴ of its variance.
	return 2 * l.Lamp * math.Sqrt(3.0/8*b.curve()) * 1e-3 / m
}

// blur is that of the lens and of the pixels on the panel, mm.
func (l Lamp) blur() float64 { return math.Sqrt(l.Lens*l.Lens+1.0/12) * l.MMPerPx }

package files

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"waxplanus/core/flatlay"
)

type point = flatlay.Point

// transform is an affine map of a drawing: x' = a x + c y + e, y' = b x + d y + f.
type transform struct{ a, b, c, d, e, f float64 }

var identity = transform{a: 1, d: 1}

func (t transform) at(p point) point {
	return point{X: t.a*p.X + t.c*p.Y + t.e, Y: t.b*p.X + t.d*p.Y + t.f}
}

// then is t applied after u.
func (t transform) then(u transform) transform {
	return transform{
		t.a*u.a + t.c*u.b, t.b*u.a + t.d*u.b, t.a*u.c + t.c*u.d, t.b*u.c + t.d*u.d,
		t.a*u.e + t.c*u.f + t.e, t.b*u.e + t.d*u.f + t.f,
	}
}

// parseTransform reads a list of SVG transforms.
func parseTransform(text string) (transform, error) {
	out := identity
	for rest := strings.Trim(text, " \t\r\n,"); rest != ""; rest = strings.Trim(rest, " \t\r\n,") {
		name, after, ok := strings.Cut(rest, "(")
		inside, tail, closed := strings.Cut(after, ")")
		if !ok || !closed {
			return out, fmt.Errorf("the transform %q is not closed", text)
		}
		v, err := numberList(inside)
		if err != nil {
			return out, err
		}
		one, err := transformOf(strings.TrimSpace(name), v)
		if err != nil {
			return out, err
		}
		out, rest = out.then(one), tail
	}
	return out, nil
}

func transformOf(name string, v []float64) (transform, error) {
	arg := func(i int, or float64) float64 {
		if i < len(v) {
			return v[i]
		}
		return or
	}
	least := map[string]int{"matrix": 6, "translate": 1, "scale": 1, "rotate": 1, "skewX": 1, "skewY": 1}
	n, ok := least[name]
	if !ok || len(v) < n {
		return identity, fmt.Errorf("%q with %d numbers is no transform", name, len(v))
	}
	a := v[0] * math.Pi / 180
	switch name {
	case "matrix":
		return transform{v[0], v[1], v[2], v[3], v[4], v[5]}, nil
	case "translate":
		return transform{1, 0, 0, 1, v[0], arg(1, 0)}, nil
	case "scale":
		return transform{v[0], 0, 0, arg(1, v[0]), 0, 0}, nil
	case "rotate":
		x, y := arg(1, 0), arg(2, 0)
		turn := transform{math.Cos(a), math.Sin(a), -math.Sin(a), math.Cos(a), 0, 0}
		return transform{1, 0, 0, 1, x, y}.then(turn).then(transform{1, 0, 0, 1, -x, -y}), nil
	case "skewX":
		return transform{1, 0, math.Tan(a), 1, 0, 0}, nil
	}
	return transform{1, math.Tan(a), 0, 1, 0, 0}, nil
}

// numberList reads numbers that blanks or commas part.
func numberList(text string) ([]float64, error) {
	s := scanner{text: text}
	var out []float64
	for {
		s.blanks()
		if s.done() {
			return out, nil
		}
		v, err := s.number()
		if err != nil {
			return nil, err
		}
		out = append(out, v)
	}
}

// scanner walks through path data.
type scanner struct {
	text string
	at   int
}

func (s *scanner) done() bool { return s.at >= len(s.text) }

func (s *scanner) blanks() {
	for !s.done() && strings.IndexByte(" \t\r\n,", s.text[s.at]) >= 0 {
		s.at++
	}
}

// number reads one number; "1.5.5" is two, as SVG has it.
func (s *scanner) number() (float64, error) {
	s.blanks()
	from, dot, exp := s.at, false, false
	for !s.done() {
		switch c := s.text[s.at]; {
		case c >= '0' && c <= '9':
		case c == '.' && !dot && !exp:
			dot = true
		case (c == 'e' || c == 'E') && !exp && s.at > from:
			exp = true
		case (c == '+' || c == '-') && (s.at == from || s.text[s.at-1] == 'e' || s.text[s.at-1] == 'E'):
		default:
			return s.parsed(from)
		}
		s.at++
	}
	return s.parsed(from)
}

func (s *scanner) parsed(from int) (float64, error) {
	v, err := strconv.ParseFloat(s.text[from:s.at], 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		return 0, fmt.Errorf("a number is wanted at sign %d of %q", from+1, short(s.text))
	}
	return v, nil
}

// flag reads 0 or 1, which need nothing between them.
func (s *scanner) flag() (bool, error) {
	s.blanks()
	if s.done() || s.text[s.at] != '0' && s.text[s.at] != '1' {
		return false, fmt.Errorf("an arc wants a flag, 0 or 1, at sign %d", s.at+1)
	}
	s.at++
	return s.text[s.at-1] == '1', nil
}

func short(text string) string {
	if len(text) > 40 {
		return text[:40] + "..."
	}
	return text
}

// subpath is one run of a path, and whether it closes.
type subpath struct {
	points []point
	closed bool
}

// curveSteps is how many lines a curve is drawn with; far more than a kept
// outline needs at the size of a panel.
const curveSteps = 64

// mostPoints bounds what one drawing may hold.
const mostPoints = 40_000

// pen draws a path.
type pen struct {
	out        []subpath
	at, start  point
	handle     point // last control point, for smooth curves
	smooth     byte  // the curve that handle belongs to, C or Q
	pointsUsed int
}

func (p *pen) to(q point) error {
	if len(p.out) == 0 || p.out[len(p.out)-1].closed {
		p.out = append(p.out, subpath{points: []point{p.at}})
	}
	s := &p.out[len(p.out)-1]
	s.points = append(s.points, q)
	p.at = q
	if p.pointsUsed++; p.pointsUsed > mostPoints {
		return fmt.Errorf("it has more than %d points", mostPoints)
	}
	return nil
}

func (p *pen) move(q point) {
	p.out = append(p.out, subpath{points: []point{q}})
	p.at, p.start = q, q
}

func (p *pen) cubic(a, b, c point) error {
	from := p.at
	for k := 1; k <= curveSteps; k++ {
		t := float64(k) / curveSteps
		u := 1 - t
		w := [4]float64{u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t}
		if err := p.to(point{X: w[0]*from.X + w[1]*a.X + w[2]*b.X + w[3]*c.X, Y: w[0]*from.Y + w[1]*a.Y + w[2]*b.Y + w[3]*c.Y}); err != nil {
			return err
		}
	}
	p.handle, p.smooth = b, 'C'
	return nil
}

func (p *pen) quadratic(a, c point) error {
	third := func(end point) point {
		return point{X: end.X + (a.X-end.X)*2/3, Y: end.Y + (a.Y-end.Y)*2/3}
	}
	err := p.cubic(third(p.at), third(c), c)
	p.handle, p.smooth = a, 'Q'
	return err
}

// mirrored is the handle of a smooth curve.
func (p *pen) mirrored(kind byte) point {
	if p.smooth != kind {
		return p.at
	}
	return point{X: 2*p.at.X - p.handle.X, Y: 2*p.at.Y - p.handle.Y}
}

// arc draws an elliptical arc, by the conversion of the SVG standard's appendix
// on elliptical arcs.
func (p *pen) arc(rx, ry, tilt float64, large, sweep bool, to point) error {
	rx, ry = math.Abs(rx), math.Abs(ry)
	if rx == 0 || ry == 0 || to == p.at {
		return p.to(to)
	}
	sin, cos := math.Sincos(tilt * math.Pi / 180)
	dx, dy := (p.at.X-to.X)/2, (p.at.Y-to.Y)/2
	x1, y1 := cos*dx+sin*dy, -sin*dx+cos*dy
	if over := x1*x1/(rx*rx) + y1*y1/(ry*ry); over > 1 {
		rx, ry = rx*math.Sqrt(over), ry*math.Sqrt(over)
	}
	k := math.Sqrt(math.Max(0, rx*rx*ry*ry-rx*rx*y1*y1-ry*ry*x1*x1) / (rx*rx*y1*y1 + ry*ry*x1*x1))
	if large == sweep {
		k = -k
	}
	cx1, cy1 := k*rx*y1/ry, -k*ry*x1/rx
	cx, cy := cos*cx1-sin*cy1+(p.at.X+to.X)/2, sin*cx1+cos*cy1+(p.at.Y+to.Y)/2
	from := math.Atan2((y1-cy1)/ry, (x1-cx1)/rx)
	turn := math.Atan2((-y1-cy1)/ry, (-x1-cx1)/rx) - from
	switch {
	case sweep && turn < 0:
		turn += 2 * math.Pi
	case !sweep && turn > 0:
		turn -= 2 * math.Pi
	}
	for i := 1; i < curveSteps; i++ {
		s, c := math.Sincos(from + turn*float64(i)/curveSteps)
		if err := p.to(point{X: cx + rx*c*cos - ry*s*sin, Y: cy + rx*c*sin + ry*s*cos}); err != nil {
			return err
		}
	}
	return p.to(to)
}

// parsePath draws SVG path data.
func parsePath(data string) ([]subpath, error) {
	s := scanner{text: data}
	var p pen
	command := byte(0)
	for {
		s.blanks()
		if s.done() {
			return p.out, nil
		}
		switch c := s.text[s.at]; {
		case strings.IndexByte("MmLlHhVvCcSsQqTtAaZz", c) >= 0:
			command = c
			s.at++
		case command == 0 || command == 'Z' || command == 'z':
			return nil, fmt.Errorf("the path %q has no command at sign %d", short(data), s.at+1)
		case command == 'M':
			command = 'L'
		case command == 'm':
			command = 'l'
		}
		if command != 'M' && command != 'm' && len(p.out) == 0 {
			return nil, fmt.Errorf("the path %q does not begin with a move", short(data))
		}
		if err := p.draw(command, &s); err != nil {
			return nil, err
		}
	}
}

// draw takes one command's numbers and draws it.
func (p *pen) draw(command byte, s *scanner) error {
	kind, relative := command&^0x20, command&0x20 != 0
	if kind == 'Z' {
		if n := len(p.out); n > 0 {
			p.out[n-1].closed = true
		}
		p.at, p.smooth = p.start, 0
		return nil
	}
	if kind == 'A' {
		return p.drawArc(relative, s)
	}
	var v [6]float64
	n := map[byte]int{'M': 2, 'L': 2, 'H': 1, 'V': 1, 'C': 6, 'S': 4, 'Q': 4, 'T': 2}[kind]
	for i := range n {
		var err error
		if v[i], err = s.number(); err != nil {
			return err
		}
	}
	pt := func(i int) point {
		q := point{X: v[i], Y: v[i+1]}
		if relative {
			q.X, q.Y = q.X+p.at.X, q.Y+p.at.Y
		}
		return q
	}
	if kind != 'C' && kind != 'S' && kind != 'Q' && kind != 'T' {
		p.smooth = 0
	}
	switch kind {
	case 'M':
		p.move(pt(0))
	case 'L':
		return p.to(pt(0))
	case 'H':
		if relative {
			v[0] += p.at.X
		}
		return p.to(point{X: v[0], Y: p.at.Y})
	case 'V':
		if relative {
			v[0] += p.at.Y
		}
		return p.to(point{X: p.at.X, Y: v[0]})
	case 'C':
		return p.cubic(pt(0), pt(2), pt(4))
	case 'S':
		return p.cubic(p.mirrored('C'), pt(0), pt(2))
	case 'Q':
		return p.quadratic(pt(0), pt(2))
	case 'T':
		return p.quadratic(p.mirrored('Q'), pt(0))
	}
	return nil
}

func (p *pen) drawArc(relative bool, s *scanner) error {
	var v [3]float64
	var err error
	for i := range v {
		if v[i], err = s.number(); err != nil {
			return err
		}
	}
	large, err := s.flag()
	if err != nil {
		return err
	}
	sweep, err := s.flag()
	if err != nil {
		return err
	}
	x, err := s.number()
	if err != nil {
		return err
	}
	y, err := s.number()
	if err != nil {
		return err
	}
	to := point{X: x, Y: y}
	if relative {
		to.X, to.Y = to.X+p.at.X, to.Y+p.at.Y
	}
	p.smooth = 0
	return p.arc(v[0], v[1], v[2], large, sweep, to)
}

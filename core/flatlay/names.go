package flatlay

import (
	"strconv"
	"strings"
)

// name gives every section its place in words as seen from outside. Bands and
// rows of the key go down the panel, or to the right when it was split lying.
func name(s []Section, lying bool) {
	major, minor := [5]string{"top", "upper", "middle", "lower", "bottom"}, [5]string{"far left", "left", "centre", "right", "far right"}
	words := [2]string{"row ", "column "}
	centre := func(c Section) float64 { x0, x1, _, _ := box(c.Cells); return (x0 + x1) / 2 }
	if lying {
		major, minor, words = minor, major, [2]string{"column ", "row "}
		centre = func(c Section) float64 { _, _, y0, y1 := box(c.Cells); return (y0 + y1) / 2 }
	}
	rows := levels(s, rowOf)
	for i := range s {
		a := position(rows, rowOf(s[i]), major, words[0])
		var same []Section
		for _, o := range s {
			if rowOf(o) == rowOf(s[i]) {
				same = append(same, o)
			}
		}
		b := position(levels(same, centre), centre(s[i]), minor, words[1])
		if lying {
			a, b = b, a
		}
		s[i].Name = strings.TrimSpace(a + " " + b)
		if s[i].Name == "" {
			s[i].Name = "whole panel"
		}
	}
}

// rowOf orders sections by band and row, the second and fourth sign of their key.
func rowOf(s Section) float64 { return float64(s.Key[1])*256 + float64(s.Key[3]) }

func levels(s []Section, of func(Section) float64) []float64 {
	var out []float64
	for _, c := range s {
		v, i := of(c), 0
		for i < len(out) && out[i] < v {
			i++
		}
		if i == len(out) || out[i] != v {
			out = append(out[:i], append([]float64{v}, out[i:]...)...)
		}
	}
	return out
}

// position says in words which of the levels v is: one needs no word, up to
// five have words, more are counted.
func position(levels []float64, v float64, words [5]string, kind string) string {
	i := 0
	for levels[i] != v {
		i++
	}
	switch len(levels) {
	case 1:
		return ""
	case 2:
		return []string{words[1], words[3]}[i]
	case 3:
		return words[1:4][i]
	case 4:
		return []string{words[0], words[1], words[3], words[4]}[i]
	case 5:
		return words[i]
	}
	return kind + strconv.Itoa(i+1)
}

package plan

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"waxplanus/core/shelf"
)

// Choice is one step as it was chosen: the key of an abrasive and its backing,
// or of a compound, and how many passes or cycles.
type Choice struct {
	Item    string `json:"item"`
	Backing string `json:"backing,omitempty"`
	Passes  int    `json:"passes"`
}

// Limits of a ladder that somebody builds.
const (
	MostSteps  = 12
	MostPasses = 60
)

// String is a choice as text: p1500@rubber*6, or foam-fine*2.
func (c Choice) String() string {
	if c.Backing == "" {
		return fmt.Sprintf("%s*%d", c.Item, c.Passes)
	}
	return fmt.Sprintf("%s@%s*%d", c.Item, c.Backing, c.Passes)
}

// Code is a sequence as text, its steps joined by commas.
func Code(choices []Choice) string {
	parts := make([]string, len(choices))
	for i, c := range choices {
		parts[i] = c.String()
	}
	return strings.Join(parts, ",")
}

// ParseCode reads what Code writes, with things that lie on shelf s. It says
// which step it cannot read and what would be right.
func ParseCode(text string, s *shelf.Shelf) ([]Choice, error) {
	var out []Choice
	for i, part := range strings.Split(strings.TrimSpace(text), ",") {
		c, err := parseChoice(strings.TrimSpace(part), s)
		if err != nil {
			return nil, fmt.Errorf("step %d: %w", i+1, err)
		}
		if out = append(out, c); len(out) > MostSteps {
			return nil, fmt.Errorf("a sequence has 1 to %d steps", MostSteps)
		}
	}
	return out, nil
}

func parseChoice(part string, s *shelf.Shelf) (Choice, error) {
	thing, passes, ok := strings.Cut(part, "*")
	n, err := strconv.Atoi(passes)
	if !ok || err != nil || n < 1 || n > MostPasses {
		return Choice{}, fmt.Errorf("%q needs its passes, 1 to %d, such as p1500@rubber*6", clip(part), MostPasses)
	}
	item, backing, sheet := strings.Cut(thing, "@")
	if !sheet {
		if _, ok := s.Compound(item); !ok {
			return Choice{}, fmt.Errorf("there is no compound %q on the shelf, and an abrasive needs its backing, such as p1500@rubber", clip(item))
		}
		return Choice{Item: item, Passes: n}, nil
	}
	a, ok := s.Abrasive(item)
	if !ok {
		return Choice{}, fmt.Errorf("there is no abrasive %q on the shelf", clip(item))
	}
	b, ok := s.Backing(backing)
	if !ok {
		return Choice{}, fmt.Errorf("there is no backing %q on the shelf", clip(backing))
	}
	if !a.Fits(b) {
		return Choice{}, fmt.Errorf("%s %s does not go on a %s; it goes on a %s", a.Grit, a.Body, b.Name, strings.Join(fitting(a, s), ", a "))
	}
	return Choice{Item: item, Backing: backing, Passes: n}, nil
}

func fitting(a shelf.Abrasive, s *shelf.Shelf) []string {
	var out []string
	for _, b := range s.Backings {
		if a.Fits(b) {
			out = append(out, b.Name)
		}
	}
	return out
}

func clip(s string) string {
	const most = 40
	if r := []rune(s); len(r) > most {
		return string(r[:most])
	}
	return s
}

// Things is the part of a shelf that a sequence uses, with its law: what a plan
// of record keeps, so that it stays as it was when the shelf changes.
func Things(s *shelf.Shelf, choices []Choice) shelf.Shelf {
	out := shelf.Shelf{Law: s.Law}
	uses := func(key string, of func(Choice) string) bool {
		return slices.ContainsFunc(choices, func(c Choice) bool { return of(c) == key })
	}
	item := func(c Choice) string { return c.Item }
	for _, a := range s.Abrasives {
		if uses(a.Key, item) {
			out.Abrasives = append(out.Abrasives, a)
		}
	}
	for _, b := range s.Backings {
		if uses(b.Key, func(c Choice) string { return c.Backing }) {
			out.Backings = append(out.Backings, b)
		}
	}
	for _, c := range s.Compounds {
		if uses(c.Key, item) {
			out.Compounds = append(out.Compounds, c)
		}
	}
	return out
}

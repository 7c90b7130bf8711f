package web

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"waxplanus/core/level"
	"waxplanus/core/shelf"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// GetPeople lists the hands of the shop.
func (s *Server) GetPeople(ctx context.Context, _ api.GetPeopleRequestObject) (api.GetPeopleResponseObject, error) {
	out, err := s.handsOf(ctx)
	return api.GetPeople200JSONResponse(out), err
}

// SetPerson takes somebody in, or changes what they may run.
func (s *Server) SetPerson(ctx context.Context, r api.SetPersonRequestObject) (api.SetPersonResponseObject, error) {
	name, err := personOf(r.Body.Name)
	if err != nil {
		return nil, err
	}
	h, err := s.houseOf(ctx)
	if err != nil {
		return nil, err
	}
	p := store.Person{Name: name}
	people, err := s.store.People(ctx)
	if err != nil {
		return nil, err
	}
	if i := slices.IndexFunc(people, func(o store.Person) bool { return o.Name == name }); i >= 0 {
		p = people[i] // taken in again, they may run no more than before
	}
	if r.Body.Coarsest != nil {
		p.Coarsest = *r.Body.Coarsest
	}
	if grits := gritsOf(h.shelf); p.Coarsest != "" && !slices.Contains(grits, p.Coarsest) {
		return nil, refuse("coarsest", "The shelf has no grit %q: it has %s.", p.Coarsest, strings.Join(grits, ", "))
	}
	if err := s.store.SetPerson(ctx, p); err != nil {
		return nil, err
	}
	out, err := s.handsOf(ctx)
	return api.SetPerson200JSONResponse(out), err
}

// gritsOf are the grits of a shelf, the coarsest first.
func gritsOf(s shelf.Shelf) []string {
	all := slices.Clone(s.Abrasives)
	slices.SortStableFunc(all, func(a, b shelf.Abrasive) int {
		if a.D50 > b.D50 {
			return -1
		}
		return 1
	})
	var out []string
	for _, a := range all {
		if !slices.Contains(out, a.Grit) {
			out = append(out, a.Grit)
		}
	}
	return out
}

func (s *Server) handsOf(ctx context.Context) (api.Hands, error) {
	out := api.Hands{People: []api.Person{}, Abrasives: []api.Learned{}}
	h, err := s.houseOf(ctx)
	if err != nil {
		return out, err
	}
	out.Grits = gritsOf(h.shelf)
	people, err := s.store.People(ctx)
	if err != nil {
		return out, err
	}
	hands, _, err := s.learned(ctx, "")
	if err != nil {
		return out, err
	}
	for _, p := range people {
		may := "any grit"
		if p.Coarsest != "" {
			may = p.Coarsest + " and finer"
		}
		out.People = append(out.People, api.Person{Name: p.Name, Coarsest: p.Coarsest, May: may, Cut: learnedOf(hands.Person(p.Name), p.Name)})
	}
	for _, c := range hands.Classes() {
		out.Abrasives = append(out.Abrasives, learnedOf(c, className(&h.shelf, c.Name)))
	}
	return out, nil
}

// className names an abrasive on its backing, or a compound, by its keys.
func className(s *shelf.Shelf, class string) string {
	item, backing, on := strings.Cut(class, "@")
	if !on {
		return thingName(s, "compound."+item)
	}
	return thingName(s, "abrasive."+item) + ", " + thingName(s, "backing."+backing)
}

func learnedOf(l level.Learned, name string) api.Learned {
	out := api.Learned{Name: name, Times: estimate(l.Times), Readings: l.Readings}
	switch {
	case l.Readings == 0:
		out.Text = "nothing read yet"
	default:
		out.Text = fmt.Sprintf("from %s after passes", count(l.Readings, "reading"))
	}
	return out
}

package web

import (
	"math"
	"slices"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// usualPeel is the peel grade of a panel that nobody has looked at: a usual gun
// finish.
const usualPeel = 6.0

// historyOf is what the core wants to know of a panel's history.
func historyOf(p store.Panel) film.History {
	f := film.History{Finish: film.FinishOf(film.Origin(p.Origin), p.Layers == string(api.LayersSingle), p.Coats), Coats: p.Coats, Coat: p.DryUM}
	if f.Coat == 0 {
		f.Coat = p.WetUM * p.Solids
	}
	return f
}

func (b *bench) finish() film.Finish { return historyOf(b.row).Finish }

func (b *bench) aim() plan.Aim { return plan.Aim(b.row.Aim) }

// The most that may be said of a coat, µm.
const (
	mostWet = 1000.0
	mostDry = 500.0
)

// apply changes a panel by what was said of it. now bounds the day of spraying.
func apply(p *store.Panel, f api.PanelFacts, now time.Time) error {
	if f.Origin != nil {
		if !f.Origin.Valid() {
			return refuse("origin", "A finish is from the factory, from here, from elsewhere, or its origin is unknown; %q is none of these.", *f.Origin)
		}
		p.Origin = string(*f.Origin)
	}
	if f.Layers != nil {
		if !f.Layers.Valid() {
			return refuse("layers", "The layers are clear, for clear over colour, or single; %q is neither.", *f.Layers)
		}
		p.Layers = string(*f.Layers)
	}
	if f.Coats != nil {
		if *f.Coats < 0 || *f.Coats > 10 {
			return refuse("coats", "Coats of clear are 0 to 10; 0 says that nobody knows.")
		}
		p.Coats = *f.Coats
	}
	for _, n := range []struct {
		field, text string
		from        *float64
		most        float64
		to          *float64
	}{
		{"wet_um", "The wet film of a coat is 0 to 1000 µm; 0 says that nobody knows.", f.WetUm, mostWet, &p.WetUM},
		{"solids", "Volume solids go from 0 to 1, such as 0.45; 0 says that nobody knows.", f.Solids, 1, &p.Solids},
		{"dry_um", "The dry film of a coat is 0 to 500 µm; 0 says that nobody knows.", f.DryUm, mostDry, &p.DryUM},
		{"peel_grade", "The peel grade goes from 0, a mirror, to 10, very heavy.", f.PeelGrade, 10, &p.PeelGrade},
	} {
		if n.from == nil {
			continue
		}
		if math.IsNaN(*n.from) || *n.from < 0 || *n.from > n.most {
			return refuse(n.field, "%s", n.text)
		}
		*n.to = *n.from
	}
	if f.SprayedAt != nil {
		if f.SprayedAt.After(now.Add(time.Hour)) || f.SprayedAt.Year() < 1900 {
			return refuse("sprayed_at", "It was sprayed on %s, which lies ahead or before all paint. Give the day it was sprayed.", f.SprayedAt.Format("2 January 2006"))
		}
		at := f.SprayedAt.UTC()
		p.SprayedAt = &at
	}
	return choose(p, f)
}

// choose takes the answers that are one of a few.
func choose(p *store.Panel, f api.PanelFacts) error {
	if f.Cure != nil {
		if !f.Cure.Valid() {
			return refuse("cure", "The clear was dried by air or baked, or that is unknown; %q is none of these.", *f.Cure)
		}
		p.Cure = string(*f.Cure)
	}
	if f.Substrate != nil {
		if !f.Substrate.Valid() {
			return refuse("substrate", "A panel is of steel, aluminium or plastic; %q is none of these.", *f.Substrate)
		}
		p.Substrate = string(*f.Substrate)
	}
	if f.Aim != nil {
		if !f.Aim.Valid() {
			return refuse("aim", "The aim is nibs, match, flat or polish; %q is none of these.", *f.Aim)
		}
		p.Aim = string(*f.Aim)
	}
	if f.Hardness != nil {
		if !f.Hardness.Valid() {
			return refuse("hardness", "Paint is soft, medium, hard or oxidised; %q is none of these.", *f.Hardness)
		}
		p.Hardness = string(*f.Hardness)
	}
	if f.Past != nil {
		var past []string
		for _, v := range *f.Past {
			if !v.Valid() {
				return refuse("past", "A panel was polished, repaired or kept outside; %q is none of these.", v)
			}
			if !slices.Contains(past, string(v)) {
				past = append(past, string(v))
			}
		}
		p.Past = strings.Join(past, ",")
	}
	return nil
}

func pastOf(p store.Panel) []api.Past {
	out := []api.Past{}
	for v := range strings.SplitSeq(p.Past, ",") {
		if v != "" {
			out = append(out, api.Past(v))
		}
	}
	return out
}

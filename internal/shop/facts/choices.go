package facts

import (
	"slices"

	"waxplanus/core/clearcoat"
	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/core/shelf"
	"waxplanus/internal/shop/refuse"
)

// What may be said of a panel or a car, where it is one of a few.
var (
	Origins    = []film.Origin{film.AtFactory, film.Here, film.Elsewhere, film.Nowhere}
	LayerKinds = []string{ClearCoat, SingleStage}
	Cures      = []string{AirDried, Baked, "unknown"}
	Substrates = []string{"steel", "aluminium", Plastic}
	Aims       = []plan.Aim{plan.NibsOnly, plan.Match, plan.Flat, plan.PolishOnly}
	Hardnesses = []string{"soft", shelf.Medium, "hard", "oxidised", "lacquer"}
	Unders     = []clearcoat.Under{clearcoat.UnderNew, clearcoat.UnderOver, clearcoat.UnderUnknown}
	Pasts      = []string{"polished", "repaired", "outside"}
	Colours    = []plan.Colour{plan.Light, plan.Medium, plan.Dark}
)

// Choose takes an answer that is one of a few.
func Choose[T ~string](from *string, field string, code refuse.Code, of []T, to *T) error {
	if from == nil {
		return nil
	}
	if !slices.Contains(of, T(*from)) {
		return refuse.Because(code, field, *from)
	}
	*to = T(*from)
	return nil
}

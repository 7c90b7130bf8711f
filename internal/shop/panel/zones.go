package panel

import (
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/store"
)

func GaugeID(r facts.Reading) string {
	if r.Gauge == "" {
		return store.ShopGauge
	}
	return r.Gauge
}

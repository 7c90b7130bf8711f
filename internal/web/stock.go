package web

import (
	"context"
	"encoding/csv"
	"fmt"
	"net/http"
	"strings"

	"waxplanus/internal/shop/week"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

func (v view) stock(w *week.Week) api.Stock {
	out := api.Stock{Text: v.Stock(w), Renewing: &w.Renewing, Lines: []api.StockLine{}}
	names := wording.CarNames(w)
	for i := range w.Stock {
		l := &w.Stock[i]
		one := api.StockLine{Item: l.Item, Title: l.Title, What: l.What, Unit: api.StockUnit(l.Unit), Counted: l.Counted, Here: hundredth(l.Here), Low: l.Low, Pack: l.Pack, Planned: hundredth(l.Planned),
			Text: v.StockLasts(w, l), Felt: each(l.Felt, func(id string) string { return names[id] }), Buy: hundredth(l.Buy), Cost: hundredth(l.Cost), IsLow: l.IsLow}
		if !l.Out.IsZero() {
			one.OutAt = &l.Out
		}
		out.BuyCost += one.Cost
		out.Lines = append(out.Lines, one)
	}
	out.BuyCost = hundredth(out.BuyCost)
	return out
}

// GetStock is what lies on the shelf.
func (s *Server) GetStock(ctx context.Context, _ api.GetStockRequestObject) (api.GetStockResponseObject, error) {
	w, err := s.shop.Week(ctx, false)
	if err != nil {
		return nil, err
	}
	return api.GetStock200JSONResponse(viewOf(ctx).stock(w)), nil
}

// MoveStock keeps that goods came in, were used or counted.
func (s *Server) MoveStock(ctx context.Context, r api.MoveStockRequestObject) (api.MoveStockResponseObject, error) {
	b := r.Body
	if err := s.shop.MoveStock(ctx, week.StockChange{ID: b.Id, Item: b.Item, Kind: string(given(b.Kind)), Much: given(b.Much), Person: b.Person, Note: given(b.Note), Low: b.Low, Pack: b.Pack}); err != nil {
		return nil, err
	}
	w, err := s.shop.Week(ctx, false)
	if err != nil {
		return nil, err
	}
	return api.MoveStock200JSONResponse(viewOf(ctx).stock(w)), nil
}

// GetShoppingList is what to buy.
func (s *Server) GetShoppingList(ctx context.Context, _ api.GetShoppingListRequestObject) (api.GetShoppingListResponseObject, error) {
	w, err := s.shop.Week(ctx, false)
	if err != nil {
		return nil, err
	}
	out := &fileAnswer{mime: "text/csv; charset=utf-8", name: "shopping list.csv"}
	list := csv.NewWriter(&out.body)
	_ = list.Write([]string{"item", "name", "buy", "unit", "packs", "cost", "here", "planned", "low"}) // into memory
	for _, l := range w.Stock {
		if l.Buy <= 0 {
			continue
		}
		_ = list.Write([]string{l.Item, strings.TrimSpace(l.Title + " " + l.What), fmt.Sprintf("%g", l.Buy), string(l.Unit), fmt.Sprintf("%g", l.Buy/l.Pack), fmt.Sprintf("%.2f", l.Cost),
			fmt.Sprintf("%.2f", l.Here), fmt.Sprintf("%.2f", l.Planned), fmt.Sprintf("%g", l.Low)})
	}
	list.Flush()
	return out, list.Error()
}

// VisitGetShoppingListResponse writes the answer.
func (f *fileAnswer) VisitGetShoppingListResponse(w http.ResponseWriter) error { return f.write(w) }

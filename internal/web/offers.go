package web

import (
	"bytes"
	"context"
	"errors"
	"image/png"
	"net/http"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/core/surface"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/offers"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

func (v view) offers(of *offers.CarOffers) api.CarOffers {
	out := api.CarOffers{Car: v.carOf(of.OfCar, of.Next), Title: v.OfferTitle(of), Text: v.NoOffers(of), NowClarity: of.NowClarity(), Offers: []api.CarOffer{}, Agreed: []string{},
		ValidUntil: of.Valid, ValidText: v.OfferValid(of), BeginsText: v.OfferBegins(of)}
	if of.Shows != nil {
		out.Shows = of.Shows.Name
	}
	for _, f := range of.Floors {
		if f.Struck == nil {
			out.Agreed = append(out.Agreed, v.Agreed(f))
		}
	}
	out.Untold = cars.Untold(of.Tellings)
	if of.Advice != nil {
		out.Advice, out.AdviceText = ptr(api.CarOfferName(of.Advice.Name)), ptr(v.OfferAdvice(of))
	}
	if p := of.Taken; p != nil {
		out.Taken = &api.OfferTaken{Name: api.CarOfferName(p.Offer), At: p.At, Text: v.OfferTaken(p, of.Now)}
	}
	for i := range of.Offers {
		out.Offers = append(out.Offers, v.carOffer(of, &of.Offers[i]))
	}
	return out
}

func (v view) carOffer(of *offers.CarOffers, o *offers.CarOffer) api.CarOffer {
	p := o.Price
	out := api.CarOffer{Name: api.CarOfferName(o.Name), Head: wording.OfferHead(o.Name), Looks: v.OfferLooks(of, o), Panels: []api.OfferPanel{},
		Hours:     hourRange(o.Hours),
		HoursText: wording.HourRange(o.Hours.Low, o.Hours.High),
		Price:     priceOf(p),
		ReadyText: v.OfferReady(of, o), FilmUm: o.Film, Clarity: o.Clarity(of), State: api.State(o.Worst()), Reason: v.OfferReason(o), Stays: append([]string{}, v.OfferStays(o)...)}
	out.PriceText, out.PriceWhy = v.PriceText(o)
	if !o.Ready.IsZero() {
		out.BeginsAt, out.ReadyAt = &o.Begins, &o.Ready
	}
	if of.Corrects() {
		out.Gone = &o.Gone
	}
	if o.Decides != nil {
		out.Clear = &api.OfferClear{Panel: o.Decides.Name, BeforeUm: estimate(o.Clear), StaysUm: estimate(o.Keeps(o.Decides.Result.Way.Ladder.FilmSD)), FloorUm: o.Section.Policy.Floor}
	}
	for _, pp := range o.Panels {
		l := pp.Result.Way.Ladder
		one := api.OfferPanel{Name: pp.Name, Text: v.OfferPanel(pp), FilmUm: l.Film, Hours: hundredth(l.Minutes / 60 * pp.Left()), Reached: pp.Result.Reached, State: api.State(film.Tight)}
		if !pp.Result.None {
			one.State = api.State(pp.State(l))
		}
		out.Panels = append(out.Panels, one)
	}
	return out
}

// GetOffers is what an owner chooses between.
func (s *Server) GetOffers(ctx context.Context, r api.GetOffersRequestObject) (api.GetOffersResponseObject, error) {
	of, err := s.shop.Offers(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	return api.GetOffers200JSONResponse(viewOf(ctx).offers(of)), nil
}

// TakeOffer keeps what the owner took.
func (s *Server) TakeOffer(ctx context.Context, r api.TakeOfferRequestObject) (api.TakeOfferResponseObject, error) {
	of, err := s.shop.TakeOffer(ctx, r.CarId, r.Body.Id, offers.CarOfferName(r.Body.Name), r.Body.Person, r.Body.Total)
	if err != nil {
		return nil, err
	}
	return api.TakeOffer200JSONResponse(viewOf(ctx).offers(of)), nil
}

// offerLamp shows the swirls of an offer.
var offerLamp = surface.Lamp{Wide: 48, High: 28, PxPerMM: picturePxPerMM}

// drawn is a picture of what is shown, with swirls under a lamp where those are worked on.
func drawn(at panel.Shown, lamp surface.Lamp) (*bytes.Buffer, error) {
	if at.Condition == nil {
		return pictureOf(at.Surface, paints[at.Colour])
	}
	var out bytes.Buffer
	err := png.Encode(&out, lamp.Swirls(*at.Condition, at.Removed, paints[string(plan.Dark)]))
	return &out, err
}

// GetOfferPicture draws what the panel that stands for the car mirrors after an offer.
func (s *Server) GetOfferPicture(ctx context.Context, r api.GetOfferPictureRequestObject) (api.GetOfferPictureResponseObject, error) {
	of, err := s.shop.Offers(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	o := of.Named(offers.CarOfferName(r.Offer))
	if of.Shows == nil || o == nil && r.Offer != api.GetOfferPictureParamsOfferNow {
		return nil, refuse.ErrMissing
	}
	pic, err := drawn(o.Shown(of), offerLamp)
	if err != nil {
		return nil, err
	}
	return api.GetOfferPicture200ImagepngResponse{Body: pic, ContentLength: int64(pic.Len())}, nil
}

// GetOfferSheet is all offers on one sheet.
func (s *Server) GetOfferSheet(ctx context.Context, r api.GetOfferSheetRequestObject) (api.GetOfferSheetResponseObject, error) {
	of, err := s.shop.Offers(ctx, r.CarId)
	if err != nil {
		return nil, err
	}
	if len(of.Offers) == 0 {
		return nil, refuse.ErrMissing
	}
	pictures := make([][]byte, len(of.Offers))
	for i := range of.Offers {
		pic, err := drawn(of.Offers[i].Shown(of), offerLamp)
		if err != nil {
			return nil, err
		}
		pictures[i] = pic.Bytes()
	}
	logo, err := s.shop.Logo(ctx)
	if err != nil && !errors.Is(err, refuse.ErrMissing) {
		return nil, err
	}
	hours := r.Params.Hours == nil || *r.Params.Hours
	paper, err := files.OfferPaper(viewOf(ctx).OfferSheet(of, pictures, logo, hours, given(r.Params.Words)))
	if err != nil {
		return nil, err
	}
	out := &fileAnswer{}
	if r.File == api.OffersPdf {
		out.mime, out.name = "application/pdf", "offers.pdf"
		return out, paper.PDF(&out.body)
	}
	out.mime = "image/svg+xml"
	out.body.Write(paper.SVG(0))
	return out, nil
}

// VisitGetOfferSheetResponse writes the answer.
func (f *fileAnswer) VisitGetOfferSheetResponse(w http.ResponseWriter) error { return f.write(w) }

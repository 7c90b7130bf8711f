package web

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"strings"
	"syscall"

	"github.com/gin-gonic/gin"

	"waxplanus/core/film"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

// unreadable is a request that could not be read.
type unreadable struct {
	status int
	wording.Unreadable
}

func (u *unreadable) Error() string { return "request not understood: " + string(u.Why) }

// problemOf turns any error into a problem detail. What only a programmer can read is
// not shown.
func problemOf(v view, err error) (p api.Problem, internal bool) {
	p = api.Problem{Type: "about:blank"}
	var u *unreadable
	if errors.As(err, &u) {
		p.Title, p.Status, p.Detail = "not understood", u.status, v.Unreadable(u.Unreadable)
		if u.Field != "" {
			p.Field = &u.Field
		}
		return p, false
	}
	var known bool
	p.Title, p.Detail, known = v.Fault(err)
	p.Status = statusOf(err)
	var r *refuse.Refusal
	switch {
	case errors.As(err, &r):
		if r.Field != "" {
			p.Field = &r.Field
		}
		var offers []api.ReadingOffer
		for _, o := range r.Offers {
			offers = append(offers, api.ReadingOffer{Text: v.Offer(o), Film: o.Film, Unit: api.Unit(o.Unit), Sure: o.Sure})
		}
		if len(offers) > 0 {
			p.Offers = &offers
		}
	case errors.Is(err, refuse.ErrTaken):
		p.Field = ptr("id")
	}
	return p, !known
}

func statusOf(err error) int {
	var r *refuse.Refusal
	switch {
	case errors.As(err, &r) && r.Kind == refuse.Bad:
		return http.StatusUnprocessableEntity
	case errors.As(err, &r), errors.Is(err, refuse.ErrTaken), errors.Is(err, refuse.ErrWorked), errors.Is(err, refuse.ErrClosed), errors.Is(err, film.ErrReadings):
		return http.StatusConflict
	case errors.Is(err, refuse.ErrMissing):
		return http.StatusNotFound
	case errors.Is(err, refuse.ErrBusy):
		return http.StatusServiceUnavailable
	case errors.Is(err, refuse.ErrFull):
		return http.StatusInsufficientStorage
	}
	return http.StatusInternalServerError
}

const retryAfter = "2" // seconds

func (s *Server) fail(c *gin.Context, err error) {
	p, internal := problemOf(viewOf(c), err)
	left := errors.Is(err, context.Canceled) || errors.Is(err, syscall.EPIPE) || errors.Is(err, syscall.ECONNRESET) // whoever asked
	if internal && !left {
		s.log.Error("request failed", "path", c.Request.URL.Path, "error", err)
	}
	c.Abort()
	c.Header("Content-Type", "application/problem+json")
	if p.Status == http.StatusServiceUnavailable {
		c.Header("Retry-After", retryAfter)
	}
	c.Status(p.Status)
	_ = json.NewEncoder(c.Writer).Encode(p) // the client is gone when this fails
}

// badRequest says why a request could not be read.
func badRequest(err error) error {
	var read *unreadable
	if errors.As(err, &read) {
		return read
	}
	u := &unreadable{status: http.StatusBadRequest}
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	var large *http.MaxBytesError
	switch text := err.Error(); {
	case errors.As(err, &large):
		u.status, u.Why, u.At = http.StatusRequestEntityTooLarge, wording.TooLarge, large.Limit
	case errors.As(err, &kind):
		u.Why, u.Field, u.Bound = wording.OutOfBounds, kind.Field, "as the contract says"
	case errors.As(err, &syntax):
		u.Why, u.At = wording.NotJSON, syntax.Offset
	case strings.Contains(text, "unknown field"):
		_, name, _ := strings.Cut(text, "unknown field ")
		u.Why, u.Field = wording.UnknownField, strings.Trim(name, `"`)
	default:
		u.Why = wording.CutShort
	}
	return u
}

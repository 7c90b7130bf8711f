package web

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/go-playground/validator/v10"

	"waxplanus/core/film"
	"waxplanus/internal/store"
	"waxplanus/internal/web/api"
)

// fault is an error with the status and the sentence that the client gets.
type fault struct {
	status int
	title  string
	detail string
	field  string
	offers []api.ReadingOffer
}

func (f *fault) Error() string { return f.detail }

func refuse(field, format string, args ...any) error {
	return &fault{http.StatusUnprocessableEntity, "not taken", fmt.Sprintf(format, args...), field, nil}
}

func conflict(format string, args ...any) error {
	return &fault{http.StatusConflict, "not now", fmt.Sprintf(format, args...), "", nil}
}

// problemOf turns any error into a problem detail. What only a programmer can
// read is not shown.
func problemOf(err error) (api.Problem, bool) {
	var f *fault
	switch {
	case errors.As(err, &f):
	case errors.Is(err, store.ErrMissing):
		f = &fault{http.StatusNotFound, "not on record", "There is nothing of that name on record. Go back to Today and open it from there.", "", nil}
	case errors.Is(err, store.ErrTaken):
		f = &fault{http.StatusConflict, "id in use", "This id is on record for something else: send it again with an id of its own.", "id", nil}
	case errors.Is(err, store.ErrWorked):
		f = &fault{http.StatusConflict, "work has begun", "Passes have been made under the plan of record, so it stays. Strike those passes out first, or finish it.", "", nil}
	case errors.Is(err, film.ErrReadings):
		f = &fault{http.StatusConflict, "no readings", "No readings on this panel. Zero the gauge on bare steel, then put the probe on cross 1.", "", nil}
	default:
		f = &fault{http.StatusInternalServerError, "not done", "The bench server could not do this. Nothing was changed; try again.", "", nil}
	}
	p := api.Problem{Type: "about:blank", Title: f.title, Status: f.status, Detail: f.detail}
	if f.field != "" {
		p.Field = &f.field
	}
	if len(f.offers) > 0 {
		p.Offers = &f.offers
	}
	return p, f.status >= 500
}

func (s *Server) fail(c *gin.Context, err error) {
	p, internal := problemOf(err)
	if internal && !errors.Is(err, context.Canceled) { // else whoever asked has left
		s.log.Error("request failed", "path", c.Request.URL.Path, "error", err)
	}
	c.Abort()
	c.Header("Content-Type", "application/problem+json")
	c.Status(p.Status)
	_ = json.NewEncoder(c.Writer).Encode(p) // the client is gone when this fails
}

// badRequest says in a sentence why a request could not be read.
func badRequest(err error) error {
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	text := err.Error()
	f := &fault{status: http.StatusBadRequest, title: "not understood"}
	var wanting validator.ValidationErrors
	var large *http.MaxBytesError
	switch {
	case errors.As(err, &wanting):
		f.field = wanting[0].Field()
		f.detail = fmt.Sprintf("%s is missing or empty. It is wanted here; see api/openapi.yaml.", f.field)
	case errors.As(err, &large):
		f.status = http.StatusRequestEntityTooLarge
		f.detail = fmt.Sprintf("The request is larger than %d MB. Readings of a whole car fit in one.", large.Limit>>20)
	case errors.As(err, &kind):
		f.field = kind.Field
		f.detail = fmt.Sprintf("%s is a %s; a %s is wanted.", kind.Field, kind.Value, kind.Type)
	case errors.As(err, &syntax):
		f.detail = fmt.Sprintf("The request is not JSON at byte %d: %s. Numbers are plain, without NaN or Infinity.", syntax.Offset, syntax)
	case strings.Contains(text, "unknown field"):
		_, name, _ := strings.Cut(text, "unknown field ")
		f.field = strings.Trim(name, `"`)
		f.detail = fmt.Sprintf("There is no field %s here. The contract in api/openapi.yaml lists the fields.", name)
	default:
		f.detail = "The request could not be read: " + text + "."
	}
	return f
}

package web

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"unicode"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/gin-gonic/gin"

	"waxplanus/internal/files"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

// What a request may hold beside what the contract says of a field: so many values in all,
// no number beyond any that a workshop has, and a text without a bound of its own.
const (
	mostValues = 20_000
	mostNumber = 1e9
	mostText   = 2000
)

// lined are the fields whose text may have lines.
var lined = map[string]bool{"text": true, "owner_words": true, "note": true}

// contract is the contract that requests are held against.
var contract = sync.OnceValue(func() *openapi3.T {
	doc, err := api.GetSpec()
	if err != nil {
		panic(fmt.Sprintf("the contract cannot be read: %v", err)) // it is part of the program
	}
	return doc
})

var ginParam = regexp.MustCompile(`:(\w+)`)

// operation is what the contract says of the request under way; nil for what is no part of
// it.
func operation(c *gin.Context) *openapi3.Operation {
	path, ok := strings.CutPrefix(c.FullPath(), "/api")
	if !ok {
		return nil
	}
	item := contract().Paths.Value(ginParam.ReplaceAllString(path, "{$1}"))
	if item == nil {
		return nil
	}
	return item.GetOperation(c.Request.Method)
}

// abide refuses a request that is not as the contract says.
func (s *Server) abide(c *gin.Context) {
	op := operation(c)
	if op == nil {
		return
	}
	if err := abides(c, op); err != nil {
		s.fail(c, err)
	}
}

func abides(c *gin.Context, op *openapi3.Operation) error {
	for _, p := range op.Parameters {
		if err := parameter(c, p.Value); err != nil {
			return err
		}
	}
	if op.RequestBody == nil {
		return nil
	}
	media := op.RequestBody.Value.Content.Get("application/json")
	if media == nil {
		return nil // a photo
	}
	raw, err := io.ReadAll(c.Request.Body)
	if err != nil {
		return badRequest(err)
	}
	c.Request.Body = io.NopCloser(bytes.NewReader(raw))
	if len(raw) == 0 {
		return refused(http.StatusBadRequest, wording.Unreadable{Why: wording.CutShort})
	}
	if err := countValues(raw); err != nil {
		return err
	}
	var body any
	if err := json.Unmarshal(raw, &body); err != nil {
		return badRequest(err)
	}
	if err := plausible("", body); err != nil {
		return err
	}
	return schemaFault(media.Schema.Value.VisitJSON(body, openapi3.VisitAsRequest(), openapi3.DisableReadOnlyValidation()))
}

// parameter holds one value of the path or query against the contract.
func parameter(c *gin.Context, p *openapi3.Parameter) error {
	text, given := c.Params.Get(p.Name)
	if p.In == openapi3.ParameterInQuery {
		text, given = c.GetQuery(p.Name)
	}
	if !given {
		if p.Required {
			return refused(http.StatusBadRequest, wording.Unreadable{Why: wording.Missing, Field: p.Name})
		}
		return nil
	}
	var value any = text
	var err error
	switch schema := p.Schema.Value; {
	case schema.Type.Is("number"), schema.Type.Is("integer"):
		value, err = strconv.ParseFloat(text, 64)
	case schema.Type.Is("boolean"):
		value, err = strconv.ParseBool(text)
	}
	if err != nil {
		return refused(http.StatusBadRequest, wording.Unreadable{Why: wording.OutOfBounds, Field: p.Name, Is: "other", Bound: "a number, or true or false, as the contract says"})
	}
	if err := plausible(p.Name, value); err != nil {
		return err
	}
	return named(p.Name, schemaFault(p.Schema.Value.VisitJSON(value)))
}

func refused(status int, u wording.Unreadable) error { return &unreadable{status, u} }

// named gives a fault the name of the parameter that it is of.
func named(name string, err error) error {
	var u *unreadable
	if errors.As(err, &u) && u.Field == "" {
		u.Field = name
	}
	return err
}

// countValues refuses a text of more values than any request needs, before memory is made
// for them.
func countValues(raw []byte) error {
	n, quoted := 0, false
	for i := 0; i < len(raw); i++ {
		switch b := raw[i]; {
		case quoted && b == '\\':
			i++
		case b == '"':
			quoted = !quoted
		case !quoted && (b == ',' || b == '[' || b == '{'):
			if n++; n > mostValues {
				return refused(http.StatusRequestEntityTooLarge, wording.Unreadable{Why: wording.TooMany, At: mostValues})
			}
		}
	}
	return nil
}

// plausible refuses numbers and texts that no field has, whatever the contract says of it.
func plausible(field string, value any) error {
	switch v := value.(type) {
	case map[string]any:
		for name, one := range v {
			if len(name) > 64 || strings.ContainsFunc(name, unicode.IsControl) {
				return refused(http.StatusUnprocessableEntity, wording.Unreadable{Why: wording.UnknownField, Field: wording.Short(name)})
			}
			if err := plausible(name, one); err != nil {
				return err
			}
		}
	case []any:
		for _, one := range v {
			if err := plausible(field, one); err != nil {
				return err
			}
		}
	case float64:
		if !(math.Abs(v) <= mostNumber) {
			return refused(http.StatusUnprocessableEntity, wording.Unreadable{Why: wording.NoNumber, Field: field})
		}
	case string:
		bad := func(r rune) bool {
			return unicode.IsControl(r) && !(lined[field] && (r == '\n' || r == '\r' || r == '\t'))
		}
		if strings.ContainsFunc(v, bad) && field != "text" {
			return refused(http.StatusUnprocessableEntity, wording.Unreadable{Why: wording.ControlSigns, Field: field})
		}
		if field != "text" && len([]rune(v)) > mostText {
			return refused(http.StatusUnprocessableEntity, wording.Unreadable{Why: wording.OutOfBounds, Field: field, Bound: fmt.Sprintf("%d letters at most", mostText)})
		}
	}
	return nil
}

// schemaFault says what of the contract a value breaks; nil for nothing.
func schemaFault(err error) error {
	var fault *openapi3.SchemaError
	if !errors.As(err, &fault) {
		return err
	}
	path := fault.JSONPointer()
	field := ""
	for _, p := range path {
		if _, err := strconv.Atoi(p); err != nil {
			field = p
		}
	}
	u := wording.Unreadable{Why: wording.OutOfBounds, Field: field, Bound: boundOf(fault)}
	status := http.StatusUnprocessableEntity
	switch fault.SchemaField {
	case "required":
		u.Why, status = wording.Missing, http.StatusBadRequest
	case "type":
		u.Why, u.Wanted, u.Is, status = wording.OtherKind, kindOf(fault.Schema), isOf(fault.Value), http.StatusBadRequest
	}
	return refused(status, u)
}

// boundOf says the bound that was broken.
func boundOf(f *openapi3.SchemaError) string {
	s := f.Schema
	switch f.SchemaField {
	case "minLength", "maxLength":
		if s.MaxLength == nil {
			return fmt.Sprintf("%d letters at least", s.MinLength)
		}
		return fmt.Sprintf("%d to %d letters", s.MinLength, *s.MaxLength)
	case "minItems", "maxItems":
		if s.MaxItems == nil {
			return fmt.Sprintf("%d at least", s.MinItems)
		}
		return fmt.Sprintf("%d to %d of them", s.MinItems, *s.MaxItems)
	case "uniqueItems":
		return "each of them once"
	case "minimum", "maximum":
		switch {
		case s.Max == nil:
			return files.Plain(*s.Min) + " or more"
		case s.Min == nil:
			return files.Plain(*s.Max) + " at most"
		}
		return files.Plain(*s.Min) + " to " + files.Plain(*s.Max)
	case "enum":
		var words []string
		for _, v := range s.Enum {
			words = append(words, fmt.Sprint(v))
		}
		last := len(words) - 1
		if last == 0 {
			return words[0]
		}
		return strings.Join(words[:last], ", ") + " or " + words[last]
	case "format":
		return "a " + s.Format
	}
	return "as the contract says"
}

func kindOf(s *openapi3.Schema) wording.Kind {
	switch {
	case s.Type.Is("boolean"):
		return wording.YesNo
	case s.Type.Is("string"):
		return wording.Text
	case s.Type.Is("array"):
		return wording.List
	case s.Type.Is("object"):
		return wording.Object
	}
	return wording.Number
}

func isOf(v any) string {
	switch v.(type) {
	case nil:
		return "nothing"
	case bool:
		return string(wording.YesNo)
	case string:
		return string(wording.Text)
	case []any:
		return string(wording.List)
	case map[string]any:
		return string(wording.Object)
	}
	return string(wording.Number)
}

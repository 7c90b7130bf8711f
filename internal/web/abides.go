package web

import (
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"sync"

	"github.com/getkin/kin-openapi/openapi3"
)

// route is one operation of the contract with the paths that it answers.
type route struct {
	method string
	path   *regexp.Regexp
	op     *openapi3.Operation
}

var param = regexp.MustCompile(`\\\{[^}]*\\\}`)

var routes = sync.OnceValue(func() []route {
	doc, err := withExamples()
	if err != nil {
		panic(err) // it is part of the program
	}
	var out []route
	for path, item := range doc.Paths.Map() {
		at := regexp.MustCompile("^/api" + param.ReplaceAllString(regexp.QuoteMeta(path), `[^/]+`) + "$")
		for method, op := range item.Operations() {
			out = append(out, route{method, at, op})
		}
	}
	// A path without parameters comes before one that would take it for one.
	slices.SortFunc(out, func(a, b route) int { return strings.Count(a.path.String(), "+") - strings.Count(b.path.String(), "+") })
	return out
})

// routeOf is the operation that answers a path; nil for what is no part of the contract.
func routeOf(method, path string) *route {
	for _, one := range routes() {
		if one.method == method && one.path.MatchString(path) {
			return &one
		}
	}
	return nil
}

// Abides says what of an answer is not as the contract says: its status, its kind, and what is
// in it; nil for nothing, and for a path that is no part of the contract.
func Abides(method, path string, status int, kind string, body []byte) error {
	is := routeOf(method, path)
	if is == nil {
		return nil
	}
	name := is.op.OperationID
	kind, _, _ = strings.Cut(kind, ";")
	said := is.op.Responses.Status(status)
	if said == nil {
		if said = is.op.Responses.Default(); status < 400 || said == nil {
			return fmt.Errorf("%s answers %d, which the contract does not say", name, status)
		}
	}
	content := said.Value.Content
	if len(content) == 0 {
		if len(body) > 0 {
			return fmt.Errorf("%s answers %d with a body, and the contract has none: %.200s", name, status, body)
		}
		return nil
	}
	media := content.Get(kind)
	if media == nil {
		return fmt.Errorf("%s answers %d as %q, which the contract does not say", name, status, kind)
	}
	if !strings.HasSuffix(kind, "json") || kind == "application/schema+json" {
		return nil
	}
	var value any
	if err := json.Unmarshal(body, &value); err != nil {
		return fmt.Errorf("%s: %w", name, err)
	}
	if err := media.Schema.Value.VisitJSON(value, openapi3.VisitAsResponse(), openapi3.MultiErrors()); err != nil {
		return fmt.Errorf("%s answers %d other than the contract says: %w", name, status, err)
	}
	return nil
}

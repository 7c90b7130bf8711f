package web

import (
	"cmp"
	"embed"
	"encoding/json"
	"html/template"
	"net/http"
	"slices"
	"strings"
	"sync"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/gin-gonic/gin"

	whole "waxplanus/api"
	"waxplanus/internal/wording"
)

//go:embed contract.html examples.json
var contractFiles embed.FS

// Example is one request with its answer, as the program has answered it: bodies as text where
// they are JSON, shortened, else what kind they are of.
type Example struct {
	Path   string          `json:"path"`
	Ask    json.RawMessage `json:"ask,omitempty"`
	Status int             `json:"status"`
	Answer json.RawMessage `json:"answer,omitempty"`
	Kind   string          `json:"kind,omitempty"`
}

// examples of every operation, by its id. TestEveryRoute makes and checks them.
var examples = sync.OnceValue(func() map[string]Example {
	raw, err := contractFiles.ReadFile("examples.json")
	out := map[string]Example{}
	if err == nil {
		err = json.Unmarshal(raw, &out)
	}
	if err != nil {
		panic(err) // they are part of the program
	}
	return out
})

// withExamples is the whole contract, with the streams that no handler is generated for, and an
// example of each operation in it.
var withExamples = sync.OnceValues(func() (*openapi3.T, error) {
	doc, err := openapi3.NewLoader().LoadFromData(whole.Contract)
	if err != nil {
		return nil, err
	}
	for _, item := range doc.Paths.Map() {
		for _, op := range item.Operations() {
			e, ok := examples()[op.OperationID]
			if !ok {
				continue
			}
			if op.RequestBody != nil && len(e.Ask) > 0 {
				if m := op.RequestBody.Value.Content.Get("application/json"); m != nil {
					m.Example = e.Ask
				}
			}
			if answer := op.Responses.Status(e.Status); answer != nil && len(e.Answer) > 0 {
				for _, kind := range []string{"application/json", "text/event-stream"} {
					if m := answer.Value.Content[kind]; m != nil {
						m.Example = e.Answer
					}
				}
			}
		}
	}
	return doc, nil
})

// operationLine is one operation as the page shows it.
type operationLine struct {
	ID, Method, Path, Text string
	Parameters             []parameterLine
	Ask, Answer            string // names of their schemas
	Example                Example
	AskText, AnswerText    string
}

type parameterLine struct {
	Name, In, Text string
	Required       bool
}

// operationGroup are the operations on one kind of thing.
type operationGroup struct {
	Name       string
	Operations []operationLine
}

var contractPage = template.Must(template.ParseFS(contractFiles, "contract.html"))

// readContract is the contract as a page to read.
func (s *Server) readContract(c *gin.Context) {
	groups := map[string][]operationLine{}
	doc, err := withExamples()
	if err != nil {
		s.fail(c, err)
		return
	}
	for path, item := range doc.Paths.Map() {
		for method, op := range item.Operations() {
			root, _, _ := strings.Cut(strings.TrimPrefix(path, "/"), "/")
			groups[root] = append(groups[root], lineOf(method, path, op))
		}
	}
	var all []operationGroup
	for name, list := range groups {
		slices.SortFunc(list, func(a, b operationLine) int {
			return cmp.Or(cmp.Compare(a.Path, b.Path), cmp.Compare(a.Method, b.Method))
		})
		all = append(all, operationGroup{name, list})
	}
	slices.SortFunc(all, func(a, b operationGroup) int { return cmp.Compare(a.Name, b.Name) })
	c.Header("Content-Type", "text/html; charset=utf-8")
	c.Status(http.StatusOK)
	_ = contractPage.Execute(c.Writer, map[string]any{"Groups": all, "Version": s.version, "Intro": wording.Contract}) // the client is gone when this fails
}

func lineOf(method, path string, op *openapi3.Operation) operationLine {
	e := examples()[op.OperationID]
	out := operationLine{ID: op.OperationID, Method: method, Path: "/api" + path, Text: op.Description, Example: e, AskText: indented(e.Ask), AnswerText: indented(e.Answer)}
	for _, p := range op.Parameters {
		out.Parameters = append(out.Parameters, parameterLine{p.Value.Name, p.Value.In, p.Value.Description, p.Value.Required})
	}
	if op.RequestBody != nil {
		out.Ask = schemaName(op.RequestBody.Value.Content)
	}
	for status, r := range op.Responses.Map() {
		if strings.HasPrefix(status, "2") {
			out.Answer = strings.TrimSpace(status + " " + schemaName(r.Value.Content))
		}
	}
	return out
}

// schemaName is the name of what a body is, or its kinds.
func schemaName(content openapi3.Content) string {
	var kinds []string
	for mime, m := range content {
		name := mime
		if m.Schema != nil && m.Schema.Ref != "" {
			name = m.Schema.Ref[strings.LastIndexByte(m.Schema.Ref, '/')+1:]
		} else if m.Schema != nil && m.Schema.Value != nil && m.Schema.Value.Items != nil && m.Schema.Value.Items.Ref != "" {
			name = "list of " + m.Schema.Value.Items.Ref[strings.LastIndexByte(m.Schema.Value.Items.Ref, '/')+1:]
		}
		kinds = append(kinds, name)
	}
	slices.Sort(kinds)
	return strings.Join(kinds, ", ")
}

func indented(raw json.RawMessage) string {
	if len(raw) == 0 {
		return ""
	}
	out, err := json.MarshalIndent(raw, "", "  ")
	if err != nil {
		return ""
	}
	return string(out)
}

package web

import (
	"bytes"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"maps"
	"net/http"
	"net/http/httptest"
	"os"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
)

// answered are the operations that tests have had answered, each with its shortest example.
var answered = struct {
	sync.Mutex
	by map[string]Example
}{by: map[string]Example{}}

// abidesBy holds an answer against the contract, whatever it was asked for, and notes it.
func abidesBy(t testing.TB, r *http.Request, ask string, w *httptest.ResponseRecorder) {
	t.Helper()
	is := routeOf(r.Method, r.URL.EscapedPath())
	if is == nil || underRace {
		return // it is no part of the contract; the race detector takes minutes to hold answers against it
	}
	if err := Abides(r.Method, r.URL.EscapedPath(), w.Code, w.Header().Get("Content-Type"), w.Body.Bytes()); err != nil {
		t.Error(err)
		return
	}
	kind, _, _ := strings.Cut(w.Header().Get("Content-Type"), ";")
	if w.Code >= 300 {
		return
	}
	e := Example{Path: r.URL.RequestURI(), Status: w.Code}
	if json.Valid([]byte(ask)) {
		e.Ask = shortened([]byte(ask))
	}
	if kind == "application/json" && is.op.OperationID != "getContract" { // which has this example in it
		e.Answer = shortened(w.Body.Bytes())
	} else {
		e.Kind = kind
	}
	answered.Lock()
	defer answered.Unlock()
	if old, known := answered.by[is.op.OperationID]; !known || better(e, old) {
		answered.by[is.op.OperationID] = e
	}
}

// better says whether an example tells more: one with something in its lists, then the shorter.
func better(e, old Example) bool {
	empty := func(x Example) int {
		return bytes.Count(x.Answer, []byte("[]")) + bytes.Count(x.Answer, []byte("null"))
	}
	if a, b := empty(e), empty(old); a != b {
		return a < b
	}
	if len(e.Answer) != len(old.Answer) {
		return len(e.Answer) < len(old.Answer)
	}
	return e.Path+string(e.Ask) < old.Path+string(old.Ask)
}

// A stream begins with a first event, which is News as the contract says, and ends when its client
// leaves.
func TestStreamsBeginAsTheContractSays(t *testing.T) {
	b := newBed(t)
	for _, path := range []string{"/api/panels/" + b.panel + "/events?device=tablet-1&person=Tove", "/api/cars/" + b.car + "/events", "/api/events"} {
		ctx, leave := context.WithTimeout(context.Background(), time.Second)
		r := httptest.NewRequestWithContext(ctx, http.MethodGet, path, nil)
		w := httptest.NewRecorder()
		b.handler.ServeHTTP(w, r)
		leave()
		is := routeOf(r.Method, r.URL.EscapedPath())
		_, event, ok := strings.Cut(w.Body.String(), "data: ")
		event, _, _ = strings.Cut(event, "\n")
		if w.Code != 200 || !ok || w.Header().Get("Content-Type") != "text/event-stream" {
			t.Errorf("%s: %d %q", path, w.Code, w.Body)
			continue
		}
		fits(t, is.op.OperationID+" begins", is.op.Responses.Status(200).Value.Content.Get("text/event-stream"), json.RawMessage(event))
		answered.Lock()
		answered.by[is.op.OperationID] = Example{Path: r.URL.RequestURI(), Status: 200, Kind: "text/event-stream, one event", Answer: json.RawMessage(event)}
		answered.Unlock()
	}
}

// shortened is JSON whose lists are cut to their first, and texts to a line.
func shortened(raw []byte) json.RawMessage {
	var v any
	if json.Unmarshal(raw, &v) != nil {
		return nil
	}
	out, _ := json.Marshal(cutShort(v))
	return out
}

func cutShort(v any) any {
	switch value := v.(type) {
	case []any:
		for i := range value {
			value[i] = cutShort(value[i])
		}
		return value[:min(len(value), 1)]
	case map[string]any:
		for k := range value {
			value[k] = cutShort(value[k])
		}
	case string:
		if len(value) > 240 {
			return value[:240] + "…"
		}
	}
	return v
}

// TestMain looks, once all tests have run, whether every operation was asked for and answered as
// the contract says. With -examples it writes what stands in the contract as examples.
func TestMain(m *testing.M) {
	write := flag.Bool("examples", false, "write the examples of the contract anew")
	flag.Parse()
	code := m.Run()
	if only := flag.Lookup("test.run").Value.String(); only != "" || underRace || flag.Lookup("test.bench").Value.String() != "" {
		os.Exit(code)
	}
	for _, r := range routes() {
		if _, ok := answered.by[r.op.OperationID]; !ok {
			fmt.Printf("--- FAIL: no test has %s answered\n", r.op.OperationID)
			code = 1
		}
	}
	if *write {
		if err := writeExamples(); err != nil {
			fmt.Println(err)
			code = 1
		}
	}
	os.Exit(code)
}

// writeExamples writes one line for each operation.
func writeExamples() error {
	var out bytes.Buffer
	for i, id := range slices.Sorted(maps.Keys(answered.by)) {
		raw, err := json.Marshal(answered.by[id])
		if err != nil {
			return err
		}
		fmt.Fprintf(&out, "%c\n%q: %s", "{,"[min(i, 1)], id, raw)
	}
	out.WriteString("\n}\n")
	return os.WriteFile("examples.json", out.Bytes(), 0o644)
}

// Every operation has an example, and each of them is as the contract says.
func TestEveryOperationHasAnExample(t *testing.T) {
	for _, r := range routes() {
		e, ok := examples()[r.op.OperationID]
		if !ok {
			t.Errorf("%s has none", r.op.OperationID)
			continue
		}
		if r.op.RequestBody != nil {
			if m := r.op.RequestBody.Value.Content.Get("application/json"); m != nil {
				fits(t, r.op.OperationID+" is asked", m, e.Ask)
			}
		}
		answer := r.op.Responses.Status(e.Status)
		if answer == nil {
			t.Errorf("%s answers %d", r.op.OperationID, e.Status)
			continue
		}
		if m := answer.Value.Content.Get("application/json"); m != nil && e.Kind == "" {
			fits(t, r.op.OperationID+" answers", m, e.Answer)
		}
	}
}

func fits(t *testing.T, what string, m *openapi3.MediaType, raw json.RawMessage) {
	t.Helper()
	var v any
	if err := json.Unmarshal(raw, &v); err != nil {
		t.Errorf("%s %q: %v", what, raw, err)
		return
	}
	// Lists are cut short, so how many there have to be does not count.
	if err := m.Schema.Value.VisitJSON(v); err != nil && !strings.Contains(err.Error(), "minimum number of items") {
		t.Errorf("%s %v", what, err)
	}
}

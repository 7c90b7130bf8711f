package wording

import (
	"go/ast"
	"go/parser"
	"go/token"
	"strconv"
	"strings"
	"testing"

	"waxplanus/internal/shop/refuse"
)

// Every code that the shop refuses with has a sentence of its own, and no sentence
// stands for a code that is gone.
func TestEveryRefusalHasItsSentence(t *testing.T) {
	f, err := parser.ParseFile(token.NewFileSet(), "../shop/refuse/codes.go", nil, 0)
	if err != nil {
		t.Fatal(err)
	}
	codes := map[refuse.Code]bool{}
	ast.Inspect(f, func(n ast.Node) bool {
		if lit, ok := n.(*ast.BasicLit); ok && lit.Kind == token.STRING {
			code, _ := strconv.Unquote(lit.Value)
			codes[refuse.Code(code)] = true
		}
		return true
	})
	if len(codes) < 80 {
		t.Fatalf("only %d codes found: the test does not see them", len(codes))
	}
	for code := range codes {
		if text := refusals[code]; text == "" || text != "%s" && !strings.HasSuffix(text, ".") && !strings.HasSuffix(text, "?") && !strings.HasSuffix(text, "%s") {
			t.Errorf("%s has no whole sentence: %q", code, text)
		}
	}
	for code := range refusals {
		if !codes[code] {
			t.Errorf("nothing is refused with %s", code)
		}
	}
}

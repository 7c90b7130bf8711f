package internal

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
)

// shut are what each room may not import, by the beginning of the path: rows stop at the
// shop, the contract's types stay in the web, and nothing below knows what is above it.
var shut = map[string][]string{
	"store":   {"waxplanus/internal/", "github.com/gin-gonic", "net/http"},
	"files":   {"waxplanus/internal/", "github.com/gin-gonic", "gorm.io", "net/http"},
	"shop":    {"waxplanus/internal/web", "waxplanus/internal/wording", "waxplanus/internal/demo", "github.com/gin-gonic", "gorm.io", "net/http"},
	"wording": {"waxplanus/internal/web", "waxplanus/internal/store", "waxplanus/internal/demo", "github.com/gin-gonic", "gorm.io", "net/http"},
	"demo":    {"waxplanus/internal/web", "waxplanus/internal/wording", "github.com/gin-gonic", "gorm.io"},
	"web":     {"waxplanus/internal/store", "waxplanus/internal/demo", "gorm.io"},
}

// mute are rooms that make no sentence of their own.
var mute = map[string]bool{"shop": true, "web": true}

func TestRoomsKeepToThemselves(t *testing.T) {
	files := map[string]int{}
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || strings.HasSuffix(path, ".gen.go") {
			return err
		}
		room, _, _ := strings.Cut(filepath.ToSlash(path), "/")
		files[room]++
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		if err != nil {
			return err
		}
		for _, fault := range faults(room, f) {
			t.Errorf("%s %s", path, fault)
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	for room := range shut {
		if files[room] == 0 {
			t.Errorf("the guard does not see the room %s", room)
		}
	}
}

// faults are what a file of a room imports and says that it should not.
func faults(room string, f *ast.File) []string {
	var out []string
	imported := map[ast.Expr]bool{}
	for _, i := range f.Imports {
		imported[i.Path] = true
		path, _ := strconv.Unquote(i.Path.Value)
		for _, begins := range shut[room] {
			if strings.HasPrefix(path, begins) {
				out = append(out, "imports "+path)
			}
		}
	}
	if !mute[room] {
		return out
	}
	ast.Inspect(f, func(n ast.Node) bool {
		if lit, ok := n.(*ast.BasicLit); ok && lit.Kind == token.STRING && !imported[lit] {
			if text, _ := strconv.Unquote(lit.Value); sentence(text) {
				out = append(out, "says "+lit.Value)
			}
		}
		return true
	})
	return out
}

// sentence says whether a text is one that a person reads: three words or more, ended.
func sentence(text string) bool {
	ended := strings.HasSuffix(text, ".") || strings.HasSuffix(text, "?")
	return ended && len(strings.Fields(text)) >= 3
}

func TestGuardOfRoomsSeesFaults(t *testing.T) {
	for room, sources := range map[string][]string{
		"shop":    {`package x; import "github.com/gin-gonic/gin"`, `package x; import "waxplanus/internal/web/api"`, `package x; import "waxplanus/internal/wording"`, `package x; var s = "Read the film first."`},
		"wording": {`package x; import "waxplanus/internal/store"`, `package x; import "net/http"`},
		"web":     {`package x; import "waxplanus/internal/store"`, `package x; import "gorm.io/gorm"`, `package x; func f() string { return "Is the right panel open?" }`},
		"store":   {`package x; import "waxplanus/internal/shop"`},
	} {
		for _, src := range sources {
			f, err := parser.ParseFile(token.NewFileSet(), "x.go", src, 0)
			if err != nil {
				t.Fatal(err)
			}
			if len(faults(room, f)) == 0 {
				t.Errorf("the guard lets this through in %s: %s", room, src)
			}
		}
	}
	fine, err := parser.ParseFile(token.NewFileSet(), "x.go", `package x; import "waxplanus/internal/store"; var why = "bad_unit"`, 0)
	if err != nil {
		t.Fatal(err)
	}
	if got := faults("shop", fine); len(got) > 0 {
		t.Errorf("the guard refuses what is fine: %v", got)
	}
}

package shop

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
)

// order is that of the rooms: each may stand on those before it alone.
var order = []string{"memo", "refuse", "house", "facts", "panel", "advice", "panelwork", "proof", "cars", "week", "offers", "went", "handover", "keep"}

// Rooms stay small enough to be read: so many files and methods of one type, and those that
// are over for now, which may only become fewer.
const (
	mostFiles   = 15
	mostMethods = 25
)

var over = map[string]int{
	"panel": 20, "panel.Panel": 112, "panel.Service": 33,
	"panelwork.Service": 49, "house.Service": 31, "cars.Service": 30, "keep.Service": 29, "proof.Service": 26,
}

// above are the rooms of an import list that a room may not stand on.
func above(room string, f *ast.File) []string {
	var out []string
	for _, i := range f.Imports {
		path, _ := strconv.Unquote(i.Path.Value)
		if other, inside := strings.CutPrefix(path, "waxplanus/internal/shop/"); inside && slices.Index(order, other) >= slices.Index(order, room) {
			out = append(out, other)
		}
		if path == "waxplanus/internal/shop" {
			out = append(out, path)
		}
	}
	return out
}

// methods counts those of each type of a file.
func methods(f *ast.File, count map[string]int) {
	for _, d := range f.Decls {
		fn, ok := d.(*ast.FuncDecl)
		if !ok || fn.Recv == nil {
			continue
		}
		of := fn.Recv.List[0].Type
		if star, ok := of.(*ast.StarExpr); ok {
			of = star.X
		}
		if id, ok := of.(*ast.Ident); ok {
			count[id.Name]++
		}
	}
}

func TestRoomsStandOnThoseBelow(t *testing.T) {
	rooms, err := os.ReadDir(".")
	if err != nil {
		t.Fatal(err)
	}
	seen := 0
	for _, room := range rooms {
		if !room.IsDir() {
			continue
		}
		if seen++; !slices.Contains(order, room.Name()) {
			t.Errorf("%s has no place in the order of the rooms", room.Name())
		}
		paths, err := filepath.Glob(filepath.Join(room.Name(), "*.go"))
		if err != nil {
			t.Fatal(err)
		}
		files, count := 0, map[string]int{}
		for _, path := range paths {
			if strings.HasSuffix(path, "_test.go") {
				continue
			}
			f, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
			if err != nil {
				t.Fatal(err)
			}
			files++
			methods(f, count)
			if up := above(room.Name(), f); len(up) > 0 {
				t.Errorf("%s stands on %v, which is not below it", path, up)
			}
		}
		within(t, room.Name(), "files", files, mostFiles)
		for of, n := range count {
			within(t, room.Name()+"."+of, "methods", n, mostMethods)
		}
	}
	if seen != len(order) {
		t.Errorf("%d rooms, the order has %d", seen, len(order))
	}
}

// within holds a count against its limit, or against what it was when the limit came.
func within(t *testing.T, name, what string, n, most int) {
	t.Helper()
	if n > max(most, over[name]) {
		t.Errorf("%s has %d %s, at most %d", name, n, what, max(most, over[name]))
	}
	if was, ok := over[name]; ok && n <= most {
		t.Errorf("%s has %d %s now: it need not be let through with %d any more", name, n, what, was)
	}
}

func TestTheOrderOfRoomsSeesFaults(t *testing.T) {
	for src, room := range map[string]string{
		`package x; import "waxplanus/internal/shop/cars"`:  "panel",
		`package x; import "waxplanus/internal/shop/keep"`:  "handover",
		`package x; import "waxplanus/internal/shop/house"`: "house",
		`package x; import "waxplanus/internal/shop/panel"`: "facts",
		`package x; import "waxplanus/internal/shop"`:       "went",
	} {
		f, err := parser.ParseFile(token.NewFileSet(), "x.go", src, 0)
		if err != nil {
			t.Fatal(err)
		}
		if len(above(room, f)) == 0 {
			t.Errorf("in %s this is let through: %s", room, src)
		}
	}
	f, err := parser.ParseFile(token.NewFileSet(), "x.go", `package x; import ("waxplanus/internal/shop/facts"; "fmt"); func (p *Panel) A() {}; func (p Panel) B() {}; func C() {}`, 0)
	if err != nil {
		t.Fatal(err)
	}
	count := map[string]int{}
	if methods(f, count); len(above("panel", f)) > 0 || count["Panel"] != 2 {
		t.Errorf("what is below is refused, or methods are not counted: %v", count)
	}
}

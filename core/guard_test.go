package core

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

// banned are parts of the standard library that reach outside the process.
var banned = map[string]bool{"os": true, "net": true, "log": true, "syscall": true, "plugin": true, "database": true}

func TestCoreReachesNothingOutside(t *testing.T) {
	files := 0
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		files++
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		if err != nil {
			return err
		}
		for _, fault := range reachesOut(f) {
			t.Errorf("%s %s", path, fault)
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	if files < 10 {
		t.Fatalf("only %d files looked at: the guard does not see the core", files)
	}
}

func reachesOut(f *ast.File) []string {
	var faults []string
	for _, i := range f.Imports {
		path, _ := strconv.Unquote(i.Path.Value)
		first, _, _ := strings.Cut(path, "/")
		switch {
		case strings.HasPrefix(path, "waxplanus/core"), strings.HasPrefix(path, "gonum.org/v1/gonum/"), strings.HasPrefix(path, "golang.org/x/image/"):
		case strings.Contains(first, "."), first == "waxplanus":
			faults = append(faults, "imports "+path+", which is outside the core")
		case banned[first]:
			faults = append(faults, "imports "+path+", which reaches outside the process")
		}
	}
	ast.Inspect(f, func(n ast.Node) bool {
		if s, ok := n.(*ast.SelectorExpr); ok {
			if x, ok := s.X.(*ast.Ident); ok && x.Name == "time" && (s.Sel.Name == "Now" || s.Sel.Name == "Since" || s.Sel.Name == "Until") {
				faults = append(faults, "reads the clock with time."+s.Sel.Name)
			}
		}
		return true
	})
	return faults
}

func TestGuardSeesFaults(t *testing.T) {
	for _, src := range []string{
		`package x; import "os"`,
		`package x; import "net/http"`,
		`package x; import "database/sql"`,
		`package x; import "gorm.io/gorm"`,
		`package x; import "waxplanus/internal/store"`,
		`package x; import "time"; var t = time.Now()`,
	} {
		f, err := parser.ParseFile(token.NewFileSet(), "x.go", src, 0)
		if err != nil {
			t.Fatal(err)
		}
		if len(reachesOut(f)) == 0 {
			t.Errorf("the guard lets this through: %s", src)
		}
	}
}

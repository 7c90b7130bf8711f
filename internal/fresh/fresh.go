// Package fresh is for tests: what is slow to make the first time, such as a shop with all its
// migrations, is made once and copied for each of them.
package fresh

import (
	"io/fs"
	"os"
	"path/filepath"
	"sync"
)

// Files are those of a directory, and of what lies in it, as it was made once.
type Files struct {
	made func() (map[string][]byte, error)
}

// Of has make fill a directory when the files are wanted first.
func Of(make func(dir string) error) *Files {
	return &Files{sync.OnceValues(func() (map[string][]byte, error) { return read(make) })}
}

func read(fill func(dir string) error) (map[string][]byte, error) {
	dir, err := os.MkdirTemp("", "fresh")
	if err != nil {
		return nil, err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	if err := fill(dir); err != nil {
		return nil, err
	}
	out := map[string][]byte{}
	err = filepath.WalkDir(dir, func(path string, d fs.DirEntry, err error) error {
		if err != nil || !d.Type().IsRegular() {
			return err
		}
		name, err := filepath.Rel(dir, path)
		if err != nil {
			return err
		}
		out[name], err = os.ReadFile(path)
		return err
	})
	return out, err
}

// Into copies them into a directory, unless something is there already.
func (f *Files) Into(dir string) error {
	there, err := os.ReadDir(dir)
	if err != nil || len(there) > 0 {
		return err
	}
	files, err := f.made()
	if err != nil {
		return err
	}
	for name, data := range files {
		if err := os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o700); err != nil {
			return err
		}
		if err := os.WriteFile(filepath.Join(dir, name), data, 0o600); err != nil {
			return err
		}
	}
	return nil
}

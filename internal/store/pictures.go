package store

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"syscall"
)

// PicturesName is the folder beside the database that photos lie in.
const PicturesName = "photos"

// Pictures are the photos of a shop, files named after what is in them: the same photo lies
// there once, and none is ever changed. Small ones made of them lie beside them.
type Pictures struct{ dir string }

// Pictures of the shop.
func (s *Store) Pictures() Pictures { return Pictures{s.pictures} }

// HashOf names what is in a file.
func HashOf(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
}

// path of a photo, in one of 256 folders; an error for what is no hash.
func (p Pictures) path(hash, kind string) (string, error) {
	raw, err := hex.DecodeString(hash)
	if err != nil || len(raw) != sha256.Size || filepath.Base(hash+kind) != hash+kind {
		return "", fmt.Errorf("%q names no photo", hash+kind)
	}
	return filepath.Join(p.dir, hash[:2], hash+kind), nil
}

// Keep writes a photo down, on the disk before it returns, and gives its hash. One that lies
// there already is left as it is.
func (p Pictures) Keep(data []byte) (hash string, err error) {
	hash = HashOf(data)
	return hash, p.keep(hash, "", data)
}

// smallKind ends the names of small pictures.
const smallKind = ".small"

// KeepSmall writes the small picture of a photo down.
func (p Pictures) KeepSmall(hash string, data []byte) error { return p.keep(hash, smallKind, data) }

// drawnKind begins the ends of the names of pictures with what was found drawn in.
const drawnKind = ".drawn-"

// KeepDrawn writes a photo with what was found drawn in down; by names how it was read.
func (p Pictures) KeepDrawn(hash, by string, data []byte) error {
	return p.keep(hash, drawnKind+by, data)
}

// Drawn reads a photo with what was found drawn in; ErrMissing where there is none.
func (p Pictures) Drawn(hash, by string) ([]byte, error) { return p.read(hash, drawnKind+by) }

func (p Pictures) keep(hash, kind string, data []byte) (err error) {
	path, err := p.path(hash, kind)
	if err != nil {
		return err
	}
	if _, err := os.Stat(path); err == nil {
		return nil
	}
	if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
		return diskErr(err)
	}
	f, err := os.CreateTemp(filepath.Dir(path), "new-*")
	if err != nil {
		return diskErr(err)
	}
	defer func() {
		if err != nil {
			_ = os.Remove(f.Name()) // it is not whole
		}
	}()
	_, err = f.Write(data)
	if err = errors.Join(err, f.Sync(), f.Close()); err != nil {
		return diskErr(err)
	}
	if err = os.Rename(f.Name(), path); err != nil {
		return diskErr(err)
	}
	return nil
}

// Photo reads a photo; ErrMissing where it does not lie there.
func (p Pictures) Photo(hash string) ([]byte, error) { return p.read(hash, "") }

// Small reads the small picture of a photo; ErrMissing where none was made.
func (p Pictures) Small(hash string) ([]byte, error) { return p.read(hash, smallKind) }

func (p Pictures) read(hash, kind string) ([]byte, error) {
	path, err := p.path(hash, kind)
	if err != nil {
		return nil, err
	}
	data, err := os.ReadFile(path)
	if errors.Is(err, fs.ErrNotExist) {
		err = ErrMissing
	}
	return data, err
}

// Drop deletes a photo and what was made of it; one that does not lie there is gone already.
func (p Pictures) Drop(hash string) error {
	path, err := p.path(hash, "")
	if err != nil {
		return err
	}
	made, err := filepath.Glob(path + ".*")
	if err != nil {
		return err
	}
	for _, one := range append(made, path) {
		if err := os.Remove(one); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
	}
	return nil
}

// diskErr is a fault of writing, ErrFull where the disk has no room.
func diskErr(err error) error {
	if errors.Is(err, syscall.ENOSPC) || errors.Is(err, syscall.EDQUOT) {
		return fmt.Errorf("%w: %w", ErrFull, err)
	}
	return err
}

package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	"gorm.io/gorm"
)

// Snapshot writes the whole database as it is at one moment into a new file. Others read and
// write meanwhile.
func (s *Store) Snapshot(ctx context.Context, path string) error {
	db, err := connect(s.path, lockFor, 1, "synchronous(OFF)")
	if err != nil {
		return err
	}
	s.copying.Add(1)
	defer s.copying.Add(-1)
	defer flushing(path)()
	err = db.WithContext(ctx).Exec("VACUUM INTO ?", path).Error
	return diskErr(errors.Join(err, closePool(db)))
}

// flushEvery is how often a file that grows is brought to the disk.
const flushEvery = 15 * time.Millisecond

// flushing has a file that another hand writes on the disk bit by bit, until done: what is not
// there yet, a disk brings along with the next tap, which waits for it.
func flushing(path string) (done func()) {
	ended := make(chan struct{})
	var end sync.WaitGroup
	end.Go(func() {
		var f *os.File
		tick := time.NewTicker(flushEvery)
		defer tick.Stop()
		for {
			select {
			case <-tick.C:
			case <-ended:
				if f != nil {
					_ = f.Close() // nothing was written by it
				}
				return
			}
			if f == nil {
				f, _ = os.OpenFile(path, os.O_RDWR, 0) // or it is not there yet
			}
			if f != nil {
				_ = f.Sync() // it is a copy: a fault shows where it is read
			}
		}
	})
	return func() { close(ended); end.Wait() }
}

// Dir is the folder that the shop is kept in.
func (s *Store) Dir() string { return filepath.Dir(s.path) }

// Hashes lists the photos that the database knows files of.
func (s *Store) Hashes(ctx context.Context) ([]string, error) {
	var out []string
	err := s.read(ctx).Raw("SELECT hash FROM photo_files ORDER BY hash").Scan(&out).Error
	return out, err
}

// CarIDs lists all cars in the order in which they came in.
func (s *Store) CarIDs(ctx context.Context) ([]string, error) {
	var out []string
	err := s.read(ctx).Raw("SELECT id FROM cars ORDER BY seq").Scan(&out).Error
	return out, err
}

// Fault is one thing that is not as it should be, and where.
type Fault struct{ Where, What string }

// Verify looks the file through: its pages, what rows refer to, values that are not of their
// column's kind, and the counts that are kept beside it. It reads with a connection of its own:
// one that has read the index of words before holds it against what it was then.
func (s *Store) Verify(ctx context.Context) (out []Fault, err error) {
	fresh, err := connect(s.path, lockFor, 1, "query_only(1)")
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, closePool(fresh)) }()
	db := fresh.WithContext(ctx)
	var said []string
	if err := db.Raw("PRAGMA integrity_check(20)").Scan(&said).Error; err != nil {
		return nil, err
	}
	for _, one := range said {
		if one != "ok" {
			out = append(out, Fault{"database", one})
		}
	}
	var keys []struct {
		Table  string
		Rowid  int64
		Parent string
	}
	if err := db.Raw(`SELECT "table", rowid, parent FROM pragma_foreign_key_check LIMIT 20`).Scan(&keys).Error; err != nil {
		return nil, err
	}
	for _, k := range keys {
		out = append(out, Fault{fmt.Sprintf("%s, row %d", k.Table, k.Rowid), "belongs to something in " + k.Parent + " that is not there"})
	}
	what, err := unreadable(db)
	if err != nil {
		return nil, err
	}
	if what != "" {
		out = append(out, Fault{what, "cannot be read"})
	}
	counts, err := miscounted(db)
	return append(out, counts...), err
}

// miscounted holds what is kept beside the rows against the rows.
func miscounted(db *gorm.DB) ([]Fault, error) {
	var out []Fault
	for _, c := range []struct{ where, what, sql string }{
		{"shop", "counts its cars wrongly", `SELECT 'cars' FROM shop WHERE here <> (SELECT COUNT(*) FROM cars WHERE handed_over_at IS NULL) OR gone <> (SELECT COUNT(*) FROM cars WHERE handed_over_at IS NOT NULL)`},
		{"photos", "counts its photos wrongly", `SELECT 'photos' FROM photo_space WHERE photos <> (SELECT COUNT(*) FROM photo_files) OR bytes <> (SELECT COALESCE(SUM(bytes), 0) FROM photo_files)`},
		{"panel", "has another first pass than its log", `SELECT panel_id FROM panel_states WHERE first_pass_at IS NOT ` + firstPass("panel_states.panel_id")},
		{"panel", "has another last reading than its readings", `SELECT panel_id FROM panel_states WHERE last_read_at IS NOT ` + lastRead("panel_states.panel_id")},
		{"reading", "is found under words that it does not have", `SELECT ref FROM found_rows WHERE kind = 'reading' AND ref NOT IN (SELECT id FROM readings)`},
		{"mark", "is found under words that it does not have", `SELECT ref FROM found_rows WHERE kind = 'mark' AND ref NOT IN (SELECT id FROM marks)`},
		{"panel", "lies in a plan whose steps are not numbered from 1 on", `SELECT panel_id FROM plans p WHERE (SELECT MAX(no) FROM steps WHERE plan_id = p.id) <> (SELECT COUNT(*) FROM steps WHERE plan_id = p.id)`},
	} {
		var ids []string
		if err := db.Raw(c.sql + " LIMIT 5").Scan(&ids).Error; err != nil {
			return nil, err
		}
		for _, id := range ids {
			out = append(out, Fault{c.where + " " + id, c.what})
		}
	}
	return out, nil
}

// VerifyPhotos holds the files of photos against their names and the database.
func (s *Store) VerifyPhotos(ctx context.Context) (checked int, out []Fault, err error) {
	hashes, err := s.Hashes(ctx)
	if err != nil {
		return 0, nil, err
	}
	for _, h := range hashes {
		if err := ctx.Err(); err != nil {
			return checked, out, err
		}
		checked++
		switch got, err := s.Pictures().digest(h); {
		case errors.Is(err, ErrMissing):
			out = append(out, Fault{"photo " + h, "is on record, and its file is not there"})
		case err != nil:
			return checked, out, err
		case got != h:
			out = append(out, Fault{"photo " + h, "is not what it was: its file has changed"})
		}
	}
	return checked, out, nil
}

func (p Pictures) digest(hash string) (string, error) {
	f, err := p.Open(hash)
	if err != nil {
		return "", err
	}
	defer func() { _ = f.Close() }() // read only
	sum := sha256.New()
	if _, err := io.Copy(sum, f); err != nil {
		return "", err
	}
	return hex.EncodeToString(sum.Sum(nil)), nil
}

// Open opens a photo to be read; ErrMissing where it does not lie there.
func (p Pictures) Open(hash string) (*os.File, error) {
	path, err := p.path(hash, "")
	if err != nil {
		return nil, err
	}
	f, err := os.Open(path)
	if errors.Is(err, fs.ErrNotExist) {
		err = ErrMissing
	}
	return f, err
}

// CheckCopy looks a database file through that is not open, such as that of a backup, without
// changing it, and says how many cars it has.
func CheckCopy(path string) (cars int, err error) {
	if err := looksLikeShop(path); err != nil {
		return 0, err
	}
	db, err := connect(path, lockFor, 1, "query_only(1)")
	if err != nil {
		return 0, damaged(path, err)
	}
	defer func() { err = errors.Join(err, closePool(db)) }()
	var said, known []string
	if err := db.Raw("PRAGMA integrity_check(3)").Scan(&said).Error; err != nil {
		return 0, newDamage(path, "is damaged: "+err.Error())
	}
	if len(said) != 1 || said[0] != "ok" {
		return 0, newDamage(path, "is damaged: "+strings.Join(said, "; "))
	}
	if err := db.Raw("SELECT id FROM migrations ORDER BY id").Scan(&known).Error; err != nil {
		return 0, newDamage(path, "is a database, and no shop's")
	}
	for _, id := range known {
		if id != "SCHEMA_INIT" && !slices.ContainsFunc(migrations, func(m *migration) bool { return m.ID == id }) {
			return 0, newDamage(path, "is of a later version of the program ("+id+")")
		}
	}
	err = db.Raw("SELECT COUNT(*) FROM cars").Scan(&cars).Error
	return cars, err
}

// HeldBy says whether another program has the shop in a folder open.
func HeldBy(dir string) (bool, error) {
	path := filepath.Join(dir, FileName)
	if _, err := os.Stat(path); errors.Is(err, fs.ErrNotExist) {
		return false, nil
	}
	db, err := connect(path, 0, 1, "locking_mode(EXCLUSIVE)")
	if errors.Is(err, ErrBusy) {
		return true, nil
	}
	if err != nil {
		return false, err
	}
	err = db.Exec("BEGIN EXCLUSIVE").Error
	held := errors.Is(err, ErrBusy)
	if err == nil {
		err = db.Exec("ROLLBACK").Error
	}
	if held {
		err = nil
	}
	return held, errors.Join(err, closePool(db))
}

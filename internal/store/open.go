package store

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// Store is an open shop. Many read side by side; one writes at a time, and the others
// wait in line for it.
type Store struct {
	readers  *gorm.DB
	writer   *gorm.DB
	pictures string        // the folder of photos
	line     chan struct{} // holds one: the writer's turn
	tell     func(Change)  // nil for nobody
	folder   *gorm.DB      // folds the write-ahead log into the file
	end      func()        // ends the folding
	folded   sync.WaitGroup
	copying  atomic.Int32 // copies under way, which read one state of the file for long
	path     string
}

// FileName is the database's name inside a shop's folder.
const FileName = "waxplanus.db"

// What opening and writing wait for another program that holds the file, how long a
// writer waits in line, and how many read side by side.
const (
	openFor  = 10 * time.Second
	lockFor  = 2 * time.Second
	queueFor = 5 * time.Second
	readers  = 8
)

// mostPrepared is how many statements each pool keeps ready.
const mostPrepared = 200

// Option changes how a shop is opened.
type Option func(*options)

type options struct{ despite bool }

// DespiteFaults opens a shop although rows of it cannot be read; pages show the others.
func DespiteFaults(o *options) { o.despite = true }

// Open opens the shop in folder dir, makes it where there is none, and brings its tables
// up to date. Writes are on the disk before they are answered. A file that is no sound
// shop is refused as it is, with a *Damage.
func Open(dir string, opts ...Option) (*Store, error) {
	var o options
	for _, opt := range opts {
		opt(&o)
	}
	path := filepath.Join(dir, FileName)
	if err := makeNew(path); err != nil {
		return nil, fmt.Errorf("opening the shop in %s: %w", dir, err)
	}
	if err := looksLikeShop(path); err != nil {
		return nil, err
	}
	s, err := open(path)
	if err != nil {
		return nil, damaged(path, err)
	}
	if err := s.sound(path, o.despite); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	if err := s.movePhotosOut(context.Background()); err != nil {
		return nil, errors.Join(fmt.Errorf("making files of the photos of marks in %s: %w", dir, err), s.Close())
	}
	return s, nil
}

// makeNew makes a shop where there is none, under another name until it is whole: a
// program that ends half way leaves nothing that looks like a shop.
func makeNew(path string) error {
	if _, err := os.Stat(path); !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	fresh := path + ".new"
	for _, suffix := range []string{"", "-wal", "-shm"} {
		if err := os.Remove(fresh + suffix); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
	}
	s, err := open(fresh)
	if err != nil {
		return err
	}
	if err := s.Close(); err != nil {
		return err
	}
	return os.Rename(fresh, path)
}

// header is what every SQLite file begins with.
var header = []byte("SQLite format 3\x00")

func looksLikeShop(path string) error {
	f, err := os.Open(path)
	if err != nil {
		return err
	}
	defer func() { _ = f.Close() }() // read only
	got := make([]byte, len(header))
	switch n, err := io.ReadFull(f, got); {
	case n == 0 && errors.Is(err, io.EOF):
		return newDamage(path, "is empty: 0 bytes")
	case err != nil || !bytes.Equal(got, header):
		return newDamage(path, "does not begin as a database does")
	}
	return nil
}

func open(path string) (*Store, error) {
	w, err := connect(path, openFor, 1)
	if err != nil {
		return nil, err
	}
	s := &Store{writer: w, line: make(chan struct{}, 1), path: path, pictures: filepath.Join(filepath.Dir(path), PicturesName)}
	if err := unlocked(w); err != nil {
		return nil, errors.Join(err, closePool(w))
	}
	if err := migrate(w); err != nil {
		return nil, errors.Join(err, closePool(w))
	}
	if err := watchTouches(w); err != nil {
		return nil, errors.Join(err, closePool(w))
	}
	if err := w.Exec(fmt.Sprintf("PRAGMA busy_timeout = %d; PRAGMA wal_autocheckpoint = 0", lockFor.Milliseconds())).Error; err != nil {
		return nil, errors.Join(err, closePool(w))
	}
	if s.readers, err = connect(path, lockFor, readers, "query_only(1)"); err != nil {
		return nil, errors.Join(err, closePool(w))
	}
	if s.folder, err = connect(path, lockFor, 1); err != nil {
		return nil, errors.Join(err, closePool(s.readers), closePool(w))
	}
	s.fold(path + "-wal")
	return s, nil
}

// unlocked waits until no other program writes.
func unlocked(w *gorm.DB) error {
	return w.Transaction(func(*gorm.DB) error { return nil })
}

func connect(path string, busy time.Duration, most int, more ...string) (*gorm.DB, error) {
	pragmas := append([]string{fmt.Sprintf("busy_timeout(%d)", busy.Milliseconds()), "journal_mode(WAL)", "foreign_keys(1)", "synchronous(FULL)", "secure_delete(1)"}, more...)
	dsn := "file:" + escape(path) + "?_pragma=" + strings.Join(pragmas, "&_pragma=") + "&_txlock=immediate&_time_format=sqlite&_timezone=UTC"
	db, err := gorm.Open(dialect{dsn}, &gorm.Config{
		Logger: logger.Default.LogMode(logger.Silent), TranslateError: true, SkipDefaultTransaction: true, PrepareStmt: true, PrepareStmtMaxSize: mostPrepared,
		NowFunc: func() time.Time { return time.Now().UTC() },
	})
	if err != nil {
		return nil, err
	}
	pool, err := db.DB()
	if err != nil {
		return nil, err
	}
	pool.SetMaxOpenConns(most)
	pool.SetMaxIdleConns(most)
	pool.SetConnMaxLifetime(0) // what touches notes lives with the writer's connection
	return db, nil
}

// escape keeps a path's special characters out of the query part of a DSN.
func escape(path string) string {
	return strings.NewReplacer("%", "%25", "?", "%3f", "#", "%23", " ", "%20").Replace(path)
}

// The write-ahead log is folded into the file beside the writer, so that no tap waits for
// it: how often somebody looks, and from how many bytes on.
const (
	foldEvery     = time.Second
	foldFrom      = 4 << 20
	beginAnewFrom = 48 << 20 // the log begins anew, while nobody writes
)

func (s *Store) fold(wal string) {
	ended := make(chan struct{})
	s.end = sync.OnceFunc(func() { close(ended) })
	s.folded.Go(func() {
		tick := time.NewTicker(foldEvery)
		defer tick.Stop()
		for {
			select {
			case <-tick.C:
			case <-ended:
				return
			}
			info, err := os.Stat(wal)
			if err != nil || info.Size() < foldFrom {
				continue
			}
			_ = s.folder.Exec("PRAGMA wal_checkpoint(PASSIVE)").Error // else next time, or when the shop is closed
			if info.Size() >= beginAnewFrom && s.copying.Load() == 0 {
				s.line <- struct{}{} // little is left to fold: nobody waits for long
				_ = s.folder.Exec("PRAGMA wal_checkpoint(TRUNCATE)").Error
				<-s.line
			}
		}
	})
}

// Close closes the shop; the write-ahead log is folded into the file.
func (s *Store) Close() error {
	if s.readers == nil { // it was not opened to its end
		return closePool(s.writer)
	}
	s.end()
	s.folded.Wait()
	return errors.Join(closePool(s.readers), closePool(s.folder), closePool(s.writer))
}

func closePool(db *gorm.DB) error {
	pool, err := db.DB()
	if err != nil {
		return err
	}
	return pool.Close()
}

func (s *Store) read(ctx context.Context) *gorm.DB { return s.readers.WithContext(ctx) }

// write carries out one transaction when its turn comes; from then on it goes on though the
// one who asked leaves. It fails with ErrBusy where the turn does not come in time or
// another program holds the file, and with ErrFull where the disk has no room; then nothing
// is kept.
func (s *Store) write(ctx context.Context, change func(tx *gorm.DB) error) error {
	late := time.NewTimer(queueFor)
	defer late.Stop()
	select {
	case s.line <- struct{}{}:
	case <-late.C:
		return fmt.Errorf("%w: others wait to write", ErrBusy)
	case <-ctx.Done():
		return ctx.Err()
	}
	defer func() { <-s.line }()
	var what Change
	err := transact(s.writer.WithContext(context.WithoutCancel(ctx)), func(tx *gorm.DB) (err error) {
		if err := change(tx); err != nil {
			return err
		}
		what, err = touched(tx)
		return err
	})
	if err == nil && s.tell != nil {
		s.tell(what)
	}
	return err
}

// transact carries out a transaction on the writer's one connection. Statements that
// database/sql knows to be in a transaction would be parsed anew in each.
func transact(w *gorm.DB, change func(tx *gorm.DB) error) error {
	if err := w.Exec("BEGIN IMMEDIATE").Error; err != nil {
		return err
	}
	kept := false
	defer func() {
		if !kept {
			_ = w.Exec("ROLLBACK").Error // a disk that fails has rolled back already
		}
	}()
	if err := change(w); err != nil {
		return err
	}
	err := w.Exec("COMMIT").Error
	kept = err == nil
	return err
}

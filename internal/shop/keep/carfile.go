package keep

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"time"

	"github.com/google/uuid"

	"waxplanus/internal/files"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/facts"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// CarFile writes a car with all that is on record of it and its photos as a ZIP, one photo
// after the other.
func (s *Service) CarFile(ctx context.Context, carID, program string, w io.Writer) error {
	doc, err := s.document(ctx, carID, program)
	if err != nil {
		return err
	}
	pictures := s.Store.Pictures()
	return files.WriteCar(w, *doc, func(hash string) (io.ReadCloser, error) {
		if err := ctx.Err(); err != nil {
			return nil, err // nobody waits any more
		}
		f, err := pictures.Open(hash)
		if errors.Is(err, refuse.ErrMissing) {
			return nil, fs.ErrNotExist
		}
		return f, err
	})
}

func (s *Service) document(ctx context.Context, carID, program string) (*files.CarDocument, error) {
	car, err := s.Store.Document(ctx, carID)
	if err != nil {
		return nil, err
	}
	out := &files.CarDocument{Program: program, At: s.Now().UTC(), Gauges: []files.CarGauge{}, Car: car}
	known, err := s.Store.Gauges(ctx)
	if err != nil {
		return nil, err
	}
	named := map[string]bool{}
	for _, p := range files.Rows(car["panels"]) {
		for _, r := range files.Rows(p["readings"]) {
			if id, _ := r["gauge"].(string); id != "" {
				named[id] = true
			}
		}
	}
	for _, g := range known {
		if named[g.ID] {
			out.Gauges = append(out.Gauges, files.CarGauge{ID: g.ID, Name: g.Name, Repeat: g.RepeatUM, Doubt: g.DoubtUM, Shots: g.Shots})
		}
	}
	return out, nil
}

// HasCar says whether a car is on record.
func (s *Service) HasCar(ctx context.Context, carID string) error {
	_, err := s.Store.CarVersions(ctx, carID)
	return err
}

// Waiting is a car of a file that waits to be kept: what is in it, and what keeping it would
// change. Known says that a car of its id is here already; Closed that this one was handed over.
type Waiting struct {
	ID, Name, Body, Colour          string
	Panels, Readings, Marks, Passes int
	Photos, PhotosMissing           int
	Known, Closed                   bool
	Changes                         []CarChange
	Diverged                        string // panel whose log went on in both; empty for none
	SealBroken                      bool
	At                              time.Time
	HandedOverAt                    string
}

// CarChange is what keeping a file would change in one list of a car that is here.
type CarChange = store.ListChange

// Files that wait lie beside the database, for a while.
const (
	incoming     = "incoming"
	incomingEnd  = ".waxplanus"
	keepIncoming = time.Hour
	// MostCarFile is how large a file of a car may be, bytes.
	MostCarFile = 600 << 20
)

var incomingID = regexp.MustCompile(`^[0-9a-f-]{36}$`)

// ReceiveCar takes a file of a car, looks it through, and says what keeping it would change.
// Nothing of it is kept but the file itself, until KeepCar or an hour later.
func (s *Service) ReceiveCar(ctx context.Context, in io.Reader) (*Waiting, error) {
	dir := filepath.Join(s.Store.Dir(), incoming)
	if err := os.MkdirAll(dir, 0o750); err != nil {
		return nil, err
	}
	s.dropIncoming(dir)
	id := uuid.NewString()
	path := filepath.Join(dir, id+incomingEnd)
	out, err := s.receive(ctx, path, in)
	if err != nil {
		_ = os.Remove(path) // it is of no use
		return nil, err
	}
	out.ID = id
	return out, nil
}

func (s *Service) receive(ctx context.Context, path string, in io.Reader) (*Waiting, error) {
	f, err := os.OpenFile(path, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return nil, err
	}
	n, err := io.Copy(f, io.LimitReader(in, MostCarFile+1))
	if err = errors.Join(err, f.Close()); err != nil {
		return nil, err
	}
	if n > MostCarFile {
		return nil, refuse.Because(refuse.LargeCarFile, "file", MostCarFile>>20)
	}
	car, done, err := openCar(path)
	if err != nil {
		return nil, err
	}
	defer done()
	return s.waiting(ctx, car)
}

// openCar reads a file of a car; done closes it.
func openCar(path string) (car *files.CarFile, done func(), err error) {
	f, err := os.Open(path)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil, refuse.ErrMissing
	}
	if err != nil {
		return nil, nil, err
	}
	done = func() { _ = f.Close() } // read only
	info, err := f.Stat()
	if err == nil {
		car, err = files.ReadCar(f, info.Size())
	}
	if err != nil {
		done()
		return nil, nil, badCarFile(err)
	}
	return car, done, nil
}

// badCarFile is why a file is not taken, as a refusal where it is the file's fault.
func badCarFile(err error) error {
	var bad *files.BadCar
	var misfit *store.Misfit
	if errors.As(err, &bad) || errors.As(err, &misfit) {
		return refuse.Because(refuse.BadCarFile, "file", err)
	}
	return err
}

// waiting looks a car through in a shop of its own, where nothing else can be touched: it has
// to fit together, and all of it has to be readable.
func (s *Service) waiting(ctx context.Context, car *files.CarFile) (*Waiting, error) {
	if err := checkCar(car.Car); err != nil {
		return nil, refuse.Because(refuse.BadCarFile, "file", err)
	}
	out := &Waiting{Name: textOf(car.Car, "name"), Body: textOf(car.Car, "body"), Colour: textOf(car.Car, "colour"), At: car.At, HandedOverAt: textOf(car.Car, "handed_over_at")}
	err := InScratch(ctx, car, false, s.Now, s.Zone, func(of *Service, id string) error {
		c, err := of.Car(ctx, id)
		if err != nil {
			return err
		}
		for _, p := range c.Panels {
			out.Panels++
			out.Readings += len(p.Readings)
			out.Marks += len(p.Marks)
			for _, e := range p.Entries {
				if e.Cuts() {
					out.Passes++
				}
			}
			if _, err := of.ProofOf(ctx, p); err != nil {
				return err
			}
		}
		if c.HandedOverAt != nil {
			h, err := of.Handing(ctx, id)
			if err != nil {
				return err
			}
			out.SealBroken = h.Broken
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	for _, p := range files.PhotosOf(car.Car) {
		if out.Photos++; !car.HasPhoto(p.Hash) {
			out.PhotosMissing++
		}
	}
	var parted *store.Diverged
	if out.Known, out.Changes, err = s.Store.Compare(ctx, car.Car); errors.As(err, &parted) {
		out.Known, out.Diverged, err = true, parted.Panel, nil
	}
	if err != nil {
		return nil, badCarFile(err)
	}
	if out.Known {
		here, err := s.Store.Car(ctx, textOf(car.Car, "id"))
		if err != nil {
			return nil, err
		}
		out.Closed = here.HandedOverAt != nil
	}
	return out, nil
}

func textOf(row map[string]any, key string) string {
	text, _ := row[key].(string)
	return text
}

// InScratch has a car of a file in a shop of its own for as long as do lasts, with its photos
// where they are wanted.
func InScratch(ctx context.Context, car *files.CarFile, photos bool, now func() time.Time, zone *time.Location, do func(of *Service, id string) error) (err error) {
	dir, err := os.MkdirTemp("", "waxplanus-car-")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	records, err := store.Open(dir)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, records.Close()) }()
	of := New(records, now, zone)
	defer of.Close()
	if err := of.keepCar(ctx, car, photos); err != nil {
		return err
	}
	if err := recovered(func() error { return do(of, textOf(car.Car, "id")) }); err != nil {
		var r *refuse.Refusal
		if errors.As(err, &r) || errors.Is(err, context.Canceled) {
			return err
		}
		return refuse.Because(refuse.BadCarFile, "file", fmt.Errorf("what is in it cannot be worked out: %w", err))
	}
	return nil
}

// recovered makes an error of a panic.
func recovered(do func() error) (err error) {
	defer func() {
		if cause := recover(); cause != nil {
			err = advice.Panicked(cause)
		}
	}()
	return do()
}

// KeepCar keeps a file that waits: as a new car beside one of the same id, or as that car.
func (s *Service) KeepCar(ctx context.Context, id string, anew bool) (facts.OfCar, error) {
	path, err := s.incomingPath(id)
	if err != nil {
		return facts.OfCar{}, err
	}
	car, done, err := openCar(path)
	if err != nil {
		return facts.OfCar{}, err
	}
	defer done()
	if anew {
		if err := renamed(car); err != nil {
			return facts.OfCar{}, badCarFile(err)
		}
	}
	if err := s.keepCar(ctx, car, true); err != nil {
		return facts.OfCar{}, err
	}
	_ = os.Remove(path) // it is deleted later else
	row, err := s.Store.Car(ctx, textOf(car.Car, "id"))
	return facts.CarOf(row), err
}

// DropIncoming lets a file that waits go.
func (s *Service) DropIncoming(id string) error {
	path, err := s.incomingPath(id)
	if err != nil {
		return err
	}
	return os.Remove(path)
}

func (s *Service) incomingPath(id string) (string, error) {
	if !incomingID.MatchString(id) {
		return "", refuse.ErrMissing
	}
	path := filepath.Join(s.Store.Dir(), incoming, id+incomingEnd)
	if _, err := os.Stat(path); err != nil {
		return "", refuse.ErrMissing
	}
	return path, nil
}

// dropIncoming lets files go that nobody kept.
func (s *Service) dropIncoming(dir string) {
	old, err := filepath.Glob(filepath.Join(dir, "*"+incomingEnd))
	if err != nil {
		return
	}
	for _, path := range old {
		if info, err := os.Stat(path); err == nil && time.Since(info.ModTime()) > keepIncoming {
			_ = os.Remove(path) // else next time
		}
	}
}

// keepCar keeps the photos of a car, then all else in one transaction; where that fails the
// photos that were new go again.
func (s *Service) keepCar(ctx context.Context, car *files.CarFile, photos bool) (err error) {
	sizes := map[string]int64{}
	var fresh []string
	defer func() {
		if err != nil {
			for _, hash := range fresh {
				_ = s.Store.Pictures().Drop(hash) // they are of no car
			}
		}
	}()
	for _, p := range files.PhotosOf(car.Car) {
		if !photos || !car.HasPhoto(p.Hash) {
			continue
		}
		data, err := car.Photo(p.Hash)
		if err != nil {
			return badCarFile(err)
		}
		old, err := s.Store.Pictures().Open(p.Hash)
		if err == nil {
			_ = old.Close() // read only
		} else if !errors.Is(err, refuse.ErrMissing) {
			return err
		} else {
			fresh = append(fresh, p.Hash)
		}
		if _, err := s.Store.Pictures().Keep(data); err != nil {
			return err
		}
		sizes[p.Hash] = int64(len(data))
	}
	var gauges []store.Gauge
	for _, g := range car.Gauges {
		gauges = append(gauges, store.Gauge{ID: g.ID, Name: g.Name, RepeatUM: g.Repeat, DoubtUM: g.Doubt, Shots: g.Shots})
	}
	err = s.Store.AddDocument(ctx, car.Car, sizes, gauges)
	var parted *store.Diverged
	if errors.As(err, &parted) {
		return refuse.Conflicting(refuse.CarDiverged, parted.Panel)
	}
	return badCarFile(err)
}

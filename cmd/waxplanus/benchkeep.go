package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"math/rand/v2"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"sync"
	"time"

	"github.com/google/uuid"
	"github.com/spf13/cobra"

	"waxplanus/internal/demo"
	"waxplanus/internal/shop"
	"waxplanus/internal/shop/keep"
	"waxplanus/internal/store"
	"waxplanus/internal/web"
)

func benchKeepCommand(out io.Writer) *cobra.Command {
	var cars, photos, looks int
	c := &cobra.Command{
		Use: "keep", Short: "A shop of many years: search, car pages, export, backup beside taps", Args: cobra.NoArgs,
		Long: `Fills a shop of its own with copies of worked cars, all but 20 handed over, and prints how long
search and pages of cars that nobody looked at before take (through the handler, without a network), what
memory the export of a car with many photos needs, and how long taps take while a backup
is made, beside how long they take else.`,
		RunE: func(c *cobra.Command, _ []string) (err error) {
			dir, err := os.MkdirTemp("", "waxplanus-keep-")
			if err != nil {
				return err
			}
			defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
			return benchKeep(c.Context(), out, dir, cars, photos, looks)
		},
	}
	c.Flags().IntVar(&cars, "cars", 10_000, "cars in the shop")
	c.Flags().IntVar(&photos, "photos", 40, "photos of the car that is exported")
	c.Flags().IntVar(&looks, "looks", 60, "times that each kind of page is asked for; 0 for no pages")
	return c
}

// stillHere is how many cars are in the shop, the others were handed over.
const stillHere = 20

// manyFrom are the cars of the demo that the others of a big shop are copies of.
var manyFrom = []string{demo.PilotID, demo.FerryID, demo.HireID, demo.FloatID}

func copyID(i int) string { return fmt.Sprintf("%s-%d", manyFrom[i%len(manyFrom)], i) }

// copied makes the i-th copy, three hours older than the one before.
func copied(ctx context.Context, records *store.Store, i int) (string, error) {
	of := manyFrom[i%len(manyFrom)]
	return copyID(i), records.CopyCar(ctx, of, fmt.Sprintf("-%d", i), fmt.Sprintf("Car %d of %s", i, of), time.Duration(i)*3*time.Hour)
}

func benchKeep(ctx context.Context, out io.Writer, dir string, cars, photos, looks int) (err error) {
	records, err := store.Open(dir)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, records.Close()) }()
	began := time.Now()
	if err := demo.Fill(ctx, records, began); err != nil {
		return err
	}
	for i := range cars {
		id, err := copied(ctx, records, i)
		if err != nil {
			return err
		}
		if i >= stillHere {
			if err := records.SetClosed(ctx, id, began.Add(-time.Duration(i)*2*time.Hour)); err != nil {
				return err
			}
		}
	}
	info, err := os.Stat(filepath.Join(dir, store.FileName))
	if err != nil {
		return err
	}
	fmt.Fprintf(out, "%d cars made in %.0f s, %d MB\n", cars+7, time.Since(began).Seconds(), info.Size()>>20)
	of := shop.New(records, time.Now, time.UTC)
	defer func() { of.Close() }()
	site := web.New(of, "bench", slog.New(slog.DiscardHandler), web.Devices{})
	random := rand.New(rand.NewPCG(1, 2))
	any := func() string { // of those that were handed over
		i := stillHere + random.IntN(cars-stillHere)
		return "/api/cars/" + url.PathEscape(copyID(i))
	}
	for _, again := range []bool{false, true} {
		if looks == 0 {
			break
		}
		if again {
			// What stays of a car that was handed over is on the disk; the program begins anew.
			of.Close()
			of = shop.New(records, time.Now, time.UTC)
			site = web.New(of, "bench", slog.New(slog.DiscardHandler), web.Devices{})
			fmt.Fprintln(out, "the same once more, the program started anew:")
		}
		random = rand.New(rand.NewPCG(1, 2))
		if err := benchPages(ctx, out, site, random, cars, looks, any); err != nil {
			return err
		}
	}
	if err := benchExport(ctx, out, records, of, photos); err != nil {
		return err
	}
	return benchBackup(ctx, out, records, of)
}

// benchPages asks for each kind of page of cars by chance.
func benchPages(ctx context.Context, out io.Writer, site http.Handler, random *rand.Rand, cars, looks int, any func() string) error {
	words := []string{"door", "scratch", "pilot", "too deep", "dust in it", "9998", "118", "nothing like it", "d", "left front"}
	for _, page := range []struct {
		name string
		path func(i int) string
	}{
		{"search", func(i int) string { return "/api/search?q=" + url.QueryEscape(words[i%len(words)]) }},
		{"cars by name", func(i int) string {
			return "/api/cars?handed_over=true&search=" + url.QueryEscape(fmt.Sprint("car ", random.IntN(cars)))
		}},
		{"a car", func(int) string { return any() }},
		{"its hand over, both papers laid out", func(int) string { return any() + "/handover" }},
		{"its film record as PDF", func(int) string { return any() + "/papers/record.pdf" }},
		{"its plans", func(int) string { return any() + "/plans" }},
	} {
		var took []float64
		for i := range looks {
			t, err := asked(ctx, site, page.path(i))
			if err != nil {
				return err
			}
			took = append(took, t)
		}
		fmt.Fprintf(out, "%-38s median %5.1f ms, 9 in 10 within %5.1f, longest %5.1f\n", page.name, quantile(took, 0.5), quantile(took, 0.9), slices.Max(took))
	}
	return nil
}

// silence takes an answer and keeps nothing of it but its status.
type silence struct {
	head http.Header
	code int
}

func (s *silence) Header() http.Header         { return s.head }
func (s *silence) Write(p []byte) (int, error) { return len(p), nil }
func (s *silence) WriteHeader(code int)        { s.code = code }

// asked is how long an answer takes, ms.
func asked(ctx context.Context, site http.Handler, path string) (float64, error) {
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, "http://localhost"+path, nil)
	if err != nil {
		return 0, err
	}
	w := &silence{head: http.Header{}, code: http.StatusOK}
	began := time.Now()
	site.ServeHTTP(w, r)
	if w.code != http.StatusOK {
		return 0, fmt.Errorf("%s: %d", path, w.code)
	}
	return float64(time.Since(began).Microseconds()) / 1000, nil
}

func quantile(all []float64, share float64) float64 {
	sorted := slices.Sorted(slices.Values(all))
	return sorted[min(int(share*float64(len(sorted))), len(sorted)-1)]
}

// countedBytes counts what is written.
type countedBytes struct{ n int64 }

func (c *countedBytes) Write(p []byte) (int, error) { c.n += int64(len(p)); return len(p), nil }

// benchExport writes a car with large photos, and watches the memory that is in use.
func benchExport(ctx context.Context, out io.Writer, records *store.Store, of *shop.Shop, photos int) error {
	const large = 6 << 20
	noise := rand.NewChaCha8([32]byte{1})
	for i := range photos {
		data := make([]byte, large)
		_, _ = noise.Read(data) // it never fails
		copy(data, "\xff\xd8\xff")
		hash, err := records.Pictures().Keep(data)
		if err != nil {
			return err
		}
		if err := records.AddProofPhoto(ctx, &store.ProofPhoto{ID: uuid.NewString(), PanelID: demo.PilotID + ".L-fdoor", Kind: store.PhotoReflection, Hash: hash, Mime: "image/jpeg",
			WidthPx: 4000, HeightPx: 3000, Bytes: large, Take: "{}", Refused: "{}", Person: fmt.Sprint("photo ", i), At: time.Now()}); err != nil {
			return err
		}
	}
	runtime.GC()
	var before, now runtime.MemStats
	runtime.ReadMemStats(&before)
	ended := make(chan struct{})
	var most uint64
	var watch sync.WaitGroup
	watch.Go(func() {
		for {
			select {
			case <-ended:
				return
			case <-time.After(2 * time.Millisecond):
				runtime.ReadMemStats(&now)
				most = max(most, now.HeapInuse)
			}
		}
	})
	var written countedBytes
	began := time.Now()
	err := of.CarFile(ctx, demo.PilotID, "bench", &written)
	close(ended)
	watch.Wait()
	fmt.Fprintf(out, "export of a car with %d photos: %d MB in %.1f s, heap at most %.1f MB more than before\n", photos, written.n>>20, time.Since(began).Seconds(), float64(int64(most)-int64(before.HeapInuse))/(1<<20))
	return err
}

// benchBackup taps while a backup is made.
func benchBackup(ctx context.Context, out io.Writer, records *store.Store, of *shop.Shop) error {
	panel := demo.PilotID + ".roof"
	tap := func() (float64, error) {
		began := time.Now()
		_, err := records.AddReadings(ctx, []store.Reading{{ID: uuid.NewString(), PanelID: panel, XMM: 200 + 300*rand.Float64(), YMM: 200 + 300*rand.Float64(), FilmUM: 112, Phase: store.PhaseTotal, Source: store.SourceTyped, TakenAt: time.Now()}}, 1_000_000)
		return float64(time.Since(began).Microseconds()) / 1000, err
	}
	taps := func(until <-chan struct{}) (all []float64, err error) {
		for {
			t, err := tap()
			if err != nil {
				return all, err
			}
			all = append(all, t)
			select {
			case <-until:
				return all, nil
			case <-time.After(20 * time.Millisecond):
			}
		}
	}
	alone := make(chan struct{})
	time.AfterFunc(5*time.Second, func() { close(alone) })
	usual, err := taps(alone)
	if err != nil {
		return err
	}
	ended := make(chan struct{})
	var made keep.Backup
	var failed error
	began := time.Now()
	go func() {
		defer close(ended)
		made, failed = of.MakeBackup(ctx, "bench", false)
	}()
	beside, err := taps(ended)
	if err = errors.Join(err, failed); err != nil {
		return err
	}
	fmt.Fprintf(out, "taps alone: median %.1f ms, longest %.1f of %d\n", quantile(usual, 0.5), slices.Max(usual), len(usual))
	fmt.Fprintf(out, "backup of %d MB in %.1f s; taps beside it: median %.1f ms, longest %.1f of %d\n", made.Bytes>>20, time.Since(began).Seconds(), quantile(beside, 0.5), slices.Max(beside), len(beside))
	return nil
}

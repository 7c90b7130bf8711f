package store

import (
	"errors"
	"os"
	"path/filepath"
	"testing"
	"time"
)

func TestAPhotoLiesThereOnce(t *testing.T) {
	s, dir := shop(t)
	p := s.Pictures()
	hash, err := p.Keep([]byte("a photo"))
	must(t, err)
	again, err := p.Keep([]byte("a photo"))
	must(t, err)
	must(t, p.KeepSmall(hash, []byte("small")))
	must(t, p.KeepDrawn(hash, "0f", []byte("drawn")))
	if got, err := p.Photo(hash); err != nil || string(got) != "a photo" || again != hash {
		t.Errorf("%q %v", got, err)
	}
	if got, err := p.Small(hash); err != nil || string(got) != "small" {
		t.Errorf("%q %v", got, err)
	}
	files := 0
	must(t, filepath.WalkDir(filepath.Join(dir, PicturesName), func(_ string, d os.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			files++
		}
		return err
	}))
	if files != 3 {
		t.Errorf("%d files lie there", files)
	}
	must(t, p.Drop(hash))
	must(t, p.Drop(hash))
	for _, read := range []func() ([]byte, error){func() ([]byte, error) { return p.Photo(hash) }, func() ([]byte, error) { return p.Small(hash) }, func() ([]byte, error) { return p.Drawn(hash, "0f") }} {
		if _, err := read(); !errors.Is(err, ErrMissing) {
			t.Errorf("dropped: %v", err)
		}
	}
	if _, err := p.Drawn(hash, "/../../x"); err == nil || errors.Is(err, ErrMissing) {
		t.Errorf("a picture outside: %v", err)
	}
	for _, bad := range []string{"", "../../waxplanus.db", "zz", hash[:10]} {
		if _, err := p.Photo(bad); err == nil || errors.Is(err, ErrMissing) {
			t.Errorf("%q names a photo: %v", bad, err)
		}
		if err := p.Drop(bad); err == nil {
			t.Errorf("%q is dropped", bad)
		}
	}
}

func proofPhoto(id, hash string) *ProofPhoto {
	return &ProofPhoto{ID: id, PanelID: "p", Kind: PhotoReflection, Hash: hash, Bytes: 100, Take: "{}", Person: "Tove", At: time.Now()}
}

func TestSpaceIsCountedByFile(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	a, b, c := proofPhoto("photo-1", "x"), proofPhoto("photo-2", "x"), proofPhoto("photo-3", "y")
	for _, p := range []*ProofPhoto{a, b, c, proofPhoto("photo-1", "x")} {
		must(t, s.AddProofPhoto(ctx, p))
	}
	if err := s.AddProofPhoto(ctx, proofPhoto("photo-1", "y")); !errors.Is(err, ErrTaken) {
		t.Errorf("another photo under the same id: %v", err)
	}
	space := func(photos int, bytes int64) {
		t.Helper()
		if got, err := s.PhotoSpace(ctx); err != nil || got.Photos != photos || got.Bytes != bytes {
			t.Errorf("%+v %v, want %d photos of %d", got, err, photos, bytes)
		}
	}
	space(2, 200)
	last, err := s.DropPhoto(ctx, *a, time.Now())
	must(t, err)
	if last {
		t.Error("the file of another photo would be deleted")
	}
	space(2, 200)
	for _, want := range []bool{true, false} { // a second time there is nothing to let go
		if last, err = s.DropPhoto(ctx, *b, time.Now()); err != nil || last != want {
			t.Errorf("last %v %v", last, err)
		}
		space(1, 100)
	}
}

// Photos of marks of an old shop become files when it is opened; one that takes the place of
// another lets its file go.
func TestPhotosOfMarksAreFiles(t *testing.T) {
	dir := oldShop(t, 11,
		`INSERT INTO marks (id, panel_id, seq, kind, x_mm, y_mm, length_mm, width_mm, angle_deg, class, size_um, crest_um, beside_um, grade, density_dm2, note, found, person, at, outcome, outcome_reason, spent_um, closed_by, struck_reason, has_photo)
			VALUES ('mark-1', 'p', 1, 'nib', 1, 1, 0, 0, 0, '', 0, 0, 0, 0, 0, '', 'booth', 'T', '2031-05-04 10:00:00+00:00', 'open', '', 0, '', '', 1)`,
		`INSERT INTO photos (mark_id, mime, data, at) VALUES ('mark-1', 'image/jpeg', x'ffd8ff01', '2031-05-04 10:00:00+00:00')`)
	s := openIn(t, dir)
	p, err := s.Photo(ctx, "mark-1")
	must(t, err)
	if string(p.Data) != "\xff\xd8\xff\x01" || p.Hash != HashOf(p.Data) {
		t.Errorf("%x, %s", p.Data, p.Hash)
	}
	space, err := s.PhotoSpace(ctx)
	if err != nil || space.Photos != 1 || space.Bytes != 4 {
		t.Errorf("%+v %v", space, err)
	}
	must(t, s.SavePhoto(ctx, Photo{MarkID: "mark-1", Mime: "image/png", Data: []byte("another"), At: time.Now()}))
	if _, err := s.Pictures().Photo(p.Hash); !errors.Is(err, ErrMissing) {
		t.Errorf("the file of the one before is there: %v", err)
	}
	if space, err := s.PhotoSpace(ctx); err != nil || space.Photos != 1 || space.Bytes != 7 {
		t.Errorf("%+v %v", space, err)
	}
}

func TestStalePhotosAreThoseOfTheRule(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	must(t, s.AddProofPhoto(ctx, proofPhoto("photo-1", "x")))
	must(t, s.AddProofPhoto(ctx, proofPhoto("photo-2", "y")))
	long := time.Now().Add(-40 * 24 * time.Hour)
	_, err := s.ChangeProofPhoto(ctx, "photo-2", func(p *ProofPhoto) error { p.StruckAt = &long; return nil }, func([]ProofPhoto, bool) (*PhotoTexture, error) { return nil, nil })
	must(t, err)
	stale := func(handedOver, struck time.Time) int {
		t.Helper()
		all, err := s.StalePhotos(ctx, handedOver, struck, 50)
		must(t, err)
		return len(all)
	}
	month := time.Now().Add(-30 * 24 * time.Hour)
	if n := stale(time.Time{}, month); n != 1 {
		t.Errorf("%d struck ones", n)
	}
	must(t, s.SetClosed(ctx, "car", long))
	if n := stale(month, time.Time{}); n != 2 {
		t.Errorf("%d of a car that left", n)
	}
	if n := stale(long.Add(-time.Hour), time.Time{}); n != 0 {
		t.Errorf("%d before the rule", n)
	}
}

func TestAPanelThatGoesBackIsPlannedAnew(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	must(t, acceptPlan(s, planOf("plan-1", Step{No: 1, Kind: "level", Passes: 4})))
	must(t, addEntry(s, pass("entry-1", "plan-1", time.Now()), nil))
	second := planOf("plan-2", Step{No: 1, Kind: "level", Passes: 2})
	if err := acceptPlan(s, second); !errors.Is(err, ErrWorked) {
		t.Fatalf("work had begun: %v", err)
	}
	back := &Proof{ID: "proof-1", PanelID: "p", Kind: ProofBack, Person: "Tove", At: time.Now()}
	if err := s.AddProof(ctx, back, version(s, "p")-1, nil); !errors.Is(err, ErrChanged) {
		t.Errorf("judged by an older state: %v", err)
	}
	must(t, s.AddProof(ctx, back, version(s, "p"), &PanelNow{PhotoTexture{PeelUM: 0.4, PeelSpread: 0.1}, 0.3}))
	must(t, s.AddProof(ctx, back, version(s, "p")-7, nil)) // sent again
	if p, err := s.Panel(ctx, "p"); err != nil || p.PhotoPeelUM != 0.4 {
		t.Errorf("%+v %v", p.PhotoPeelUM, err)
	}
	must(t, acceptPlan(s, second))
	if p, err := s.Plan(ctx, "p"); err != nil || p.ID != "plan-2" || p.EndedAt != nil || p.Version != 2 {
		t.Errorf("%+v %v", p, err)
	}
	rows, err := s.ProofRows(ctx, "p")
	if err != nil || len(rows.Proofs) != 1 || rows.Proofs[0].Seq != 1 {
		t.Errorf("%+v %v", rows, err)
	}
}

func TestMarksAreClosedTogetherOrNotAtAll(t *testing.T) {
	s, _ := shop(t)
	must(t, s.TakeIn(ctx, car()))
	must(t, s.AddMark(ctx, mark("mark-1")))
	must(t, s.AddMark(ctx, mark("mark-2")))
	gone := func(m *Mark) error { m.Outcome = OutcomeGone; return nil }
	if err := s.CloseMarks(ctx, "p", []string{"mark-1", "mark-9"}, gone); !errors.Is(err, ErrMissing) {
		t.Errorf("%v", err)
	}
	if m, _ := s.Mark(ctx, "mark-1"); m.Outcome == OutcomeGone {
		t.Error("one of two was closed")
	}
	must(t, s.CloseMarks(ctx, "p", []string{"mark-1", "mark-2"}, gone))
	if m, _ := s.Mark(ctx, "mark-2"); m.Outcome != OutcomeGone {
		t.Error("not closed")
	}
}

package keep

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"time"

	"waxplanus/internal/files"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// BackupRule says whether a backup is made every day, and how many of those are kept.
type BackupRule struct {
	Daily bool `json:"daily"`
	Keep  int  `json:"keep"`
}

// UsualBackups are those of a shop that said nothing.
var UsualBackups = BackupRule{Daily: true, Keep: 7}

const (
	backupSetting = "backups"
	backupFolder  = "backups"
	mostBackups   = 366
	daily         = "daily"
	byHand        = "by-hand"
)

// Backup is one that lies beside the database.
type Backup struct {
	Name  string
	At    time.Time
	Bytes int64
	Daily bool
}

// Backups are those that lie there, the newest first, and the rule.
type Backups struct {
	BackupRule
	Made []Backup
}

var backupName = regexp.MustCompile(`^\d{8}T\d{6}-(daily|by-hand)\.zip$`)

// Backups of the shop.
func (s *Service) Backups(ctx context.Context) (Backups, error) {
	out := Backups{BackupRule: UsualBackups}
	text, err := s.Store.Setting(ctx, backupSetting, "{}")
	if err == nil {
		err = json.Unmarshal([]byte(text), &out.BackupRule)
	}
	if err != nil {
		return out, err
	}
	in, err := os.ReadDir(filepath.Join(s.Store.Dir(), backupFolder))
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return out, err
	}
	for _, e := range in {
		info, err := e.Info()
		if m := backupName.FindStringSubmatch(e.Name()); m != nil && err == nil {
			out.Made = append(out.Made, Backup{e.Name(), info.ModTime(), info.Size(), m[1] == daily})
		}
	}
	slices.SortFunc(out.Made, func(a, b Backup) int { return cmp.Compare(b.Name, a.Name) })
	return out, nil
}

// SetBackups changes the rule.
func (s *Service) SetBackups(ctx context.Context, r BackupRule) error {
	if r.Keep < 1 || r.Keep > mostBackups {
		return refuse.Because(refuse.BadKeepBackups, "keep", mostBackups)
	}
	raw, err := json.Marshal(r)
	if err != nil {
		return err
	}
	return s.Store.SetSetting(ctx, backupSetting, string(raw))
}

// WriteBackup writes the whole shop as it is at one moment, while others go on.
func (s *Service) WriteBackup(ctx context.Context, program string, w io.Writer) (files.BackupNote, error) {
	dir, err := os.MkdirTemp(s.Store.Dir(), "snapshot-")
	if err != nil {
		return files.BackupNote{}, err
	}
	defer func() { _ = os.RemoveAll(dir) }() // a copy that is done with
	copied := filepath.Join(dir, store.FileName)
	if err := s.Store.Snapshot(ctx, copied); err != nil {
		return files.BackupNote{}, err
	}
	hashes, err := s.Store.Hashes(ctx)
	if err != nil {
		return files.BackupNote{}, err
	}
	pictures := s.Store.Pictures()
	return files.WriteBackup(w, copied, hashes, func(hash string) (io.ReadCloser, error) {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		f, err := pictures.Open(hash)
		if errors.Is(err, refuse.ErrMissing) {
			return nil, fs.ErrNotExist
		}
		return f, err
	}, files.BackupNote{Program: program, At: s.Now().UTC()})
}

// MakeBackup makes a backup beside the database; one by hand stays until somebody deletes it,
// of the daily ones so many are kept.
func (s *Service) MakeBackup(ctx context.Context, program string, everyDay bool) (made Backup, err error) {
	if !s.backing.TryLock() {
		return made, refuse.Conflicting(refuse.BackupUnderWay)
	}
	defer s.backing.Unlock()
	dir := filepath.Join(s.Store.Dir(), backupFolder)
	if err := os.MkdirAll(dir, 0o750); err != nil {
		return made, err
	}
	f, err := os.CreateTemp(dir, "new-*")
	if err != nil {
		return made, err
	}
	defer func() {
		if err != nil {
			_ = os.Remove(f.Name()) // it is not whole
		}
	}()
	_, err = s.WriteBackup(ctx, program, &bySteps{f: f})
	if err = errors.Join(err, f.Sync(), f.Close()); err != nil {
		return made, err
	}
	kind := byHand
	if everyDay {
		kind = daily
	}
	name := s.Now().UTC().Format("20060102T150405") + "-" + kind + ".zip"
	if err = os.Rename(f.Name(), filepath.Join(dir, name)); err != nil {
		return made, err
	}
	all, err := s.Backups(ctx)
	if err != nil {
		return made, err
	}
	kept := 0
	for _, b := range all.Made {
		if b.Name == name {
			made = b
		}
		if b.Daily {
			if kept++; kept > all.Keep {
				_ = os.Remove(filepath.Join(dir, b.Name)) // else next time
			}
		}
	}
	return made, nil
}

// bySteps has a file on the disk every few MB, so that nobody who taps waits for all of it at
// once.
type bySteps struct {
	f    *os.File
	left int
}

const stepBytes = 4 << 20

// Write writes, and waits for the disk now and then.
func (b *bySteps) Write(p []byte) (int, error) {
	n, err := b.f.Write(p)
	if b.left += n; err == nil && b.left >= stepBytes {
		b.left, err = 0, b.f.Sync()
	}
	return n, err
}

// BackupPath is where a backup lies.
func (s *Service) BackupPath(name string) (string, error) {
	path := filepath.Join(s.Store.Dir(), backupFolder, name)
	if _, err := os.Stat(path); !backupName.MatchString(name) || err != nil {
		return "", refuse.ErrMissing
	}
	return path, nil
}

// BackupDue says whether a day has gone by since the last daily backup, where the shop wants one.
func (s *Service) BackupDue(ctx context.Context) (bool, error) {
	all, err := s.Backups(ctx)
	if err != nil || !all.Daily {
		return false, err
	}
	i := slices.IndexFunc(all.Made, func(b Backup) bool { return b.Daily })
	return i < 0 || s.Now().Sub(all.Made[i].At) >= 24*time.Hour, nil
}

// CheckedBackup is a backup that was looked through: it can be put back.
type CheckedBackup struct {
	files.BackupNote
	Cars int
}

// CheckBackup looks a backup through without putting it back: every file of it against its
// digest, and the database inside.
func CheckBackup(path string) (out CheckedBackup, err error) {
	dir, err := os.MkdirTemp("", "waxplanus-check-")
	if err != nil {
		return out, err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	return unpackChecked(path, dir)
}

func unpackChecked(path, dir string) (out CheckedBackup, err error) {
	if out.BackupNote, err = files.UnpackBackup(path, dir); err != nil {
		return out, err
	}
	out.Cars, err = store.CheckCopy(filepath.Join(dir, store.FileName))
	return out, err
}

// BackupFault is why a backup cannot be put back, as a refusal where it is the backup's fault.
func BackupFault(err error) error {
	var bad *files.BadBackup
	var damage *store.Damage
	if errors.As(err, &bad) {
		return refuse.Because(refuse.BadBackup, "file", bad)
	}
	if errors.As(err, &damage) {
		return refuse.Because(refuse.BadBackup, "file", fmt.Errorf("its database %s", damage.What))
	}
	return err
}

// Restore puts a backup into a folder in place of the shop there, which is moved aside and not
// deleted; nothing is replaced before all of the backup was checked. The shop may not be open.
func Restore(path, dir string, now time.Time) (out CheckedBackup, aside string, err error) {
	if err := os.MkdirAll(dir, 0o750); err != nil {
		return out, "", err
	}
	held, err := store.HeldBy(dir)
	if err != nil {
		return out, "", err
	}
	if held {
		return out, "", refuse.Conflicting(refuse.ShopOpen, dir)
	}
	fresh, err := os.MkdirTemp(dir, "restoring-")
	if err != nil {
		return out, "", err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(fresh)) }()
	if out, err = unpackChecked(path, fresh); err != nil {
		return out, "", err
	}
	// It has to open with this program before it takes the other's place.
	records, err := store.Open(fresh)
	if err != nil {
		return out, "", err
	}
	if err := records.Close(); err != nil {
		return out, "", err
	}
	aside = filepath.Join(dir, "before-"+now.UTC().Format("20060102T150405"))
	moved, err := move(dir, aside)
	if err == nil {
		_, err = move(fresh, dir)
	}
	if err != nil {
		back, failed := move(aside, dir)
		return out, "", errors.Join(fmt.Errorf("%w (%d of %d parts are back in place)", err, back, moved), failed)
	}
	if moved == 0 {
		aside = ""
	}
	return out, aside, nil
}

// move moves what a shop is made of from one folder to another, as far as it is there.
func move(from, to string) (moved int, err error) {
	for _, name := range []string{store.FileName, store.FileName + "-wal", store.FileName + "-shm", store.PicturesName} {
		if _, err := os.Stat(filepath.Join(from, name)); errors.Is(err, fs.ErrNotExist) {
			continue
		}
		if err := os.MkdirAll(to, 0o750); err != nil {
			return moved, err
		}
		if err := os.Rename(filepath.Join(from, name), filepath.Join(to, name)); err != nil {
			return moved, err
		}
		moved++
	}
	return moved, nil
}

// BackupFolder is where backups lie.
func (s *Service) BackupFolder() string { return filepath.Join(s.Store.Dir(), backupFolder) }

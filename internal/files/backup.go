package files

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// BackupNote says what a backup holds.
type BackupNote struct {
	Format  string    `json:"format"`
	Version int       `json:"version"`
	Program string    `json:"program"`
	At      time.Time `json:"at"`
	SHA256  string    `json:"database_sha256"`
	Bytes   int64     `json:"database_bytes"`
	Photos  int       `json:"photos"`
	Missing int       `json:"photos_missing"` // on record, without a file
}

// The format of backups; docs/formats/backup.md tells what is in one.
const (
	BackupFormat  = "waxplanus.backup"
	BackupVersion = 1
	backupNote    = "backup.json"
	backupData    = "waxplanus.db"
)

// WriteBackup writes a backup: a copy of the database, its photos one after the other, and last
// what it holds. A photo whose file is not there is counted.
func WriteBackup(w io.Writer, database string, hashes []string, open func(hash string) (io.ReadCloser, error), note BackupNote) (BackupNote, error) {
	note.Format, note.Version = BackupFormat, BackupVersion
	out := zip.NewWriter(w)
	f, err := os.Open(database)
	if err != nil {
		return note, err
	}
	defer func() { _ = f.Close() }() // read only
	entry, err := out.CreateHeader(&zip.FileHeader{Name: backupData, Method: zip.Deflate, Modified: note.At})
	if err != nil {
		return note, err
	}
	sum := sha256.New()
	if note.Bytes, err = io.Copy(io.MultiWriter(entry, sum), f); err != nil {
		return note, err
	}
	note.SHA256 = hex.EncodeToString(sum.Sum(nil))
	for _, hash := range hashes {
		in, err := open(hash)
		if errors.Is(err, fs.ErrNotExist) {
			note.Missing++
			continue
		}
		if err != nil {
			return note, err
		}
		entry, err := out.CreateHeader(&zip.FileHeader{Name: photoDir + hash[:2] + "/" + hash, Method: zip.Store, Modified: note.At})
		if err == nil {
			_, err = io.Copy(entry, in)
		}
		if err = errors.Join(err, in.Close()); err != nil {
			return note, err
		}
		note.Photos++
	}
	if entry, err = out.CreateHeader(&zip.FileHeader{Name: backupNote, Method: zip.Deflate, Modified: note.At}); err != nil {
		return note, err
	}
	if err := json.NewEncoder(entry).Encode(note); err != nil {
		return note, err
	}
	return note, out.Close()
}

// BadBackup says why a file is no backup that can be put back.
type BadBackup struct{ What string }

func (b *BadBackup) Error() string { return b.What }

func badBackup(format string, args ...any) error { return &BadBackup{fmt.Sprintf(format, args...)} }

// UnpackBackup unpacks a backup into an empty folder, and holds all of it against what it says
// of itself. Nothing is written outside of the folder.
func UnpackBackup(path, dir string) (note BackupNote, err error) {
	archive, err := zip.OpenReader(path)
	if errors.Is(err, fs.ErrNotExist) {
		return note, err
	}
	if err != nil {
		return note, badBackup("the archive is damaged, cut short or none: %v", err)
	}
	defer func() { err = errors.Join(err, archive.Close()) }()
	if note, err = readNote(archive); err != nil {
		return note, err
	}
	photos, found := 0, false
	for _, f := range archive.File {
		switch name := f.Name; {
		case name == backupNote:
		case name == backupData && !found:
			found = true
			got, n, err := unpack(f, filepath.Join(dir, backupData))
			if err != nil {
				return note, err
			}
			if got != note.SHA256 || n != note.Bytes {
				return note, badBackup("%s is not what was backed up: it has changed since", name)
			}
		case backupPhoto(name):
			hash := filepath.Base(name)
			got, _, err := unpack(f, filepath.Join(dir, "photos", hash[:2], hash))
			if err != nil {
				return note, err
			}
			if got != hash {
				return note, badBackup("photo %s is not what was backed up: it has changed since", hash)
			}
			photos++
		default:
			return note, badBackup("%q does not belong into a backup", brief(name))
		}
	}
	switch {
	case !found:
		return note, badBackup("it has no %s", backupData)
	case photos != note.Photos:
		return note, badBackup("it has %d photos and says that it has %d", photos, note.Photos)
	}
	return note, nil
}

func readNote(archive *zip.ReadCloser) (BackupNote, error) {
	var note BackupNote
	for _, f := range archive.File {
		if f.Name != backupNote {
			continue
		}
		in, err := f.Open()
		if err != nil {
			return note, badBackup("%s cannot be unpacked: %v", backupNote, err)
		}
		raw, err := io.ReadAll(io.LimitReader(in, 1<<16))
		_ = in.Close() // read only
		if err == nil {
			err = json.NewDecoder(bytes.NewReader(raw)).Decode(&note)
		}
		if err != nil || note.Format != BackupFormat {
			return note, badBackup("%s does not say that this is a backup", backupNote)
		}
		if note.Version > BackupVersion {
			return note, badBackup("it is of version %d, and this program reads up to %d: bring this program up to date", note.Version, BackupVersion)
		}
		return note, nil
	}
	return note, badBackup("it has no %s: it is no backup, or was cut short", backupNote)
}

// backupPhoto says whether a name is that of a photo in a backup: photos/ab/abcd…
func backupPhoto(name string) bool {
	dir, hash, _ := strings.Cut(strings.TrimPrefix(name, photoDir), "/")
	raw, err := hex.DecodeString(hash)
	return strings.HasPrefix(name, photoDir) && err == nil && len(raw) == sha256.Size && hash == strings.ToLower(hash) && dir == hash[:2]
}

// unpack writes a file of an archive, and gives its digest and how long it is.
func unpack(f *zip.File, to string) (digest string, n int64, err error) {
	if err := os.MkdirAll(filepath.Dir(to), 0o750); err != nil {
		return "", 0, err
	}
	in, err := f.Open()
	if err != nil {
		return "", 0, badBackup("%q cannot be unpacked: %v", brief(f.Name), err)
	}
	defer func() { _ = in.Close() }() // read only
	out, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o640)
	if err != nil {
		return "", 0, err
	}
	sum := sha256.New()
	// No more than the archive says that it has: the digest would not fit anyway.
	n, err = io.Copy(io.MultiWriter(out, sum), io.LimitReader(in, int64(f.UncompressedSize64)))
	if err != nil && !errors.Is(err, fs.ErrInvalid) {
		var bad error
		if errors.Is(err, zip.ErrChecksum) || errors.Is(err, zip.ErrFormat) || errors.Is(err, io.ErrUnexpectedEOF) {
			bad = badBackup("%q is damaged or cut short", brief(f.Name))
		}
		return "", n, errors.Join(out.Close(), err, bad)
	}
	return hex.EncodeToString(sum.Sum(nil)), n, errors.Join(out.Sync(), out.Close())
}

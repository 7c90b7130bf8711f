package store

import (
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"
)

// Damage says that a shop's file is no sound shop, what is wrong with it, and which copy
// beside it is the newest ("" for none). Nothing was changed.
type Damage struct {
	Path, What, Copy string
	CopiedAt         time.Time
	Rows             bool // the file is sound, but rows of it cannot be read
}

func (d *Damage) Error() string {
	out := fmt.Sprintf("the shop's file %s %s. ", d.Path, d.What)
	switch {
	case d.Copy == "":
		out += "No copy lies beside it: put back one that was kept elsewhere"
	case strings.HasSuffix(d.Copy, ".zip"):
		out += fmt.Sprintf("The newest backup is %s of %s: put it back with waxplanus restore --data %s %s", d.Copy, d.CopiedAt.Format("2006-01-02 15:04"), filepath.Dir(d.Path), d.Copy)
	default:
		out += fmt.Sprintf("The newest copy beside it is %s of %s: put it in its place", d.Copy, d.CopiedAt.Format("2006-01-02 15:04"))
	}
	if d.Rows {
		return out + ", or serve what can be read with --despite-faults. Nothing was changed"
	}
	return out + ". Nothing was changed"
}

func newDamage(path, what string) *Damage {
	d := &Damage{Path: path, What: what}
	d.Copy, d.CopiedAt = newestCopy(path)
	return d
}

// backups are files that the shop was copied into.
var backups = regexp.MustCompile(`/backups/\d{8}T\d{6}-(daily|by-hand)\.zip$`)

// newestCopy is the newest other database in a shop's folder or in one folder below it, or the
// newest backup.
func newestCopy(path string) (copied string, at time.Time) {
	dir := filepath.Dir(path)
	for _, pattern := range []string{filepath.Join(dir, "*"), filepath.Join(dir, "*", "*")} {
		files, err := filepath.Glob(pattern)
		if err != nil {
			continue // a folder's name that reads as a pattern has no copies told
		}
		for _, f := range files {
			info, err := os.Stat(f)
			if err != nil || info.IsDir() || f == path || strings.HasSuffix(f, "-wal") || strings.HasSuffix(f, "-shm") || strings.HasSuffix(f, ".new") {
				continue
			}
			if (looksLikeShop(f) == nil || backups.MatchString(filepath.ToSlash(f))) && info.ModTime().After(at) {
				copied, at = f, info.ModTime()
			}
		}
	}
	return copied, at
}

// damaged is why a file could not be opened, as damage where it is.
func damaged(path string, err error) error {
	if text := err.Error(); strings.Contains(text, "malformed") || strings.Contains(text, "not a database") || strings.Contains(text, "corrupt") {
		return newDamage(path, "is damaged: "+text)
	}
	return fmt.Errorf("opening the shop in %s: %w", filepath.Dir(path), err)
}

// sound checks the whole file and, unless despite, that each row can be read.
func (s *Store) sound(path string, despite bool) error {
	var said []string
	if err := s.readers.Raw("PRAGMA quick_check(3)").Scan(&said).Error; err != nil {
		return newDamage(path, "is damaged: "+err.Error())
	}
	if len(said) != 1 || said[0] != "ok" {
		return newDamage(path, "is damaged: "+strings.Join(said, "; "))
	}
	if despite {
		return nil
	}
	what, err := unreadable(s.readers)
	if err != nil {
		return damaged(path, err)
	}
	if what != "" {
		d := newDamage(path, "has rows that cannot be read: "+what)
		d.Rows = true
		return d
	}
	return nil
}

// texts are the columns that hold JSON, by table; an empty one holds nothing.
var texts = map[string][]string{"cars": {"sheet"}, "panels": {"shape", "zones", "parts", "paint"}, "plans": {"made", "facts"}, "tries": {"made"},
	"proof_photos": {"take", "reading", "refused"}, "proofs": {"facts"}, "handovers": {"facts"}, "reports": {"choices"}}

// unreadable names the first rows with a value that is not of its column's kind; "" for
// none.
func unreadable(db *gorm.DB) (string, error) {
	var tables []string
	if err := db.Raw("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%' ORDER BY name").Scan(&tables).Error; err != nil {
		return "", err
	}
	var bad []string
	for _, table := range tables {
		var columns []struct{ Name, Type string }
		if err := db.Raw("SELECT name, type FROM pragma_table_info(?)", table).Scan(&columns).Error; err != nil {
			return "", err
		}
		var faults []string
		for _, c := range columns {
			col := `"` + c.Name + `"`
			switch c.Type {
			case "REAL":
				faults = append(faults, col+" IS NOT NULL AND typeof("+col+") NOT IN ('real', 'integer')")
			case "INTEGER", "NUMERIC":
				faults = append(faults, col+" IS NOT NULL AND typeof("+col+") <> 'integer'")
			case "DATETIME":
				faults = append(faults, col+" IS NOT NULL AND julianday("+col+") IS NULL")
			case "TEXT":
				if slices.Contains(texts[table], c.Name) {
					faults = append(faults, col+" <> '' AND NOT json_valid("+col+")")
				}
			}
		}
		if len(faults) == 0 {
			continue
		}
		var rows []int64
		if err := db.Raw(`SELECT rowid FROM "` + table + `" WHERE ` + strings.Join(faults, " OR ") + " LIMIT 3").Scan(&rows).Error; err != nil {
			return "", err
		}
		for _, id := range rows {
			bad = append(bad, fmt.Sprintf("%s, row %d", table, id))
		}
	}
	return strings.Join(bad, "; "), nil
}

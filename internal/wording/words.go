// Package wording holds every sentence of the server: it makes them from core and shop
// values, in the shop's unit and time zone. Every screen shows the same sentence for the
// same thing. Numbers are rounded to what is known.
package wording

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/plan"
	"waxplanus/internal/shop/house"
	"waxplanus/internal/shop/refuse"
)

// Words says things to one screen. Its zero value speaks µm and UTC, in mm, with the day before
// the month and 24 hours.
type Words struct {
	Unit refuse.Unit
	Zone *time.Location
	Face house.Face
}

// Of says things as a shop has them said.
func Of(set house.Settings) Words { return Words{set.Unit, set.Zone, set.Face} }

// In a sentence each film is a marked number of µm until the sentence is done; " µm"
// right after it becomes the shop's unit, and a µm that stands elsewhere stays.
const (
	markFrom = '\ue000'
	markTo   = '\ue001'
)

// um marks a film of so many µm.
func um(v float64) string {
	return string(markFrom) + strconv.FormatFloat(v, 'g', 8, 64) + string(markTo)
}

// typed marks a film of so many µm that somebody typed or a gauge showed: as it was read.
func typed(v float64) string {
	return string(markFrom) + strconv.FormatFloat(v, 'f', 4, 64) + asRead + string(markTo)
}

const asRead = "r"

func plusMinus(e film.Estimate) string { return um(e.Mean) + " ± " + um(e.SD) }

// Film writes a film of v µm in the unit, as far as it is known, without the unit.
func (w Words) Film(v float64) string {
	if w.Unit == refuse.Mil {
		v /= refuse.MicronsPerMil
		if math.Abs(v) < 0.0995 {
			return fmt.Sprintf("%.3f", v)
		}
		return fmt.Sprintf("%.2f", v)
	}
	if math.Abs(v) < 9.95 {
		return fmt.Sprintf("%.1f", v)
	}
	return strconv.FormatFloat(math.Round(v), 'f', 0, 64)
}

// read writes a film as a gauge shows it: tenths of a µm where there are any.
func (w Words) read(v float64) string {
	if w.Unit == refuse.Mil {
		return w.Film(v)
	}
	return strconv.FormatFloat(math.Round(v*10)/10, 'f', -1, 64)
}

var marked = regexp.MustCompile(string(markFrom) + `([^` + string(markTo) + `]*)` + string(markTo) + `( µm)?`)

// done writes all marked films of a sentence in the unit.
func (w Words) done(text string) string {
	if !strings.ContainsRune(text, markFrom) {
		return text
	}
	name := " µm"
	if w.Unit == refuse.Mil {
		name = " mil"
	}
	return marked.ReplaceAllStringFunc(text, func(m string) string {
		part := marked.FindStringSubmatch(m)
		number, film := part[1], w.Film
		if n, is := strings.CutSuffix(number, asRead); is {
			number, film = n, w.read
		}
		v, err := strconv.ParseFloat(number, 64)
		if err != nil {
			return m
		}
		if part[2] == "" {
			return film(v)
		}
		return film(v) + name
	})
}

// say makes a sentence.
func (w Words) say(format string, v ...any) string { return w.done(fmt.Sprintf(format, v...)) }

// local is a time as the shop's clocks show it.
func (w Words) local(t time.Time) time.Time {
	if w.Zone == nil {
		return t.UTC()
	}
	return t.In(w.Zone)
}

// clock is the time of day, dayTime with its day, and day the day alone.
func (w Words) clock(t time.Time) string {
	if w.Face.Clock == "12" {
		return w.local(t).Format("3:04 pm")
	}
	return w.local(t).Format("15:04")
}

func (w Words) dayTime(t time.Time) string {
	return w.local(t).Format(w.dated("2 Jan", "Jan 2", "2006-01-02")) + " " + w.clock(t)
}

func (w Words) day(t time.Time) string {
	return w.local(t).Format(w.dated("2 January 2006", "January 2, 2006", "2006-01-02"))
}

// dated is one of three forms by the order in which the shop writes day, month and year.
func (w Words) dated(dmy, mdy, ymd string) string {
	switch w.Face.Dates {
	case "mdy":
		return mdy
	case "ymd":
		return ymd
	}
	return dmy
}

const mmPerInch = 25.4

// length is one of so many mm in the shop's unit, with the unit.
func (w Words) length(mm float64) string {
	if w.Face.Length == "in" {
		return strconv.FormatFloat(math.Round(mm/mmPerInch*100)/100, 'f', -1, 64) + " in"
	}
	return fmt.Sprintf("%.0f mm", mm)
}

// unitName is the unit of films.
func (w Words) unitName() string {
	if w.Unit == refuse.Mil {
		return "mil"
	}
	return "µm"
}

// count is a number of things of one name.
func count(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	if strings.HasSuffix(what, "s") {
		return fmt.Sprintf("%d %ses", n, what)
	}
	return fmt.Sprintf("%d %ss", n, what)
}

func capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

// ended puts a stop behind a sentence that has none.
func ended(s string) string {
	if strings.HasSuffix(s, "?") || strings.HasSuffix(s, ".") {
		return s
	}
	return s + "."
}

// mayGo is a headroom in words: its film, or none.
func mayGo(room float64) string {
	if room <= 0 {
		return "none"
	}
	return um(room)
}

func minutes(m float64) string {
	if m < 90 {
		return fmt.Sprintf("%.0f min", m)
	}
	return fmt.Sprintf("%.1f h", m/60)
}

// atLeastAMinute is a time in s, of no less than a minute.
func atLeastAMinute(seconds float64) string { return minutes(math.Max(seconds/60, 1)) }

var aimWords = map[plan.Aim]string{
	plan.NibsOnly: "nibs only", plan.Match: "match", plan.Flat: "flat", plan.PolishOnly: "polish only",
}

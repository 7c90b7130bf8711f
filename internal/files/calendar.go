package files

import (
	"fmt"
	"io"
	"strings"
	"time"
)

// Event is something of a calendar, from a moment to another or at one.
type Event struct {
	ID, Title, Text string
	From, To        time.Time
}

// WriteCalendar writes events as iCalendar (RFC 5545), times in UTC.
func WriteCalendar(w io.Writer, name string, at time.Time, events []Event) error {
	var b strings.Builder
	put := func(key, value string) { b.WriteString(folded(key + ":" + value)) }
	put("BEGIN", "VCALENDAR")
	put("VERSION", "2.0")
	put("PRODID", "-//Wax Planus//EN")
	put("X-WR-CALNAME", calendarText(name))
	for _, e := range events {
		put("BEGIN", "VEVENT")
		put("UID", calendarText(e.ID))
		put("DTSTAMP", stamp(at))
		put("DTSTART", stamp(e.From))
		put("DTEND", stamp(e.To))
		put("SUMMARY", calendarText(e.Title))
		if e.Text != "" {
			put("DESCRIPTION", calendarText(e.Text))
		}
		put("END", "VEVENT")
	}
	put("END", "VCALENDAR")
	_, err := fmt.Fprint(w, b.String())
	return err
}

func stamp(t time.Time) string { return t.UTC().Format("20060102T150405Z") }

func calendarText(s string) string {
	return strings.NewReplacer(`\`, `\\`, ";", `\;`, ",", `\,`, "\r\n", `\n`, "\n", `\n`, "\r", " ").Replace(s)
}

// mostOctets is how long a line of a calendar is.
const mostOctets = 75

// folded breaks a line as the format wants it, between letters.
func folded(line string) string {
	var out strings.Builder
	now := 0
	for _, r := range line {
		n := len(string(r))
		if now+n > mostOctets {
			out.WriteString("\r\n ")
			now = 1
		}
		out.WriteRune(r)
		now += n
	}
	return out.String() + "\r\n"
}

package web

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"waxplanus/internal/files"
	"waxplanus/internal/web/api"
)

// Sentences are made once and shown in the shop's unit: each film in them is a
// marked number of µm, and what goes out to a screen has it written in the unit.
const (
	markFrom = '\ue000'
	markTo   = '\ue001'
)

// um marks a film of so many µm in a sentence. " µm" right after it becomes the
// shop's unit; a µm that stands elsewhere stays.
func um(v float64) string {
	return string(markFrom) + strconv.FormatFloat(v, 'g', 8, 64) + string(markTo)
}

// shown writes a film of v µm in the unit, as far as it is known.
func shown(v float64, unit api.Unit) string {
	if unit == api.Mil {
		v /= files.MicronsPerMil
		if math.Abs(v) < 0.0995 {
			return fmt.Sprintf("%.3f", v)
		}
		return fmt.Sprintf("%.2f", v)
	}
	if math.Abs(v) < 9.95 {
		return fmt.Sprintf("%.1f", v)
	}
	return fmt.Sprintf("%.0f", v)
}

var marked = regexp.MustCompile(string(markFrom) + `([^` + string(markTo) + `]*)` + string(markTo) + `( µm)?`)

// inUnit writes all marked films of a text in the unit.
func inUnit(text string, unit api.Unit) string {
	if !strings.ContainsRune(text, markFrom) {
		return text
	}
	name := " µm"
	if unit == api.Mil {
		name = " mil"
	}
	return marked.ReplaceAllStringFunc(text, func(m string) string {
		part := marked.FindStringSubmatch(m)
		v, err := strconv.ParseFloat(part[1], 64)
		if err != nil {
			return m
		}
		if part[2] == "" {
			return shown(v, unit)
		}
		return shown(v, unit) + name
	})
}

// unitWriter writes what goes out in the shop's unit. An answer is written in
// one piece, so that no mark is cut in two.
type unitWriter struct {
	gin.ResponseWriter
	unit func() api.Unit
}

func (w unitWriter) Write(p []byte) (int, error) {
	if text := string(p); strings.ContainsRune(text, markFrom) {
		if _, err := w.ResponseWriter.WriteString(inUnit(text, w.unit())); err != nil {
			return 0, err
		}
		return len(p), nil
	}
	return w.ResponseWriter.Write(p)
}

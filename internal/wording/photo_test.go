package wording

import (
	"strings"
	"testing"

	"waxplanus/core/photo"
)

func TestEveryRefusedPhotoSaysWhy(t *testing.T) {
	for _, c := range photo.Codes {
		text := Photo(&photo.Refusal{Code: c, Found: 0.25, Want: 0.15})
		if text == "" || strings.Contains(text, "%!") || !strings.HasSuffix(text, ".") {
			t.Errorf("%s: %q", c, text)
		}
	}
	if text := Photo(&photo.Refusal{Code: photo.Saturated, Found: 0.25}); !strings.Contains(text, "25 % of the picture") {
		t.Error(text)
	}
	sure := Reflection(photo.Reading{Peel: photo.Interval{Value: 0.8, Low: 0.7, High: 0.9}, Pebble: photo.Interval{Value: 0.08, Low: 0.07, High: 0.09}})
	most := Reflection(photo.Reading{PebbleAtMost: true, HazeAtMost: true})
	if strings.Contains(sure, "at most") || strings.Count(most, "at most") != 2 || strings.Count(sure, "\n") != 3 {
		t.Errorf("%q %q", sure, most)
	}
}

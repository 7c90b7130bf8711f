package files

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"strings"
	"testing"
)

func wellFormed(t *testing.T, text string) {
	t.Helper()
	d := xml.NewDecoder(strings.NewReader(text))
	for {
		if _, err := d.Token(); errors.Is(err, io.EOF) {
			return
		} else if err != nil {
			t.Fatalf("%v in %s", err, text)
		}
	}
}

func TestTargetsAreToScale(t *testing.T) {
	var card, stripes bytes.Buffer
	if err := errors.Join(CardSVG(&card), StripesSVG(&stripes, 20)); err != nil {
		t.Fatal(err)
	}
	wellFormed(t, card.String())
	wellFormed(t, stripes.String())
	if !strings.Contains(card.String(), `width="46mm"`) || !strings.Contains(card.String(), `x="8" y="8" width="30" height="30"`) {
		t.Error(card.String())
	}
	if n := strings.Count(stripes.String(), `width="10"`); n != 14 || !strings.Contains(stripes.String(), `width="277mm"`) {
		t.Errorf("%d whole stripes in %s", n, stripes.String())
	}
	for _, pitch := range []float64{0, 1, 1000} {
		if err := StripesSVG(io.Discard, pitch); err == nil {
			t.Errorf("stripes of %g mm are printed", pitch)
		}
	}
}

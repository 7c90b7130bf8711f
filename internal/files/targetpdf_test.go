package files

import (
	"bytes"
	"compress/zlib"
	"errors"
	"io"
	"math"
	"regexp"
	"strconv"
	"testing"

	"waxplanus/core/photo"
)

const pointsPerMM = 72 / 25.4

// rectangles of a page, mm wide and high.
func rectangles(t *testing.T, pdf []byte) (out [][2]float64) {
	t.Helper()
	if !bytes.HasPrefix(pdf, []byte("%PDF-")) {
		t.Fatalf("%.20q is no PDF", pdf)
	}
	for _, part := range bytes.Split(pdf, []byte("stream\n"))[1:] {
		r, err := zlib.NewReader(bytes.NewReader(part))
		if err != nil {
			continue // the end of a stream
		}
		text, _ := io.ReadAll(r)
		for _, m := range regexp.MustCompile(`[\d.-]+ [\d.-]+ ([\d.-]+) ([\d.-]+) re`).FindAllSubmatch(text, -1) {
			w, _ := strconv.ParseFloat(string(m[1]), 64)
			h, _ := strconv.ParseFloat(string(m[2]), 64)
			out = append(out, [2]float64{math.Abs(w) / pointsPerMM, math.Abs(h) / pointsPerMM})
		}
	}
	return out
}

func TestSheetsAreToScale(t *testing.T) {
	var card, stripes bytes.Buffer
	if err := errors.Join(CardPDF(&card), StripesPDF(&stripes, 15)); err != nil {
		t.Fatal(err)
	}
	black := rectangles(t, card.Bytes())
	if len(black) != 2 || math.Abs(black[0][0]-photo.CardSide-2*photo.CardFrame) > 0.01 || math.Abs(black[1][0]-photo.CardSide) > 0.01 || math.Abs(black[1][1]-photo.CardSide) > 0.01 {
		t.Errorf("the card measures %v", black)
	}
	all := rectangles(t, stripes.Bytes())
	if n := int(math.Ceil(targetWide / 15)); len(all) != n || math.Abs(all[0][0]-7.5) > 0.01 {
		t.Errorf("%d stripes of %v, %d wanted", len(all), all[0], n)
	}
	if err := StripesPDF(io.Discard, 900); err == nil {
		t.Error("stripes of 900 mm are printed")
	}
}

package main

import (
	"bytes"
	"errors"
	"fmt"
	"image/jpeg"
	"image/png"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"waxplanus/core/photo"
	"waxplanus/core/practice"
)

func benchPhotoCommand(out io.Writer) *cobra.Command {
	var scenes int
	var seed uint64
	c := &cobra.Command{
		Use: "photo", Short: "How right the readers of photos are, on random panels that nobody has seen", Args: cobra.NoArgs,
		Long: `Makes photos of striped lamps in panels whose height is known, from a seed on, half of them
of heights that are not made of the waves which the reader thinks of. Prints bias, spread,
worst error and how often the truth lay in the interval, what was refused, and times. Then as
many photos of sanded sections of which a known share still shines.`,
		RunE: func(*cobra.Command, []string) error { return benchPhoto(out, scenes, seed) },
	}
	c.Flags().IntVar(&scenes, "scenes", 60, "photos")
	c.Flags().Uint64Var(&seed, "seed", 90001, "of the first")
	return c
}

func benchPhoto(out io.Writer, scenes int, seed uint64) error {
	got, err := practice.ReadScenes(scenes, seed)
	if err != nil {
		return err
	}
	both := func(format string, peel, pebble float64) string {
		return fmt.Sprintf("peel "+format+" %%, pebble "+format+" %%", 100*peel, 100*pebble)
	}
	of := func(peel, pebble int) string {
		return fmt.Sprintf("peel %d of %d, pebble %d of %d", peel, got.Peel.Read, pebble, got.Pebble.Read)
	}
	line(out, "what", "measured", "wanted")
	line(out, "---", "---", "---")
	line(out, "bias", both("%+.1f", got.Peel.Bias, got.Pebble.Bias), "4 %")
	line(out, "standard deviation", both("%.1f", got.Peel.SD, got.Pebble.SD), "8 %")
	line(out, "worst", both("%.0f", got.Peel.Worst, got.Pebble.Worst), "25 %")
	line(out, "in the interval of 95 %", of(got.Peel.Within, got.Pebble.Within), "90 to 99 %")
	line(out, "peel hidden under the pebble, told as at most", fmt.Sprintf("%d, and so it is in %d", got.Hidden, got.Held), "")
	line(out, "within 10 %", of(got.Peel.Close, got.Pebble.Close), "most")
	line(out, fmt.Sprintf("haze where the stripes hardly fold, %d photos", got.HazeRead), fmt.Sprintf("%.2f mrad off, rms", got.HazeOff), "0.4 mrad")
	refused := ""
	for code, n := range got.Refused {
		refused += fmt.Sprintf("%d %s ", n, code)
	}
	line(out, "refused", fmt.Sprintf("%d of %d %s", scenes-got.Pebble.Read, scenes, refused), "3 %")
	dull := practice.ReadDulls(scenes, seed)
	line(out, "share that still shines", fmt.Sprintf("%.1f points off, rms; worst %.1f", 100*dull.RMS, 100*dull.Worst), "1.5, 3 points")
	line(out, "in the interval of 95 %", fmt.Sprintf("%d of %d", dull.Within, dull.Read), "most")
	line(out, "refused although something shines", fmt.Sprintf("%d of %d", dull.Refused, dull.Scenes), "few")
	for _, print := range []func(io.Writer, uint64) error{benchSame, benchFocus, benchMangled, benchLarge} {
		if err := print(out, seed); err != nil {
			return err
		}
	}
	return nil
}

// photosInForms is how many photos are read in other forms.
const photosInForms = 8

func benchSame(out io.Writer, seed uint64) error {
	all, err := practice.ReadSame(photosInForms, seed)
	for _, s := range all {
		line(out, fmt.Sprintf("the same photo %s, at worst of %d", s.Form, s.Photos), fmt.Sprintf("peel %.1f %%, pebble %.1f %%", 100*s.Peel, 100*s.Pebble), "3 %, 6 %")
	}
	return err
}

func benchFocus(out io.Writer, seed uint64) error {
	for _, f := range practice.FocusSweep(seed) {
		says := fmt.Sprintf("%+.0f %%", 100*(f.Read/f.Pebble-1))
		switch {
		case f.Refused != "":
			says = "refused: " + string(f.Refused)
		case f.AtLeast:
			says = "at least; " + says
		case f.AtMost:
			says = "at most; " + says
		}
		line(out, fmt.Sprintf("pebble with a card, lens blurred by %.1f pixels", f.Lens), says, "20 %, at least, or refused")
	}
	return nil
}

// mangled is how many files are mangled.
const mangled = 5000

func benchMangled(out io.Writer, seed uint64) error {
	l := photo.Lamp{Pitch: 20, Lamp: 500, Camera: 700, Aperture: 4, MMPerPx: 0.2, Lens: 0.8, Gamma: 2.2}
	h := photo.NewHeight(480, 360, l.MMPerPx, []photo.Waves{{Length: 5, Sq: 0.6, Spread: 0.2}}, 1)
	picture := photo.Shot{Lamp: l, Duty: 0.5, Dark: 0.03, Lit: 0.8, Noise: 0.004}.Mirror(h).Gray()
	var files [2]bytes.Buffer
	if err := errors.Join(png.Encode(&files[0], picture), jpeg.Encode(&files[1], picture, nil)); err != nil {
		return err
	}
	unpacked, read, panics := 0, 0, 0
	var slowest time.Duration
	for i := range mangled {
		data := practice.Mangled(files[i%2].Bytes(), seed+uint64(i))
		start := time.Now()
		func() {
			defer func() {
				if recover() != nil {
					panics++
				}
			}()
			p, err := photo.Decode(data)
			slowest = max(slowest, time.Since(start))
			if err != nil {
				return
			}
			unpacked++
			if _, err := photo.Reflect(p, l); err == nil {
				read++
			}
		}()
	}
	line(out, fmt.Sprintf("%d mangled files, %d of them unpacked, %d read", mangled, unpacked, read), fmt.Sprintf("%d panics", panics), "none")
	line(out, "the slowest of them, to unpack or refuse", shown(slowest), "100 ms")
	return nil
}

// benchLarge times photos of 12 million pixels, and what memory a process of its own takes for
// one.
func benchLarge(out io.Writer, _ uint64) error {
	const scale = 0.05
	l := photo.Lamp{Pitch: 20, Lamp: 500, Camera: 700, Aperture: 4, MMPerPx: scale, Lens: 0.8, Gamma: 2.2}
	h := photo.NewHeight(4000, 3000, scale, []photo.Waves{{Length: 5, Sq: 0.8, Spread: 0.2}, {Length: 0.7, Sq: 0.06, Spread: 0.2}}, 1)
	picture := photo.Shot{Lamp: l, Duty: 0.5, Dark: 0.03, Lit: 0.8, Noise: 0.004}.Mirror(h).Gray()
	for _, f := range []struct {
		name, kind, wanted string
		write              func(io.Writer) error
	}{
		{"a JPEG", "jpg", "1 s", func(w io.Writer) error { return jpeg.Encode(w, picture, &jpeg.Options{Quality: 88}) }},
		{"a noisy PNG", "png", "2 s", func(w io.Writer) error { return png.Encode(w, picture) }},
	} {
		var file bytes.Buffer
		if err := f.write(&file); err != nil {
			return err
		}
		start := time.Now()
		p, err := photo.Decode(file.Bytes())
		if err == nil {
			_, err = photo.Reflect(p, l)
		}
		if err != nil {
			return err
		}
		line(out, fmt.Sprintf("%s of 12 million pixels, %.1f MB, with unpacking", f.name, float64(file.Len())/1e6), shown(time.Since(start)), f.wanted)
		most, err := memoryFor(file.Bytes(), f.kind, l)
		if err != nil {
			return err
		}
		line(out, "most memory of a process that reads it", fmt.Sprintf("%d MB", most), "150 MB")
	}
	return nil
}

// memoryFor is the most memory (MB) that this program takes to read a photo from the command
// line, in a process of its own.
func memoryFor(file []byte, kind string, l photo.Lamp) (int, error) {
	dir, err := os.MkdirTemp("", "waxplanus")
	if err != nil {
		return 0, err
	}
	defer func() { _ = os.RemoveAll(dir) }() // the system cleans up what is left
	path := filepath.Join(dir, "photo."+kind)
	if err := os.WriteFile(path, file, 0o600); err != nil {
		return 0, err
	}
	self, err := os.Executable()
	if err != nil {
		return 0, err
	}
	number := func(name string, v float64) string { return fmt.Sprintf("--%s=%g", name, v) }
	text, err := exec.Command(self, "photo", "reflection", path, "--memory", number("pitch-mm", l.Pitch), number("lamp-mm", l.Lamp), number("camera-mm", l.Camera),
		number("aperture-mm", l.Aperture), number("mm-per-px", l.MMPerPx), number("lens-px", l.Lens)).Output()
	if err != nil {
		return 0, err
	}
	_, figure, found := strings.Cut(string(text), "most memory ")
	most, err := strconv.Atoi(strings.TrimSuffix(strings.TrimSpace(figure), " MB"))
	if !found || err != nil {
		return 0, fmt.Errorf("a process of its own answers %q", text)
	}
	return most, nil
}

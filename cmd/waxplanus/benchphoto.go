package main

import (
	"bytes"
	"fmt"
	"image/jpeg"
	"io"
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
		return fmt.Sprintf("peel %d, pebble %d of %d", peel, pebble, got.Peel.Read)
	}
	line(out, "what", "measured", "wanted")
	line(out, "---", "---", "---")
	line(out, "bias", both("%+.1f", got.Peel.Bias, got.Pebble.Bias), "4 %")
	line(out, "standard deviation", both("%.1f", got.Peel.SD, got.Pebble.SD), "8 %")
	line(out, "worst", both("%.0f", got.Peel.Worst, got.Pebble.Worst), "25 %")
	line(out, "in the interval of 95 %", of(got.Peel.Within, got.Pebble.Within), "90 to 99 %")
	line(out, "within 10 %", of(got.Peel.Close, got.Pebble.Close), "most")
	line(out, fmt.Sprintf("haze where the stripes hardly fold, %d photos", got.HazeRead), fmt.Sprintf("%.2f mrad off, rms", got.HazeOff), "0.4 mrad")
	refused := ""
	for code, n := range got.Refused {
		refused += fmt.Sprintf("%d %s ", n, code)
	}
	line(out, "refused", fmt.Sprintf("%d of %d %s", scenes-got.Peel.Read, scenes, refused), "3 %")
	dull := practice.ReadDulls(scenes, seed)
	line(out, "share that still shines", fmt.Sprintf("%.1f points off, rms; worst %.1f", 100*dull.RMS, 100*dull.Worst), "1.5, 3 points")
	line(out, "in the interval of 95 %", fmt.Sprintf("%d of %d", dull.Within, dull.Read), "most")
	line(out, "refused although something shines", fmt.Sprintf("%d of %d", dull.Refused, dull.Scenes), "few")
	took, bytes, err := timeLarge()
	if err != nil {
		return err
	}
	line(out, fmt.Sprintf("a JPEG of 12 million pixels, %.1f MB, with unpacking", float64(bytes)/1e6), shown(took), "1 s")
	return nil
}

// timeLarge reads a photo of 4000 x 3000 pixels.
func timeLarge() (time.Duration, int, error) {
	const scale = 0.05
	l := photo.Lamp{Pitch: 20, Lamp: 500, Camera: 700, Aperture: 4, MMPerPx: scale, Lens: 0.8, Gamma: 2.2}
	h := photo.NewHeight(4000, 3000, scale, []photo.Waves{{Length: 5, Sq: 0.8, Spread: 0.2}, {Length: 0.7, Sq: 0.06, Spread: 0.2}}, 1)
	var file bytes.Buffer
	shot := photo.Shot{Lamp: l, Duty: 0.5, Dark: 0.03, Lit: 0.8, Noise: 0.004}
	if err := jpeg.Encode(&file, shot.Mirror(h).Gray(), &jpeg.Options{Quality: 88}); err != nil {
		return 0, 0, err
	}
	start := time.Now()
	p, err := photo.Decode(file.Bytes())
	if err == nil {
		_, err = photo.Reflect(p, l)
	}
	return time.Since(start), file.Len(), err
}

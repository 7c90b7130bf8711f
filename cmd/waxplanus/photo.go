package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"waxplanus/core/photo"
	"waxplanus/internal/files"
	"waxplanus/internal/wording"
)

// photoAnswer is what a reflection tells, for another program.
type photoAnswer struct {
	OK            bool     `json:"ok"`
	Code          string   `json:"code,omitempty"`
	Reason        string   `json:"reason,omitempty"`
	Peel          *float64 `json:"sq_l_um,omitempty"`
	PeelLow       *float64 `json:"sq_l_lo,omitempty"`
	PeelHigh      *float64 `json:"sq_l_hi,omitempty"`
	Pebble        *float64 `json:"sq_s_um,omitempty"`
	PebbleLow     *float64 `json:"sq_s_lo,omitempty"`
	PebbleHigh    *float64 `json:"sq_s_hi,omitempty"`
	PeelAtMost    bool     `json:"sq_l_at_most,omitempty"`
	PebbleAtMost  bool     `json:"sq_s_at_most,omitempty"`
	PebbleAtLeast bool     `json:"sq_s_at_least,omitempty"`
	Haze          *float64 `json:"haze_mrad,omitempty"`
	HazeAtMost    bool     `json:"haze_at_most,omitempty"`
	Fold          *float64 `json:"fold,omitempty"`
	Stretch       *float64 `json:"stretch,omitempty"`
}

func photoCommand(out io.Writer) *cobra.Command {
	c := &cobra.Command{Use: "photo", Short: "Read an ordinary photo of a panel"}
	var l photo.Lamp
	var asJSON, card, memory bool
	r := &cobra.Command{
		Use: "reflection FILE", Short: "Peel and pebble from striped lamps that a panel mirrors", Args: cobra.ExactArgs(1),
		Long: `Reads a PNG or JPEG of striped lamps mirrored in a panel: the rms of its waves longer and
shorter than 1.8 mm (µm, with an interval of 95 %) and how hazy it is (mrad), or says why it
cannot. Exit code 0 either way; 1 where there is no such file.`,
		RunE: func(_ *cobra.Command, args []string) error {
			data, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			if err := readReflection(out, data, l, card, asJSON); err != nil || !memory {
				return err
			}
			_, err = fmt.Fprintf(out, "most memory %d MB\n", memoryOf("self", "VmHWM:"))
			return err
		},
	}
	f := r.Flags()
	f.Float64Var(&l.Pitch, "pitch-mm", 0, "pitch of the stripes")
	f.Float64Var(&l.Lamp, "lamp-mm", 0, "from the lamp to the panel")
	f.Float64Var(&l.Camera, "camera-mm", 0, "from the camera to the panel")
	f.Float64Var(&l.Aperture, "aperture-mm", 0, "opening of the lens")
	f.Float64Var(&l.MMPerPx, "mm-per-px", 0, "of the panel, in a pixel")
	f.Float64Var(&l.Lens, "lens-px", 0, "blur of the lens, standard deviation in pixels; 0 where it is not known")
	f.Float64Var(&l.Gamma, "gamma", 2.2, "of the stored values")
	f.BoolVar(&asJSON, "json", false, "answer as JSON")
	f.BoolVar(&card, "card", false, "a scale card lies on the panel: it tells mm a pixel and the blur of the lens")
	f.BoolVar(&memory, "memory", false, "say at the end what memory it took at most")
	c.AddCommand(r, dullCommand(out), printCommand(out))
	return c
}

func printCommand(out io.Writer) *cobra.Command {
	c := &cobra.Command{Use: "print", Short: "What is printed for photos, as SVG to scale"}
	var pitch float64
	stripes := &cobra.Command{Use: "stripes", Short: "Stripes, for a shop without striped lamps", Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error { return files.StripesSVG(out, pitch) }}
	stripes.Flags().Float64Var(&pitch, "pitch-mm", 20, "black and white together")
	c.AddCommand(stripes, &cobra.Command{Use: "card", Short: "The scale card that lies on the panel", Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error { return files.CardSVG(out) }})
	return c
}

// dullAnswer is what a sanded section tells, for another program.
type dullAnswer struct {
	OK      bool     `json:"ok"`
	Code    string   `json:"code,omitempty"`
	Reason  string   `json:"reason,omitempty"`
	Share   *float64 `json:"shiny_share,omitempty"`
	Low     *float64 `json:"lo,omitempty"`
	High    *float64 `json:"hi,omitempty"`
	LeftOut *float64 `json:"left_out,omitempty"`
}

func dullCommand(out io.Writer) *cobra.Command {
	var gamma float64
	var shiny string
	var asJSON bool
	c := &cobra.Command{
		Use: "dull FILE", Short: "Which share of a wiped dry sanded section still shines", Args: cobra.ExactArgs(1),
		Long: `Reads a PNG or JPEG of a section that was sanded and wiped dry, and says which share of it
still shines, with an interval of 95 %, or why it cannot. Say whether what shines looks brighter
or darker than what is dull: it is not guessed. Exit code 0 either way; 1 where there is no such
file.`,
		RunE: func(_ *cobra.Command, args []string) error {
			looks := photo.Looks(shiny)
			if looks != photo.Brighter && looks != photo.Darker {
				return fmt.Errorf("--shiny is brighter or darker, as what shines looks beside what is dull; %q is neither", shiny)
			}
			data, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			return readDull(out, data, gamma, looks, asJSON)
		},
	}
	c.Flags().Float64Var(&gamma, "gamma", 2.2, "of the stored values")
	c.Flags().StringVar(&shiny, "shiny", "", "brighter or darker")
	c.Flags().BoolVar(&asJSON, "json", false, "answer as JSON")
	return c
}

func readDull(out io.Writer, data []byte, gamma float64, looks photo.Looks, asJSON bool) error {
	var r photo.Shiny
	p, err := photo.Decode(data)
	if err == nil {
		r, err = photo.ReadShiny(p, gamma, looks)
	}
	var no *photo.Refusal
	switch {
	case err != nil && !errors.As(err, &no):
		return err
	case no != nil && asJSON:
		return json.NewEncoder(out).Encode(dullAnswer{Code: string(no.Code), Reason: wording.Photo(no)})
	case no != nil:
		_, err = fmt.Fprintln(out, wording.Photo(no))
	case asJSON:
		return json.NewEncoder(out).Encode(dullAnswer{OK: true, Share: &r.Share.Value, Low: &r.Share.Low, High: &r.Share.High, LeftOut: &r.LeftOut})
	default:
		_, err = fmt.Fprintln(out, wording.StillShines(r))
	}
	return err
}

func readReflection(out io.Writer, data []byte, l photo.Lamp, card, asJSON bool) error {
	var r photo.Reading
	p, err := photo.Decode(data)
	if err == nil {
		r, _, _, err = photo.Take{Lamp: l, Scale: card}.Read(p)
	}
	var no *photo.Refusal
	if err != nil && !errors.As(err, &no) {
		return err
	}
	switch {
	case no != nil && asJSON:
		return json.NewEncoder(out).Encode(photoAnswer{Code: string(no.Code), Reason: wording.Photo(no)})
	case no != nil:
		_, err = fmt.Fprintln(out, wording.Photo(no))
	case asJSON:
		return json.NewEncoder(out).Encode(photoAnswer{OK: true, Peel: &r.Peel.Value, PeelLow: &r.Peel.Low, PeelHigh: &r.Peel.High,
			Pebble: &r.Pebble.Value, PebbleLow: &r.Pebble.Low, PebbleHigh: &r.Pebble.High, PeelAtMost: r.PeelAtMost, PebbleAtMost: r.PebbleAtMost, PebbleAtLeast: r.PebbleAtLeast,
			Haze: &r.Haze.Value, HazeAtMost: r.HazeAtMost, Fold: &r.Fold, Stretch: &r.M})
	default:
		_, err = fmt.Fprint(out, wording.Reflection(r))
	}
	return err
}

package wording

import (
	"fmt"
	"slices"
	"time"

	"waxplanus/core/plan"
	"waxplanus/core/shelf"
)

// How tells what the house rules say of the manner; paint that is kept dry until some time is not
// wetted.
func (w Words) How(rules plan.Rules, l plan.Ladder, dry time.Time) []string {
	out := []string{}
	for _, q := range plan.Questions {
		if wet := q.Key == "water" || q.Key == "lubricant"; wet && !dry.IsZero() {
			continue
		}
		if text := mannerWords[q.Key+"."+string(rules.Of(q))]; text != "" {
			out = append(out, text)
		}
	}
	if l.Wait > 0 && dry.IsZero() {
		out = append(out, fmt.Sprintf("Paper into the water %s before.", minutes(l.Wait)))
	}
	if l.Tried > 0 {
		out = append(out, w.say("The finer grits are tried first on one section: %s µm there.", um(l.Tried)))
	}
	return out
}

// rotaryStep asks for the caution of a rotary.
const rotaryStep plan.StepKind = "rotary"

// sheet defers to those who decide.
const sheet = " The product's safety sheet and the shop's rules decide."

// caution of a kind of step, short and at its place.
func caution(k plan.StepKind) string {
	switch k {
	case plan.LevelStep:
		return "Keep the slurry out of drains and off the skin; mains tools need a residual-current device near water." + sheet
	case rotaryStep:
		return "Rotary: clamp loose parts, tie back sleeves, eye and ear protection, keep moving off edges: heat burns." + sheet
	case plan.FileStep:
		return "Small block on the nib only; a gritty feel means stop, rinse, look." + sheet
	case plan.RefineStep:
		return "Cords overhead and dry, disc flat and clean; stop at any scraping sound." + sheet
	}
	return "Eye and ear protection, sleeves tied back, pad runs off edges and never onto them. Stop before heat builds." + sheet
}

// Caution of a step, on paint that is kept dry until some time; zero where it may get wet.
func (w Words) Caution(s plan.Step, dry time.Time) string {
	switch {
	case s.Tool == shelf.Rotary:
		return caution(rotaryStep)
	case s.D50 > 0 && !dry.IsZero():
		return fmt.Sprintf("Kept dry until %s: no water until then. Work with dry discs or dry paper, extraction and a suitable respirator, or wait.", w.dayTime(dry)) + sheet
	}
	return caution(s.Kind)
}

// Cautions are those of a sequence, each once.
func (w Words) Cautions(l plan.Ladder, dry time.Time) []string {
	out := []string{}
	for _, s := range l.Steps {
		if c := w.Caution(s, dry); !slices.Contains(out, c) {
			out = append(out, c)
		}
	}
	return out
}

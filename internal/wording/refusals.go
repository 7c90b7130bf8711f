package wording

import (
	"errors"
	"fmt"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/photo"
	"waxplanus/internal/files"
	"waxplanus/internal/shop/advice"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/panel"
	"waxplanus/internal/shop/panelwork"
	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/shop/week"
)

// refusals are the sentences of refusals, by code. What a code's values are stands with
// the codes in package shop.
var refusals = map[refuse.Code]string{
	refuse.BadID:    "The id of a %[1]s has %[2]d to %[3]d letters and digits, with - _ . : among them, and is made by the sender.",
	refuse.BadUnit:  "The unit is um or mil.",
	refuse.BadZone:  "There is no time zone %q: name one as Region/City, or leave it empty for that of the server's machine.",
	refuse.BadValue: "%s",

	refuse.BadShift:   "%s",
	refuse.BadStock:   "%s",
	refuse.NoStock:    "There is no %q on the shelf that is used up.",
	refuse.StockRange: "It goes from %v to %v.",
	refuse.StockShort: "Of %s %.4g are there by the count, and %.4g cannot be used: count them again.",
	refuse.BadWarmth:  "A shop is %.0f to %.0f °C warm, day by day as 2026-12-24.",
	refuse.NoPaint:    "The shop has no sheet of a paint %q: choose one that it has, or write it down under The shop.",
	refuse.NoTask:     "That task is not planned any more: look at the week again.",
	refuse.CannotMove: "%s",
	refuse.BadDue:     "%s is years away: give the day that was promised.",

	refuse.BadPerson: "Say who does it, in 1 to %d letters.",
	refuse.BadReason: "Say in 2 to %d letters why it is struck out; it stays on record with that.",

	refuse.BadOrigin:       "A finish is from the factory, from here, from elsewhere, or its origin is unknown; %q is none of these.",
	refuse.BadLayers:       "The layers are clear, for clear over colour, or single; %q is neither.",
	refuse.BadCure:         "The clear was dried by air or baked, or that is unknown; %q is none of these.",
	refuse.BadSubstrate:    "A panel is of steel, aluminium or plastic; %q is none of these.",
	refuse.BadAim:          "The aim is nibs, match, flat or polish; %q is none of these.",
	refuse.BadLight:        "A panel is seen by where it is on its car (by_place), or it faces up (faces_up), is a side (on_side), lies low (lies_low) or is covered by a moulding (covered); %q is none of these.",
	refuse.BadUnder:        "New paint lies on a new or bare part (new), over the old finish (over), or nobody knows (unknown); %q is none of these.",
	refuse.OddTotal:        "%s Type the film in all that the gauge shows, in the unit that stands beside it.",
	refuse.BadTotal:        "The film in all goes from 0 to %s µm, such as 130.",
	refuse.BadFinish:       "A finish is factory, refinished or single_stage; %q is none of these.",
	refuse.BeforeOverTotal: "Before the clear %s µm and now %s in all do not go together: clear is missing between them. Change one of the two.",
	refuse.CoatsOnFactory:  "%d coats of ours and a %s finish do not go together: say that it is refinished, or leave the coats out.",
	refuse.BadFloor:        "An agreed floor goes from %s to %s µm.",
	refuse.WhoAgreed:       "Who agreed? A name of 1 to %d letters belongs to it.",
	refuse.WhyAgreed:       "Say in %d to %d letters why less may stay; it prints in the report.",
	refuse.FloorTooLow:     "%s µm is the least; below it the next polish may go through.",
	refuse.FloorNotLower:   "%s µm is the usual floor here: agree to less, or to nothing.",
	refuse.FloorOverClear:  "That is more than is likely there (%s µm); nothing to agree.",
	refuse.BadHardness:     "Paint is soft, medium, hard, oxidised or lacquer; %q is none of these.",
	refuse.BadPast:         "A panel was polished, repaired or kept outside; %q is none of these.",
	refuse.BadColour:       "The colour is light, medium or dark: it decides how much haze shows.",
	refuse.BadCoats:        "Coats of clear are 0 to %d; 0 says that nobody knows.",
	refuse.BadWet:          "The wet film of a coat is 0 to %.0f µm; 0 says that nobody knows.",
	refuse.BadSolids:       "Volume solids go from 0 to %.0f, such as 0.45; 0 says that nobody knows.",
	refuse.BadDry:          "The dry film of a coat is 0 to %.0f µm; 0 says that nobody knows.",
	refuse.BadPeel:         "The peel grade goes from 0, a mirror, to %.0f, very heavy.",
	refuse.BadSwirls:       "%q is no condition: swirls are none, light, medium or heavy, and a dead layer is none, light or heavy.",
	refuse.BadTest:         "%q is no answer to the test: water brings the gloss back or leaves it dull, and the cloth shows colour or stays clean.",
	refuse.NothingSeen:     "Say what the square shows: how much of the swirls is left, or with which pass the cloth stopped changing.",
	refuse.BadLeft:         "Of the swirls 0 to 100 % can be left; more than there were is another place than the one beside it.",
	refuse.DeadTooThick:    "That would be %s µm of dead paint, and only about %s µm lie there: count the passes again, or read the film.",
	refuse.ClearAlready:    "The half that was left reads %.0f: a meter tells nothing of swirls on paint that clear. Say by eye how much is left.",
	refuse.LessClear:       "The half that was left reads %.0f and the polished one %.0f: polished, it should be clearer. Wipe the oils off and read both again.",
	refuse.BadOff:          "The cloth stops changing with pass 1 to %d.",
	refuse.BadGone:         "0 to %.0f %% of the swirls can be asked for: the deepest of them go through any film.",

	refuse.WetContradicts:     "Water does not bring the gloss back, so nothing dead lies on top: say no dead layer, or wet it again and look once more.",
	refuse.DryContradicts:     "Water brings the gloss back, so something dead lies on top: say how heavy, or dry it and look once more.",
	refuse.ColourThroughClear: "Colour on the cloth means that the clear is gone somewhere: stop, and find where. If this paint has no clear, say single stage first.",
	refuse.BadSprayed:         "It was sprayed on %s, which lies ahead or before all paint. Give the day it was sprayed.",
	refuse.NoPanel:            "The %s has no panel %q. Touch the panels again.",
	refuse.BadCarName:         "The car needs a name of 1 to %d letters, such as Pilot car.",
	refuse.BadPainter:         "Say who works on it, in 1 to %d letters.",
	refuse.LongOwnerWords:     "The owner's words are %d letters at most; these are %d.",
	refuse.BadCost:            "What it may cost is a number from 0, for no limit, to a million.",
	refuse.BadHours:           "The hours it may take are a number from 0, for no limit, to 10 000.",
	refuse.BadDrawing:         "%s: %s",
	refuse.NoDrawing:          "A car with its own outline needs the drawing of it, an SVG file.",
	refuse.NoScale:            "The scale of the drawing is not known: give how many mm a unit is, or the width of one panel.",
	refuse.NoSize:             "A loose panel needs its width and height in mm.",
	refuse.NoEarlierCar:       "There is no earlier car of that id to take over from.",
	refuse.NoOffer:            "The offer %q is none of this car any more: look at the offers again.",
	refuse.OfferShut:          "The offer %q cannot be taken: the film does not allow it. Take another one, or agree to a lower floor in Plan first.",
	refuse.BadMinutes:         "A time goes from 0 to %.0f minutes; 0 takes back what was said.",
	refuse.NoWork:             "%q is none of the work on this car: take one of the lines on the page.",
	refuse.NotBegun:           "No pass with %s is logged on this car: log the passes in Level, then say how long they took.",
	refuse.OfferChanged:       "The price has changed since: it is %.0f now. Look at the offers again.",
	refuse.NothingToTell:      "There is nothing of that kind to tell any more: marks or film have changed. Look again.",
	refuse.BadTask:            "The checklist has wash, decontaminate, strip, take_off and mask; %q is none of these.",

	refuse.TooManyMarks: "The %s has %d marks, the most that one panel holds. That many are no longer single marks: place a peel patch or dust.",
	refuse.LongNote:     "A note has %d letters at most; this one has %d.",
	refuse.BadFound:     "A mark is found in the booth, the workshop, the sun or by hand; %q is none of these.",
	refuse.NoMirror:     "This car has no panel that mirrors the %s.",
	refuse.OwnPart:      "The %s has no mirrored panel: it is a part of its own.",
	refuse.BadOutcome:   "A mark is gone, softened, left, or open again; %q is none of these.",
	refuse.WhyLeft:      "Say why it is left: the owner will ask.",
	refuse.LongReason:   "A reason has %d letters at most.",
	refuse.MarkStruck:   "This mark was struck out. Take the strike back first.",
	refuse.LargePhoto:   "The photo is larger than %d MB or than 24 million points. Take it at a lower resolution.",
	refuse.NoPhoto:      "This is no photo that can be kept: JPEG or PNG is.",
	refuse.PhotoCut:     "The photo did not arrive whole. Send it again.",
	refuse.BadGrade:     "The peel grade goes from 0, a mirror, to 10, very heavy.",
	refuse.NoColour:     "The colour is light, medium or dark.",

	refuse.BadDay:         "%s is no day for it: a car is handed over after it was taken in, and not ahead of time.",
	refuse.BadPart:        "%q is no part of the report.",
	refuse.BadCare:        "%s.",
	refuse.StillToDo:      "%s should be done before this car is handed over. Do them, or say why it goes as it is; that stands in its record.",
	refuse.WhyReopen:      "Say in 2 to %d letters why it is opened again; that stays on record.",
	refuse.NotHandedOver:  "The %s was not handed over: it is open.",
	refuse.ClosedAlready:  "The %s was handed over already.",
	refuse.StillInShop:    "The %s is still in the shop: what is known of its owner is deleted once it was handed over.",
	refuse.LongShopNote:   "A line of your own in the report has %d letters at most.",
	refuse.BadShopName:    "The name of the shop has %d letters at most.",
	refuse.BadFace:        "%[1]s does not fit: it may be %[2]s.",
	refuse.BadLogo:        "A logo is a PNG or JPEG of %d KB at most.",
	refuse.BadCarFile:     "This file of a car is not taken: %s Nothing of it was kept.",
	refuse.LargeCarFile:   "The file is larger than %d MB. Leave its photos out, or take its document alone.",
	refuse.CarDiverged:    "Passes or plans of the %s came in here and in the file after the two parted: one log cannot be made of them. Keep the file as a new car beside it.",
	refuse.BadKeepBackups: "1 to %d daily backups can be kept.",
	refuse.BackupUnderWay: "A backup is being made: wait for it.",
	refuse.ShopOpen:       "The shop in %s is open: stop its server first, then put the backup back.",
	refuse.BadBackup:      "This backup cannot be put back: %s Nothing was replaced.",
	refuse.BadSearch:      "Say what to look for in %d to %d letters.",

	refuse.PlaceNoNumber:   "The place is no number: give x and y in mm from the panel's top left.",
	refuse.PlaceOutside:    "%s, %s is outside the %s, which is %s wide and %s high.",
	refuse.PlaceInHole:     "%s, %s is in the %s of the %s, not on its paint.",
	refuse.PlaceBeside:     "%s, %s is beside the %s: its outline does not fill its corner. Pick a place on the paint.",
	refuse.BadPhase:        "The phase is total, before_clear, clear or bare.",
	refuse.BadFilm:         "%s",
	refuse.PlasticReads:    "The %s is plastic: a magnetic or eddy-current gauge reads nothing there.",
	refuse.NoGauge:         "Gauge %q has not said hello to this shop: leave it out, and the reading is marked as typed.",
	refuse.OddReading:      "%s",
	refuse.OddPanel:        "%s The %s reads like that: is the right panel open?",
	refuse.TooManyReadings: "The %s has %s and would get %d more; %d is the most for one panel, and 25 spots settle any. Wrong panel, or a file of another kind?",
	refuse.BadZero:         "%.4g on bare metal is no zero: put the probe on bare metal and type what it shows, such as 0.3 or -0.5.",
	refuse.BadFoil:         "The foil's own thickness stands on it, such as 125 µm; 0 for no foil.",
	refuse.BadFoilRead:     "Type what the gauge shows on the foil of %.4g.",
	refuse.BadShot:         "Shot %d: %s.",
	refuse.FewShots:        "Five shots of one place are the least: lift the probe and put it back each time.",
	refuse.BadZoneFacts:    "Zone %d: say where its finish comes from, its layers, and 0 to %d coats of clear.",
	refuse.ZoneCorners:     "Zone %d has %s: %d to %d bound it.",
	refuse.ZonePlace:       "Corner %d of zone %d is no place: x and y in mm are wanted.",
	refuse.SmallZone:       "Zone %d is %s by %s: %s each way is the least that a map can tell.",
	refuse.ZonesWorked:     "Passes were made on the %s: its zones stay as they were planned with.",
	refuse.BadFile:         "%s: %s.",
	refuse.BadDelimiter:    "Columns are parted by comma, semicolon or tab.",
	refuse.BadDecimal:      "The decimal sign is point or comma.",
	refuse.BadColumns:      "Columns are numbered from 1; 0 is none.",

	refuse.Waits:          "%s",
	refuse.NoRecord:       "There is no plan of record for the %s that still holds.",
	refuse.PlanMoved:      "Readings or facts changed while you looked. Look at the plan again before it counts.",
	refuse.NothingReaches: "Nothing reaches that here: %s",
	refuse.TooMuch:        "It takes %s µm and %s can go: %s",
	refuse.NoRule:         "There is no house rule %q.",
	refuse.BadTryFilm:     "%s is over 0 and goes up to %g µm; %g is not.",
	refuse.BadTryClarity:  "%s goes from 0 to 100; %g does not.",
	refuse.BadTrySpots:    "Say on how many spots of the square the film was read, 1 to %d.",
	refuse.HalfTryGloss:   "Gloss is read before and after, or not at all.",
	refuse.BadTryGloss:    "Gloss at 20 degrees goes from 0 to 120; %g does not.",
	refuse.NoPlanForTry:   "The process of a try goes into the plan of its section: accept a plan for the %s first.",
	refuse.TrySectionGone: "The section of this try is not on the %s any more.",
	refuse.TryTooMuch:     "It does not fit there: %s",

	refuse.BadLampName:       "The lamp needs a name of 1 to %d letters, such as booth tubes.",
	refuse.BadLamp:           "%.4g cannot be: it goes from %.4g to %.4g.",
	refuse.NoLampScale:       "Say how many mm of the panel a pixel shows, or lay the scale card on the panel.",
	refuse.TooManyLamps:      "A shop keeps %d lamps at most: change one that is not used any more.",
	refuse.BadPhotoKind:      "A photo is a reflection of the lamps or of a dull, sanded section; %q is neither.",
	refuse.LargeProof:        "A photo has %d MB at most. Take it at a lower resolution.",
	refuse.TooManyPhotos:     "The %s has %d photos, the most that one panel holds. Strike out what is not needed any more.",
	refuse.BadPicture:        "%s",
	refuse.BadShiny:          "Say whether what shines looks brighter or darker than what is dull: it is not guessed.",
	refuse.BadArea:           "The area is no part of the photo: its left and top lie before its right and bottom, all from 0 to 1.",
	refuse.PhotoStruck:       "This photo was struck out. Take another.",
	refuse.PhotoGone:         "The file of this photo was deleted by the shop's rule. What was read from it stays as it is.",
	refuse.PhotoTellsNothing: "This photo tells nothing, so it cannot be taken at its word. Read it another way, or take another.",
	refuse.BadMeter:          "%.4g is no reading of such a meter: it shows 0 to %.0f.",
	refuse.BadInstrument:     "Say which instrument it was, in 1 to %d letters: readings of another are never held against it.",
	refuse.BadAngle:          "%.4g degrees is no angle of such a meter: 20, 60 and 85 are usual, 45 and 75 there are; 0 where it has none.",
	refuse.BadQuantity:       "A meter reads gloss or clarity; %q is neither.",
	refuse.TooManyMeters:     "The %s has %d readings of meters, the most that one panel holds.",
	refuse.BadProof:          "A panel is wiped, scratched, kept or sent back; %q is none of these.",
	refuse.KeepUnfinished:    "The %s is not done: steps are left in %s. Finish them in Level, or send it back to Plan.",
	refuse.KeepScratched:     "Scratches were seen on the %s, in %s. Take them out in Level, or send it back to Plan.",
	refuse.KeepMarks:         "The %s has %s that nobody has said anything of yet. Say what became of them first: gone, softer, or left and why.",
	refuse.NothingToSendBack: "No pass was made on the %s under its plan, so there is nothing to send back. Plan it as it is.",
	refuse.BackStays:         "A panel that was sent back goes on from there: plan it again, or keep it as it is.",
	refuse.NoMarksToClose:    "Say which marks: none was named.",
	refuse.BadKeepPhotos:     "Photos are kept 0 days, for good, or up to %d.",
	refuse.NoCamera:          "This shop server looks for no camera: start it with --camera and its address.",
	refuse.NoMeter:           "The camera has no meter %q. Look which there are again.",
	refuse.CameraSilent:      "The camera gives nothing that can be used: %s",

	refuse.NoSection:           "The %s has no section %q: it has %s.",
	refuse.NoGrit:              "The shelf has no grit %q: it has %s.",
	refuse.NothingToTeach:      "Nobody has said what the %s looks like: compare it in Look first, then the square says it better.",
	refuse.SquareNeedsPolish:   "The %s is to be levelled, and that takes swirls along. Choose polish only, then try a square of it.",
	refuse.NoPlanToWork:        "There is no plan of record for the %s that still holds: accept a sequence in Plan first.",
	refuse.NothingRead:         unread,
	refuse.NoSuchPlan:          "The %s has no plan of that id. Look again: a tap names the plan that it was made under.",
	refuse.OtherPlan:           "The plan of this panel was changed meanwhile. The screen was behind; look again.",
	refuse.BadEntryKind:        "An entry is a pass, paper, done, shiny, override, scrape, colour, through, back, shave, block or rest; %q is none of these.",
	refuse.BadShare:            "The share still shining goes from 0 to 1.",
	refuse.OverrideReason:      "One pass over the stop needs a reason of at least %d letters; it prints in both sheets with the name.",
	refuse.BackReason:          "Going back to a coarser grit needs a reason of at least %d letters, by somebody who knows what it takes.",
	refuse.WhichMark:           "A stroke of the blade or a pass of the block is made on a mark: say which.",
	refuse.NoOpenMark:          "The %s has no open mark %q: look again.",
	refuse.NoStep:              "The plan has steps 1 to %d; there is no step %d.",
	refuse.TooLongAgo:          "It is of more than two weeks ago. Log it, or read it, as it stands now.",
	refuse.AllDone:             "All steps of this section are done. Strike the last one out to work on it again.",
	refuse.OtherStep:           "This section is at step %d, %s, not at step %d. The screen was behind; look again.",
	refuse.PassOverThrough:     "0 passes left: the pass was not counted. This section is through; strike that entry out if it was a mistake.",
	refuse.PassTooCoarse:       "The pass was not counted. %s",
	refuse.NoPassLeft:          "0 passes left: the pass was not counted. %s Look again: the ways on stand beside it.",
	refuse.OverrideOverThrough: "Nothing is cut over a through spot, whoever answers for it.",
	refuse.OverrideThrough:     "Nobody can answer for this one: %s Take another of the ways on, or end the step.",
	refuse.MarksStand:          "%s here would be cut by block or machine: work it at its place first, or say why it stays.",
	refuse.PaintSoft:           "The paint is too soft until %s: it tears and the scratch swells shut. Whoever goes on all the same answers for it, with a name and a reason, for this step on this section.",
	refuse.DoneEarly:           "%s more are wanted and granted. To end the step all the same say why, in %d letters at least.",
	refuse.OverrideNotNeeded:   "The film allows %s here: nobody has to answer for one.",
	refuse.ColourIsUsual:       "On a single stage the slurry carries the colour: that is how it cuts. Nothing is wrong.",
	refuse.LookTooEarly:        "The share still shining tells something after the first pass of this step.",
	refuse.NoStepBack:          "This section cannot go back to step %d: it has no passes, or what was told at the car has locked the section.",
	refuse.NotBack:             "Not back to %s: %s",
	refuse.NoSuchRest:          "That way is not open any more: the section has gone on, or a reading changed it. Look again.",
	refuse.TooFast:             "That would be %[1]s in %[2]s from this tablet, more than a hand makes. Look at what was really done, and log the rest at the car.",
	refuse.ZoneOff:             "Zone %d does not lie on the paint of the %s.",
	refuse.TryGrows:            "The film cannot grow under sanding: %s µm before and %s µm after. Read both again, or change them over.",
	refuse.OneColumn:           "Column %d is named for two things: each column holds one.",
	refuse.OtherSince:          "Somebody else has changed that since you looked. Look again before you change it.",
	refuse.NoConstant:          "The shelf has no constant %q.",
	refuse.TooManyStreams:      "This address watches %d screens already: close some of them.",
	refuse.BadPage:             "A page has 1 to %d cars.",
	refuse.BadCursor:           "The list does not go on from there. Begin it anew.",
	refuse.RestUsed:            "Passes were made on the steps that it planned: strike those out first.",
	refuse.ShortDevice:         "A device that watches says which it is, in %d to %d signs.",
}

// Refusal is the sentence of a refusal.
func (w Words) Refusal(err error) string {
	var r *refuse.Refusal
	if !errors.As(err, &r) {
		return ""
	}
	return w.say(refusals[r.Code], w.values(r)...)
}

// tryFields are the figures of a try as the form calls them.
var tryFields = map[string]string{"film_before_um": "Film before", "film_after_um": "Film after", "clarity_before": "Clarity before", "clarity_after": "Clarity after"}

// values are what a refusal's sentence needs, as it is said.
func (w Words) values(r *refuse.Refusal) []any {
	switch r.Code {
	case refuse.PassTooCoarse:
		return []any{w.MayNot(text(r.Values[0]), text(r.Values[1]), text(r.Values[2]))}
	case refuse.NoPassLeft, refuse.OverrideThrough:
		return []any{w.passLeft(r.Values[0].(level.Standing))}
	case refuse.NothingReaches:
		return []any{w.nothing(r.Values[0].(*panel.Panel))}
	case refuse.BeforeOverTotal, refuse.BadFloor:
		return []any{um(r.Values[0].(float64)), um(r.Values[1].(float64))}
	case refuse.BadTotal:
		return []any{um(r.Values[0].(float64))}
	case refuse.BadDrawing:
		if r.Values[0] == "" {
			return []any{"The drawing", r.Values[1]}
		}
		return r.Values
	case refuse.BadTryFilm:
		return []any{tryFields[r.Field], r.Values[1], r.Values[0]}
	case refuse.BadTryClarity:
		return append([]any{tryFields[r.Field]}, r.Values...)
	case refuse.BadFile:
		return r.Values
	}
	out := make([]any, len(r.Values))
	for i, v := range r.Values {
		out[i] = w.value(v)
	}
	return out
}

func text(v any) string { return fmt.Sprint(v) }

func (w Words) value(v any) any {
	switch v := v.(type) {
	case *panel.Panel:
		return w.Lacks(v)
	case refuse.Film:
		return um(float64(v))
	case panelwork.Room:
		return mayGo(float64(v))
	case refuse.Count:
		return count(v.N, v.What)
	case time.Duration:
		if v < time.Minute {
			return "less than a minute"
		}
		return minutes(v.Minutes())
	case refuse.Length:
		return w.length(float64(v))
	case cars.Day:
		return w.day(time.Time(v))
	case panelwork.At:
		return w.dayTime(time.Time(v))
	case panelwork.SectionState:
		return w.State(v.Standing, v.Floor)
	case panelwork.OddFilm:
		return w.Odd(v.Film, v.Odd)
	case advice.Again:
		return w.Again(v)
	case *photo.Refusal:
		return Photo(v)
	case week.Held:
		return w.held(v)
	case error:
		return ended(capital(v.Error()))
	case float64:
		return plain(v)
	}
	return v
}

// plain is a number that is written out, never with an exponent.
type plain float64

// Format writes %g and %v with four decimals at most.
func (p plain) Format(f fmt.State, verb rune) {
	if verb == 'g' || verb == 'v' {
		fmt.Fprint(f, files.Plain(float64(p)))
		return
	}
	fmt.Fprintf(f, fmt.FormatString(f, verb), float64(p))
}

// nothing says why nothing reaches the aim of a panel.
func (w Words) nothing(p *panel.Panel) string {
	return w.Refused(p, p.Refusal())
}

// Offer says what keeping another value of a reading would mean.
func (w Words) Offer(o refuse.Offer) string {
	switch {
	case o.Sure:
		return w.say("keep %s µm anyway", typed(o.Film))
	case o.Unit == refuse.Mil:
		return w.say("keep as mil (%s µm)", typed(o.Unit.Microns(o.Film)))
	}
	return w.say("keep as %s µm", typed(o.Film))
}

// Fault is an error as a person reads it: the heads and sentences of what the shop
// knows. ok is false for one that only a programmer can read.
func (w Words) Fault(err error) (title, detail string, ok bool) {
	var r *refuse.Refusal
	switch {
	case errors.As(err, &r) && r.Code == refuse.OddReading, errors.As(err, &r) && r.Code == refuse.OddPanel:
		return "does not fit", w.Refusal(err), true
	case errors.As(err, &r) && r.Kind == refuse.Conflict:
		return "not now", w.Refusal(err), true
	case errors.As(err, &r):
		return "not taken", w.Refusal(err), true
	case errors.Is(err, refuse.ErrMissing):
		return "not on record", "There is nothing of that name on record. Go back to Today and open it from there.", true
	case errors.Is(err, refuse.ErrTaken):
		return "id in use", "This id is on record for something else: send it again with an id of its own.", true
	case errors.Is(err, refuse.ErrWorked):
		return "work has begun", "Passes have been made under the plan of record, so it stays. Strike those passes out first, or finish it.", true
	case errors.Is(err, refuse.ErrClosed):
		return "handed over", "This car was handed over and its film record is sealed, so nothing is written to it. To go on with it, open it again in Hand over, with a reason.", true
	case errors.Is(err, refuse.ErrBusy):
		return "busy", "The shop's file is held by another program or by too many who write at once. Nothing is lost: it is sent again.", true
	case errors.Is(err, refuse.ErrFull):
		return "disk full", "The disk of the shop's machine is full, so nothing more can be kept. Make room there; nothing that was acknowledged is lost.", true
	case panel.IsUnreadable(err):
		return "cannot be read", "A row of this panel in the shop's file cannot be read: " + err.Error() + ". The other cars are as they were; put back a copy to have this one again.", true
	case errors.Is(err, film.ErrReadings):
		return "no readings", "No readings on this panel. Zero the gauge on bare steel, then put the probe on cross 1.", true
	}
	return "not done", "The shop server could not do this. Nothing was changed; try again.", false
}

package wording

import (
	"errors"
	"fmt"
	"time"

	"waxplanus/core/film"
	"waxplanus/core/level"
	"waxplanus/core/photo"
	"waxplanus/internal/files"
	"waxplanus/internal/shop"
)

// refusals are the sentences of refusals, by code. What a code's values are stands with
// the codes in package shop.
var refusals = map[shop.Code]string{
	shop.BadID:    "The id of a %[1]s has %[2]d to %[3]d letters and digits, with - _ . : among them, and is made by the sender.",
	shop.BadUnit:  "The unit is um or mil.",
	shop.BadZone:  "There is no time zone %q: name one as Region/City, or leave it empty for that of the server's machine.",
	shop.BadValue: "%s",

	shop.BadShift:   "%s",
	shop.BadStock:   "%s",
	shop.NoStock:    "There is no %q on the shelf that is used up.",
	shop.StockRange: "It goes from %v to %v.",
	shop.StockShort: "Of %s %.4g are there by the count, and %.4g cannot be used: count them again.",
	shop.BadWarmth:  "A shop is %.0f to %.0f °C warm, day by day as 2026-12-24.",
	shop.NoPaint:    "The shop has no sheet of a paint %q: choose one that it has, or write it down under The shop.",
	shop.NoTask:     "That task is not planned any more: look at the week again.",
	shop.CannotMove: "%s",
	shop.BadDue:     "%s is years away: give the day that was promised.",

	shop.BadPerson: "Say who does it, in 1 to %d letters.",
	shop.BadReason: "Say in 2 to %d letters why it is struck out; it stays on record with that.",

	shop.BadOrigin:       "A finish is from the factory, from here, from elsewhere, or its origin is unknown; %q is none of these.",
	shop.BadLayers:       "The layers are clear, for clear over colour, or single; %q is neither.",
	shop.BadCure:         "The clear was dried by air or baked, or that is unknown; %q is none of these.",
	shop.BadSubstrate:    "A panel is of steel, aluminium or plastic; %q is none of these.",
	shop.BadAim:          "The aim is nibs, match, flat or polish; %q is none of these.",
	shop.BadLight:        "A panel is seen by where it is on its car (by_place), or it faces up (faces_up), is a side (on_side), lies low (lies_low) or is covered by a moulding (covered); %q is none of these.",
	shop.BadUnder:        "New paint lies on a new or bare part (new), over the old finish (over), or nobody knows (unknown); %q is none of these.",
	shop.OddTotal:        "%s Type the film in all that the gauge shows, in the unit that stands beside it.",
	shop.BadTotal:        "The film in all goes from 0 to %s µm, such as 130.",
	shop.BadFinish:       "A finish is factory, refinished or single_stage; %q is none of these.",
	shop.BeforeOverTotal: "Before the clear %s µm and now %s in all do not go together: clear is missing between them. Change one of the two.",
	shop.CoatsOnFactory:  "%d coats of ours and a %s finish do not go together: say that it is refinished, or leave the coats out.",
	shop.BadFloor:        "An agreed floor goes from %s to %s µm.",
	shop.WhoAgreed:       "Who agreed? A name of 1 to %d letters belongs to it.",
	shop.WhyAgreed:       "Say in %d to %d letters why less may stay; it prints in the report.",
	shop.FloorTooLow:     "%s µm is the least; below it the next polish may go through.",
	shop.FloorNotLower:   "%s µm is the usual floor here: agree to less, or to nothing.",
	shop.FloorOverClear:  "That is more than is likely there (%s µm); nothing to agree.",
	shop.BadHardness:     "Paint is soft, medium, hard, oxidised or lacquer; %q is none of these.",
	shop.BadPast:         "A panel was polished, repaired or kept outside; %q is none of these.",
	shop.BadColour:       "The colour is light, medium or dark: it decides how much haze shows.",
	shop.BadCoats:        "Coats of clear are 0 to %d; 0 says that nobody knows.",
	shop.BadWet:          "The wet film of a coat is 0 to %.0f µm; 0 says that nobody knows.",
	shop.BadSolids:       "Volume solids go from 0 to %.0f, such as 0.45; 0 says that nobody knows.",
	shop.BadDry:          "The dry film of a coat is 0 to %.0f µm; 0 says that nobody knows.",
	shop.BadPeel:         "The peel grade goes from 0, a mirror, to %.0f, very heavy.",
	shop.BadSwirls:       "%q is no condition: swirls are none, light, medium or heavy, and a dead layer is none, light or heavy.",
	shop.BadTest:         "%q is no answer to the test: water brings the gloss back or leaves it dull, and the cloth shows colour or stays clean.",
	shop.NothingSeen:     "Say what the square shows: how much of the swirls is left, or with which pass the cloth stopped changing.",
	shop.BadLeft:         "Of the swirls 0 to 100 % can be left; more than there were is another place than the one beside it.",
	shop.DeadTooThick:    "That would be %s µm of dead paint, and only about %s µm lie there: count the passes again, or read the film.",
	shop.ClearAlready:    "The half that was left reads %.0f: a meter tells nothing of swirls on paint that clear. Say by eye how much is left.",
	shop.LessClear:       "The half that was left reads %.0f and the polished one %.0f: polished, it should be clearer. Wipe the oils off and read both again.",
	shop.BadOff:          "The cloth stops changing with pass 1 to %d.",
	shop.BadGone:         "0 to %.0f %% of the swirls can be asked for: the deepest of them go through any film.",

	shop.WetContradicts:     "Water does not bring the gloss back, so nothing dead lies on top: say no dead layer, or wet it again and look once more.",
	shop.DryContradicts:     "Water brings the gloss back, so something dead lies on top: say how heavy, or dry it and look once more.",
	shop.ColourThroughClear: "Colour on the cloth means that the clear is gone somewhere: stop, and find where. If this paint has no clear, say single stage first.",
	shop.BadSprayed:         "It was sprayed on %s, which lies ahead or before all paint. Give the day it was sprayed.",
	shop.NoPanel:            "The %s has no panel %q. Touch the panels again.",
	shop.BadCarName:         "The car needs a name of 1 to %d letters, such as Pilot car.",
	shop.BadPainter:         "Say who works on it, in 1 to %d letters.",
	shop.LongOwnerWords:     "The owner's words are %d letters at most; these are %d.",
	shop.BadCost:            "What it may cost is a number from 0, for no limit, to a million.",
	shop.BadHours:           "The hours it may take are a number from 0, for no limit, to 10 000.",
	shop.BadDrawing:         "%s: %s",
	shop.NoDrawing:          "A car with its own outline needs the drawing of it, an SVG file.",
	shop.NoScale:            "The scale of the drawing is not known: give how many mm a unit is, or the width of one panel.",
	shop.NoSize:             "A loose panel needs its width and height in mm.",
	shop.NoEarlierCar:       "There is no earlier car of that id to take over from.",
	shop.NoOffer:            "The offer %q is none of this car any more: look at the offers again.",
	shop.OfferShut:          "The offer %q cannot be taken: the film does not allow it. Take another one, or agree to a lower floor in Plan first.",
	shop.BadMinutes:         "A time goes from 0 to %.0f minutes; 0 takes back what was said.",
	shop.NoWork:             "%q is none of the work on this car: take one of the lines on the page.",
	shop.NotBegun:           "No pass with %s is logged on this car: log the passes in Level, then say how long they took.",
	shop.OfferChanged:       "The price has changed since: it is %.0f now. Look at the offers again.",
	shop.NothingToTell:      "There is nothing of that kind to tell any more: marks or film have changed. Look again.",
	shop.BadTask:            "The checklist has wash, decontaminate, strip, take_off and mask; %q is none of these.",

	shop.TooManyMarks: "The %s has %d marks, the most that one panel holds. That many are no longer single marks: place a peel patch or dust.",
	shop.LongNote:     "A note has %d letters at most; this one has %d.",
	shop.BadFound:     "A mark is found in the booth, the workshop, the sun or by hand; %q is none of these.",
	shop.NoMirror:     "This car has no panel that mirrors the %s.",
	shop.OwnPart:      "The %s has no mirrored panel: it is a part of its own.",
	shop.BadOutcome:   "A mark is gone, softened, left, or open again; %q is none of these.",
	shop.WhyLeft:      "Say why it is left: the owner will ask.",
	shop.LongReason:   "A reason has %d letters at most.",
	shop.MarkStruck:   "This mark was struck out. Take the strike back first.",
	shop.LargePhoto:   "The photo is larger than %d MB or than 24 million points. Take it at a lower resolution.",
	shop.NoPhoto:      "This is no photo that can be kept: JPEG or PNG is.",
	shop.PhotoCut:     "The photo did not arrive whole. Send it again.",
	shop.BadGrade:     "The peel grade goes from 0, a mirror, to 10, very heavy.",
	shop.NoColour:     "The colour is light, medium or dark.",

	shop.BadDay:         "%s is no day for it: a car is handed over after it was taken in, and not ahead of time.",
	shop.BadPart:        "%q is no part of the report.",
	shop.BadCare:        "%s.",
	shop.StillToDo:      "%s should be done before this car is handed over. Do them, or say why it goes as it is; that stands in its record.",
	shop.WhyReopen:      "Say in 2 to %d letters why it is opened again; that stays on record.",
	shop.NotHandedOver:  "The %s was not handed over: it is open.",
	shop.ClosedAlready:  "The %s was handed over already.",
	shop.StillInShop:    "The %s is still in the shop: what is known of its owner is deleted once it was handed over.",
	shop.LongShopNote:   "A line of your own in the report has %d letters at most.",
	shop.BadShopName:    "The name of the shop has %d letters at most.",
	shop.BadFace:        "%[1]s does not fit: it may be %[2]s.",
	shop.BadLogo:        "A logo is a PNG or JPEG of %d KB at most.",
	shop.BadCarFile:     "This file of a car is not taken: %s Nothing of it was kept.",
	shop.LargeCarFile:   "The file is larger than %d MB. Leave its photos out, or take its document alone.",
	shop.CarDiverged:    "Passes or plans of the %s came in here and in the file after the two parted: one log cannot be made of them. Keep the file as a new car beside it.",
	shop.BadKeepBackups: "1 to %d daily backups can be kept.",
	shop.BackupUnderWay: "A backup is being made: wait for it.",
	shop.ShopOpen:       "The shop in %s is open: stop its server first, then put the backup back.",
	shop.BadBackup:      "This backup cannot be put back: %s Nothing was replaced.",
	shop.BadSearch:      "Say what to look for in %d to %d letters.",

	shop.PlaceNoNumber:   "The place is no number: give x and y in mm from the panel's top left.",
	shop.PlaceOutside:    "%s, %s is outside the %s, which is %s wide and %s high.",
	shop.PlaceInHole:     "%s, %s is in the %s of the %s, not on its paint.",
	shop.PlaceBeside:     "%s, %s is beside the %s: its outline does not fill its corner. Pick a place on the paint.",
	shop.BadPhase:        "The phase is total, before_clear, clear or bare.",
	shop.BadFilm:         "%s",
	shop.PlasticReads:    "The %s is plastic: a magnetic or eddy-current gauge reads nothing there.",
	shop.NoGauge:         "Gauge %q has not said hello to this shop: leave it out, and the reading is marked as typed.",
	shop.OddReading:      "%s",
	shop.OddPanel:        "%s The %s reads like that: is the right panel open?",
	shop.TooManyReadings: "The %s has %s and would get %d more; %d is the most for one panel, and 25 spots settle any. Wrong panel, or a file of another kind?",
	shop.BadZero:         "%.4g on bare metal is no zero: put the probe on bare metal and type what it shows, such as 0.3 or -0.5.",
	shop.BadFoil:         "The foil's own thickness stands on it, such as 125 µm; 0 for no foil.",
	shop.BadFoilRead:     "Type what the gauge shows on the foil of %.4g.",
	shop.BadShot:         "Shot %d: %s.",
	shop.FewShots:        "Five shots of one place are the least: lift the probe and put it back each time.",
	shop.BadZoneFacts:    "Zone %d: say where its finish comes from, its layers, and 0 to %d coats of clear.",
	shop.ZoneCorners:     "Zone %d has %s: %d to %d bound it.",
	shop.ZonePlace:       "Corner %d of zone %d is no place: x and y in mm are wanted.",
	shop.SmallZone:       "Zone %d is %s by %s: %s each way is the least that a map can tell.",
	shop.ZonesWorked:     "Passes were made on the %s: its zones stay as they were planned with.",
	shop.BadFile:         "%s: %s.",
	shop.BadDelimiter:    "Columns are parted by comma, semicolon or tab.",
	shop.BadDecimal:      "The decimal sign is point or comma.",
	shop.BadColumns:      "Columns are numbered from 1; 0 is none.",

	shop.Waits:          "%s",
	shop.NoRecord:       "There is no plan of record for the %s that still holds.",
	shop.PlanMoved:      "Readings or facts changed while you looked. Look at the plan again before it counts.",
	shop.NothingReaches: "Nothing reaches that here: %s",
	shop.TooMuch:        "It takes %s µm and %s can go: %s",
	shop.NoRule:         "There is no house rule %q.",
	shop.BadTryFilm:     "%s is over 0 and goes up to %g µm; %g is not.",
	shop.BadTryClarity:  "%s goes from 0 to 100; %g does not.",
	shop.BadTrySpots:    "Say on how many spots of the square the film was read, 1 to %d.",
	shop.HalfTryGloss:   "Gloss is read before and after, or not at all.",
	shop.BadTryGloss:    "Gloss at 20 degrees goes from 0 to 120; %g does not.",
	shop.NoPlanForTry:   "The process of a try goes into the plan of its section: accept a plan for the %s first.",
	shop.TrySectionGone: "The section of this try is not on the %s any more.",
	shop.TryTooMuch:     "It does not fit there: %s",

	shop.BadLampName:       "The lamp needs a name of 1 to %d letters, such as booth tubes.",
	shop.BadLamp:           "%.4g cannot be: it goes from %.4g to %.4g.",
	shop.NoLampScale:       "Say how many mm of the panel a pixel shows, or lay the scale card on the panel.",
	shop.TooManyLamps:      "A shop keeps %d lamps at most: change one that is not used any more.",
	shop.BadPhotoKind:      "A photo is a reflection of the lamps or of a dull, sanded section; %q is neither.",
	shop.LargeProof:        "A photo has %d MB at most. Take it at a lower resolution.",
	shop.TooManyPhotos:     "The %s has %d photos, the most that one panel holds. Strike out what is not needed any more.",
	shop.BadPicture:        "%s",
	shop.BadShiny:          "Say whether what shines looks brighter or darker than what is dull: it is not guessed.",
	shop.BadArea:           "The area is no part of the photo: its left and top lie before its right and bottom, all from 0 to 1.",
	shop.PhotoStruck:       "This photo was struck out. Take another.",
	shop.PhotoGone:         "The file of this photo was deleted by the shop's rule. What was read from it stays as it is.",
	shop.PhotoTellsNothing: "This photo tells nothing, so it cannot be taken at its word. Read it another way, or take another.",
	shop.BadMeter:          "%.4g is no reading of such a meter: it shows 0 to %.0f.",
	shop.BadInstrument:     "Say which instrument it was, in 1 to %d letters: readings of another are never held against it.",
	shop.BadAngle:          "%.4g degrees is no angle of such a meter: 20, 60 and 85 are usual, 45 and 75 there are; 0 where it has none.",
	shop.BadQuantity:       "A meter reads gloss or clarity; %q is neither.",
	shop.TooManyMeters:     "The %s has %d readings of meters, the most that one panel holds.",
	shop.BadProof:          "A panel is wiped, scratched, kept or sent back; %q is none of these.",
	shop.KeepUnfinished:    "The %s is not done: steps are left in %s. Finish them in Level, or send it back to Plan.",
	shop.KeepScratched:     "Scratches were seen on the %s, in %s. Take them out in Level, or send it back to Plan.",
	shop.KeepMarks:         "The %s has %s that nobody has said anything of yet. Say what became of them first: gone, softer, or left and why.",
	shop.NothingToSendBack: "No pass was made on the %s under its plan, so there is nothing to send back. Plan it as it is.",
	shop.BackStays:         "A panel that was sent back goes on from there: plan it again, or keep it as it is.",
	shop.NoMarksToClose:    "Say which marks: none was named.",
	shop.BadKeepPhotos:     "Photos are kept 0 days, for good, or up to %d.",
	shop.NoCamera:          "This shop server looks for no camera: start it with --camera and its address.",
	shop.NoMeter:           "The camera has no meter %q. Look which there are again.",
	shop.CameraSilent:      "The camera gives nothing that can be used: %s",

	shop.NoSection:           "The %s has no section %q: it has %s.",
	shop.NoGrit:              "The shelf has no grit %q: it has %s.",
	shop.NothingToTeach:      "Nobody has said what the %s looks like: compare it in Look first, then the square says it better.",
	shop.SquareNeedsPolish:   "The %s is to be levelled, and that takes swirls along. Choose polish only, then try a square of it.",
	shop.NoPlanToWork:        "There is no plan of record for the %s that still holds: accept a sequence in Plan first.",
	shop.NothingRead:         unread,
	shop.NoSuchPlan:          "The %s has no plan of that id. Look again: a tap names the plan that it was made under.",
	shop.OtherPlan:           "The plan of this panel was changed meanwhile. The screen was behind; look again.",
	shop.BadEntryKind:        "An entry is a pass, paper, done, shiny, override, scrape, colour, through, back, shave, block or rest; %q is none of these.",
	shop.BadShare:            "The share still shining goes from 0 to 1.",
	shop.OverrideReason:      "One pass over the stop needs a reason of at least %d letters; it prints in both sheets with the name.",
	shop.BackReason:          "Going back to a coarser grit needs a reason of at least %d letters, by somebody who knows what it takes.",
	shop.WhichMark:           "A stroke of the blade or a pass of the block is made on a mark: say which.",
	shop.NoOpenMark:          "The %s has no open mark %q: look again.",
	shop.NoStep:              "The plan has steps 1 to %d; there is no step %d.",
	shop.TooLongAgo:          "It is of more than two weeks ago. Log it, or read it, as it stands now.",
	shop.AllDone:             "All steps of this section are done. Strike the last one out to work on it again.",
	shop.OtherStep:           "This section is at step %d, %s, not at step %d. The screen was behind; look again.",
	shop.PassOverThrough:     "0 passes left: the pass was not counted. This section is through; strike that entry out if it was a mistake.",
	shop.PassTooCoarse:       "The pass was not counted. %s",
	shop.NoPassLeft:          "0 passes left: the pass was not counted. %s Look again: the ways on stand beside it.",
	shop.OverrideOverThrough: "Nothing is cut over a through spot, whoever answers for it.",
	shop.OverrideThrough:     "Nobody can answer for this one: %s Take another of the ways on, or end the step.",
	shop.MarksStand:          "%s here would be cut by block or machine: work it at its place first, or say why it stays.",
	shop.PaintSoft:           "The paint is too soft until %s: it tears and the scratch swells shut. Whoever goes on all the same answers for it, with a name and a reason, for this step on this section.",
	shop.DoneEarly:           "%s more are wanted and granted. To end the step all the same say why, in %d letters at least.",
	shop.OverrideNotNeeded:   "The film allows %s here: nobody has to answer for one.",
	shop.ColourIsUsual:       "On a single stage the slurry carries the colour: that is how it cuts. Nothing is wrong.",
	shop.LookTooEarly:        "The share still shining tells something after the first pass of this step.",
	shop.NoStepBack:          "This section cannot go back to step %d: it has no passes, or what was told at the car has locked the section.",
	shop.NotBack:             "Not back to %s: %s",
	shop.NoSuchRest:          "That way is not open any more: the section has gone on, or a reading changed it. Look again.",
	shop.TooFast:             "That would be %[1]s in %[2]s from this tablet, more than a hand makes. Look at what was really done, and log the rest at the car.",
	shop.ZoneOff:             "Zone %d does not lie on the paint of the %s.",
	shop.TryGrows:            "The film cannot grow under sanding: %s µm before and %s µm after. Read both again, or change them over.",
	shop.OneColumn:           "Column %d is named for two things: each column holds one.",
	shop.OtherSince:          "Somebody else has changed that since you looked. Look again before you change it.",
	shop.NoConstant:          "The shelf has no constant %q.",
	shop.TooManyStreams:      "This address watches %d screens already: close some of them.",
	shop.BadPage:             "A page has 1 to %d cars.",
	shop.BadCursor:           "The list does not go on from there. Begin it anew.",
	shop.RestUsed:            "Passes were made on the steps that it planned: strike those out first.",
	shop.ShortDevice:         "A device that watches says which it is, in %d to %d signs.",
}

// Refusal is the sentence of a refusal.
func (w Words) Refusal(err error) string {
	var r *shop.Refusal
	if !errors.As(err, &r) {
		return ""
	}
	return w.say(refusals[r.Code], w.values(r)...)
}

// tryFields are the figures of a try as the form calls them.
var tryFields = map[string]string{"film_before_um": "Film before", "film_after_um": "Film after", "clarity_before": "Clarity before", "clarity_after": "Clarity after"}

// values are what a refusal's sentence needs, as it is said.
func (w Words) values(r *shop.Refusal) []any {
	switch r.Code {
	case shop.PassTooCoarse:
		return []any{w.MayNot(text(r.Values[0]), text(r.Values[1]), text(r.Values[2]))}
	case shop.NoPassLeft, shop.OverrideThrough:
		return []any{w.passLeft(r.Values[0].(level.Standing))}
	case shop.NothingReaches:
		return []any{w.nothing(r.Values[0].(*shop.Panel))}
	case shop.BeforeOverTotal, shop.BadFloor:
		return []any{um(r.Values[0].(float64)), um(r.Values[1].(float64))}
	case shop.BadTotal:
		return []any{um(r.Values[0].(float64))}
	case shop.BadDrawing:
		if r.Values[0] == "" {
			return []any{"The drawing", r.Values[1]}
		}
		return r.Values
	case shop.BadTryFilm:
		return []any{tryFields[r.Field], r.Values[1], r.Values[0]}
	case shop.BadTryClarity:
		return append([]any{tryFields[r.Field]}, r.Values...)
	case shop.BadFile:
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
	case *shop.Panel:
		return w.Lacks(v)
	case shop.Film:
		return um(float64(v))
	case shop.Room:
		return mayGo(float64(v))
	case shop.Count:
		return count(v.N, v.What)
	case time.Duration:
		if v < time.Minute {
			return "less than a minute"
		}
		return minutes(v.Minutes())
	case shop.Length:
		return w.length(float64(v))
	case shop.Day:
		return w.day(time.Time(v))
	case shop.At:
		return w.dayTime(time.Time(v))
	case shop.SectionState:
		return w.State(v.Standing, v.Floor)
	case shop.OddFilm:
		return w.Odd(v.Film, v.Odd)
	case shop.Again:
		return w.Again(v)
	case *photo.Refusal:
		return Photo(v)
	case shop.Held:
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
func (w Words) nothing(p *shop.Panel) string {
	return w.Refused(p, p.Refusal())
}

// Offer says what keeping another value of a reading would mean.
func (w Words) Offer(o shop.Offer) string {
	switch {
	case o.Sure:
		return w.say("keep %s µm anyway", typed(o.Film))
	case o.Unit == shop.Mil:
		return w.say("keep as mil (%s µm)", typed(o.Unit.Microns(o.Film)))
	}
	return w.say("keep as %s µm", typed(o.Film))
}

// Fault is an error as a person reads it: the heads and sentences of what the shop
// knows. ok is false for one that only a programmer can read.
func (w Words) Fault(err error) (title, detail string, ok bool) {
	var r *shop.Refusal
	switch {
	case errors.As(err, &r) && r.Code == shop.OddReading, errors.As(err, &r) && r.Code == shop.OddPanel:
		return "does not fit", w.Refusal(err), true
	case errors.As(err, &r) && r.Kind == shop.Conflict:
		return "not now", w.Refusal(err), true
	case errors.As(err, &r):
		return "not taken", w.Refusal(err), true
	case errors.Is(err, shop.ErrMissing):
		return "not on record", "There is nothing of that name on record. Go back to Today and open it from there.", true
	case errors.Is(err, shop.ErrTaken):
		return "id in use", "This id is on record for something else: send it again with an id of its own.", true
	case errors.Is(err, shop.ErrWorked):
		return "work has begun", "Passes have been made under the plan of record, so it stays. Strike those passes out first, or finish it.", true
	case errors.Is(err, shop.ErrClosed):
		return "handed over", "This car was handed over and its film record is sealed, so nothing is written to it. To go on with it, open it again in Hand over, with a reason.", true
	case errors.Is(err, shop.ErrBusy):
		return "busy", "The shop's file is held by another program or by too many who write at once. Nothing is lost: it is sent again.", true
	case errors.Is(err, shop.ErrFull):
		return "disk full", "The disk of the shop's machine is full, so nothing more can be kept. Make room there; nothing that was acknowledged is lost.", true
	case shop.IsUnreadable(err):
		return "cannot be read", "A row of this panel in the shop's file cannot be read: " + err.Error() + ". The other cars are as they were; put back a copy to have this one again.", true
	case errors.Is(err, film.ErrReadings):
		return "no readings", "No readings on this panel. Zero the gauge on bare steel, then put the probe on cross 1.", true
	}
	return "not done", "The shop server could not do this. Nothing was changed; try again.", false
}

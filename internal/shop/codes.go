package shop

// Why something is refused. The values of each stand in the order of its sentence in
// package wording.
const (
	BadID      Code = "bad_id" // thing, least, most letters
	BadUnit    Code = "bad_unit"
	BadZone    Code = "bad_time_zone" // name
	BadValue   Code = "bad_value"     // the core's error
	BadShift   Code = "bad_shift"     // what is wrong
	BadStock   Code = "bad_stock"     // what is wrong
	NoStock    Code = "no_stock"      // item
	StockRange Code = "stock_range"   // least, most
	StockShort Code = "stock_short"   // name, how much is there, how much was asked
	NoPaint    Code = "no_paint"      // name
	BadWarmth  Code = "bad_warmth"    // least, most
	NoTask     Code = "no_task"
	CannotMove Code = "cannot_move" // the task held
	BadDue     Code = "bad_due"     // day
	BadPerson  Code = "bad_person"  // what is wrong

	BadReason Code = "bad_reason" // most letters

	// Taking in.
	BadOrigin       Code = "bad_origin" // what was said, as for all answers
	BadLayers       Code = "bad_layers"
	BadCure         Code = "bad_cure"
	BadSubstrate    Code = "bad_substrate"
	BadAim          Code = "bad_aim"
	BadHardness     Code = "bad_hardness"
	BadUnder        Code = "bad_under"
	BadLight        Code = "bad_light"
	BadTotal        Code = "bad_total"         // most, µm
	BadFinish       Code = "bad_finish"        // what was said
	BeforeOverTotal Code = "before_over_total" // before, total, µm
	CoatsOnFactory  Code = "coats_on_factory"  // coats, finish
	BadFloor        Code = "bad_floor"         // least, most, µm
	WhoAgreed       Code = "who_agreed"        // most letters
	WhyAgreed       Code = "why_agreed"        // least, most letters
	FloorTooLow     Code = "floor_too_low"     // Film
	FloorNotLower   Code = "floor_not_lower"   // Film
	FloorOverClear  Code = "floor_over_clear"  // Film
	BadPast         Code = "bad_past"
	BadColour       Code = "bad_colour"
	BadCoats        Code = "bad_coats" // most, as for all figures
	BadWet          Code = "bad_wet_film"
	BadSolids       Code = "bad_solids"
	BadDry          Code = "bad_dry_film"
	BadPeel         Code = "bad_peel"
	BadSwirls       Code = "bad_swirls"
	BadTest         Code = "bad_test"
	BadGone         Code = "bad_gone"
	NothingSeen     Code = "nothing_seen"
	BadLeft         Code = "bad_left"
	BadOff          Code = "bad_off"
	DeadTooThick    Code = "dead_too_thick" // Film, Film
	ClearAlready    Code = "clear_already"  // clarity
	LessClear       Code = "less_clear"     // clarity, clarity

	NothingToTeach    Code = "nothing_to_teach"    // panel
	SquareNeedsPolish Code = "square_needs_polish" // panel

	WetContradicts     Code = "wet_contradicts"
	DryContradicts     Code = "dry_contradicts"
	ColourThroughClear Code = "colour_through_clear"
	BadSprayed         Code = "bad_sprayed" // Day
	NoPanel            Code = "no_panel"    // car, key
	BadCarName         Code = "bad_car_name"
	BadPainter         Code = "bad_painter"
	LongOwnerWords     Code = "long_owner_words" // most, letters
	BadCost            Code = "bad_cost"
	BadHours           Code = "bad_hours"
	BadDrawing         Code = "bad_drawing" // file, error
	NoDrawing          Code = "no_drawing"
	NoScale            Code = "no_scale"
	NoSize             Code = "no_size"
	NoEarlierCar       Code = "no_earlier_car"
	NothingToTell      Code = "nothing_to_tell"
	NoOffer            Code = "no_offer"      // name
	OfferShut          Code = "offer_shut"    // name
	BadMinutes         Code = "bad_minutes"   // most
	NoWork             Code = "no_work"       // what
	NotBegun           Code = "not_begun"     // title
	OfferChanged       Code = "offer_changed" // price now
	BadTask            Code = "bad_task"      // task

	// Marks.
	TooManyMarks Code = "too_many_marks" // panel, count
	LongNote     Code = "long_note"      // most, letters
	BadFound     Code = "bad_found"      // where
	NoMirror     Code = "no_mirror"      // panel
	OwnPart      Code = "own_part"       // panel
	BadOutcome   Code = "bad_outcome"    // outcome
	WhyLeft      Code = "why_left"
	LongReason   Code = "long_reason" // most
	MarkStruck   Code = "mark_struck"
	LargePhoto   Code = "large_photo" // most, MB
	NoPhoto      Code = "no_photo"
	PhotoCut     Code = "photo_cut"
	BadGrade     Code = "bad_grade"
	NoColour     Code = "no_colour"

	// Prove.
	BadLampName       Code = "bad_lamp_name" // most letters
	BadLamp           Code = "bad_lamp"      // value, least, most
	NoLampScale       Code = "no_lamp_scale"
	TooManyLamps      Code = "too_many_lamps"  // most
	BadPhotoKind      Code = "bad_photo_kind"  // kind
	LargeProof        Code = "large_proof"     // most, MB
	TooManyPhotos     Code = "too_many_photos" // panel, most
	BadPicture        Code = "bad_picture"     // the reader's refusal
	BadShiny          Code = "bad_shiny"
	BadArea           Code = "bad_area"
	PhotoStruck       Code = "photo_struck"
	PhotoGone         Code = "photo_gone"
	PhotoTellsNothing Code = "photo_tells_nothing"
	BadMeter          Code = "bad_meter"            // value, most
	BadInstrument     Code = "bad_instrument"       // most letters
	BadAngle          Code = "bad_angle"            // angle
	BadQuantity       Code = "bad_quantity"         // what
	TooManyMeters     Code = "too_many_meters"      // panel, most
	BadProof          Code = "bad_proof"            // kind
	KeepUnfinished    Code = "keep_unfinished"      // Count
	KeepScratched     Code = "keep_scratched"       // Count
	KeepMarks         Code = "keep_marks"           // Count
	NothingToSendBack Code = "nothing_to_send_back" // panel
	BackStays         Code = "back_stays"
	NoMarksToClose    Code = "no_marks_to_close"
	BadKeepPhotos     Code = "bad_keep_photos" // most days
	NoCamera          Code = "no_camera"
	NoMeter           Code = "no_meter"      // instrument
	CameraSilent      Code = "camera_silent" // error

	// Hand over.
	BadDay         Code = "bad_day"          // Day
	BadPart        Code = "bad_part"         // what
	BadCare        Code = "bad_care"         // the core's error
	StillToDo      Code = "still_to_do"      // count
	WhyReopen      Code = "why_reopen"       // most letters
	NotHandedOver  Code = "not_handed_over"  // car
	ClosedAlready  Code = "closed_already"   // car
	StillInShop    Code = "still_in_shop"    // car
	LongShopNote   Code = "long_shop_note"   // most letters
	BadShopName    Code = "bad_shop_name"    // most letters
	BadFace        Code = "bad_face"         // field, what it may be
	BadLogo        Code = "bad_logo"         // most KB
	BadCarFile     Code = "bad_car_file"     // what is wrong
	LargeCarFile   Code = "large_car_file"   // most, MB
	CarDiverged    Code = "car_diverged"     // panel
	BadKeepBackups Code = "bad_keep_backups" // most
	BackupUnderWay Code = "backup_under_way"
	ShopOpen       Code = "shop_open"  // folder
	BadBackup      Code = "bad_backup" // what is wrong
	BadSearch      Code = "bad_search" // least, most letters

	// Places, readings, gauges, files.
	PlaceNoNumber   Code = "place_no_number"
	PlaceOutside    Code = "place_outside" // x, y, panel, width, height, mm
	PlaceInHole     Code = "place_in_hole" // x, y, hole, panel
	PlaceBeside     Code = "place_beside"  // x, y, panel
	BadPhase        Code = "bad_phase"
	BadFilm         Code = "bad_film"      // the reader's sentence
	PlasticReads    Code = "plastic_reads" // panel
	NoGauge         Code = "no_gauge"      // id
	OddReading      Code = "odd_reading"   // OddFilm
	OddPanel        Code = "odd_panel"     // OddFilm, panel that reads like that
	TooManyReadings Code = "too_many_readings"
	BadZero         Code = "bad_zero" // value
	BadFoil         Code = "bad_foil"
	BadFoilRead     Code = "bad_foil_reading" // foil
	BadShot         Code = "bad_shot"         // number, the reader's sentence
	FewShots        Code = "few_shots"
	BadZoneFacts    Code = "bad_zone"     // number, most coats
	ZoneCorners     Code = "zone_corners" // number, Count, least, most
	ZonePlace       Code = "zone_place"   // corner, zone
	SmallZone       Code = "small_zone"   // number, width, height, least, mm
	ZonesWorked     Code = "zones_worked" // panel
	BadFile         Code = "bad_file"     // file, error
	BadDelimiter    Code = "bad_delimiter"
	BadDecimal      Code = "bad_decimal"
	BadColumns      Code = "bad_columns"

	// Plan.
	Waits          Code = "waits"     // *Panel
	NoRecord       Code = "no_record" // panel
	PlanMoved      Code = "plan_moved"
	NothingReaches Code = "nothing_reaches" // *Panel
	TooMuch        Code = "too_much"        // Film, Room, SectionState
	NoRule         Code = "no_rule"         // question
	BadTryFilm     Code = "bad_try_film"    // value, most µm
	BadTryClarity  Code = "bad_try_clarity" // value
	BadTrySpots    Code = "bad_try_spots"   // most
	HalfTryGloss   Code = "half_try_gloss"
	BadTryGloss    Code = "bad_try_gloss"    // value
	NoPlanForTry   Code = "no_plan_for_try"  // panel
	TrySectionGone Code = "try_section_gone" // panel
	TryTooMuch     Code = "try_too_much"     // SectionState

	// Level.
	NoSection           Code = "no_section" // panel, key, keys
	NoGrit              Code = "no_grit"    // grit, grits
	NoPlanToWork        Code = "no_plan"    // panel
	NothingRead         Code = "nothing_read"
	NoSuchPlan          Code = "no_such_plan" // panel
	OtherPlan           Code = "other_plan"
	BadEntryKind        Code = "bad_entry_kind" // kind
	BadShare            Code = "bad_share"
	OverrideReason      Code = "override_reason" // least letters
	BackReason          Code = "back_reason"     // least letters
	WhichMark           Code = "which_mark"
	NoOpenMark          Code = "no_open_mark" // panel, mark
	NoStep              Code = "no_step"      // steps, step
	TooLongAgo          Code = "too_long_ago"
	AllDone             Code = "all_done"
	OtherStep           Code = "other_step" // step now, its title, step asked
	PassOverThrough     Code = "pass_over_through"
	PassTooCoarse       Code = "pass_too_coarse" // title, person, limit
	NoPassLeft          Code = "no_pass_left"    // level.Standing
	OverrideOverThrough Code = "override_over_through"
	OverrideNotNeeded   Code = "override_not_needed" // Count
	ColourIsUsual       Code = "colour_is_usual"
	LookTooEarly        Code = "look_too_early"
	NoStepBack          Code = "no_step_back" // step
	NotBack             Code = "not_back"     // title, Again
	NoSuchRest          Code = "no_such_rest"
	RestUsed            Code = "rest_used"
	TooFast             Code = "too_fast" // Count of late passes, in how long
	BadPage             Code = "bad_page" // most
	BadCursor           Code = "bad_cursor"
	ZoneOff             Code = "zone_off"   // no, panel
	TryGrows            Code = "try_grows"  // before, after, µm
	OneColumn           Code = "one_column" // its number
	OtherSince          Code = "other_since"
	NoConstant          Code = "no_constant"
	TooManyStreams      Code = "too_many_streams" // most
	ShortDevice         Code = "short_device"     // least, most signs
)

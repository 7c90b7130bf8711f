// Package camera is the way to a camera and meters that other programs serve, and a stand-in
// for them. docs/formats/camera.md has what is said between them.
package camera

// UsualAddr is where the camera is looked for.
const UsualAddr = "http://127.0.0.1:7412"

// About is what a camera says of itself, with how its photos of a lamp are taken: mm, and
// pixels of the photo.
type About struct {
	Name       string    `json:"name"`
	PitchMM    float64   `json:"pitch_mm"`
	LampMM     float64   `json:"lamp_mm"`
	CameraMM   float64   `json:"camera_mm"`
	ApertureMM float64   `json:"aperture_mm"`
	MMPerPx    float64   `json:"mm_per_px"`
	LensPx     float64   `json:"lens_px"`
	Gamma      float64   `json:"gamma"`
	Scale      bool      `json:"scale"` // a card lies on the panel
	Shiny      string    `json:"shiny"` // how what shines looks in its photos of sanded sections
	Meters     []MeterAs `json:"meters"`
}

// MeterAs is a meter that can be asked: gloss or clarity, at an angle in degrees.
type MeterAs struct {
	Quantity   string  `json:"quantity"`
	Instrument string  `json:"instrument"`
	AngleDeg   float64 `json:"angle_deg"`
}

// Subject is what stands before the camera, as the application knows it. A real one passes
// over it; a stand-in makes its photo from it.
type Subject struct {
	Panel     string  `json:"panel"`
	Section   string  `json:"section,omitempty"`
	Colour    string  `json:"colour"`
	PeelGrade float64 `json:"peel_grade"` // as it was given by eye
	Worked    []Step  `json:"worked"`
	XMM       float64 `json:"x_mm"`
	YMM       float64 `json:"y_mm"`
}

// Step is so many passes of one step, as they are thought to cut: µm, MPa, N m, kPa.
type Step struct {
	Title     string  `json:"title"`
	Passes    int     `json:"passes"`
	CutUM     float64 `json:"cut_um"` // a pass, mean removal
	GrainUM   float64 `json:"grain_um"`
	ScratchUM float64 `json:"scratch_um"`
	StiffMPa  float64 `json:"stiff_mpa"`
	SheetNM   float64 `json:"sheet_nm"`
	PressKPa  float64 `json:"press_kpa"`
}

// Value is what a meter reads.
type Value struct {
	Value float64 `json:"value"`
}

// Limits of what is sent.
const (
	mostSubject = 64 << 10
	mostAnswer  = 64 << 10
	mostSteps   = 64
	mostPasses  = 400
)

// The paths that a camera answers: GET says who it is; the others take a Subject. Meters are
// asked with ?instrument=, and photos come as JPEG or PNG.
const (
	pathAbout      = "/camera"
	pathReflection = "/camera/reflection"
	pathDull       = "/camera/dull"
	pathMeter      = "/camera/meter"
)

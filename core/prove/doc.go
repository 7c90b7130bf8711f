// Package prove says what work on a panel has reached: peel and pebble by photo against those
// of before and of the panel beside it, gloss and clarity by meters with their own noise,
// scratches that may lie under the gloss, and what is still to do before the panel is kept.
//
// Heights and film are in µm, places in mm, gloss in % of a perfect mirror, clarity from 0 to
// 100, grades of peel from 0 to 10. A doubt is one standard deviation.
package prove

// Package marks judges the defects of a panel: what each one is, how high or
// deep it is and how sure that is, what will be done about it and why, what that
// costs in film and time, and when spotting is more work than the whole panel.
//
// Heights, depths and film are in µm, places and sizes in mm, times in s where
// nothing else is said. Constants marked judgement are the trade's usual ones.
package marks

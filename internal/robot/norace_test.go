//go:build !race

package robot

// underRace says whether the race detector watches.
const underRace = false

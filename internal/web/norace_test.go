//go:build !race

package web

// underRace says that the race detector is on.
const underRace = false

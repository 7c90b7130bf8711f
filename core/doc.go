// Package core is the trade: film, texture, sequences and ledgers. It holds no
// input or output, no clock and no interface code; guard_test.go keeps it so.
package core

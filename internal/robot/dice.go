package robot

import "math/rand/v2"

// dice draw choices from a script.
type dice struct {
	script []byte
	at     int
}

// ScriptLength is how many bytes a script of chance has.
const ScriptLength = 480

// ScriptOf is the script of a job of chance.
func ScriptOf(seed uint64, job int) []byte {
	rng := rand.New(rand.NewPCG(seed, uint64(job)))
	out := make([]byte, ScriptLength)
	for i := range out {
		out[i] = byte(rng.Uint32())
	}
	return out
}

func (d *dice) next() int {
	if d.at >= len(d.script) {
		return 0
	}
	d.at++
	return int(d.script[d.at-1])
}

// of is one of so many, the first where the script is calm.
func (d *dice) of(n int) int { return d.next() * n / 256 }

// oneIn is true once in so many times, never where the script is calm.
func (d *dice) oneIn(n int) bool { return d.next() > 255-256/n }

// between goes from a to b, a where the script is calm.
func (d *dice) between(a, b float64) float64 { return a + (b-a)*float64(d.next())/255 }

// off is about normal with a mean of 0 and a standard deviation of 1; 0 where the script is calm.
func (d *dice) off() float64 {
	sum := 0.0
	for range 3 {
		sum += float64(d.next()^128)/255 - 128.0/255
	}
	return 2 * sum
}

// pick is one of several, the first where the script is calm.
func pick[T any](d *dice, all ...T) T { return all[d.of(len(all))] }

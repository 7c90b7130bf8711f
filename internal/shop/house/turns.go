package house

import (
	"context"
	"hash/fnv"
)

// Locks lets those who change the same panel do it one after the other, so that nobody has
// to judge again and again what another changes. Panels may share a turn.
type Locks [64]chan struct{}

func newLocks() *Locks {
	var t Locks
	for i := range t {
		t[i] = make(chan struct{}, 1)
	}
	return &t
}

// Take waits for the turn of a panel; done gives it on.
func (t *Locks) Take(ctx context.Context, panel string) (done func(), err error) {
	h := fnv.New32a()
	_, _ = h.Write([]byte(panel)) // a hash does not fail
	turn := t[h.Sum32()%uint32(len(t))]
	select {
	case turn <- struct{}{}:
		return func() { <-turn }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

package house

import (
	"context"
	"time"
)

// Asked says that somebody asks for something now: what goes on behind waits for a moment.
func (s *Service) Asked() { s.lastAsk.Store(time.Now().UnixNano()) }

// Idle is how long nobody has asked for anything.
func (s *Service) Idle() time.Duration { return time.Since(time.Unix(0, s.lastAsk.Load())) }

// Behind has something done while nobody waits for it; Close waits for its end.
func (s *Service) Behind(do func(ctx context.Context)) { s.Running.Go(func() { do(s.Life) }) }

// Close ends what goes on behind.
func (s *Service) Close() {
	s.end()
	s.Running.Wait()
}

package shop

import "sync"

// memo remembers the last so many things that were made, by what they were made
// from. Its zero value is not ready; see newMemo.
type memo[T any] struct {
	mu   sync.Mutex
	most int
	made map[string]T
	keys []string // oldest first
}

func newMemo[T any](most int) *memo[T] { return &memo[T]{most: most, made: map[string]T{}} }

// get returns what was made from key, or makes it; what fails is not kept.
func (m *memo[T]) get(key string, make func() (T, error)) (T, error) {
	m.mu.Lock()
	v, ok := m.made[key]
	m.mu.Unlock()
	if ok {
		return v, nil
	}
	v, err := make()
	if err != nil {
		return v, err
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	if _, ok := m.made[key]; !ok {
		m.made[key], m.keys = v, append(m.keys, key)
		if len(m.keys) > m.most {
			delete(m.made, m.keys[0])
			m.keys = m.keys[1:]
		}
	}
	return v, nil
}

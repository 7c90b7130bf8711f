// Package memo remembers what was computed, by what it was computed from.
package memo

import (
	"context"
	"math"
	"reflect"

	"github.com/maypok86/otter/v2"

	"waxplanus/core/shelf"
)

// Memo remembers what was made, by what it was made from, within so many bytes; what was
// asked for most and last stays. Many who ask for the same at once wait for one to make it.
type Memo[T any] struct{ made *otter.Cache[string, T] }

// New remembers within so many bytes, by what deep or weigh says that a value has.
func New[T any](bytes uint64, weigh func(T) int) *Memo[T] {
	return &Memo[T]{otter.Must(&otter.Options[string, T]{
		MaximumWeight: bytes,
		Weigher:       func(key string, v T) uint32 { return uint32(min(len(key)+weigh(v), math.MaxUint32)) },
	})}
}

// Deep is about how many bytes hang on a value, beside the shelf, which all share.
func Deep[T any](v T) int { return SizeOf(reflect.ValueOf(v), map[uintptr]bool{}) }

// Get returns what was made from key, or makes it; what fails is not kept. The maker may
// work for others who wait too: it goes on when the one who asked first has left.
func (m *Memo[T]) Get(ctx context.Context, key string, make func(context.Context) (T, error)) (T, error) {
	return m.made.Get(context.WithoutCancel(ctx), key, otter.LoaderFunc[string, T](func(ctx context.Context, _ string) (T, error) { return make(ctx) }))
}

// Has says whether what is made from key is remembered now.
func (m *Memo[T]) Has(key string) bool {
	_, ok := m.made.GetIfPresent(key)
	return ok
}

// Known is what is remembered under a key, if anything is.
func (m *Memo[T]) Known(key string) (T, bool) { return m.made.GetIfPresent(key) }

// Put remembers something under a key, instead of what was there.
func (m *Memo[T]) Put(key string, v T) { m.made.Set(key, v) }

// SizeOf is about how many bytes hang on a value, beside what was seen before and the
// shelf, which all share.
func SizeOf(v reflect.Value, seen map[uintptr]bool) int {
	if !v.IsValid() || v.Type() == reflect.TypeFor[shelf.Shelf]() {
		return 0
	}
	switch n := int(v.Type().Size()); v.Kind() {
	case reflect.Pointer:
		if v.IsNil() || seen[v.Pointer()] {
			return n
		}
		seen[v.Pointer()] = true
		return n + SizeOf(v.Elem(), seen)
	case reflect.Interface:
		return n + SizeOf(v.Elem(), seen)
	case reflect.String:
		return n + v.Len()
	case reflect.Slice:
		if v.IsNil() || seen[v.Pointer()] {
			return n
		}
		seen[v.Pointer()] = true
		if flat(v.Type().Elem()) {
			return n + v.Len()*int(v.Type().Elem().Size())
		}
		for i := range v.Len() {
			n += SizeOf(v.Index(i), seen)
		}
		return n
	case reflect.Array:
		if flat(v.Type()) {
			return n
		}
		n = 0
		for i := range v.Len() {
			n += SizeOf(v.Index(i), seen)
		}
		return n
	case reflect.Map:
		for i := v.MapRange(); i.Next(); {
			n += SizeOf(i.Key(), seen) + SizeOf(i.Value(), seen)
		}
		return n
	case reflect.Struct:
		n = 0
		for i := range v.NumField() {
			n += SizeOf(v.Field(i), seen)
		}
		return n
	default:
		return n
	}
}

// flat says whether values of a type hold all their bytes themselves.
func flat(t reflect.Type) bool {
	switch t.Kind() {
	case reflect.Pointer, reflect.Interface, reflect.String, reflect.Slice, reflect.Map:
		return false
	case reflect.Array:
		return flat(t.Elem())
	case reflect.Struct:
		for i := range t.NumField() {
			if !flat(t.Field(i).Type) {
				return false
			}
		}
	}
	return true
}

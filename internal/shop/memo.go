package shop

import (
	"context"
	"math"
	"reflect"

	"github.com/maypok86/otter/v2"

	"waxplanus/core/shelf"
)

// memo remembers what was made, by what it was made from, within so many bytes; what was
// asked for most and last stays. Many who ask for the same at once wait for one to make it.
type memo[T any] struct{ made *otter.Cache[string, T] }

// newMemo remembers within so many bytes, by what deep or weigh says that a value has.
func newMemo[T any](bytes uint64, weigh func(T) int) *memo[T] {
	return &memo[T]{otter.Must(&otter.Options[string, T]{
		MaximumWeight: bytes,
		Weigher:       func(key string, v T) uint32 { return uint32(min(len(key)+weigh(v), math.MaxUint32)) },
	})}
}

// deep is about how many bytes hang on a value, beside the shelf, which all share.
func deep[T any](v T) int { return sizeOf(reflect.ValueOf(v), map[uintptr]bool{}) }

// get returns what was made from key, or makes it; what fails is not kept. The maker may
// work for others who wait too: it goes on when the one who asked first has left.
func (m *memo[T]) get(ctx context.Context, key string, make func(context.Context) (T, error)) (T, error) {
	return m.made.Get(context.WithoutCancel(ctx), key, otter.LoaderFunc[string, T](func(ctx context.Context, _ string) (T, error) { return make(ctx) }))
}

// has says whether what is made from key is remembered now.
func (m *memo[T]) has(key string) bool {
	_, ok := m.made.GetIfPresent(key)
	return ok
}

// known is what is remembered under a key, if anything is.
func (m *memo[T]) known(key string) (T, bool) { return m.made.GetIfPresent(key) }

// put remembers something under a key, instead of what was there.
func (m *memo[T]) put(key string, v T) { m.made.Set(key, v) }

// sizeOf is about how many bytes hang on a value, beside what was seen before and the
// shelf, which all share.
func sizeOf(v reflect.Value, seen map[uintptr]bool) int {
	if !v.IsValid() || v.Type() == reflect.TypeFor[shelf.Shelf]() {
		return 0
	}
	switch n := int(v.Type().Size()); v.Kind() {
	case reflect.Pointer:
		if v.IsNil() || seen[v.Pointer()] {
			return n
		}
		seen[v.Pointer()] = true
		return n + sizeOf(v.Elem(), seen)
	case reflect.Interface:
		return n + sizeOf(v.Elem(), seen)
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
			n += sizeOf(v.Index(i), seen)
		}
		return n
	case reflect.Array:
		if flat(v.Type()) {
			return n
		}
		n = 0
		for i := range v.Len() {
			n += sizeOf(v.Index(i), seen)
		}
		return n
	case reflect.Map:
		for i := v.MapRange(); i.Next(); {
			n += sizeOf(i.Key(), seen) + sizeOf(i.Value(), seen)
		}
		return n
	case reflect.Struct:
		n = 0
		for i := range v.NumField() {
			n += sizeOf(v.Field(i), seen)
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

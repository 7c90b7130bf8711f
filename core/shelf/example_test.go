package shelf_test

import (
	"fmt"

	"waxplanus/core/shelf"
)

// Who runs nothing coarser than P2500 may run it and what is finer.
func ExampleShelf_MayRun() {
	s := shelf.Usual()
	for _, key := range []string{"p1500", "p2500", "3000"} {
		a, _ := s.Abrasive(key)
		fmt.Println(a.Grit, s.MayRun("P2500", a.D50))
	}
	// Output:
	// P1500 false
	// P2500 true
	// 3000 true
}

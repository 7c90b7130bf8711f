package plan_test

import (
	"fmt"

	"waxplanus/core/plan"
	"waxplanus/core/shelf"
)

// A sequence as it travels: each thing, on which backing, how often.
func ExampleParseCode() {
	s := shelf.Usual()
	choices, err := plan.ParseCode("p2000@rubber*3,p2500-foam@foam-disc*2,wool-medium*2", &s)
	fmt.Println(len(choices), err)
	fmt.Println(plan.Code(choices))
	_, err = plan.ParseCode("p2000@rubber*none", &s)
	fmt.Println(err != nil)
	// Output:
	// 3 <nil>
	// p2000@rubber*3,p2500-foam@foam-disc*2,wool-medium*2
	// true
}

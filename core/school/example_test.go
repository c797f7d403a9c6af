package school_test

import (
	"fmt"

	"obturon/core/notation"
	"obturon/core/school"
)

func ExampleGet() {
	board, err := school.Get("board")
	if err != nil {
		fmt.Println(err)
		return
	}
	c, ok := board.For(school.OutlineIsthmusWidth, notation.MustParse("46"), school.Amalgam)
	fmt.Println(ok, c.Target.Contains(c.Aim), c.Severity)
	_, err = school.Get("river")
	fmt.Println(err)
	// Output:
	// true true major
	// school "river" is unknown: use one of board, traditional, adhesive, primary
}

func ExampleRange_String() {
	fmt.Println(school.AtLeast(2))
	fmt.Println(school.AtMost(0.3))
	fmt.Println(school.Range{Min: 1, Max: 1.5})
	// Output:
	// at least 2
	// at most 0.3
	// 1 to 1.5
}

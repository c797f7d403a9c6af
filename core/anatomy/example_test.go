package anatomy_test

import (
	"fmt"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

func ExampleBuild() {
	m, err := anatomy.Build(notation.MustParse("35"), anatomy.MeasuredSizes{Mesiodistal: 7.4}, 40, 0.15)
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Printf("%.1f mm mesiodistally, %d cusps\n", m.Sizes.Mesiodistal, len(m.CuspTips))
	_, err = anatomy.Build(notation.MustParse("35"), anatomy.MeasuredSizes{Mesiodistal: 22}, 40, 0.15)
	fmt.Println(err)
	// Output:
	// 7.4 mm mesiodistally, 3 cusps
	// mesiodistal size 22 mm is outside 4.2 to 10.5 for a lower second premolar: measure again, or leave it out
}

package instrument_test

import (
	"fmt"

	"obturon/core/instrument"
)

func ExampleFind() {
	pear, ok := instrument.Find(instrument.Pear)
	fmt.Printf("%s: %.1f mm wide, %v\n", pear.Name, 2*pear.Head.Radius(), ok)
	// Output:
	// pear: 0.8 mm wide, true
}

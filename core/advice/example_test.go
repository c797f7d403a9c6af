package advice_test

import (
	"fmt"

	"obturon/core/advice"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
)

// A child's primary molar: nothing was chosen, so material and school are proposed.
func ExampleDecide() {
	d := advice.Decide(&intake.Case{
		Tooth:    notation.MustParse("75"),
		Patient:  intake.Patient{Code: "HV-031", AgeYears: 6},
		Findings: []lesion.Finding{{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin}},
	})
	fmt.Println(d.Choice.Material, "by", d.Choice.School)
	fmt.Println(d.Treatment)
	// Output:
	// composite by primary
	// restore
}

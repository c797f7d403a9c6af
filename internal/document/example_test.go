package document_test

import (
	"fmt"

	"obturon/internal/document"
)

func ExampleReadCase() {
	c, err := document.ReadCase([]byte(`{"schema":"obturon.case/1","tooth":"35","patient":{"code":"HV-031","age_years":34},
		"findings":[{"kind":"proximal_caries","site":"distal","depth":"outer_dentin"}]}`))
	fmt.Println(c.Tooth.Name(), err)
	_, err = document.ReadCase([]byte(`{"schema":"obturon.case/1","tooth":"35","patient":{"code":"HV-031","age_years":34},
		"findings":[{"kind":"proximal_caries","site":"central","depth":"deep"}]}`))
	fmt.Println(err)
	// Output:
	// lower left second premolar <nil>
	// $.findings[0].depth: "deep" is unknown: use one of outer_enamel, inner_enamel, outer_dentin, middle_dentin, inner_dentin
	// $.findings[0].site: proximal caries is mesial or distal, not central
}

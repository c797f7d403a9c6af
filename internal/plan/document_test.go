package plan

import (
	"bytes"
	"encoding/json"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
)

func TestPlansFitThePlanSchema(t *testing.T) {
	s, err := jsonschema.NewCompiler().Compile("../../docs/schema/plan.schema.json")
	if err != nil {
		t.Fatal(err)
	}
	refused := molarCase()
	refused.Findings = []lesion.Finding{{Kind: "crack", Site: "buccal", Depth: "outer_dentin"}}
	cervical := molarCase()
	cervical.Findings = []lesion.Finding{{Kind: "cervical_caries", Site: "buccal", Depth: "outer_dentin"}}
	corner := molarCase()
	corner.Tooth, corner.Choice = notation.MustParse("22"), intake.Choice{Material: "composite", School: "adhesive", Style: "scalloped", Lock: true}
	corner.Findings = []lesion.Finding{{Kind: "fracture", Site: "distal_incisal", Depth: "outer_dentin"}}
	boxed := molarCase()
	boxed.Findings = []lesion.Finding{{Kind: "proximal_caries", Site: "distal", Depth: "outer_dentin"}}
	for _, c := range []*intake.Case{molarCase(), boxed, cervical, corner, refused} {
		document, err := json.Marshal(evaluate(t, c).Document())
		if err != nil {
			t.Fatal(err)
		}
		value, err := jsonschema.UnmarshalJSON(bytes.NewReader(document))
		if err != nil {
			t.Fatal(err)
		}
		if err := s.Validate(value); err != nil {
			t.Error(err)
		}
	}
}

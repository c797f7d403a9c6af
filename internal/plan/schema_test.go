package plan

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"obturon/core/face"
	"obturon/core/notation"
	"obturon/core/prep"
)

func schema(t *testing.T, name string) *jsonschema.Schema {
	t.Helper()
	s, err := jsonschema.NewCompiler().Compile(filepath.Join("../../docs/schema", name+".schema.json"))
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func validate(t *testing.T, s *jsonschema.Schema, document []byte) error {
	t.Helper()
	value, err := jsonschema.UnmarshalJSON(bytes.NewReader(document))
	if err != nil {
		t.Fatal(err)
	}
	return s.Validate(value)
}

func TestExamplesFitTheCaseSchemaAndAreRead(t *testing.T) {
	files, err := filepath.Glob("../../examples/*.json")
	if err != nil || len(files) == 0 {
		t.Fatal("no examples", err)
	}
	for _, f := range files {
		data, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		if err := validate(t, schema(t, "case"), data); err != nil {
			t.Errorf("%s: %v", f, err)
		}
		if _, err := ReadCase(data); err != nil {
			t.Errorf("%s: %v", f, err)
		}
	}
}

// What the schema refuses, the reader refuses too, and the other way round.
func TestSchemaAndReaderAgree(t *testing.T) {
	s := schema(t, "case")
	for _, change := range [][2]string{
		{"", ""}, {"case/1", "case/2"}, {`"46"`, `"49"`}, {`"age_years":34,`, ""}, {`34`, `-1`}, {`"central"`, `"nowhere"`},
		{`"outer_dentin"`, `"deep"`}, {`"board"`, `"bored"`}, {`"choice"`, `"chioce"`}, {`"isthmus_width"`, `"isthmus"`}, {`"secure"`, `"wet"`},
	} {
		document := []byte(strings.Replace(goodCase, change[0], change[1], 1))
		_, readErr := ReadCase(document)
		if schemaErr := validate(t, s, document); (schemaErr == nil) != (readErr == nil) {
			t.Errorf("%q for %q: schema says %v, reader %v", change[1], change[0], schemaErr, readErr)
		}
	}
}

func TestTheCaseSchemaKnowsEveryDimension(t *testing.T) {
	data, err := os.ReadFile("../../docs/schema/case.schema.json")
	if err != nil {
		t.Fatal(err)
	}
	for _, id := range append(prep.DimensionIDs(), face.DimensionIDs()...) {
		if !strings.Contains(string(data), `"`+id+`"`) {
			t.Errorf("the schema does not know %s", id)
		}
	}
}

func TestPlansFitThePlanSchema(t *testing.T) {
	s := schema(t, "plan")
	refused := molarCase()
	refused.Findings = []Finding{{Kind: "crack", Site: "buccal", Depth: "outer_dentin"}}
	cervical := molarCase()
	cervical.Findings = []Finding{{Kind: "cervical_caries", Site: "buccal", Depth: "outer_dentin"}}
	corner := molarCase()
	corner.Tooth, corner.Choice = notation.MustParse("22"), &Choice{Material: "composite", School: "adhesive", Finish: "scalloped", Lock: true}
	corner.Findings = []Finding{{Kind: "fracture", Site: "distal_incisal", Depth: "outer_dentin"}}
	boxed := molarCase()
	boxed.Findings = []Finding{{Kind: "proximal_caries", Site: "distal", Depth: "outer_dentin"}}
	for _, c := range []*Case{molarCase(), boxed, cervical, corner, refused} {
		document, err := json.Marshal(evaluate(t, c).Document)
		if err != nil {
			t.Fatal(err)
		}
		if err := validate(t, s, document); err != nil {
			t.Error(err)
		}
	}
}

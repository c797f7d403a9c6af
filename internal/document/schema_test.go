package document

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"obturon/core/intake"
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
	for _, l := range intake.Dimensions() {
		if !strings.Contains(string(data), `"`+l.ID+`"`) {
			t.Errorf("the schema does not know %s", l.ID)
		}
	}
}

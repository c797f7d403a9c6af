package document

import (
	"errors"
	"strings"
	"testing"

	"obturon/core/intake"
)

const goodCase = `{"schema":"obturon.case/1","tooth":"46",
 "patient":{"code":"HV-031","age_years":34,"pregnant_or_nursing":false,"caries_risk":"moderate","isolation":"secure"},
 "findings":[{"kind":"fissure_caries","site":"central","depth":"outer_dentin","width_mm":1.1}],
 "choice":{"material":"amalgam","school":"board"},
 "overrides":{"isthmus_width":1.2}}`

func TestReadCase(t *testing.T) {
	c, err := ReadCase([]byte(goodCase))
	if err != nil {
		t.Fatal(err)
	}
	if c.Tooth.String() != "46" || c.Patient.AgeYears != 34 || c.Findings[0].Width != 1.1 || c.Choice.School != "board" || c.Overrides["isthmus_width"] != 1.2 {
		t.Errorf("read as %+v", c)
	}
}

func TestEveryFaultIsNamedWithItsPath(t *testing.T) {
	for _, c := range []struct {
		name, document string
		want           []string // path and a word of the message
	}{
		{"empty file", ``, []string{"$: the file is empty"}},
		{"not JSON", `{"schema":`, []string{"$: this is not JSON"}},
		{"a list", `[]`, []string{"$: a case is a JSON object"}},
		{"two documents", `{}{}`, []string{"$: more follows"}},
		{"nothing in it", `{}`, []string{"$.schema: is missing", "$.tooth: is missing", "$.patient: is missing", "$.findings: is missing"}},
		{"wrong version", strings.Replace(goodCase, "case/1", "case/9", 1), []string{`$.schema: "obturon.case/9" is unknown: use one of obturon.case/1`}},
		{"unknown tooth", strings.Replace(goodCase, `"46"`, `"49"`, 1), []string{`$.tooth: "49" does not fit: the ISO 3950 number`}},
		{"tooth as a number", strings.Replace(goodCase, `"46"`, `46`, 1), []string{"$.tooth: must be text"}},
		{"age missing", strings.Replace(goodCase, `"age_years":34,`, ``, 1), []string{"$.patient.age_years: is missing"}},
		{"age negative", strings.Replace(goodCase, `34`, `-1`, 1), []string{"$.patient.age_years: -1 is out of range: give the age in years"}},
		{"age beyond numbers", strings.Replace(goodCase, `34`, `1e999`, 1), []string{"$.patient.age_years: 1e999 is out of range"}},
		{"impossible site", strings.Replace(goodCase, `"central"`, `"mesial_incisal"`, 1), []string{"$.findings[0].site: only anterior teeth"}},
		{"missing pit", strings.Replace(strings.Replace(goodCase, `"46"`, `"14"`, 1), `"central"`, `"distolingual"`, 1), []string{"$.findings[0].site: the upper right first premolar has no distolingual cusp"}},
		{"larger than the tooth", strings.Replace(goodCase, `1.1`, `14`, 1), []string{"$.findings[0].width_mm: 14.0 mm is larger than the tooth"}},
		{"negative size", strings.Replace(goodCase, `1.1`, `-2`, 1), []string{"$.findings[0].width_mm: -2 is out of range"}},
		{"unknown school", strings.Replace(goodCase, `"board"`, `"bored"`, 1), []string{`$.choice.school: "bored" does not fit: one of board, traditional`}},
		{"unknown material", strings.Replace(goodCase, `"amalgam"`, `"gold"`, 1), []string{`$.choice.material: "gold" is unknown`}},
		{"unknown field", strings.Replace(goodCase, `"choice"`, `"chioce"`, 1), []string{"$.chioce: is no field here"}},
		{"unknown field deep", strings.Replace(goodCase, `"width_mm"`, `"width"`, 1), []string{"$.findings[0].width: is no field here"}},
		{"unknown dimension", strings.Replace(goodCase, `"isthmus_width"`, `"isthmus"`, 1), []string{`$.overrides.isthmus: is no field here`}},
		{"unbuildable dimension", strings.Replace(goodCase, `:1.2}`, `:99}`, 1), []string{"$.overrides.isthmus_width: 99 is out of range: isthmus width, mm, from 0.4 to 4"}},
		{"no finding", `{"schema":"obturon.case/1","tooth":"46","patient":{"age_years":3},"findings":[]}`, []string{"$.findings: is empty"}},
		{"kind", strings.Replace(goodCase, `fissure_caries`, `hole`, 1), []string{`$.findings[0].kind: "hole" is unknown: use one of fissure_caries`}},
		{"depth", strings.Replace(goodCase, `outer_dentin`, `deep`, 1), []string{`$.findings[0].depth: "deep" is unknown: use one of outer_enamel`}},
		{"caries that stays", strings.Replace(goodCase, `"depth"`, `"stays":true,"depth"`, 1), []string{"$.findings[0].stays: only an old filling"}},
		{"form and tooth at once", strings.Replace(strings.Replace(goodCase, `"central"`, `"mesial_incisal"`, 1), `"secure"`, `"wet"`, 1), []string{"$.patient.isolation", "$.findings[0].site: only anterior teeth"}},
		{"several at once", `{"schema":"x","tooth":"0","patient":{"age_years":-3,"isolation":"wet"},"findings":[{"kind":"?","site":"?","depth":"?"}],"more":1}`,
			[]string{"$.schema", "$.tooth", "$.patient.age_years", "$.patient.isolation", "$.more"}},
	} {
		_, err := ReadCase([]byte(c.document))
		var faults intake.Faults
		if !errors.As(err, &faults) {
			t.Errorf("%s: got %v", c.name, err)
			continue
		}
		for _, want := range c.want {
			if !strings.Contains(err.Error(), want) {
				t.Errorf("%s: faults miss %q:\n%v", c.name, want, err)
			}
		}
	}
}

func FuzzReadCase(f *testing.F) {
	f.Add([]byte(goodCase))
	f.Add([]byte(`{"findings":[{}],"overrides":{"x":1e400}}`))
	f.Add([]byte(``))
	f.Fuzz(func(t *testing.T, data []byte) {
		c, err := ReadCase(data)
		if (c == nil) == (err == nil) {
			t.Errorf("case %v with error %v", c, err)
		}
	})
}

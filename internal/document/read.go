// Package document holds the documents that Obturon takes and gives: their Go
// types, generated from contract.yaml, and how a case is read. The contract is
// the one description from which these types, the checks, docs/schema and the
// front end's types come.
package document

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"sync"

	"github.com/getkin/kin-openapi/openapi3"

	"obturon/core/anatomy"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/solid"
)

// Contract is the API's description, with every document in it.
//
//go:embed openapi.yaml
var Contract []byte

var caseSchema = sync.OnceValue(func() *openapi3.Schema { return schemaOf("CaseContent") })

// schemaOf is a schema of the contract.
func schemaOf(name string) *openapi3.Schema {
	doc, err := openapi3.NewLoader().LoadFromData(Contract)
	if err != nil {
		panic(fmt.Sprintf("document: the embedded contract cannot be read: %v", err))
	}
	return doc.Components.Schemas[name].Value
}

// ReadCase reads and checks a case document. The error, if any, is intake.Faults
// with every fault found.
func ReadCase(data []byte) (*intake.Case, error) {
	if faults := CheckText(data); len(faults) > 0 {
		return nil, faults
	}
	value, faults := decode(data)
	if len(faults) > 0 && value == nil {
		return nil, faults
	}
	err := caseSchema().VisitJSON(value, openapi3.MultiErrors())
	faults = append(faults, SchemaFaults(err)...)
	var d CaseContent
	// What does not fit its type is named above; the rest is looked at all the same.
	_ = json.Unmarshal(data, &d)
	c, problems := d.Case()
	for _, p := range append(problems, c.Check()...) {
		if !slices.ContainsFunc(faults, func(f intake.Fault) bool { return strings.HasPrefix(p.Path, f.Path) }) {
			faults = append(faults, p)
		}
	}
	if len(faults) > 0 {
		return nil, faults
	}
	return c, nil
}

// decode reads one JSON object; value is nil where there is none.
func decode(data []byte) (value any, faults intake.Faults) {
	fail := func(format string, args ...any) (any, intake.Faults) {
		return nil, intake.Faults{{Path: "$", Message: fmt.Sprintf(format, args...)}}
	}
	if len(bytes.TrimSpace(data)) == 0 {
		return fail("the file is empty: it must hold one JSON object")
	}
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.UseNumber()
	if err := decoder.Decode(&value); err != nil {
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			return fail("this is not JSON: %v at byte %d", err, syntax.Offset)
		}
		return fail("this is not JSON: %v", err)
	}
	if _, err := decoder.Token(); !errors.Is(err, io.EOF) {
		return fail("more follows after the JSON object: keep one case a file")
	}
	if _, isObject := value.(map[string]any); !isObject {
		return fail("a case is a JSON object {...}")
	}
	return numbers(value, "$", &faults), faults
}

// numbers turns the figures of a document into doubles and names those that are
// none.
func numbers(value any, path string, faults *intake.Faults) any {
	switch v := value.(type) {
	case map[string]any:
		for k, inner := range v {
			v[k] = numbers(inner, path+"."+k, faults)
		}
	case []any:
		for n, inner := range v {
			v[n] = numbers(inner, fmt.Sprintf("%s[%d]", path, n), faults)
		}
	case json.Number:
		f, err := v.Float64()
		if err != nil {
			*faults = append(*faults, intake.Fault{Path: path, Message: fmt.Sprintf("%s is out of range: no such figure can be kept", v)})
			return 0.0
		}
		return f
	}
	return value
}

// Case turns the document into what the core plans from. Faults name what has no
// meaning there; the case is usable for all the rest.
func (d CaseContent) Case() (*intake.Case, intake.Faults) {
	var faults intake.Faults
	c := &intake.Case{
		Patient: intake.Patient{
			Code: d.Patient.Code, AgeYears: d.Patient.AgeYears, PregnantOrNursing: d.Patient.PregnantOrNursing, KidneyDisease: d.Patient.KidneyDisease,
			MercurySensitivity: d.Patient.MercurySensitivity, CariesRisk: d.Patient.CariesRisk, Isolation: d.Patient.Isolation,
			Parafunction: d.Patient.Parafunction, VisibleZone: d.Patient.VisibleZone, CannotCope: d.Patient.CannotCope,
		},
		Enamel: d.Enamel, Pulp: d.Pulp, RootResorbed: d.RootResorbed, Overrides: d.Overrides,
	}
	t, err := notation.ParseISO(d.Tooth)
	if err != nil {
		return c, intake.Faults{{Path: "$.tooth", Message: err.Error()}} // nothing can be said of findings
	}
	c.Tooth = t
	for n, f := range d.Findings {
		if f.Stays && f.Kind != lesion.OldRestoration {
			faults = append(faults, intake.Fault{Path: fmt.Sprintf("$.findings[%d].stays", n), Message: "only an old filling can stay: leave it out here"})
		}
		c.Findings = append(c.Findings, lesion.Finding{
			Kind: f.Kind, Site: f.Site, Depth: f.Depth, Height: f.HeightMm, Width: f.WidthMm, Length: f.LengthMm,
			OverCervicalLine: f.OverNeckMm, Opens: f.Opens,
			Evidence: lesion.Evidence{Surface: f.Surface, Activity: f.Activity, Fault: f.faultOf(), Complaint: f.Complaint},
		})
	}
	for _, at := range d.OcclusalContacts {
		c.Contacts = append(c.Contacts, solid.Point2{X: at.MesialMm, Y: at.FacialMm})
	}
	for _, side := range d.MissingNeighbours {
		if side == SideDistal {
			c.Missing = append(c.Missing, notation.Distal)
		} else {
			c.Missing = append(c.Missing, notation.Mesial)
		}
	}
	if g := d.Gingiva; g != nil {
		c.Gingiva = &anatomy.Gingiva{Facial: g.FacialMm, Lingual: g.LingualMm, Papilla: g.PapillaMm}
	}
	if k := d.Choice; k != nil {
		c.Choice = intake.Choice{
			Material: k.Material, School: k.School, Layout: k.Form, Style: k.Finish, Lock: k.Lock, Upper: k.UpperEdge, Reason: k.Reason,
			Treatment: k.Treatment, Removal: k.CariesRemoval, KeepsCusps: k.KeepCusps, HidesMargin: k.HideMargin,
		}
	}
	return c, faults
}

// faultOf is an old filling's fault; documents before core 0.6 said of one with an open margin
// that it stays.
func (f Finding) faultOf() lesion.OldFault {
	if f.Fault == "" && f.Stays && f.Kind == lesion.OldRestoration {
		return lesion.OpenMargin
	}
	return f.Fault
}

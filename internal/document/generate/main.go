// Command generate writes the contract of the documents and of the API from one
// description, internal/document/contract.yaml, and the values that the core
// defines: internal/document/openapi.yaml, what the code generators read, and
// docs/schema. Run it through `make generate`.
package main

import (
	"encoding/json"
	"fmt"
	"log"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/goccy/go-yaml"

	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/chair"
	"obturon/core/fill"
	"obturon/core/instrument"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/procedure"
	"obturon/core/school"
	"obturon/internal/export/list"
)

// vocabulary lists the values that the core defines, by the schema's name, with
// the Go type that holds them.
var vocabulary = []struct {
	schema, goType, pkg, about string
	values                     []string
}{
	{"FindingKind", "lesion.Kind", "lesion", "kind of finding", words(lesion.Kinds)},
	{"Site", "lesion.Site", "lesion", "where on the tooth", words(lesion.Sites)},
	{"Depth", "lesion.Depth", "lesion", "how deep it has reached", words(lesion.Depths)},
	{"FindingField", "lesion.Field", "lesion", "what a finding may say", words(lesion.Fields)},
	{
		"CavityClass",
		"lesion.Class",
		"lesion",
		"I to V, rebuild for lost cusps, empty where nothing is cut",
		append([]string{""}, words(lesion.Classes)...),
	},
	{"Material", "school.Material", "school", "of the filling", words(school.Materials)},
	{"Severity", "school.Severity", "school", "of a miss", words(school.Severities)},
	{"Basis", "school.Basis", "school", "what a criterion's figures are measured in; empty for millimetres or degrees", words(school.Bases)},
	{"ToothGroup", "school.ToothGroup", "school", "which criteria of a school apply", words(school.ToothGroups)},
	{"CriterionForm", "school.Form", "school", "the part of the work", words(school.Forms)},
	{"CriterionId", "school.CriterionID", "school", "a criterion", criterionIDs()},
	{"Layout", "cavity.Layout", "cavity", "of a Class II; left out, the school decides", words(cavity.Layouts)},
	{
		"UpperEdge",
		"cavity.UpperEdge",
		"cavity",
		"of a Class V towards the biting side: past the lesion, or along the height of contour",
		words(cavity.UpperEdges),
	},
	{"FinishStyle", "cavity.Style", "cavity", "of the enamel margin of a Class III or IV", words(cavity.Styles)},
	{"Verdict", "assess.Verdict", "assess", "of a check", words(assess.Verdicts)},
	{"ContactState", "measure.ContactState", "measure", "what a cavity leaves of a contact", words(measure.ContactStates)},
	{"Speed", "instrument.Speed", "instrument", "of a step", words(instrument.Speeds)},
	{"StepKind", "procedure.Kind", "procedure", "what a step is, however it is worded", words(procedure.Kinds())},
	{"StepPhase", "procedure.Phase", "procedure", "of the work", words(procedure.Phases)},
	{"ChairEventKind", "chair.Kind", "chair", "what happened at the chair", words(chair.Kinds)},
	{"ProductKind", "fill.Kind", "fill", "what a product is for; of composite, how it is placed", words(fill.Kinds)},
	{"MatrixKind", "fill.MatrixKind", "fill", "what gives a filling the wall that it lacks", words(fill.MatrixKinds)},
	{
		"LayeringManner",
		"school.Manner",
		"school",
		"of laying composite: square to the light, or in wedges each against one of two opposite walls",
		words(school.Manners),
	},
	{
		"FrameHand",
		"notation.Hand",
		"notation",
		"of the tooth frame as the tooth stands in the mouth",
		words([]notation.Hand{notation.RightHand, notation.LeftHand}),
	},
	{"InstrumentId", "instrument.ID", "instrument", "an instrument of the kit", instrumentIDs()},
	{"Risk", "intake.Risk", "intake", "of caries", words(intake.Risks)},
	{"Isolation", "intake.Isolation", "intake", "how well the field can be kept dry", words(intake.Isolations)},
	{"Enamel", "intake.Enamel", "intake", "how much light it lets through", words(intake.Enamels)},
	{"Treatment", "intake.Treatment", "intake", "a way of caring for the tooth", words(intake.Treatments)},
	{"PulpState", "intake.Pulp", "intake", "as history and tests have it", words(intake.Pulps)},
	{"LesionSurface", "lesion.Surface", "lesion", "over a carious lesion", words(lesion.Surfaces)},
	{"LesionActivity", "lesion.Activity", "lesion", "of a carious lesion", words(lesion.Activities)},
	{"OldFillingFault", "lesion.OldFault", "lesion", "what is wrong with an old filling; left out, it is sound", words(lesion.OldFaults)},
	{"CrackComplaint", "lesion.Complaint", "lesion", "about a crack", words(lesion.Complaints)},
	{"CariesRemoval", "cavity.CariesRemoval", "cavity", "how caries near the pulp is removed", words(cavity.CariesRemovals)},
}

func words[T ~string](values []T) []string {
	list := make([]string, len(values))
	for n, v := range values {
		list[n] = string(v)
	}
	return list
}

func criterionIDs() []string {
	ids := make([]string, len(school.Catalogue))
	for n, e := range school.Catalogue {
		ids[n] = string(e.ID)
	}
	return ids
}

func instrumentIDs() []string {
	ids := make([]string, len(instrument.All))
	for n, i := range instrument.All {
		ids[n] = string(i.ID)
	}
	return ids
}

func fileNames() string {
	names := make([]string, len(list.Files))
	for n, f := range list.Files {
		names[n] = f.Name
	}
	return strings.Join(names, ", ")
}

// menu writes the files that the sheet offers, as the front end reads them.
func menu() string {
	var out strings.Builder
	out.WriteString(
		"// Written by internal/document/generate from internal/export/list. Do not edit.\n\n/** The files that the sheet offers, with what its menu calls them. */\nexport const exportedFiles: [string, string][] = [\n",
	)
	for _, f := range list.Files {
		if f.Menu {
			fmt.Fprintf(&out, "  [%q, %q],\n", f.Name, f.Title)
		}
	}
	out.WriteString("];\n")
	return out.String()
}

type object = map[string]any

func main() {
	source, err := os.ReadFile("internal/document/contract.yaml")
	check(err)
	text := strings.NewReplacer(
		"FILES", fileNames(),
		"SCHOOLNAMES", strings.Join(school.IDs, ", "),
		"SCHOOLS", "^("+strings.Join(school.IDs, "|")+"|house-[a-z0-9]+(-[a-z0-9]+)*([.][1-9][0-9]{0,5})?)$",
	).Replace(string(source))
	contract := parse(text)
	schemas := child(child(contract, "components"), "schemas")
	for _, v := range vocabulary {
		schemas[v.schema] = object{
			"type":             "string",
			"enum":             v.values,
			"description":      v.about,
			"x-go-type":        v.goType,
			"x-go-type-import": object{"path": "obturon/core/" + v.pkg},
		}
	}
	schemas["Overrides"] = overrides()
	doubles(contract)
	const note = "# Written by internal/document/generate from contract.yaml and the core. Do not edit.\n"
	write("internal/document/openapi.yaml", note+render(contract))
	write("docs/schema/case.schema.json", standalone(schemas, "CaseContent", "obturon.case/1"))
	write("docs/schema/plan.schema.json", standalone(schemas, "Plan", "obturon.plan/1"))
	write("docs/schema/rehearsal.schema.json", standalone(schemas, "Rehearsal", "obturon.rehearsal/1"))
	write("docs/schema/sequence.schema.json", standalone(schemas, "ProvenSequence", "obturon.sequence/1"))
	write("docs/schema/kit.schema.json", standalone(schemas, "Kit", "obturon.kit/1"))
	write("docs/schema/school.schema.json", standalone(schemas, "SchoolContent", "school"))
	write("web/src/api/exportedFiles.ts", menu())
	// The server's code takes its types from the documents' package.
	server := parse(render(contract))
	own := child(child(server, "components"), "schemas")
	for name := range own {
		goType := object{"x-go-type": "document." + name, "x-go-type-import": object{"path": "obturon/internal/document"}}
		schema := own[name].(object)
		for k, v := range goType {
			schema[k] = v
		}
	}
	check(os.MkdirAll(".data/generate", 0o755))
	write(".data/generate/server.yaml", render(server))
}

func parse(text string) object {
	var o object
	check(yaml.Unmarshal([]byte(text), &o))
	return o
}

func render(o object) string {
	data, err := yaml.MarshalWithOptions(o, yaml.Indent(2), yaml.IndentSequence(true))
	check(err)
	return string(data)
}

func child(o object, key string) object { return o[key].(object) }

// overrides describes every dimension that can be set by hand.
func overrides() object {
	properties := object{}
	for _, l := range intake.Dimensions() {
		properties[l.ID] = object{"type": "number", "description": strings.ToLower(l.Label) + ", " + l.Unit, "minimum": l.Min, "maximum": l.Max}
	}
	return object{
		"type": "object", "description": "dimensions set by hand, by their ids; give millimetres or degrees", "properties": properties, "additionalProperties": false,
		"x-go-type": "map[string]float64",
	}
}

// doubles makes every number a double.
func doubles(value any) {
	switch v := value.(type) {
	case object:
		if v["type"] == "number" && v["format"] == nil {
			v["format"] = "double"
		}
		for _, inner := range v {
			doubles(inner)
		}
	case []any:
		for _, inner := range v {
			doubles(inner)
		}
	}
}

// standalone is a schema with all that it refers to put in place, as JSON Schema.
func standalone(schemas object, name, id string) string {
	whole := resolve(schemas, schemas[name]).(object)
	whole["$schema"], whole["$id"] = "https://json-schema.org/draft/2020-12/schema", id
	data, err := json.MarshalIndent(whole, "", "  ")
	check(err)
	return string(data) + "\n"
}

func resolve(schemas object, value any) any {
	switch v := value.(type) {
	case object:
		if ref, is := v["$ref"].(string); is {
			return resolve(schemas, schemas[ref[strings.LastIndexByte(ref, '/')+1:]])
		}
		out := object{}
		for k, inner := range v {
			if strings.HasPrefix(k, "x-") || k == "nullable" || k == "format" {
				continue
			}
			out[k] = resolve(schemas, inner)
		}
		if v["nullable"] == true {
			out["type"] = []any{v["type"], "null"}
		}
		return out
	case []any:
		out := make([]any, len(v))
		for n, inner := range v {
			out[n] = resolve(schemas, inner)
		}
		return out
	case []string:
		return slices.Clone(v)
	default:
		return v
	}
}

func write(name, text string) {
	check(os.MkdirAll(filepath.Dir(name), 0o755))
	check(os.WriteFile(name, []byte(text), 0o644))
	fmt.Println(name)
}

func check(err error) {
	if err != nil {
		log.Fatal(err)
	}
}

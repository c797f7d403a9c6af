package document

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"

	"obturon/core/intake"
)

// SchemaFaults says in the dentist's words what a document breaks of its schema:
// each fault at its path with what to do about it.
func SchemaFaults(err error) intake.Faults {
	if err == nil {
		return nil
	}
	var many openapi3.MultiError
	if errors.As(err, &many) {
		var faults intake.Faults
		for _, e := range many {
			faults = append(faults, SchemaFaults(e)...)
		}
		// The library walks objects in no order.
		slices.SortStableFunc(faults, func(a, b intake.Fault) int { return cmp.Compare(a.Path, b.Path) })
		return faults
	}
	var broken *openapi3.SchemaError
	if !errors.As(err, &broken) {
		return intake.Faults{{Path: "$", Message: err.Error()}}
	}
	if inner := broken.Unwrap(); inner != nil {
		if faults := SchemaFaults(inner); len(faults) > 0 && faults[0].Path != "$" {
			return faults
		}
	}
	pointer := broken.JSONPointer()
	if broken.SchemaField == "properties" { // the error stands at the parent
		if name := quoted(broken.Reason); name != "" {
			pointer = append(pointer, name)
		}
	}
	return intake.Faults{{Path: jsonPath(pointer), Message: says(broken)}}
}

// quoted is the first name in quotes of a text, "" where there is none.
func quoted(text string) string {
	_, after, _ := strings.Cut(text, `"`)
	name, _, found := strings.Cut(after, `"`)
	if !found {
		return ""
	}
	return name
}

// jsonPath writes a pointer as $.findings[0].site.
func jsonPath(pointer []string) string {
	path := "$"
	for _, step := range pointer {
		if strings.Trim(step, "0123456789") == "" {
			path += "[" + step + "]"
		} else {
			path += "." + step
		}
	}
	return path
}

func says(e *openapi3.SchemaError) string {
	schema := e.Schema
	value, err := json.Marshal(e.Value)
	if err != nil {
		value = []byte("this")
	}
	switch e.SchemaField {
	case "required":
		return "is missing" + remedy(about(e))
	case "type":
		return "must be " + typeWord(schema) + remedy(schema)
	case "enum":
		return fmt.Sprintf("%s is unknown: use one of %s", value, choices(schema))
	case "properties":
		return "is no field here: use " + fields(schema)
	case "pattern":
		return fmt.Sprintf("%s does not fit%s", value, remedy(schema))
	case "minimum", "maximum":
		return fmt.Sprintf("%s is out of range%s, from %s", value, remedy(schema), limits(schema))
	case "minItems":
		return "is empty" + remedy(schema)
	case "maxItems":
		return fmt.Sprintf("holds more than %d: leave some out", *schema.MaxItems)
	case "maxLength":
		return fmt.Sprintf("is longer than %d characters: shorten it", *schema.MaxLength)
	default:
		return e.Reason
	}
}

// about is the schema of what is missing, where the error names its parent's.
func about(e *openapi3.SchemaError) *openapi3.Schema {
	pointer := e.JSONPointer()
	if len(pointer) > 0 {
		if p := e.Schema.Properties[pointer[len(pointer)-1]]; p != nil {
			return p.Value
		}
	}
	return e.Schema
}

func remedy(s *openapi3.Schema) string {
	if s.Description == "" {
		return ""
	}
	return ": " + s.Description
}

func typeWord(s *openapi3.Schema) string {
	switch {
	case s.Type.Is("number"), s.Type.Is("integer"):
		return "a number"
	case s.Type.Is("boolean"):
		return "true or false"
	case s.Type.Is("array"):
		return "a list [...]"
	case s.Type.Is("object"):
		return "an object {...}"
	default:
		return "text"
	}
}

func choices(s *openapi3.Schema) string {
	var words []string
	for _, v := range s.Enum {
		if text := fmt.Sprint(v); text != "" {
			words = append(words, text)
		}
	}
	return strings.Join(words, ", ")
}

func fields(s *openapi3.Schema) string {
	const most = 20
	var names []string
	for name := range s.Properties {
		names = append(names, name)
	}
	slices.Sort(names)
	if len(names) > most {
		return "one of those that docs/schema lists"
	}
	return strings.Join(names, ", ")
}

func limits(s *openapi3.Schema) string {
	switch {
	case s.Min != nil && s.Max != nil:
		return fmt.Sprintf("%g to %g", *s.Min, *s.Max)
	case s.Min != nil:
		return fmt.Sprintf("%g on", *s.Min)
	default:
		return fmt.Sprintf("nothing to %g", *s.Max)
	}
}

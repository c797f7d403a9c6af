package plan

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"sort"
	"strings"
)

// Fault is one thing wrong with a document, at its JSON path.
type Fault struct {
	Path    string `json:"path"`
	Message string `json:"message"`
}

// Faults is every fault of a document; it is an error when not empty.
type Faults []Fault

// Error lists one fault a line: "path: message".
func (f Faults) Error() string {
	lines := make([]string, len(f))
	for n, fault := range f {
		lines[n] = fault.Path + ": " + fault.Message
	}
	return strings.Join(lines, "\n")
}

// object walks a JSON object and collects faults instead of stopping.
type object struct {
	path   string
	fields map[string]any
	seen   map[string]bool
	faults *Faults
}

// readObject decodes a document's top-level object.
func readObject(data []byte, faults *Faults) (object, bool) {
	fail := func(message string) (object, bool) {
		*faults = append(*faults, Fault{"$", message})
		return object{}, false
	}
	if len(bytes.TrimSpace(data)) == 0 {
		return fail("the file is empty: it must hold one JSON object")
	}
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.UseNumber()
	var value any
	if err := decoder.Decode(&value); err != nil {
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			return fail(fmt.Sprintf("this is not JSON: %v at byte %d", err, syntax.Offset))
		}
		return fail(fmt.Sprintf("this is not JSON: %v", err))
	}
	if _, err := decoder.Token(); !errors.Is(err, io.EOF) {
		return fail("more follows after the JSON object: keep one case a file")
	}
	fields, ok := value.(map[string]any)
	if !ok {
		return fail("a case is a JSON object {...}")
	}
	return object{"$", fields, map[string]bool{}, faults}, true
}

func (o object) fault(field, format string, args ...any) {
	*o.faults = append(*o.faults, Fault{o.path + "." + field, fmt.Sprintf(format, args...)})
}

// take returns a field's value and marks it as known.
func (o object) take(field string) (any, bool) {
	o.seen[field] = true
	v, ok := o.fields[field]
	return v, ok && v != nil
}

func (o object) text(field string, required bool, choices ...string) string {
	v, ok := o.take(field)
	if !ok {
		if required {
			o.fault(field, "is missing: %s", oneOf(choices))
		}
		return ""
	}
	s, isText := v.(string)
	switch {
	case !isText:
		o.fault(field, "must be text: %s", oneOf(choices))
		return ""
	case len(choices) > 0 && !slices.Contains(choices, s):
		o.fault(field, "%q is unknown: %s", s, oneOf(choices))
	}
	return s
}

func (o object) number(field string, required bool, remedy string) (float64, bool) {
	v, ok := o.take(field)
	if !ok {
		if required {
			o.fault(field, "is missing: %s", remedy)
		}
		return 0, false
	}
	n, isNumber := v.(json.Number)
	if !isNumber {
		o.fault(field, "must be a number: %s", remedy)
		return 0, false
	}
	f, err := n.Float64()
	if err != nil || math.IsInf(f, 0) || math.IsNaN(f) {
		o.fault(field, "%s is out of range: %s", n, remedy)
		return 0, false
	}
	return f, true
}

func (o object) flag(field string) bool {
	v, ok := o.take(field)
	if !ok {
		return false
	}
	b, isBool := v.(bool)
	if !isBool {
		o.fault(field, "must be true or false")
	}
	return b
}

func (o object) object(field string, required bool) (object, bool) {
	v, ok := o.take(field)
	if !ok {
		if required {
			o.fault(field, "is missing: it holds an object {...}")
		}
		return object{}, false
	}
	fields, isObject := v.(map[string]any)
	if !isObject {
		o.fault(field, "must be an object {...}")
		return object{}, false
	}
	return object{o.path + "." + field, fields, map[string]bool{}, o.faults}, true
}

func (o object) list(field string) []object {
	v, ok := o.take(field)
	if !ok {
		o.fault(field, "is missing: list what was found, such as [{\"kind\":\"fissure_caries\",\"site\":\"central\",\"depth\":\"outer_dentin\"}]")
		return nil
	}
	items, isList := v.([]any)
	if !isList {
		o.fault(field, "must be a list [...]")
		return nil
	}
	if len(items) == 0 {
		o.fault(field, "is empty: a plan needs at least one finding")
	}
	return o.objects(field, items)
}

// optionalList is list for a field that may be left out or empty.
func (o object) optionalList(field string) []object {
	v, ok := o.take(field)
	if !ok {
		return nil
	}
	items, isList := v.([]any)
	if !isList {
		o.fault(field, "must be a list [...]")
		return nil
	}
	return o.objects(field, items)
}

func (o object) objects(field string, items []any) []object {
	var objects []object
	for n, item := range items {
		path := fmt.Sprintf("%s.%s[%d]", o.path, field, n)
		fields, isObject := item.(map[string]any)
		if !isObject {
			*o.faults = append(*o.faults, Fault{path, "must be an object {...}"})
			continue
		}
		objects = append(objects, object{path, fields, map[string]bool{}, o.faults})
	}
	return objects
}

// texts reads an optional list of words.
func (o object) texts(field string, choices ...string) []string {
	v, ok := o.take(field)
	if !ok {
		return nil
	}
	items, isList := v.([]any)
	if !isList {
		o.fault(field, "must be a list [...]: %s", oneOf(choices))
		return nil
	}
	var words []string
	for n, item := range items {
		word, isText := item.(string)
		switch {
		case !isText:
			*o.faults = append(*o.faults, Fault{fmt.Sprintf("%s.%s[%d]", o.path, field, n), "must be text: " + oneOf(choices)})
		case !slices.Contains(choices, word):
			*o.faults = append(*o.faults, Fault{fmt.Sprintf("%s.%s[%d]", o.path, field, n), fmt.Sprintf("%q is unknown: %s", word, oneOf(choices))})
		default:
			words = append(words, word)
		}
	}
	return words
}

// rest refuses the fields nobody asked for.
func (o object) rest() {
	var known, unknown []string
	for f := range o.seen {
		known = append(known, f)
	}
	for f := range o.fields {
		if !o.seen[f] {
			unknown = append(unknown, f)
		}
	}
	sort.Strings(known)
	sort.Strings(unknown)
	for _, f := range unknown {
		o.fault(f, "is no field here: use %s", strings.Join(known, ", "))
	}
}

func oneOf(choices []string) string {
	if len(choices) == 0 {
		return "write it as text"
	}
	return "use " + strings.Join(choices, ", ")
}

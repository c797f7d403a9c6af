// Package school holds the criteria a preparation is judged by. A school is
// data, not code: each criterion has a target, an acceptable range, a
// severity and a reason. Four schools ship, as the columns of criteria.json;
// house rules are read and validated by the same code.
package school

import (
	"bytes"
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"obturon/core/instrument"
	"obturon/core/notation"
)

// School is a named set of criteria.
type School struct {
	ID       string      `json:"id"`
	Version  string      `json:"version"`
	Name     string      `json:"name"`
	Title    string      `json:"title"`
	Summary  string      `json:"summary"`
	Criteria []Criterion `json:"criteria"`
	// Instruments are what it teaches to open and to extend with, the first first.
	Instruments []instrument.ID `json:"instruments,omitempty"`
	// Layering is how composite is laid, horizontally where it says nothing.
	Layering *Layering `json:"layering,omitempty"`
}

// Layering is how a school lays composite, and why.
type Layering struct {
	Manner Manner `json:"manner"`
	Why    string `json:"why"`
}

// Manner of laying composite.
type Manner string

// Manners lists them.
var Manners = []Manner{Horizontal, Oblique}

// The manners.
const (
	Horizontal Manner = "horizontal" // square to the light
	Oblique    Manner = "oblique"    // in wedges, each against one of two opposite walls
)

// Preferring are some instruments in the order in which the school takes them up: its own
// first.
func (s *School) Preferring(ids []instrument.ID) []instrument.ID {
	if s == nil {
		return ids
	}
	rank := func(id instrument.ID) int {
		if n := slices.Index(s.Instruments, id); n >= 0 {
			return n
		}
		return len(s.Instruments)
	}
	own := slices.Clone(ids)
	slices.SortStableFunc(own, func(a, b instrument.ID) int { return cmp.Compare(rank(a), rank(b)) })
	return own
}

// For picks the criterion that applies to a tooth and material; ok is false
// where the school is silent.
func (s *School) For(id CriterionID, t notation.Tooth, material Material) (c Criterion, ok bool) {
	for _, c := range s.Criteria {
		if c.ID == id && c.HoldsFor(t, material) {
			return c, true
		}
	}
	return Criterion{}, false
}

var embedded = func() map[string]*School {
	all := map[string]*School{}
	for _, s := range shipped.Schools {
		all[s.ID] = assemble(s)
	}
	return all
}()

// Shipped reports a criterion that asks what one of the shipped schools does: a house has not
// changed it.
func Shipped(c Criterion) bool {
	for _, s := range embedded {
		for _, own := range s.Criteria {
			if own.ID == c.ID && own.Target == c.Target && own.Limits == c.Limits && own.Aim == c.Aim && own.Severity == c.Severity {
				return true
			}
		}
	}
	return false
}

// Get returns a shipped school; the error names the choices.
func Get(id string) (*School, error) {
	if s, ok := embedded[id]; ok {
		return s, nil
	}
	return nil, fmt.Errorf("school %q is unknown: use one of %s", id, strings.Join(IDs, ", "))
}

// Read decodes and validates a school. The error joins every fault found.
func Read(data []byte) (*School, error) {
	s, err := Decode(data)
	if err != nil {
		return nil, err
	}
	if err := s.Validate(); err != nil {
		return nil, err
	}
	return s, nil
}

// Decode reads a school whose figures nobody plans by until Read has found them in
// order. It fails for what is no school's document.
func Decode(data []byte) (*School, error) {
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.DisallowUnknownFields()
	s := &School{}
	if err := decoder.Decode(s); err != nil {
		return nil, fmt.Errorf("reading the school: %w", err)
	}
	if _, err := decoder.Token(); !errors.Is(err, io.EOF) {
		return nil, errors.New("reading the school: more than one document")
	}
	return s, nil
}

// Validate checks a school that was decoded. The error joins every fault found.
func (s *School) Validate() error {
	var faults []error
	for _, f := range []struct{ name, value string }{{"id", s.ID}, {"version", s.Version}, {"name", s.Name}} {
		if strings.TrimSpace(f.value) == "" {
			faults = append(faults, fmt.Errorf("%s is missing", f.name))
		}
	}
	for n, id := range s.Instruments {
		if i, ok := instrument.Find(id); !ok || i.Head == nil {
			faults = append(faults, fmt.Errorf("instruments[%d]: %q is no bur or diamond of the list", n, id))
		}
	}
	if l := s.Layering; l != nil {
		if !slices.Contains(Manners, l.Manner) {
			faults = append(faults, fmt.Errorf("layering.manner: %q is none: use horizontal or oblique", l.Manner))
		}
		if strings.TrimSpace(l.Why) == "" {
			faults = append(faults, errors.New("layering.why is missing: say why composite is laid so"))
		}
	}
	for n, c := range s.Criteria {
		for _, problem := range c.problems() {
			faults = append(faults, fmt.Errorf("criteria[%d] %s: %s", n, c.ID, problem))
		}
	}
	return errors.Join(faults...)
}

// problems lists what is wrong with a criterion by itself.
func (c Criterion) problems() (faults []string) {
	add := func(format string, args ...any) { faults = append(faults, fmt.Sprintf(format, args...)) }
	entry, known := Find(c.ID)
	if !known {
		return []string{"this criterion is unknown"}
	}
	if strings.TrimSpace(c.Why) == "" {
		add("why is missing")
	}
	for _, g := range c.When.Tooth {
		if !slices.Contains(ToothGroups, g) {
			add("when.tooth %q is unknown", g)
		}
	}
	for _, m := range c.When.Material {
		if !slices.Contains(Materials, m) {
			add("when.material %q is unknown", m)
		}
	}
	if !c.Required() {
		return faults
	}
	fraction := c.Basis != Absolute && c.Unit == "ratio"
	if c.Unit != entry.Unit && !fraction {
		add("unit is %q, want %q", c.Unit, entry.Unit)
	}
	switch {
	case !slices.Contains(Bases, c.Basis):
		add("basis %q is unknown", c.Basis)
	case c.Basis != Absolute && entry.Unit != "mm":
		add("only lengths can be fractions: leave basis out")
	case c.Basis == GrooveFraction && c.ID != OutlineGrooveExtension:
		add("only groove extensions are fractions of a groove: leave basis out, or use %s", IntercuspalFraction)
	}
	if !slices.Contains(Severities, c.Severity) {
		add("severity %q is unknown: use critical, major or minor", c.Severity)
	}
	if c.Target.Min > c.Target.Max || c.Limits.Min > c.Limits.Max {
		add("a range's min is above its max")
	}
	if c.Target.Min < c.Limits.Min || c.Target.Max > c.Limits.Max {
		add("the target reaches outside the limits")
	}
	if !c.Target.Contains(c.Aim) {
		add("the aim %v lies outside the target", c.Aim)
	}
	return append(faults, c.unbuildable(entry)...)
}

// unbuildable names the figures that no preparation can have.
func (c Criterion) unbuildable(e Entry) (faults []string) {
	bounds, unit := e.Bounds, map[string]string{"mm": " mm", "deg": " degrees", "mm3": " mm³"}[e.Unit]
	if c.Basis != Absolute {
		bounds, unit = Range{0, 1}, " of the whole"
	}
	for _, figure := range []struct {
		name  string
		value float64
	}{
		{"target from", c.Target.Min}, {"target to", c.Target.Max}, {"limits from", c.Limits.Min}, {"limits to", c.Limits.Max}, {"aim", c.Aim},
	} {
		if !math.IsInf(figure.value, 0) && !bounds.Contains(figure.value) {
			faults = append(faults, fmt.Sprintf("%s %v cannot be built: use %v%s", figure.name, figure.value, bounds, unit))
		}
	}
	return faults
}

// Silent lists the criteria of another school that this one says nothing of; a
// criterion that is not asked for is said so with "applies": false.
func (s *School) Silent(other *School) []CriterionID {
	var missing []CriterionID
	for _, c := range other.Criteria {
		if !s.speaksOf(c) && !slices.Contains(missing, c.ID) {
			missing = append(missing, c.ID)
		}
	}
	return missing
}

func (s *School) speaksOf(c Criterion) bool {
	return slices.ContainsFunc(s.Criteria, func(own Criterion) bool { return own.ID == c.ID && own.When.equal(c.When) })
}

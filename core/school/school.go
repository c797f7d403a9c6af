// Package school holds the criteria a preparation is judged by. A school is
// data, not code: each criterion has a target, an acceptable range, a
// severity and a reason. Four schools are embedded; house rules are read and
// validated by the same code.
package school

import (
	"bytes"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"

	"obturon/core/notation"
)

// Range is a closed interval of millimetres, degrees, mm³ or a ratio.
// The zero Range accepts only 0.
type Range struct {
	Min float64 `json:"min"`
	Max float64 `json:"max"`
}

// Contains reports whether v lies in the range, ends included.
func (r Range) Contains(v float64) bool { return v >= r.Min && v <= r.Max }

// Scale multiplies both ends.
func (r Range) Scale(f float64) Range { return Range{r.Min * f, r.Max * f} }

// Severity of missing a criterion.
type Severity string

// A critical miss fails the preparation.
const (
	Critical Severity = "critical"
	Major    Severity = "major"
	Minor    Severity = "minor"
)

// Basis says what a criterion's figures are measured in.
type Basis string

// Fractions turn into millimetres on the tooth at hand.
const (
	Absolute            Basis = ""
	IntercuspalFraction Basis = "intercuspal_fraction" // of the distance between buccal and lingual tips
	GrooveFraction      Basis = "groove_fraction"      // of the groove's length
)

// Criterion is one rule of a school.
type Criterion struct {
	ID       string    `json:"id"`
	Unit     string    `json:"unit,omitempty"` // mm, deg, mm3 or ratio
	Basis    Basis     `json:"basis,omitempty"`
	When     Condition `json:"when,omitzero"`
	Applies  *bool     `json:"applies,omitempty"` // false: the school does not ask for it
	Target   Range     `json:"target"`
	Limits   Range     `json:"limits"`
	Aim      float64   `json:"aim"` // what a proposal tries for
	Severity Severity  `json:"severity,omitempty"`
	Why      string    `json:"why"`
}

// Required reports whether the school asks for the criterion at all.
func (c Criterion) Required() bool { return c.Applies == nil || *c.Applies }

// Condition narrows a criterion to some teeth or materials; empty means all.
type Condition struct {
	Tooth    []string `json:"tooth,omitempty"`    // premolar, molar, primary, anterior
	Material []string `json:"material,omitempty"` // amalgam, composite
}

func (c Condition) holds(group, material string) bool {
	return (len(c.Tooth) == 0 || slices.Contains(c.Tooth, group)) &&
		(len(c.Material) == 0 || slices.Contains(c.Material, material))
}

// School is a named set of criteria.
type School struct {
	ID       string      `json:"id"`
	Version  string      `json:"version"`
	Name     string      `json:"name"`
	Title    string      `json:"title"`
	Summary  string      `json:"summary"`
	Criteria []Criterion `json:"criteria"`
}

// For picks the criterion that applies to a tooth and material; ok is false
// where the school is silent.
func (s *School) For(id string, t notation.Tooth, material string) (c Criterion, ok bool) {
	for _, c := range s.Criteria {
		if c.ID == id && c.When.holds(ToothGroup(t), material) {
			return c, true
		}
	}
	return Criterion{}, false
}

// ToothGroup is the group a criterion's condition names: primary, anterior,
// molar or premolar.
func ToothGroup(t notation.Tooth) string {
	switch {
	case t.Primary():
		return "primary"
	case t.Anterior():
		return "anterior"
	case t.Molar():
		return "molar"
	default:
		return "premolar"
	}
}

//go:embed profiles/*.json
var profiles embed.FS

// IDs of the embedded schools in the order they are offered.
var IDs = []string{"board", "traditional", "adhesive", "primary"}

var embedded = func() map[string]*School {
	all := map[string]*School{}
	for _, id := range IDs {
		data, err := profiles.ReadFile(path.Join("profiles", id+".json"))
		if err != nil {
			panic(err)
		}
		s, err := Read(data)
		if err != nil {
			panic(fmt.Sprintf("school %s: %v", id, err))
		}
		all[s.ID] = s
	}
	return all
}()

// Get returns an embedded school.
func Get(id string) (*School, error) {
	if s, ok := embedded[id]; ok {
		return s, nil
	}
	return nil, fmt.Errorf("school %q is unknown: use one of %s", id, strings.Join(IDs, ", "))
}

// Read decodes and validates a school. The error joins every fault found.
func Read(data []byte) (*School, error) {
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.DisallowUnknownFields()
	s := &School{}
	if err := decoder.Decode(s); err != nil {
		return nil, fmt.Errorf("reading the school: %w", err)
	}
	if _, err := decoder.Token(); !errors.Is(err, io.EOF) {
		return nil, errors.New("reading the school: more than one document")
	}
	if faults := s.validate(); len(faults) > 0 {
		return nil, errors.Join(faults...)
	}
	return s, nil
}

func (s *School) validate() (faults []error) {
	add := func(format string, args ...any) { faults = append(faults, fmt.Errorf(format, args...)) }
	for _, f := range []struct{ name, value string }{{"id", s.ID}, {"version", s.Version}, {"name", s.Name}} {
		if strings.TrimSpace(f.value) == "" {
			add("%s is missing", f.name)
		}
	}
	for n, c := range s.Criteria {
		at := fmt.Sprintf("criteria[%d] %s", n, c.ID)
		if _, known := Units[c.ID]; !known {
			add("%s: this criterion is unknown", at)
			continue
		}
		if strings.TrimSpace(c.Why) == "" {
			add("%s: why is missing", at)
		}
		for _, g := range c.When.Tooth {
			if !slices.Contains([]string{"premolar", "molar", "primary", "anterior"}, g) {
				add("%s: when.tooth %q is unknown", at, g)
			}
		}
		for _, m := range c.When.Material {
			if m != "amalgam" && m != "composite" {
				add("%s: when.material %q is unknown", at, m)
			}
		}
		if !c.Required() {
			continue
		}
		fraction := c.Basis != Absolute && (c.Unit == "mm" || c.Unit == "ratio")
		if c.Unit != Units[c.ID] && !fraction {
			add("%s: unit is %q, want %q", at, c.Unit, Units[c.ID])
		}
		if !slices.Contains([]Basis{Absolute, IntercuspalFraction, GrooveFraction}, c.Basis) {
			add("%s: basis %q is unknown", at, c.Basis)
		}
		if !slices.Contains([]Severity{Critical, Major, Minor}, c.Severity) {
			add("%s: severity %q is unknown: use critical, major or minor", at, c.Severity)
		}
		if c.Target.Min > c.Target.Max || c.Limits.Min > c.Limits.Max {
			add("%s: a range's min is above its max", at)
		}
		if c.Target.Min < c.Limits.Min || c.Target.Max > c.Limits.Max {
			add("%s: the target reaches outside the limits", at)
		}
		if !c.Target.Contains(c.Aim) {
			add("%s: the aim %v lies outside the target", at, c.Aim)
		}
	}
	return faults
}

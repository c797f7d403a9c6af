package school

import (
	"slices"

	"obturon/core/notation"
)

// CriterionID names a criterion; ids.gen.go lists them all.
type CriterionID string

// Material of a filling.
type Material string

// The materials that a case may choose.
const (
	Amalgam   Material = "amalgam"
	Composite Material = "composite"
)

// Materials lists them.
var Materials = []Material{Amalgam, Composite}

// Bonds reports a material that bonds to the tooth.
func (m Material) Bonds() bool { return m == Composite }

// Severity of missing a criterion.
type Severity string

// A critical miss fails the preparation.
const (
	Critical Severity = "critical"
	Major    Severity = "major"
	Minor    Severity = "minor"
)

// Severities lists them, the worst first.
var Severities = []Severity{Critical, Major, Minor}

// Basis says what a criterion's figures are measured in.
type Basis string

// Fractions turn into millimetres on the tooth at hand.
const (
	Absolute            Basis = ""
	IntercuspalFraction Basis = "intercuspal_fraction" // of the distance between buccal and lingual tips
	GrooveFraction      Basis = "groove_fraction"      // of the groove's length: of groove extensions only
)

// Bases lists them.
var Bases = []Basis{Absolute, IntercuspalFraction, GrooveFraction}

// Criterion is one rule of a school.
type Criterion struct {
	ID       CriterionID `json:"id"`
	Unit     string      `json:"unit,omitempty"` // mm, deg, mm3 or ratio
	Basis    Basis       `json:"basis,omitempty"`
	When     Condition   `json:"when,omitzero"`
	Applies  *bool       `json:"applies,omitempty"` // false: the school does not ask for it
	Target   Range       `json:"target"`
	Limits   Range       `json:"limits"`
	Aim      float64     `json:"aim"` // what a proposal tries for
	Severity Severity    `json:"severity,omitempty"`
	Why      string      `json:"why"`
}

// Required reports whether the school asks for the criterion at all.
func (c Criterion) Required() bool { return c.Applies == nil || *c.Applies }

// On turns fractions of the distance between the cusps, so many mm on a tooth,
// into millimetres. Fractions of a groove stay: each groove has its own length.
func (c Criterion) On(intercuspal float64) Criterion {
	if c.Basis != IntercuspalFraction {
		return c
	}
	return c.scaled(intercuspal)
}

// OfGroove turns fractions of a groove's length (mm) into millimetres.
func (c Criterion) OfGroove(length float64) Criterion {
	if c.Basis != GrooveFraction {
		return c
	}
	return c.scaled(length)
}

func (c Criterion) scaled(mm float64) Criterion {
	c.Target, c.Limits, c.Aim, c.Basis = c.Target.Scale(mm), c.Limits.Scale(mm), c.Aim*mm, Absolute
	return c
}

// ToothGroup is what a criterion's condition calls a tooth.
type ToothGroup string

// The groups of teeth.
const (
	Premolar ToothGroup = "premolar"
	Molar    ToothGroup = "molar"
	Primary  ToothGroup = "primary"
	Anterior ToothGroup = "anterior"
)

// ToothGroups lists them.
var ToothGroups = []ToothGroup{Premolar, Molar, Primary, Anterior}

// GroupOf is the group of a tooth.
func GroupOf(t notation.Tooth) ToothGroup {
	switch {
	case t.Primary():
		return Primary
	case t.Anterior():
		return Anterior
	case t.Molar():
		return Molar
	default:
		return Premolar
	}
}

// Condition narrows a criterion to some teeth or materials; empty means all.
type Condition struct {
	Tooth    []ToothGroup `json:"tooth,omitempty"`
	Material []Material   `json:"material,omitempty"`
}

// HoldsFor reports a criterion that holds for a tooth and a material.
func (c Criterion) HoldsFor(t notation.Tooth, material Material) bool {
	return c.When.holds(GroupOf(t), material)
}

func (c Condition) equal(o Condition) bool {
	return slices.Equal(c.Tooth, o.Tooth) && slices.Equal(c.Material, o.Material)
}

func (c Condition) holds(group ToothGroup, material Material) bool {
	return (len(c.Tooth) == 0 || slices.Contains(c.Tooth, group)) &&
		(len(c.Material) == 0 || slices.Contains(c.Material, material))
}

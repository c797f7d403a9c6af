package cavity

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"obturon/core/school"
)

// Dimension is one adjustable figure of a design.
type Dimension struct {
	ID       string
	Label    string
	Unit     string  // mm or deg
	Value    float64 // in force
	Proposed float64 // what the school and the tooth suggest
	Min, Max float64 // limits of geometry, not of the school
}

// Overridden reports a value set by hand.
func (d Dimension) Overridden() bool { return d.Value != d.Proposed }

// Step is by how much (in its unit) a dentist can set and read a dimension.
func (d Dimension) Step() float64 {
	if d.Unit == "deg" {
		return 1
	}
	return 0.05
}

// Stepped is the value moved by at least so much, in whole steps, as far as it can be built.
func (d Dimension) Stepped(by float64) float64 {
	steps := math.Ceil(math.Abs(by)/d.Step() - 1e-9)
	to := d.Value + math.Copysign(steps*d.Step(), by)
	return math.Round(math.Max(d.Min, math.Min(to, d.Max))*1000) / 1000
}

// Spec describes a dimension of designs of type D. Its limits keep the shape
// buildable; whether it is wise is for the checks.
type Spec[D any] struct {
	ID, Label, Unit string
	Min, Max        float64
	// Has tells whether a design has the dimension; nil means always.
	Has   func(*D) bool
	Field func(*D) *float64
	// Criterion is the one whose aim is proposed; "" where the form derives the
	// figure from the tooth.
	Criterion school.CriterionID
}

// As is the dimension proposed as a criterion aims.
func (s Spec[D]) As(c school.CriterionID) Spec[D] {
	s.Criterion = c
	return s
}

// Millimetres describes a length; has is nil for one that every design has.
func Millimetres[D any](id, label string, least, most float64, has func(*D) bool, field func(*D) *float64) Spec[D] {
	return Spec[D]{ID: id, Label: label, Unit: "mm", Min: least, Max: most, Has: has, Field: field}
}

// Degrees describes an angle; has is nil for one that every design has.
func Degrees[D any](id, label string, least, most float64, has func(*D) bool, field func(*D) *float64) Spec[D] {
	return Spec[D]{ID: id, Label: label, Unit: "deg", Min: least, Max: most, Has: has, Field: field}
}

// Specs are the dimensions of a form, in working order.
type Specs[D any] []Spec[D]

func (s Spec[D]) of(d *D) bool { return s.Has == nil || s.Has(d) }

// Aimed sets the dimensions that are proposed as a criterion aims.
func (all Specs[D]) Aimed(d D, aim func(school.CriterionID) float64) D {
	for _, s := range all {
		if s.Criterion != "" {
			*s.Field(&d) = aim(s.Criterion)
		}
	}
	return d
}

// Apply sets the overridden dimensions; values are taken as checked. Those that
// this design does not have change nothing.
func (all Specs[D]) Apply(d D, overrides map[string]float64) D {
	for _, s := range all {
		if v, set := overrides[s.ID]; set && s.of(&d) {
			*s.Field(&d) = v
		}
	}
	return d
}

// Dimensions lists a design beside its proposal.
func (all Specs[D]) Dimensions(design, proposal D) []Dimension {
	var list []Dimension
	for _, s := range all {
		if s.of(&design) {
			list = append(list, Dimension{
				ID: s.ID, Label: s.Label, Unit: s.Unit,
				Value: *s.Field(&design), Proposed: *s.Field(&proposal), Min: s.Min, Max: s.Max,
			})
		}
	}
	return list
}

// Limits says between which values a dimension can be built.
type Limits struct {
	ID, Label, Unit string
	Min, Max        float64
}

// Limits of all dimensions of a form.
func (all Specs[D]) Limits() []Limits {
	list := make([]Limits, len(all))
	for n, s := range all {
		list[n] = Limits{s.ID, s.Label, s.Unit, s.Min, s.Max}
	}
	return list
}

// CheckOverride says what is wrong with a value set by hand for one of these
// dimensions, or "".
func CheckOverride(known []Limits, id string, value float64) string {
	n := slices.IndexFunc(known, func(l Limits) bool { return l.ID == id })
	if n < 0 {
		return fmt.Sprintf("%q is no dimension of a preparation: docs/schema/case.schema.json lists them", id)
	}
	l := known[n]
	if math.IsNaN(value) || value < l.Min || value > l.Max {
		return fmt.Sprintf("%v %s is not buildable: %s takes %v to %v %s", value, l.Unit, strings.ToLower(l.Label), l.Min, l.Max, l.Unit)
	}
	return ""
}

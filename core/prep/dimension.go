// Package prep designs preparations: from a tooth, its lesions and a school it
// proposes dimensions, and from dimensions it builds the cavity as a solid
// tool. It does not know how the result is judged.
package prep

import (
	"fmt"
	"math"
	"sort"
	"strings"
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

// ClassI holds the dimensions of an occlusal preparation, mm and degrees.
type ClassI struct {
	PulpalDepth      float64 // shallowest, from the surface along the bur
	IsthmusWidth     float64 // between buccal and lingual margin
	DovetailWidth    float64 // across the widened ends; at most the isthmus means none
	BuccalExtension  float64 // past the isthmus wall along each buccal groove
	LingualExtension float64
	MesialRidge      float64 // tooth kept between margin and proximal surface
	DistalRidge      float64
	WallConvergence  float64 // lean of buccal and lingual walls towards each other
	RidgeDivergence  float64 // lean of mesial and distal walls towards their ridges
	LineAngleRadius  float64
	FloorTilt        float64 // rise towards buccal against the occlusal table
}

type dimensionSpec struct {
	id, label, unit string
	min, max        float64
	field           func(*ClassI) *float64
}

// The limits keep the shape buildable; whether it is wise is for the checks.
var classISpecs = []dimensionSpec{
	{"pulpal_depth", "Pulpal depth", "mm", 0.3, 5, func(c *ClassI) *float64 { return &c.PulpalDepth }},
	{"isthmus_width", "Isthmus width", "mm", 0.4, 4, func(c *ClassI) *float64 { return &c.IsthmusWidth }},
	{"dovetail_width", "Dovetail width", "mm", 0, 5, func(c *ClassI) *float64 { return &c.DovetailWidth }},
	{"buccal_extension", "Buccal groove extension", "mm", 0, 4, func(c *ClassI) *float64 { return &c.BuccalExtension }},
	{"lingual_extension", "Lingual groove extension", "mm", 0, 4, func(c *ClassI) *float64 { return &c.LingualExtension }},
	{"mesial_ridge", "Mesial ridge kept", "mm", 0.3, 5, func(c *ClassI) *float64 { return &c.MesialRidge }},
	{"distal_ridge", "Distal ridge kept", "mm", 0.3, 5, func(c *ClassI) *float64 { return &c.DistalRidge }},
	{"wall_convergence", "Wall convergence", "deg", -10, 15, func(c *ClassI) *float64 { return &c.WallConvergence }},
	{"ridge_divergence", "Ridge wall lean", "deg", -10, 20, func(c *ClassI) *float64 { return &c.RidgeDivergence }},
	{"line_angle_radius", "Line angle radius", "mm", 0.02, 1, func(c *ClassI) *float64 { return &c.LineAngleRadius }},
	{"floor_tilt", "Floor tilt", "deg", -20, 20, func(c *ClassI) *float64 { return &c.FloorTilt }},
}

// DimensionIDs lists what an override may name.
func DimensionIDs() []string {
	ids := make([]string, len(classISpecs))
	for n, s := range classISpecs {
		ids[n] = s.id
	}
	return ids
}

// CheckOverride says what is wrong with one override, or "".
func CheckOverride(id string, value float64) string {
	for _, s := range classISpecs {
		if s.id != id {
			continue
		}
		if math.IsNaN(value) || value < s.min || value > s.max {
			return fmt.Sprintf("%v %s is not buildable: %s takes %v to %v %s", value, s.unit, strings.ToLower(s.label), s.min, s.max, s.unit)
		}
		return ""
	}
	known := DimensionIDs()
	sort.Strings(known)
	return fmt.Sprintf("%q is no dimension of this preparation: use one of %s", id, strings.Join(known, ", "))
}

// Apply sets the overridden dimensions; values are taken as checked.
func (c ClassI) Apply(overrides map[string]float64) ClassI {
	for _, s := range classISpecs {
		if v, ok := overrides[s.id]; ok {
			*s.field(&c) = v
		}
	}
	return c
}

// Dimensions lists a design beside its proposal, in working order.
func Dimensions(design, proposal ClassI) []Dimension {
	list := make([]Dimension, 0, len(classISpecs))
	for _, s := range classISpecs {
		list = append(list, Dimension{
			ID: s.id, Label: s.label, Unit: s.unit,
			Value: *s.field(&design), Proposed: *s.field(&proposal), Min: s.min, Max: s.max,
		})
	}
	return list
}

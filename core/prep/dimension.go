// Package prep designs preparations: from a tooth, its lesions and a school it
// proposes dimensions, and from dimensions it builds the cavity as a solid
// tool. It does not know how the result is judged.
package prep

import (
	"fmt"
	"math"
	"sort"
	"strings"

	"obturon/core/notation"
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

// Design holds the dimensions of a Class I or II preparation, mm and degrees.
type Design struct {
	// Occlusal tells that fissures are opened; without it boxes stand alone.
	Occlusal         bool
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

	Boxes             [2]BoxDesign // mesial, distal
	FunctionalLean    float64      // of the box's wall on the side of the functional cusps
	NonfunctionalLean float64      // of the other one
	GingivalSlope     float64      // fall of the outer seat
	Axiopulpal        float64      // width of the rounded edge between pulpal floor and axial wall
	ReverseCurve      float64      // how far the curve before the box cuts into the cusp
	GrooveDepth       float64      // of retention grooves in the walls of the box

	Reduced       []string // cusps that are covered
	CuspReduction float64  // taken off their tips; 0 keeps them
	CuspBevel     float64  // width of the bevel round covered cusps

	Bonded     bool    // margins may be bevelled
	BevelWidth float64 // of the occlusal bevel, along its face
	BevelAngle float64 // between its face and the outer surface
}

// BoxDesign holds the dimensions of one proximal box, mm.
type BoxDesign struct {
	Present      bool
	BuccalReach  float64 // across, from the contact's middle to where the wall leaves the tooth
	LingualReach float64
	Depth        float64 // from the marginal ridge's crest down to the seat, along the bur
	AxialDepth   float64 // width of the seat, mesiodistally
}

// Has reports a box on a side.
func (d Design) Has(side notation.Side) bool { return d.Boxes[side].Present }

// Sides lists the sides that have a box.
func (d Design) Sides() []notation.Side {
	var sides []notation.Side
	for side := range d.Boxes {
		if d.Boxes[side].Present {
			sides = append(sides, notation.Side(side))
		}
	}
	return sides
}

// AnyBox reports a Class II.
func (d Design) AnyBox() bool { return d.Boxes[0].Present || d.Boxes[1].Present }

type dimensionSpec struct {
	id, label, unit string
	min, max        float64
	applies         func(*Design) bool
	field           func(*Design) *float64
}

func whenOcclusal(d *Design) bool   { return d.Occlusal }
func whenBoxed(d *Design) bool      { return d.AnyBox() }
func whenBoth(d *Design) bool       { return d.Occlusal && d.AnyBox() }
func whenUndermined(d *Design) bool { return len(d.Reduced) > 0 }
func whenCovered(d *Design) bool    { return d.Bonded && len(d.Reduced) > 0 && d.CuspReduction > 0 }
func whenBonded(d *Design) bool     { return d.Bonded }
func whenBevelled(d *Design) bool   { return d.Bonded && d.BevelWidth > 0 }
func withoutBox(side notation.Side) func(*Design) bool {
	return func(d *Design) bool { return d.Occlusal && !d.Has(side) }
}

// The limits keep the shape buildable; whether it is wise is for the checks.
var specs = append(append([]dimensionSpec{
	{"pulpal_depth", "Pulpal depth", "mm", 0.3, 5, whenOcclusal, func(d *Design) *float64 { return &d.PulpalDepth }},
	{"isthmus_width", "Isthmus width", "mm", 0.4, 4, whenOcclusal, func(d *Design) *float64 { return &d.IsthmusWidth }},
	{"dovetail_width", "Dovetail width", "mm", 0, 5, whenOcclusal, func(d *Design) *float64 { return &d.DovetailWidth }},
	{"buccal_extension", "Buccal groove extension", "mm", 0, 4, whenOcclusal, func(d *Design) *float64 { return &d.BuccalExtension }},
	{"lingual_extension", "Lingual groove extension", "mm", 0, 4, whenOcclusal, func(d *Design) *float64 { return &d.LingualExtension }},
	{"mesial_ridge", "Mesial ridge kept", "mm", 0.3, 9, withoutBox(notation.Mesial), func(d *Design) *float64 { return &d.MesialRidge }},
	{"distal_ridge", "Distal ridge kept", "mm", 0.3, 9, withoutBox(notation.Distal), func(d *Design) *float64 { return &d.DistalRidge }},
	{"wall_convergence", "Wall convergence", "deg", -10, 15, whenOcclusal, func(d *Design) *float64 { return &d.WallConvergence }},
	{"ridge_divergence", "Ridge wall lean", "deg", -10, 20, whenOcclusal, func(d *Design) *float64 { return &d.RidgeDivergence }},
	{"line_angle_radius", "Line angle radius", "mm", 0.02, 1, func(*Design) bool { return true }, func(d *Design) *float64 { return &d.LineAngleRadius }},
	{"floor_tilt", "Floor tilt", "deg", -20, 20, whenOcclusal, func(d *Design) *float64 { return &d.FloorTilt }},
}, append(boxSpecs(notation.Mesial), boxSpecs(notation.Distal)...)...), []dimensionSpec{
	{"functional_lean", "Box wall, functional side", "deg", -10, 15, whenBoxed, func(d *Design) *float64 { return &d.FunctionalLean }},
	{"nonfunctional_lean", "Box wall, other side", "deg", -10, 15, whenBoxed, func(d *Design) *float64 { return &d.NonfunctionalLean }},
	{"gingival_slope", "Gingival seat slope", "deg", 0, 45, whenBoxed, func(d *Design) *float64 { return &d.GingivalSlope }},
	{"axiopulpal", "Axiopulpal rounding", "mm", 0, 0.8, whenBoth, func(d *Design) *float64 { return &d.Axiopulpal }},
	{"reverse_curve", "Reverse curve", "mm", 0, 0.4, whenBoth, func(d *Design) *float64 { return &d.ReverseCurve }},
	{"cusp_reduction", "Cusp reduction", "mm", 0, 4, whenUndermined, func(d *Design) *float64 { return &d.CuspReduction }},
	{"cusp_bevel", "Bevel round covered cusps", "mm", 0, 2, whenCovered, func(d *Design) *float64 { return &d.CuspBevel }},
	{"bevel_width", "Bevel width", "mm", 0, 0.8, whenBonded, func(d *Design) *float64 { return &d.BevelWidth }},
	{"bevel_angle", "Bevel angle", "deg", 20, 70, whenBevelled, func(d *Design) *float64 { return &d.BevelAngle }},
	{"groove_depth", "Retention groove depth", "mm", 0, 0.6, whenBoxed, func(d *Design) *float64 { return &d.GrooveDepth }},
}...)

func boxSpecs(side notation.Side) []dimensionSpec {
	here := func(d *Design) bool { return d.Has(side) }
	name := side.String()
	return []dimensionSpec{
		{name + "_box_buccal", "Box to buccal, " + name, "mm", 0.5, 5, here, func(d *Design) *float64 { return &d.Boxes[side].BuccalReach }},
		{name + "_box_lingual", "Box to lingual, " + name, "mm", 0.5, 5, here, func(d *Design) *float64 { return &d.Boxes[side].LingualReach }},
		{name + "_box_depth", "Box depth, " + name, "mm", 0.8, 8, here, func(d *Design) *float64 { return &d.Boxes[side].Depth }},
		{name + "_axial_depth", "Axial depth, " + name, "mm", 0.4, 4, here, func(d *Design) *float64 { return &d.Boxes[side].AxialDepth }},
	}
}

// DimensionIDs lists what an override may name.
func DimensionIDs() []string {
	ids := make([]string, len(specs))
	for n, s := range specs {
		ids[n] = s.id
	}
	return ids
}

// CheckOverride says what is wrong with one override, or "".
func CheckOverride(id string, value float64) string {
	for _, s := range specs {
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
	return fmt.Sprintf("%q is no dimension of a preparation: use one of %s", id, strings.Join(known, ", "))
}

// Apply sets the overridden dimensions; values are taken as checked. Those that
// this preparation does not have change nothing.
func (d Design) Apply(overrides map[string]float64) Design {
	for _, s := range specs {
		if v, ok := overrides[s.id]; ok && s.applies(&d) {
			*s.field(&d) = v
		}
	}
	return d
}

// Dimensions lists a design beside its proposal, in working order.
func Dimensions(design, proposal Design) []Dimension {
	var list []Dimension
	for _, s := range specs {
		if s.applies(&design) {
			list = append(list, Dimension{
				ID: s.id, Label: s.label, Unit: s.unit,
				Value: *s.field(&design), Proposed: *s.field(&proposal), Min: s.min, Max: s.max,
			})
		}
	}
	return list
}

// Unused lists the overrides that name a dimension this design does not have.
func (d Design) Unused(overrides map[string]float64) []string {
	var ids []string
	for _, s := range specs {
		if _, set := overrides[s.id]; set && !s.applies(&d) {
			ids = append(ids, s.id)
		}
	}
	return ids
}

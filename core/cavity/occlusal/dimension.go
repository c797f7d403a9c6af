// Package occlusal lays out cavities that open on the occlusal surface: Class I
// of pits and fissures, Class II with its boxes, and the covers of weak and lost
// cusps beside them. From a request it proposes dimensions, and from dimensions it
// builds the cavity as a solid tool.
package occlusal

import (
	"slices"

	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/school"
)

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
	Gone          []string // those of them that have broken off as far as a cover needs
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

// Covered lists the cusps that a cover lies over: those that are reduced, and those that
// have gone.
func (d Design) Covered() []string {
	if d.CuspReduction > 0 {
		return d.Reduced
	}
	return d.Gone
}

// Lowered lists the cusps that are reduced by the design's figure.
func (d Design) Lowered() []string {
	if d.CuspReduction == 0 {
		return nil
	}
	return slices.DeleteFunc(slices.Clone(d.Reduced), func(name string) bool { return slices.Contains(d.Gone, name) })
}

func whenOcclusal(d *Design) bool  { return d.Occlusal }
func whenBoxed(d *Design) bool     { return d.AnyBox() }
func whenBoth(d *Design) bool      { return d.Occlusal && d.AnyBox() }
func whenReducible(d *Design) bool { return len(d.Reduced) > len(d.Gone) }
func whenCovered(d *Design) bool   { return d.Bonded && len(d.Covered()) > 0 }
func whenBonded(d *Design) bool    { return d.Bonded }
func whenBevelled(d *Design) bool  { return d.Bonded && d.BevelWidth > 0 }
func withoutBox(side notation.Side) func(*Design) bool {
	return func(d *Design) bool { return d.Occlusal && !d.Has(side) }
}

// BevelFigures name the dimensions of bevels on enamel margins.
var BevelFigures = []string{"cusp_bevel", "bevel_width", "bevel_angle"}

// specs are the dimensions in working order.
var specs = append(append(cavity.Specs[Design]{
	cavity.Millimetres("pulpal_depth", "Pulpal depth", 0.3, 5, whenOcclusal, func(d *Design) *float64 { return &d.PulpalDepth }),
	cavity.Millimetres("isthmus_width", "Isthmus width", 0.4, 4, whenOcclusal, func(d *Design) *float64 { return &d.IsthmusWidth }),
	cavity.Millimetres("dovetail_width", "Dovetail width", 0, 5, whenOcclusal, func(d *Design) *float64 { return &d.DovetailWidth }),
	cavity.Millimetres("buccal_extension", "Buccal groove extension", 0, 4, whenOcclusal, func(d *Design) *float64 { return &d.BuccalExtension }),
	cavity.Millimetres("lingual_extension", "Lingual groove extension", 0, 4, whenOcclusal, func(d *Design) *float64 { return &d.LingualExtension }),
	cavity.Millimetres("mesial_ridge", "Mesial ridge kept", 0.3, 9, withoutBox(notation.Mesial), func(d *Design) *float64 { return &d.MesialRidge }),
	cavity.Millimetres("distal_ridge", "Distal ridge kept", 0.3, 9, withoutBox(notation.Distal), func(d *Design) *float64 { return &d.DistalRidge }),
	cavity.Degrees("wall_convergence", "Wall convergence", -10, 15, whenOcclusal, func(d *Design) *float64 { return &d.WallConvergence }),
	cavity.Degrees("ridge_divergence", "Ridge wall lean", -10, 20, whenOcclusal, func(d *Design) *float64 { return &d.RidgeDivergence }),
	cavity.Millimetres("line_angle_radius", "Line angle radius", 0.02, 1, nil, func(d *Design) *float64 { return &d.LineAngleRadius }).As(school.ResistLineAngleRadius),
	cavity.Degrees("floor_tilt", "Floor tilt", -20, 20, whenOcclusal, func(d *Design) *float64 { return &d.FloorTilt }),
}, append(boxSpecs(notation.Mesial), boxSpecs(notation.Distal)...)...), cavity.Specs[Design]{
	cavity.Degrees("functional_lean", "Box wall, functional side", -10, 15, whenBoxed, func(d *Design) *float64 { return &d.FunctionalLean }).As(school.BoxWallFunctional),
	cavity.Degrees("nonfunctional_lean", "Box wall, other side", -10, 15, whenBoxed, func(d *Design) *float64 { return &d.NonfunctionalLean }).As(school.BoxWallNonfunctional),
	cavity.Degrees("gingival_slope", "Gingival bevel", 0, 45, whenBoxed, func(d *Design) *float64 { return &d.GingivalSlope }).As(school.BoxGingivalSlope),
	cavity.Millimetres("axiopulpal", "Axiopulpal rounding", 0, 0.8, whenBoth, func(d *Design) *float64 { return &d.Axiopulpal }).As(school.ResistAxiopulpal),
	cavity.Millimetres("reverse_curve", "Reverse curve", 0, 0.4, whenBoth, func(d *Design) *float64 { return &d.ReverseCurve }).As(school.OutlineReverseCurve),
	cavity.Millimetres("cusp_reduction", "Cusp reduction", 0, 4, whenReducible, func(d *Design) *float64 { return &d.CuspReduction }),
	cavity.Millimetres("cusp_bevel", "Bevel round covered cusps", 0, 2, whenCovered, func(d *Design) *float64 { return &d.CuspBevel }),
	cavity.Millimetres("bevel_width", "Bevel width", 0, 0.8, whenBonded, func(d *Design) *float64 { return &d.BevelWidth }).As(school.RetainBevelWidth),
	cavity.Degrees("bevel_angle", "Bevel angle", 20, 70, whenBevelled, func(d *Design) *float64 { return &d.BevelAngle }).As(school.RetainBevelAngle),
	cavity.Millimetres("groove_depth", "Retention groove depth", 0, 0.6, whenBoxed, func(d *Design) *float64 { return &d.GrooveDepth }),
}...)

func boxSpecs(side notation.Side) cavity.Specs[Design] {
	here := func(d *Design) bool { return d.Has(side) }
	name := side.String()
	return cavity.Specs[Design]{
		cavity.Millimetres(name+"_box_buccal", "Buccal wall from contact centre, "+name, 0.5, 5, here, func(d *Design) *float64 { return &d.Boxes[side].BuccalReach }),
		cavity.Millimetres(name+"_box_lingual", "Lingual wall from contact centre, "+name, 0.5, 5, here, func(d *Design) *float64 { return &d.Boxes[side].LingualReach }),
		cavity.Millimetres(name+"_box_depth", "Box depth, "+name, 0.8, 8, here, func(d *Design) *float64 { return &d.Boxes[side].Depth }),
		cavity.Millimetres(name+"_axial_depth", "Axial depth, "+name, 0.4, 4, here, func(d *Design) *float64 { return &d.Boxes[side].AxialDepth }),
	}
}

// Limits lists the dimensions that such a cavity may have.
func Limits() []cavity.Limits { return specs.Limits() }

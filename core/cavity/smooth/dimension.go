// Package smooth lays out cavities that open on a smooth surface or an incisal
// edge instead of the occlusal table: Class III, IV and V, and pits off the
// occlusal surface. From a request it proposes dimensions, and from dimensions it
// builds the cavity as a solid tool.
package smooth

import (
	"slices"

	"obturon/core/cavity"
	"obturon/core/lesion"
)

// Design holds the dimensions of one cavity, mm and degrees. Which of them a
// cavity has depends on its class.
type Design struct {
	Site  lesion.Site
	Style cavity.Style
	// Width and Height are those of the outline: mesiodistally and along the
	// crown. A proximal box is as wide as it reaches in from the proximal face.
	Width, Height float64
	// IncisalShift is the height of the outline's middle over that of the lesion.
	IncisalShift float64
	// Depth is the axial depth under the face; of a proximal box the depth along
	// the bur, from the face it is entered through.
	Depth float64
	// WallOpening is by how much walls open outwards against square to the face.
	WallOpening       float64
	LineAngleRadius   float64
	GrooveDepth       float64
	LockDepth         float64 // of a lingual lock; 0 where there is none
	FractureReduction float64 // taken off a broken face
	// BevelWidth of the outer bevel along its face, or of the feather; BevelAngle
	// to the outer surface, where it is not a feather.
	BevelWidth, BevelAngle float64
	LingualBevel           float64 // of a broken corner
}

// Class of the cavity.
func (d Design) Class() lesion.Class { return ClassOf(d.Site) }

// feathered tells that the outer bevel thins out to nothing.
func (d Design) feathered() bool { return d.Style == cavity.Long || d.Style == cavity.Scalloped }

var (
	onSurface = []cavity.Kind{cavity.Cervical, cavity.Pit}
	outlined  = []cavity.Kind{cavity.Proximal, cavity.Cervical, cavity.Pit}
	angle     = []cavity.Kind{cavity.IncisalAngle}
	grooved   = []cavity.Kind{cavity.Proximal, cavity.IncisalAngle, cavity.Cervical}
	every     = []cavity.Kind{cavity.Pit, cavity.Proximal, cavity.IncisalAngle, cavity.Cervical}
)

func bevelled(d *Design) bool { return d.BevelWidth > 0 && !d.feathered() }

// figures are the dimensions in working order, with the kinds of cavities that
// have them; a site's name goes before the id.
var figures = []struct {
	of []cavity.Kind
	cavity.Spec[Design]
}{
	{outlined, cavity.Spec[Design]{ID: "height", Label: "Height", Unit: "mm", Min: 0.6, Max: 8, Field: func(d *Design) *float64 { return &d.Height }}},
	{outlined, cavity.Spec[Design]{ID: "width", Label: "Width", Unit: "mm", Min: 0.6, Max: 9, Field: func(d *Design) *float64 { return &d.Width }}},
	{outlined, cavity.Spec[Design]{ID: "rise", Label: "Moved to the biting side", Unit: "mm", Min: -3, Max: 3, Field: func(d *Design) *float64 { return &d.IncisalShift }}},
	{outlined, cavity.Spec[Design]{ID: "depth", Label: "Depth", Unit: "mm", Min: 0.2, Max: 4, Field: func(d *Design) *float64 { return &d.Depth }}},
	{onSurface, cavity.Spec[Design]{ID: "wall_open", Label: "Walls open outwards", Unit: "deg", Min: -5, Max: 30, Field: func(d *Design) *float64 { return &d.WallOpening }}},
	{outlined, cavity.Spec[Design]{ID: "line_angle_radius", Label: "Line angle radius", Unit: "mm", Min: 0.02, Max: 1, Field: func(d *Design) *float64 { return &d.LineAngleRadius }}},
	{angle, cavity.Spec[Design]{ID: "planed", Label: "Broken face reduced by", Unit: "mm", Min: 0, Max: 1, Field: func(d *Design) *float64 { return &d.FractureReduction }}},
	{every, cavity.Spec[Design]{ID: "bevel_width", Label: "Bevel width", Unit: "mm", Min: 0, Max: 4, Field: func(d *Design) *float64 { return &d.BevelWidth }}},
	{every, cavity.Spec[Design]{ID: "bevel_angle", Label: "Bevel angle", Unit: "deg", Min: 10, Max: 70, Has: bevelled, Field: func(d *Design) *float64 { return &d.BevelAngle }}},
	{angle, cavity.Spec[Design]{ID: "lingual_bevel", Label: "Lingual bevel width", Unit: "mm", Min: 0, Max: 2, Field: func(d *Design) *float64 { return &d.LingualBevel }}},
	{grooved, cavity.Spec[Design]{ID: "groove_depth", Label: "Retention groove depth", Unit: "mm", Min: 0, Max: 0.5, Field: func(d *Design) *float64 { return &d.GrooveDepth }}},
	{angle, cavity.Spec[Design]{ID: "lock_depth", Label: "Lingual lock depth", Unit: "mm", Min: 0, Max: 1, Field: func(d *Design) *float64 { return &d.LockDepth }}},
}

// surface is a site of such cavities: what its dimensions' ids start with, and
// its name in the dentist's words. The ids of documents do not change with words.
type surface struct {
	site         lesion.Site
	prefix, name string
}

var surfaces = []surface{
	{lesion.BuccalPit, "buccal_pit_", "buccal pit"},
	{lesion.LingualPit, "lingual_pit_", "lingual pit"},
	{lesion.Mesial, "mesial_face_", "mesial"},
	{lesion.Distal, "distal_face_", "distal"},
	{lesion.MesialIncisalAngle, "mesial_corner_", "mesial incisal angle"},
	{lesion.DistalIncisalAngle, "distal_corner_", "distal incisal angle"},
	{lesion.Buccal, "facial_neck_", "facial cervical"},
	{lesion.Lingual, "lingual_neck_", "lingual cervical"},
}

// Sites lists where cavities of this package lie, in the order in which they are
// planned.
var Sites = func() []lesion.Site {
	sites := make([]lesion.Site, len(surfaces))
	for n, s := range surfaces {
		sites[n] = s.site
	}
	return sites
}()

func at(site lesion.Site) surface {
	return surfaces[slices.IndexFunc(surfaces, func(s surface) bool { return s.site == site })]
}

// specs are the dimensions of cavities at the surface.
func (s surface) specs() cavity.Specs[Design] {
	var own cavity.Specs[Design]
	for _, f := range figures {
		if slices.Contains(f.of, kindOf(s.site)) {
			spec := f.Spec
			spec.ID = s.prefix + spec.ID
			own = append(own, spec)
		}
	}
	return own
}

// Limits lists the dimensions that cavities of this package may have.
func Limits() []cavity.Limits {
	var all []cavity.Limits
	for _, s := range surfaces {
		all = append(all, s.specs().Limits()...)
	}
	return all
}

// Package smooth lays out cavities that open on a smooth surface or an incisal
// edge instead of the occlusal table: Class III, IV and V, and pits off the
// occlusal surface. From a request it proposes dimensions, and from dimensions it
// builds the cavity as a solid tool.
package smooth

import (
	"slices"

	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/school"
)

// Design holds the dimensions of one cavity, mm and degrees. Which of them a
// cavity has depends on its class.
type Design struct {
	Site  lesion.Site
	Style cavity.Style
	// Width and Height are those of the outline: mesiodistally and along the
	// crown. A proximal box is as wide as it reaches in from the proximal surface.
	Width, Height float64
	// IncisalShift is the height of the outline's middle over that of the lesion.
	IncisalShift float64
	// Depth is the axial depth under the surface; of a proximal box the depth along
	// the bur, from the surface it is entered through.
	Depth float64
	// WallOpening is by how much walls open outwards against square to the surface.
	WallOpening       float64
	LineAngleRadius   float64
	GrooveDepth       float64
	LockDepth         float64 // of a lingual lock; 0 where there is none
	FractureReduction float64 // taken off a fracture surface
	// BevelWidth of the outer bevel along its face, or of the feather; BevelAngle
	// to the outer surface, where it is not a feather.
	BevelWidth, BevelAngle float64
	LingualBevel           float64 // of a broken incisal angle
}

// Class of the cavity.
func (d Design) Class() lesion.Class { return ClassOf(d.Site) }

// Feathered tells that the outer bevel thins out to nothing.
func (d Design) Feathered() bool { return d.Style == cavity.Long || d.Style == cavity.Scalloped }

var (
	onSurface = []cavity.Kind{cavity.Cervical, cavity.Pit}
	outlined  = []cavity.Kind{cavity.Proximal, cavity.Cervical, cavity.Pit}
	angle     = []cavity.Kind{cavity.IncisalAngle}
	grooved   = []cavity.Kind{cavity.Proximal, cavity.IncisalAngle, cavity.Cervical}
	every     = []cavity.Kind{cavity.Pit, cavity.Proximal, cavity.IncisalAngle, cavity.Cervical}
)

// BevelFigures name the dimensions of bevels.
var BevelFigures = []string{"bevel_width", "bevel_angle", "lingual_bevel"}

func bevelled(d *Design) bool { return d.BevelWidth > 0 && !d.Feathered() }

// figures are the dimensions in working order, with the kinds of cavities that
// have them; a site's name goes before the id.
var figures = []struct {
	of []cavity.Kind
	cavity.Spec[Design]
}{
	{outlined, cavity.Millimetres("height", "Height", 0.6, 8, nil, func(d *Design) *float64 { return &d.Height })},
	{outlined, cavity.Millimetres("width", "Width", 0.6, 9, nil, func(d *Design) *float64 { return &d.Width })},
	{outlined, cavity.Millimetres("rise", "Moved occlusally", -3, 3, nil, func(d *Design) *float64 { return &d.IncisalShift })},
	{outlined, cavity.Millimetres("depth", "Depth", 0.2, 4, nil, func(d *Design) *float64 { return &d.Depth })},
	{onSurface, cavity.Degrees("wall_open", "Walls open outwards", -5, 30, nil, func(d *Design) *float64 { return &d.WallOpening })},
	{outlined, cavity.Millimetres("line_angle_radius", "Line angle radius", 0.02, 1, nil, func(d *Design) *float64 { return &d.LineAngleRadius }).As(school.ResistLineAngleRadius)},
	{angle, cavity.Millimetres("planed", "Fracture surface reduced by", 0, 1, nil, func(d *Design) *float64 { return &d.FractureReduction })},
	{every, cavity.Millimetres("bevel_width", "Bevel width", 0, 4, nil, func(d *Design) *float64 { return &d.BevelWidth })},
	{every, cavity.Degrees("bevel_angle", "Bevel angle", 10, 70, bevelled, func(d *Design) *float64 { return &d.BevelAngle })},
	{angle, cavity.Millimetres("lingual_bevel", "Lingual bevel width", 0, 2, nil, func(d *Design) *float64 { return &d.LingualBevel })},
	{grooved, cavity.Millimetres("groove_depth", "Retention groove depth", 0, 0.5, nil, func(d *Design) *float64 { return &d.GrooveDepth })},
	{angle, cavity.Millimetres("lock_depth", "Lingual lock depth", 0, 1, nil, func(d *Design) *float64 { return &d.LockDepth })},
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

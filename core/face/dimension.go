package face

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"obturon/core/lesion"
	"obturon/core/prep"
)

// Design holds the dimensions of one cavity, mm and degrees. Which of them a
// cavity has depends on its class.
type Design struct {
	Site  lesion.Site
	Style Style
	// Width and Height are those of the outline: mesiodistally and along the
	// crown. A proximal box is as wide as it reaches in from the proximal face.
	Width, Height float64
	// Rise is the height of the outline's middle over that of the lesion.
	Rise float64
	// Depth is the axial depth under the face; of a proximal box the depth along
	// the bur, from the face it is entered through.
	Depth float64
	// WallOpen is by how much walls open outwards against square to the face.
	WallOpen        float64
	LineAngleRadius float64
	GrooveDepth     float64
	LockDepth       float64 // of a lingual lock; 0 where there is none
	Planed          float64 // taken off a broken face
	// BevelWidth of the outer bevel along its face, or of the feather; BevelAngle
	// to the outer surface, where it is not a feather.
	BevelWidth, BevelAngle float64
	LingualBevel           float64 // of a broken corner
}

// Class of the cavity.
func (d Design) Class() lesion.Class { return ClassOf(d.Site) }

// feathered tells that the outer bevel thins out to nothing.
func (d Design) feathered() bool { return d.Style == Long || d.Style == Scalloped }

type spec struct {
	id, label, unit string
	min, max        float64
	classes         []lesion.Class
	applies         func(*Design) bool // nil: always
	field           func(*Design) *float64
}

var (
	four    = []lesion.Class{lesion.ClassIV}
	onFace  = []lesion.Class{lesion.ClassV, lesion.ClassI}
	outline = []lesion.Class{lesion.ClassIII, lesion.ClassV, lesion.ClassI}
	every   = []lesion.Class{lesion.ClassI, lesion.ClassIII, lesion.ClassIV, lesion.ClassV}
)

func bevelled(d *Design) bool { return d.BevelWidth > 0 && !d.feathered() }

// specs are the dimensions in working order. The limits keep the shape
// buildable; whether it is wise is for the checks.
var specs = []spec{
	{"height", "Height", "mm", 0.6, 8, outline, nil, func(d *Design) *float64 { return &d.Height }},
	{"width", "Width", "mm", 0.6, 9, outline, nil, func(d *Design) *float64 { return &d.Width }},
	{"rise", "Moved to the biting side", "mm", -3, 3, outline, nil, func(d *Design) *float64 { return &d.Rise }},
	{"depth", "Depth", "mm", 0.2, 4, outline, nil, func(d *Design) *float64 { return &d.Depth }},
	{"wall_open", "Walls open outwards", "deg", -5, 30, onFace, nil, func(d *Design) *float64 { return &d.WallOpen }},
	{"line_angle_radius", "Line angle radius", "mm", 0.02, 1, outline, nil, func(d *Design) *float64 { return &d.LineAngleRadius }},
	{"planed", "Broken face planed by", "mm", 0, 1, four, nil, func(d *Design) *float64 { return &d.Planed }},
	{"bevel_width", "Bevel width", "mm", 0, 4, every, nil, func(d *Design) *float64 { return &d.BevelWidth }},
	{"bevel_angle", "Bevel angle", "deg", 10, 70, every, bevelled, func(d *Design) *float64 { return &d.BevelAngle }},
	{"lingual_bevel", "Lingual bevel width", "mm", 0, 2, four, nil, func(d *Design) *float64 { return &d.LingualBevel }},
	{"groove_depth", "Retention groove depth", "mm", 0, 0.5, []lesion.Class{lesion.ClassIII, lesion.ClassIV, lesion.ClassV}, nil, func(d *Design) *float64 { return &d.GrooveDepth }},
	{"lock_depth", "Lingual lock depth", "mm", 0, 1, four, nil, func(d *Design) *float64 { return &d.LockDepth }},
}

// Sites lists where cavities of this package lie.
var Sites = []lesion.Site{
	lesion.BuccalPit, lesion.LingualPit, lesion.Mesial, lesion.Distal, lesion.MesialCorner, lesion.DistalCorner, lesion.Buccal, lesion.Lingual,
}

// prefixes start the ids of a site's dimensions.
var prefixes = map[lesion.Site]string{
	lesion.BuccalPit: "buccal_pit_", lesion.LingualPit: "lingual_pit_",
	lesion.Mesial: "mesial_face_", lesion.Distal: "distal_face_",
	lesion.MesialCorner: "mesial_corner_", lesion.DistalCorner: "distal_corner_",
	lesion.Buccal: "facial_neck_", lesion.Lingual: "lingual_neck_",
}

// Name of a site in the dentist's words.
func Name(site lesion.Site) string {
	if site == lesion.Mesial || site == lesion.Distal {
		return string(site)
	}
	return strings.ReplaceAll(strings.TrimSuffix(prefixes[site], "_"), "_", " ")
}

// DimensionID is what an override calls a site's dimension.
func DimensionID(site lesion.Site, figure string) string { return prefixes[site] + figure }

// DimensionIDs lists what an override may name.
func DimensionIDs() []string {
	var ids []string
	for _, site := range Sites {
		for _, s := range specs {
			if slices.Contains(s.classes, ClassOf(site)) {
				ids = append(ids, DimensionID(site, s.id))
			}
		}
	}
	return ids
}

// Owns reports an id of this package.
func Owns(id string) bool {
	_, ok := specOf(id)
	return ok
}

func specOf(id string) (spec, bool) {
	for _, site := range Sites {
		figure, found := strings.CutPrefix(id, prefixes[site])
		if !found {
			continue
		}
		for _, s := range specs {
			if s.id == figure && slices.Contains(s.classes, ClassOf(site)) {
				return s, true
			}
		}
	}
	return spec{}, false
}

// CheckOverride says what is wrong with one override, or "".
func CheckOverride(id string, value float64) string {
	s, ok := specOf(id)
	switch {
	case !ok:
		return fmt.Sprintf("%q is no dimension of a preparation", id)
	case math.IsNaN(value) || value < s.min || value > s.max:
		return fmt.Sprintf("%v %s is not buildable: %s takes %v to %v %s", value, s.unit, strings.ToLower(s.label), s.min, s.max, s.unit)
	}
	return ""
}

func (d *Design) has(s spec) bool {
	return slices.Contains(s.classes, d.Class()) && (s.applies == nil || s.applies(d))
}

// Apply sets the overridden dimensions; values are taken as checked.
func (d Design) Apply(overrides map[string]float64) Design {
	for _, s := range specs {
		if v, ok := overrides[DimensionID(d.Site, s.id)]; ok && d.has(s) {
			*s.field(&d) = v
		}
	}
	return d
}

// Dimensions lists a design beside its proposal, in working order.
func Dimensions(design, proposal Design) []prep.Dimension {
	var list []prep.Dimension
	for _, s := range specs {
		if design.has(s) {
			list = append(list, prep.Dimension{
				ID: DimensionID(design.Site, s.id), Label: s.label, Unit: s.unit,
				Value: *s.field(&design), Proposed: *s.field(&proposal), Min: s.min, Max: s.max,
			})
		}
	}
	return list
}

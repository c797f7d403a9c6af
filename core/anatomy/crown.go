// Package anatomy models a tooth: outer surface, enamel, dentin, pulp and the
// named landmarks a dentist steers by.
//
// Frame: millimetres, origin at the centre of the cervical plane, +x mesial,
// +y facial, +z occlusal along the crown's long axis. Left and right teeth
// share these coordinates; the mirror belongs to the placement in the mouth.
package anatomy

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"fmt"
	"strconv"

	"obturon/core/notation"
)

// Version changes whenever the same tooth would be modelled differently, so
// that caches and stored plans can tell.
const Version = "6"

// crown holds the dimensions of one type of tooth (average crown dimensions,
// as tabulated in dental anatomy). x, y and heights without a unit are
// fractions of half the mesiodistal size, half the buccolingual size and the
// crown height; drops are millimetres below the crown height.
type crown struct {
	Key      string `json:"key"`
	Name     string `json:"name"`
	FDI      []int  `json:"fdi"`
	Upper    bool   `json:"upper"`
	Primary  bool   `json:"primary"`
	Anterior bool   `json:"anterior"`

	Height               float64 `json:"crown_height_mm"`
	Mesiodistal          float64 `json:"mesiodistal_mm"`
	Buccolingual         float64 `json:"buccolingual_mm"`
	CervicalMesiodistal  float64 `json:"cervical_mesiodistal_mm"`
	CervicalBuccolingual float64 `json:"cervical_buccolingual_mm"`
	CEJCurveMesial       float64 `json:"cej_curve_mesial_mm"`
	CEJCurveDistal       float64 `json:"cej_curve_distal_mm"`
	BuccalExtent         float64 `json:"buccal_extent_mm"`

	ContourHeightBuccal  float64 `json:"contour_height_buccal"`
	ContourHeightLingual float64 `json:"contour_height_lingual"`
	ContactHeightMesial  float64 `json:"contact_height_mesial"`
	ContactHeightDistal  float64 `json:"contact_height_distal"`

	ExponentMesiobuccal  float64 `json:"exponent_mesiobuccal"`
	ExponentDistobuccal  float64 `json:"exponent_distobuccal"`
	ExponentMesiolingual float64 `json:"exponent_mesiolingual"`
	ExponentDistolingual float64 `json:"exponent_distolingual"`
	Shear                float64 `json:"shear"`

	Cusps               []cusp        `json:"cusps"`
	Rim                 []crest       `json:"rim"`
	Ridges              []ridge       `json:"ridges"`
	Grooves             []groove      `json:"grooves"`
	OuterGrooves        []outerGroove `json:"outer_grooves"`
	Pits                []pit         `json:"pits"`
	FossaFloorDrop      float64       `json:"fossa_floor_drop_mm"`
	FossaRise           float64       `json:"fossa_rise"` // 1/mm, how the floor curves up; 0.03 where not given
	InnerSlope          float64       `json:"inner_slope"`
	MarginalRidgeMesial crest         `json:"marginal_ridge_mesial"`
	MarginalRidgeDistal crest         `json:"marginal_ridge_distal"`

	EnamelCuspFunctional    float64 `json:"enamel_cusp_functional_mm"`
	EnamelCuspNonfunctional float64 `json:"enamel_cusp_nonfunctional_mm"`
	EnamelProximal          float64 `json:"enamel_proximal_mm"`
	EnamelBuccal            float64 `json:"enamel_buccal_mm"`
	EnamelLingual           float64 `json:"enamel_lingual_mm"`
	EnamelFissure           float64 `json:"enamel_fissure_mm"`
	EnamelTaper             float64 `json:"enamel_taper_mm"`

	PulpHorns []horn `json:"pulp_horns"`

	// Roots of teeth with several, which part below the furcation. Its
	// entrances lie between them, by direction: 0 mesial, 90 facial.
	Roots     []root    `json:"roots"`
	Furcation float64   `json:"furcation_mm"` // below the cervical plane
	Entrances []float64 `json:"furcation_entrances_deg"`
	// RootSpread is the girth of the root at the end of its stub, as shares of
	// the cervix's mesiodistal and buccolingual size.
	RootSpread [2]float64 `json:"root_spread"`
	// LingualTaper is by what share the crown narrows from its middle to the
	// lingual surface.
	LingualTaper float64 `json:"lingual_taper"`
	// Lean is by how many degrees the crown bends lingually over its root.
	Lean float64 `json:"lean_deg"`

	// Anterior teeth: the incisal edge and the lingual surface.
	EdgeY              float64 `json:"edge_y_mm"`
	EdgeThickness      float64 `json:"edge_thickness_mm"`
	EdgeSlopeMesial    float64 `json:"edge_slope_mesial_mm"` // fall from the tip to the angle
	EdgeSlopeDistal    float64 `json:"edge_slope_distal_mm"`
	CornerRadiusMesial float64 `json:"corner_radius_mesial_mm"`
	CornerRadiusDistal float64 `json:"corner_radius_distal_mm"`
	FossaDepth         float64 `json:"fossa_depth_mm"`
	CingulumHeight     float64 `json:"cingulum_height"`
	TipX               float64 `json:"tip_x"`

	// Calibration scales the three sizes so that the sampled model measures
	// what the table says.
	Calibration [3]float64 `json:"calibration_md_bl_h"`
}

type crest struct {
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
	Drop float64 `json:"drop_mm"`
}

type cusp struct {
	Name string `json:"name"`
	crest
	RidgeX            float64 `json:"ridge_x"`
	RidgeY            float64 `json:"ridge_y"`
	RidgeDrop         float64 `json:"ridge_drop_mm"`
	NoTriangularRidge bool    `json:"no_triangular_ridge"`
}

type ridge struct {
	Name        string  `json:"name"`
	Points      []crest `json:"points"`
	Slope       float64 `json:"slope"`
	CrestRadius float64 `json:"crest_radius_mm"`
}

type groove struct {
	Name         string       `json:"name"`
	Points       [][2]float64 `json:"points"`
	Depth        float64      `json:"depth_mm"`
	HalfWidth    float64      `json:"half_width_mm"`
	Supplemental bool         `json:"supplemental"`
	Fissure      float64      `json:"fissure_mm"`
}

type outerGroove struct {
	Name      string       `json:"name"`
	Side      string       `json:"side"`
	Points    [][2]float64 `json:"points"`
	Depth     float64      `json:"depth_mm"`
	HalfWidth float64      `json:"half_width_mm"`
	EndPit    float64      `json:"end_pit_mm"`
	Fades     bool         `json:"fades"` // runs out towards its last point
}

type pit struct {
	Name  string  `json:"name"`
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	Depth float64 `json:"depth_mm"`
	// Radius is pitRadius where it is not given.
	Radius float64 `json:"radius_mm"`
}

type horn struct {
	Name string  `json:"name"`
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
	Z    float64 `json:"z_mm"`
}

// root is one root: its middle below the furcation, as shares of half the
// root's sizes at that height.
type root struct {
	Name string  `json:"name"`
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
}

//go:embed crowns.json
var crownsJSON []byte

var crowns = mustLoadCrowns(crownsJSON)

func mustLoadCrowns(data []byte) map[string]*crown {
	var file struct {
		Note  string   `json:"note"`
		Teeth []*crown `json:"teeth"`
	}
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(&file); err != nil {
		panic(fmt.Sprintf("anatomy: embedded crown table: %v", err))
	}
	byTooth := map[string]*crown{}
	for _, c := range file.Teeth {
		for _, fdi := range c.FDI {
			byTooth[strconv.Itoa(fdi)] = c
		}
	}
	return byTooth
}

// crownOf returns a copy of the tooth's average crown, scaled to its own
// measured sizes where there are some, and calibrated.
func crownOf(t notation.Tooth, own MeasuredSizes) (crown, error) {
	average, ok := crowns[t.String()]
	if !ok {
		return crown{}, fmt.Errorf("tooth %q is not one of the 52", t)
	}
	c := *average
	if err := own.apply(&c); err != nil {
		return crown{}, err
	}
	c.Mesiodistal *= c.Calibration[0]
	c.Buccolingual *= c.Calibration[1]
	c.BuccalExtent *= c.Calibration[1]
	c.Height *= c.Calibration[2]
	return c, nil
}

// Outline of a tooth's type that can be asked without building the model.
type Outline struct {
	Pits, Cusps, Grooves      []string
	SmoothSurfacePits         []string // off the occlusal surface
	Mesiodistal, Buccolingual float64  // mm
	Height                    float64  // mm
}

// Describe tells what a tooth of this type has.
func Describe(t notation.Tooth) Outline {
	c, ok := crowns[t.String()]
	if !ok {
		return Outline{}
	}
	o := Outline{Mesiodistal: c.Mesiodistal, Buccolingual: c.Buccolingual, Height: c.Height}
	for _, p := range c.Pits {
		o.Pits = append(o.Pits, p.Name)
	}
	o.SmoothSurfacePits = c.smoothSurfacePits()
	for _, k := range c.Cusps {
		o.Cusps = append(o.Cusps, k.Name)
	}
	for _, g := range c.Grooves {
		o.Grooves = append(o.Grooves, g.Name)
	}
	return o
}

func (c *crown) molar() bool { return !c.Anterior && (len(c.Cusps) >= 4 || c.Primary) }

// x and y turn fractions of the half sizes into millimetres.
func (c *crown) x(fraction float64) float64 { return fraction * c.Mesiodistal / 2 }
func (c *crown) y(fraction float64) float64 { return fraction * c.Buccolingual / 2 }

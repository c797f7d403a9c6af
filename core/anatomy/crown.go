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
const Version = "1"

// crown holds the dimensions of one type of tooth (average crown dimensions,
// as tabulated in dental anatomy). x, y and heights without a unit are
// fractions of half the mesiodistal size, half the buccolingual size and the
// crown height; drops are millimetres below the crown height.
type crown struct {
	Key     string `json:"key"`
	Name    string `json:"name"`
	FDI     []int  `json:"fdi"`
	Upper   bool   `json:"upper"`
	Primary bool   `json:"primary"`

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
}

type pit struct {
	Name  string  `json:"name"`
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	Depth float64 `json:"depth_mm"`
}

type horn struct {
	Name string  `json:"name"`
	X    float64 `json:"x"`
	Y    float64 `json:"y"`
	Z    float64 `json:"z_mm"`
}

//go:embed posteriors.json
var posteriorsJSON []byte

var crowns = mustLoadCrowns(posteriorsJSON)

func mustLoadCrowns(data []byte) map[string]*crown {
	var file struct {
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

// crownOf returns a scaled copy of the tooth's average crown.
func crownOf(t notation.Tooth) (crown, error) {
	average, ok := crowns[t.String()]
	if !ok {
		return crown{}, fmt.Errorf("the %s (%s) is not modelled yet: choose a premolar or a molar", t.Name(), t)
	}
	c := *average
	c.Mesiodistal *= c.Calibration[0]
	c.Buccolingual *= c.Calibration[1]
	c.BuccalExtent *= c.Calibration[1]
	c.Height *= c.Calibration[2]
	return c, nil
}

// Modelled reports whether Build can make the tooth.
func Modelled(t notation.Tooth) bool { return crowns[t.String()] != nil }

// Outline of a tooth's type that can be asked without building the model.
type Outline struct {
	Pits, Cusps               []string
	Mesiodistal, Buccolingual float64 // mm
	Height                    float64 // mm
}

// Describe tells what a tooth of this type has; ok is false where it is not
// modelled.
func Describe(t notation.Tooth) (o Outline, ok bool) {
	c, ok := crowns[t.String()]
	if !ok {
		return o, false
	}
	o = Outline{Mesiodistal: c.Mesiodistal, Buccolingual: c.Buccolingual, Height: c.Height}
	for _, p := range c.Pits {
		o.Pits = append(o.Pits, p.Name)
	}
	for _, k := range c.Cusps {
		o.Cusps = append(o.Cusps, k.Name)
	}
	return o, true
}

func (c *crown) molar() bool { return len(c.Cusps) >= 4 || c.Primary }

// x and y turn fractions of the half sizes into millimetres.
func (c *crown) x(fraction float64) float64 { return fraction * c.Mesiodistal / 2 }
func (c *crown) y(fraction float64) float64 { return fraction * c.Buccolingual / 2 }

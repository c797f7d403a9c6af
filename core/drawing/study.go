package drawing

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// Axis says how a study section lies in the tooth.
type Axis string

// Sections along the arch, across it, and level.
const (
	Mesiodistal  Axis = "mesiodistal"
	Buccolingual Axis = "buccolingual"
	Level        Axis = "level"
)

// StudySection cuts a sound tooth at some millimetres from its middle (for level
// sections: over the cervical plane), with the outlines of the adjacent teeth.
// It fails for an unknown axis.
func StudySection(m *anatomy.Model, axis Axis, at float64, beside []*anatomy.Neighbour) (View, error) {
	mesialRight, facialUp := facing(m)
	v := View{ID: string(axis), Up: "occlusal"}
	if m.Tooth.Anterior() {
		v.Up = "incisal"
	}
	switch axis {
	case Mesiodistal:
		v.Title = "Section along the arch"
		v.Plane = solid.Plane{Origin: r3.Vec{Y: at}, U: r3.Vec{X: mesialRight}, V: r3.Vec{Z: 1}}
		v.Right, v.Left = "mesial", "distal"
	case Buccolingual:
		v.Title = "Section across the arch"
		v.Plane = solid.Plane{Origin: r3.Vec{X: at}, U: r3.Vec{Y: facialUp}, V: r3.Vec{Z: 1}}
		v.Right, v.Left = "facial", "lingual"
	case Level:
		v.Title = "Level section"
		v.Plane = solid.Plane{Origin: r3.Vec{Z: at}, U: r3.Vec{X: mesialRight}, V: r3.Vec{Y: facialUp}}
		v.Right, v.Left, v.Up = "mesial", "distal", "facial"
		if facialUp < 0 {
			v.Up = "lingual"
		}
	default:
		return v, fmt.Errorf("%q is no section: use mesiodistal, buccolingual or level", axis)
	}
	if (axis == Buccolingual && facialUp < 0) || (axis != Buccolingual && mesialRight < 0) {
		v.Right, v.Left = v.Left, v.Right
	}
	half, low, high := 0.65*max(m.Sizes.Mesiodistal, m.Sizes.Buccolingual)+0.8, -7.0, m.Sizes.Height+0.4
	if axis == Level {
		low, high = -half, half
	}
	blank := solid.NewSheet(-half, low, half, high, sectionStep)
	for _, n := range beside {
		field := n.Field()
		outline := blank.Like().Fill(func(x, y float64) float64 { return field(v.Plane.At(x, y)) })
		v.add(Neighbour, outline.Contours(0)...)
	}
	v.tissues(m, blank, func(_ r3.Vec, surface float64) float64 { return surface })
	v.Bounds = Bounds{-half, low, half, high}
	return v, nil
}

package fill

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Faces that an increment turns to the others, as labels of its mesh; 0 is the tooth's
// original surface, all else the cavity's own features.
const (
	Upon    uint16 = 0x400 + iota // what the next ones lie on: free as it sets
	Beneath                       // what it lies on
)

// Portion is one increment as it is meant: all of the filling for which Inside (mm, about a
// distance) is negative and that none before took.
type Portion struct {
	Name string
	// Why it is laid so; "" where the name says it.
	Why  string
	Kind Kind // of composite
	// Most is how thick (mm) it may be, where that is less than the others.
	Most   float64
	Inside func(p r3.Vec) float64
}

// limit is a portion's border as a tool.
type limit struct {
	inside func(p r3.Vec) float64
	face   uint16
	bounds solid.Box
}

func (l limit) Distance(p r3.Vec) float64 { return l.inside(p) }
func (l limit) Feature(r3.Vec) uint16     { return l.face }
func (l limit) Bounds() solid.Box         { return l.bounds }

// below is the half space under a height along a unit vector.
func below(axis r3.Vec, height float64) func(r3.Vec) float64 {
	return func(p r3.Vec) float64 { return r3.Dot(p, axis) - height }
}

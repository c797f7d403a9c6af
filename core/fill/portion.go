package fill

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Faces that an increment turns to the others, as labels of its mesh; 0 is the tooth's
// original surface, all else the cavity's own features.
const (
	Upon    uint16 = 0x400 + iota // what the next ones lie on: free as it sets
	Beneath                       // what it lies on
)

// Portion is one increment as it is meant: all of the filling that lies within its borders and
// that none before took.
type Portion struct {
	Name string
	// Why it is laid so; "" where the name says it.
	Why  string
	Kind Kind // of composite
	// Most is how thick (mm) it may be, where that is less than the others.
	Most    float64
	Borders []*solid.Border
	// Inside (mm, about a distance) is negative within what is no border that can be laid out
	// flat; nil where there is nothing of the kind.
	Inside func(p r3.Vec) float64
}

// within (mm, about a distance) is negative within all that limits a portion.
func (p Portion) within(q r3.Vec) float64 {
	d := math.Inf(-1)
	if p.Inside != nil {
		d = p.Inside(q)
	}
	for _, b := range p.Borders {
		d = math.Max(d, b.Field(q))
	}
	return d
}

// limit is what limits a portion, as a tool.
type limit struct {
	within func(p r3.Vec) float64
	face   uint16
	bounds solid.Box
}

func (l limit) Distance(p r3.Vec) float64 { return l.within(p) }
func (l limit) Feature(r3.Vec) uint16     { return l.face }
func (l limit) Bounds() solid.Box         { return l.bounds }

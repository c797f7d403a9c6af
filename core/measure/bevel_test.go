package measure

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/solid"
)

// bevelled is the pocket with a chamfer along all its margins.
type bevelled struct {
	pocket
	width, angle float64 // mm along the face; degrees to the block's top
}

func (b bevelled) in(table anatomy.Frame, bounds solid.Box) form {
	b.table, b.bounds = table, bounds
	return b
}

func (b bevelled) face(at r3.Vec) float64 {
	sides, ends, _ := b.walls(b.table.To(at))
	sin, cos := math.Sincos(b.angle * math.Pi / 180)
	wall := math.Max(sides, ends)
	return (wall-b.width*cos)*sin - b.table.To(at).Z*cos
}

func (b bevelled) Distance(at r3.Vec) float64 {
	return math.Min(b.pocket.Distance(at), b.face(at))
}

func (b bevelled) Feature(at r3.Vec) uint16 {
	if b.face(at) < b.pocket.Distance(at)-1e-6 {
		high := at // over the floor, so that a wall is named
		high = r3.Add(high, r3.Scale(10, b.table.W))
		return b.pocket.Feature(high) | cavity.BevelFlag
	}
	return b.pocket.Feature(at)
}

func TestBevelAgainstKnownAnswers(t *testing.T) {
	for _, c := range []struct{ width, angle, grid float64 }{
		{0.5, 45, 0.1}, {0.5, 45, 0.15}, {0.3, 45, 0.1}, {0.8, 30, 0.1}, {0.4, 60, 0.1},
	} {
		shape := standard()
		shape.leanIn, shape.leanOut = 0, 0
		p := cutInto(bevelled{shape, c.width, c.angle}, c.grid)
		if !p.Mesh.Closed() {
			t.Fatal("open mesh")
		}
		width, angle, ok := p.Bevel()
		near(t, "bevel", width, ok, c.width, 0.03)
		near(t, "angle", angle, ok, c.angle, 1)
		isthmus, ok := p.IsthmusWidth()
		near(t, "isthmus under the bevel", isthmus, ok, 2*shape.halfWidth, 0.03)
	}
}

func TestNoBevelNoReading(t *testing.T) {
	if width, _, ok := cutInto(standard(), 0.1).Bevel(); ok {
		t.Errorf("reads %.2f", width.Value)
	}
}

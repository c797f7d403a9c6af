package measure

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/solid"
)

// levelled takes the top of the block off beyond y = 0, down to a slope.
type levelled struct {
	pocket
	down, slope float64 // mm at y = 1.5; mm a mm outwards
}

func (l levelled) Distance(at r3.Vec) float64 {
	q := l.table.To(at)
	return max(-q.Y, -(q.Z+l.down)-l.slope*(q.Y-1.5))
}

func (l levelled) Feature(r3.Vec) uint16 { return cavity.CuspReduction }

func (l levelled) in(table anatomy.Frame, bounds solid.Box) form {
	l.table, l.bounds = table, bounds
	return l
}

func TestRoomOverAReducedCusp(t *testing.T) {
	for _, c := range []struct{ down, slope, want float64 }{{2.0, 0, 2.0}, {1.6, 0, 1.6}, {2.0, 0.2, 1.8}} {
		p := cutInto(levelled{down: c.down, slope: c.slope}, 0.1)
		p.Model.CuspTips = []anatomy.Named{
			{Name: "B", At: p.Model.Table.From(r3.Vec{Y: 1.5})}, {Name: "L", At: p.Model.Table.From(r3.Vec{Y: -1.5})},
		}
		room, ok := p.CuspRoom()
		near(t, "room", room, ok, c.want, 0.04)
		if room.Where.Name != "reduced B cusp" || p.Reduced(p.Model.CuspTips[1]) {
			t.Errorf("the room is over the %s", room.Where.Name)
		}
	}
	p := cutInto(standard(), 0.1)
	p.Model.CuspTips = []anatomy.Named{{Name: "B", At: p.Model.Table.From(r3.Vec{Y: 1.5})}}
	if _, ok := p.CuspRoom(); ok {
		t.Error("room over a cusp that stands")
	}
}

func TestThicknessAtTheBaseOfACusp(t *testing.T) {
	const face = 2.8 // mm from the block's middle to its facial and lingual sides
	for _, c := range []struct{ halfWidth, lean float64 }{{0.6, 0}, {1.0, 0}, {0.6, 4}} {
		cut := standard()
		cut.halfWidth, cut.leanIn, cut.radius = c.halfWidth, c.lean, 0.1
		p := cutInto(cut, 0.1)
		p.Model.CuspTips = []anatomy.Named{{Name: "B", At: p.Model.Table.From(r3.Vec{Y: 1.8})}, {Name: "L", At: p.Model.Table.From(r3.Vec{Y: -1.8})}}
		// A wall that leans in is furthest out where it meets the rounded line angle.
		foot := (cut.depth - cut.radius) * math.Tan(c.lean*math.Pi/180)
		for _, cusp := range p.Model.CuspTips {
			left, ok := p.CuspThickness(cusp)
			near(t, cusp.Name, left, ok, face-c.halfWidth-foot, 0.04)
		}
	}
}

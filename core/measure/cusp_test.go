package measure

import (
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/prep"
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

func (l levelled) Feature(r3.Vec) uint16 { return prep.CuspReduction }

func (l levelled) in(table anatomy.Frame, bounds solid.Box) form {
	l.table, l.bounds = table, bounds
	return l
}

func TestRoomOverAReducedCusp(t *testing.T) {
	for _, c := range []struct{ down, slope, want float64 }{{2.0, 0, 2.0}, {1.6, 0, 1.6}, {2.0, 0.2, 1.8}} {
		p := prepared(levelled{down: c.down, slope: c.slope}, 0.1)
		p.Model.CuspTips = []anatomy.Named{
			{Name: "B", At: p.Model.Table.From(r3.Vec{Y: 1.5})}, {Name: "L", At: p.Model.Table.From(r3.Vec{Y: -1.5})},
		}
		room, ok := p.CuspRoom()
		near(t, "room", room, ok, c.want, 0.04)
		if room.Where.Name != "reduced B cusp" || p.Reduced(p.Model.CuspTips[1]) {
			t.Errorf("the room is over the %s", room.Where.Name)
		}
	}
	p := prepared(standard(), 0.1)
	p.Model.CuspTips = []anatomy.Named{{Name: "B", At: p.Model.Table.From(r3.Vec{Y: 1.5})}}
	if _, ok := p.CuspRoom(); ok {
		t.Error("room over a cusp that stands")
	}
}

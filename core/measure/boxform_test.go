package measure

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/solid"
)

// stepped is a slot with an occlusal step at its back: a straight trough whose
// floor ends at the axial wall, with that edge rounded, bevelled or sharp, and
// with grooves in the side walls.
type stepped struct {
	slot
	floor         float64 // mm below the top
	round, bevel  float64 // mm: radius, or width of the face
	groove        float64 // mm into the side walls, 0 for none
	grooveTop     float64 // mm over the seat where it runs out, 0 for through the top
	isthmusHalf   float64
	isthmusLength float64
}

func plainStep() stepped {
	s := stepped{slot: plainSlot(), floor: 1.5, isthmusHalf: 0.55, isthmusLength: 5}
	s.lean = 0
	return s
}

const grooveR = 0.25

func (s stepped) parts(at r3.Vec) (trough, edge, grooves float64) {
	q := s.table.To(at)
	above, past := q.Z+s.floor, math.Hypot(q.X-faceCentre, q.Y)-(faceRadius-s.axial)
	side := math.Abs(q.Y) - s.isthmusHalf
	trough = math.Max(math.Max(side, -above), 3.6-s.isthmusLength-q.X)
	edge = math.Inf(1)
	seat := -(q.Z + s.seat)
	switch {
	case s.round > 0:
		edge = math.Max(math.Max(-solid.RoundedIntersection(above, past, s.round), side), math.Max(math.Max(-above, -past)-s.round, seat))
	case s.bevel > 0:
		edge = math.Max(math.Max((-above-past-s.bevel/math.Sqrt2)/math.Sqrt2, side), math.Max(math.Max(-above, -past)-s.bevel, seat))
	}
	grooves = math.Inf(1)
	if s.groove > 0 {
		for _, w := range []float64{s.buccal, -s.lingual} {
			y := w + math.Copysign(s.groove-grooveR, w)
			x := faceCentre + math.Sqrt(math.Pow(faceRadius-s.axial, 2)-w*w) + 0.15
			groove := math.Max(math.Hypot(q.X-x, q.Y-y)-grooveR, seat)
			if s.grooveTop > 0 {
				groove = math.Max(groove, q.Z+s.seat-s.grooveTop)
			}
			grooves = math.Min(grooves, groove)
		}
	}
	return trough, edge, grooves
}

func (s stepped) Distance(at r3.Vec) float64 {
	trough, edge, grooves := s.parts(at)
	return math.Min(math.Min(s.slot.Distance(at), grooves), math.Min(trough, edge))
}

func (s stepped) Feature(at r3.Vec) uint16 {
	trough, edge, grooves := s.parts(at)
	box := s.slot.Distance(at)
	switch d := s.Distance(at); {
	case d == grooves:
		return cavity.RetentionGroove
	case d == box:
		return s.slot.Feature(at)
	case d == trough && s.table.To(at).Z < -s.floor+0.2 && math.Abs(s.table.To(at).Y) < s.isthmusHalf-1e-3:
		return cavity.Floor
	case d == edge:
		return cavity.AxiopulpalEdge
	case s.table.To(at).Y > 0:
		return cavity.WallBuccal
	default:
		return cavity.WallLingual
	}
}

func (s stepped) cut(h float64) (Box, *anatomy.AdjacentSurface) {
	b, beside := s.slot.cutInto(h)
	s.table, s.bounds = turned(), solid.Box{Min: r3.Vec{X: -4.6, Y: -3.8, Z: -2.6}, Max: r3.Vec{X: 4.8, Y: 3.8, Z: 3.4}}
	const enamel = 0.9 // mm on the round face
	grid := solid.NewGrid(s.bounds, 0.2)
	dentin := solid.Sample(grid, func(at r3.Vec) float64 {
		q := s.table.To(at)
		return math.Hypot(q.X-faceCentre, q.Y) - (faceRadius - enamel)
	})
	m := anatomy.FromFields(notation.MustParse("46"), s.table, b.Model.Surface, dentin, nil)
	return NewPrepared(m, m.Surface.Uncut().Carve(s)).Box(notation.Mesial), beside
}

func TestAxiopulpalEdgeAgainstKnownAnswers(t *testing.T) {
	for _, c := range []struct {
		name         string
		round, bevel float64
		want         float64
	}{{"rounded 0.28", 0.28, 0, 0.28 * math.Sqrt2}, {"rounded 0.4", 0.4, 0, 0.4 * math.Sqrt2}, {"bevelled 0.4", 0, 0.4, 0.4}, {"sharp", 0, 0, 0}} {
		s := plainStep()
		s.round, s.bevel = c.round, c.bevel
		b, _ := s.cut(0.1)
		if !b.Mesh.Closed() {
			t.Fatal("open mesh")
		}
		got, ok := b.Axiopulpal()
		near(t, c.name, got, ok, c.want, 0.05)
		depth, ok := b.AxialDepth()
		near(t, c.name+": axial depth", depth, ok, s.axial, 0.03)
	}
}

func TestBoxFormAgainstKnownAnswers(t *testing.T) {
	s := plainStep()
	s.groove = 0.35
	b, beside := s.cut(0.1)
	opening, ok := b.Opening()
	near(t, "opening", opening, ok, s.axial, 0.04)
	room, ok := b.Room(beside)
	near(t, "room to the adjacent tooth", room, ok, s.axial+s.neighbourFace, 0.04)
	into, ok := b.AxialIntoDentin()
	near(t, "axial wall inside dentin", into, ok, s.axial-0.9, 0.03)
	groove, ok := b.GrooveDepth()
	near(t, "groove", groove, ok, s.groove, 0.04)

	s.grooveTop = 0.7 // it runs out low, as under a short cusp
	low, _ := s.cut(0.1)
	groove, ok = low.GrooveDepth()
	near(t, "low groove", groove, ok, s.groove, 0.04)

	smooth, _ := plainStep().cut(0.1)
	none, ok := smooth.GrooveDepth()
	near(t, "no groove", none, ok, 0, 0)
}

func TestAWallLeftInEnamelReadsNegative(t *testing.T) {
	s := plainStep()
	s.axial = 0.7
	b, _ := s.cut(0.1)
	into, ok := b.AxialIntoDentin()
	near(t, "axial wall in enamel", into, ok, -0.2, 0.03)
}

func TestTheBridgeBetweenTwoCavities(t *testing.T) {
	p := cutInto(standard(), 0.1)
	if _, ok := p.Bridge(); ok {
		t.Error("one cavity has a bridge")
	}
	// A second trough beyond a bridge of 0.8.
	const bridge = 0.8
	first := standard()
	first.halfLength, first.leanOut = 0.7, 0
	p = cutInto(first, 0.1)
	both := NewPrepared(p.Model, p.Workpiece.Carve(moved(first, r3.Vec{X: 2*first.halfLength + bridge})))
	got, ok := both.Bridge()
	near(t, "bridge", got, ok, bridge, 0.04)
	depth, ok := both.PulpalDepth()
	near(t, "depth of two floors", depth, ok, first.depth, 0.02)
}

// moved is a pocket cut elsewhere in the block, by a step in its table's plane.
func moved(p pocket, by r3.Vec) pocket {
	p.table, p.bounds = turned(), solid.Box{Min: r3.Vec{X: -4.6, Y: -3.6, Z: -1.8}, Max: r3.Vec{X: 4.8, Y: 3.6, Z: 3.4}}
	p.table.Origin = p.table.From(by)
	return p
}

func TestATongueBetweenTwoArms(t *testing.T) {
	const tongue = 0.4
	arm := standard()
	arm.halfWidth, arm.leanIn = 0.5, 0
	p := cutInto(arm, 0.1)
	cut := p.Workpiece.Carve(moved(arm, r3.Vec{Y: 2*arm.halfWidth + tongue}))
	joint := arm
	joint.halfLength, joint.halfWidth, joint.leanOut = 0.5, 1.2, 0
	both := NewPrepared(p.Model, cut.Carve(moved(joint, r3.Vec{X: -1, Y: 0.7})))
	got, ok := both.Bridge()
	near(t, "tongue", got, ok, tongue, 0.04)
}

func TestTheAxialWallIsAsHighAsTheStepUnderTheFloor(t *testing.T) {
	for _, floor := range []float64{1.2, 1.9} {
		s := plainStep()
		s.floor = floor
		b, _ := s.cut(0.1)
		got, ok := b.AxialHeight()
		near(t, "axial wall", got, ok, s.seat-floor, 0.06)
	}
}

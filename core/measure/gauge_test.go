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

// pocket is a preparation whose every figure is known: a rectangular pocket
// in the flat top of a block. All faces are planes in the table's frame.
type pocket struct {
	table                 anatomy.Frame
	halfLength, halfWidth float64 // at the margin, mm
	depth                 float64
	leanIn, leanOut       float64 // degrees: sides over the cavity, ends away
	tilt                  float64 // degrees, floor rising towards facial
	radius                float64
	bounds                solid.Box
}

func (p pocket) walls(q r3.Vec) (sides, ends, above float64) {
	sinIn, cosIn := math.Sincos(p.leanIn * math.Pi / 180)
	sinOut, cosOut := math.Sincos(p.leanOut * math.Pi / 180)
	sides = (math.Abs(q.Y)-p.halfWidth)*cosIn + q.Z*sinIn
	ends = (math.Abs(q.X)-p.halfLength)*cosOut - q.Z*sinOut
	sinTilt, cosTilt := math.Sincos(p.tilt * math.Pi / 180)
	return sides, ends, (q.Z+p.depth)*cosTilt - q.Y*sinTilt
}

func (p pocket) Distance(at r3.Vec) float64 {
	sides, ends, above := p.walls(p.table.To(at))
	return solid.RoundedIntersection(math.Max(sides, ends), -above, p.radius)
}

func (p pocket) Feature(at r3.Vec) uint16 {
	q := p.table.To(at)
	sides, ends, above := p.walls(q)
	switch {
	case -above > math.Max(sides, ends):
		return cavity.Floor
	case sides >= ends && q.Y > 0:
		return cavity.WallBuccal
	case sides >= ends:
		return cavity.WallLingual
	case q.X > 0:
		return cavity.WallMesial
	default:
		return cavity.WallDistal
	}
}

func (p pocket) Bounds() solid.Box { return p.bounds }

// turned is a table frame that lines up with no grid.
func turned() anatomy.Frame {
	w := r3.Unit(r3.Vec{X: 0.06, Y: -0.11, Z: 1})
	u := r3.Unit(r3.Cross(r3.Vec{X: -0.13, Y: 1, Z: 0.1}, w))
	return anatomy.Frame{Origin: r3.Vec{X: 0.13, Y: -0.07, Z: 2.21}, U: u, V: r3.Cross(w, u), W: w}
}

const (
	blockHalfLength = 3.6 // mm, from the table's origin to the proximal surfaces
	pulpDepth       = 3.4 // mm under the table, centre of a round pulp
	pulpRadius      = 0.6
)

// form is a pocket, or one with something about it changed.
type form interface {
	solid.Tool
	in(table anatomy.Frame, bounds solid.Box) form
}

func (p pocket) in(table anatomy.Frame, bounds solid.Box) form {
	p.table, p.bounds = table, bounds
	return p
}

// prepared cuts a form into a block with the figures above.
func cutInto(p form, h float64) *Prepared {
	table := turned()
	box := solid.Box{Min: r3.Vec{X: -4.6, Y: -3.6, Z: -1.8}, Max: r3.Vec{X: 4.8, Y: 3.6, Z: 3.4}}
	p = p.in(table, box)
	block := solid.NewBlank(solid.NewGrid(box, h), func(at r3.Vec) float64 {
		q := table.To(at)
		return math.Max(q.Z, math.Max(math.Abs(q.X)-blockHalfLength, math.Max(math.Abs(q.Y)-2.8, -3-q.Z)))
	})
	pulp := table.From(r3.Vec{Z: -pulpDepth})
	round := solid.Sample(solid.NewGrid(box, 0.2), func(at r3.Vec) float64 { return r3.Norm(r3.Sub(at, pulp)) - pulpRadius })
	m := anatomy.FromFields(notation.MustParse("46"), table, block, nil, round)
	return NewPrepared(m, m.Surface.Uncut().Carve(p))
}

func standard() pocket {
	return pocket{halfLength: 1.5, halfWidth: 0.6, depth: 1.7, leanIn: 4, leanOut: 5, radius: 0.2}
}

func near(t *testing.T, name string, got Reading, ok bool, want, tolerance float64) {
	t.Helper()
	if !ok || math.Abs(got.Value-want) > tolerance {
		t.Errorf("%s measures %.4f (%v), want %.4f within %.4f", name, got.Value, ok, want, tolerance)
	}
}

func TestGaugesAgainstKnownAnswers(t *testing.T) {
	p := cutInto(standard(), 0.1)
	if !p.Mesh.Closed() {
		t.Fatal("open mesh")
	}
	depth, ok := p.PulpalDepth()
	near(t, "depth", depth, ok, 1.7, 0.03)
	isthmus, ok := p.IsthmusWidth()
	near(t, "isthmus", isthmus, ok, 1.2, 0.03)
	flat, ok := p.FloorFlatness()
	near(t, "flatness", flat, ok, 0, 0.03)
	tilt, ok := p.FloorTilt()
	near(t, "tilt", tilt, ok, 0, 0.5)
	for feature, want := range map[uint16]float64{cavity.WallBuccal: 4, cavity.WallLingual: 4, cavity.WallMesial: -5, cavity.WallDistal: -5} {
		lean, ok := p.WallLean(feature)
		near(t, cavity.FeatureName(feature), lean, ok, want, 1)
	}
	for _, feature := range []uint16{cavity.WallMesial, cavity.WallDistal} {
		ridge, ok := p.RidgeKept(feature)
		near(t, "ridge beside the "+cavity.FeatureName(feature), ridge, ok, blockHalfLength-1.5, 0.03)
	}
	pulp, ok := p.PulpDistance()
	near(t, "dentin over the pulp", pulp, ok, pulpDepth-1.7-pulpRadius, 0.03)
	radius, ok := p.LineAngleRadius()
	near(t, "line angle", radius, ok, 0.2, 0.03)
	width, ok := p.EndWidth(+1)
	near(t, "end width", width, ok, 1.2, 0.03)
}

func TestSharpAndRoundLineAngles(t *testing.T) {
	for _, want := range []float64{0.08, 0.3, 0.4} {
		shape := standard()
		shape.halfWidth, shape.radius = 1.0, want
		got, ok := cutInto(shape, 0.1).LineAngleRadius()
		near(t, "line angle", got, ok, want, 0.04)
	}
}

func TestATiltedFloorIsFelt(t *testing.T) {
	shape := standard()
	shape.halfWidth, shape.tilt = 1.0, 6
	p := cutInto(shape, 0.1)
	tilt, ok := p.FloorTilt()
	near(t, "tilt", tilt, ok, 6, 0.5)
	depth, ok := p.PulpalDepth()
	if !ok || depth.Value > 1.65 {
		t.Errorf("the high side of a tilted floor is shallower than its middle, measured %.3f", depth.Value)
	}
}

func TestCavosurfaceAngleOfALeaningWall(t *testing.T) {
	shape := standard()
	shape.leanIn, shape.leanOut = 0, 0
	for _, angle := range cutInto(shape, 0.1).MarginAngles() {
		near(t, "cavosurface angle of an upright wall", angle, true, 90, 1)
	}
	shape.leanIn, shape.leanOut, shape.halfWidth = 10, 15, 1.2
	angles := cutInto(shape, 0.1).MarginAngles()
	near(t, "where walls lean out", angles[0], true, 105, 1)
	near(t, "where walls lean in", angles[1], true, 80, 1)
}

func TestAFinerGridConverges(t *testing.T) {
	errorAt := func(h float64) float64 {
		p := cutInto(standard(), h)
		want := 1.2
		isthmus, _ := p.IsthmusWidth()
		return math.Abs(isthmus.Value-want) + math.Abs(p.Model.Surface.Volume()-p.Mesh.Volume()-pocketVolume(standard()))
	}
	coarse, fine := errorAt(0.2), errorAt(0.1)
	if fine > coarse {
		t.Errorf("error %.4f at 0.1 mm, %.4f at 0.2 mm", fine, coarse)
	}
}

// pocketVolume integrates the pocket's level sections, without the fillet.
func pocketVolume(p pocket) float64 {
	in, out := math.Tan(p.leanIn*math.Pi/180), math.Tan(p.leanOut*math.Pi/180)
	const steps = 1000
	sum := 0.0
	for n := range steps {
		z := p.depth * (float64(n) + 0.5) / steps
		sum += 4 * (p.halfWidth + z*in) * (p.halfLength - z*out) * p.depth / steps
	}
	return sum
}

func TestVolumeOfThePocket(t *testing.T) {
	shape := standard()
	shape.radius = 0
	p := cutInto(shape, 0.1)
	got, want := p.Model.Surface.Volume()-p.Mesh.Volume(), pocketVolume(shape)
	if math.Abs(got/want-1) > 0.01 {
		t.Errorf("removed %.4f mm3, want %.4f", got, want)
	}
}

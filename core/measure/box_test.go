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

// slot is a proximal box whose every figure is known, cut into a block with a
// round mesial surface, in a frame that lines up with no grid.
type slot struct {
	table         anatomy.Frame
	buccal        float64 // mm from the middle to the buccal wall at the top
	lingual       float64
	lean          float64 // degrees, buccal wall over the cavity
	seat          float64 // mm below the top
	slope         float64 // degrees, seat falling outwards from the axial wall
	axial         float64 // mm between the two round faces
	bounds        solid.Box
	neighbourFace float64 // mm from the block's furthest point
}

// The block's mesial surface is a cylinder about an upright axis.
const (
	faceRadius = 6.0
	faceCentre = 3.6 - faceRadius
)

func (s slot) faces(q r3.Vec) map[uint16]float64 {
	sin, cos := math.Sincos(s.lean * math.Pi / 180)
	sinS, cosS := math.Sincos(s.slope * math.Pi / 180)
	axialX := 3.6 - s.axial
	return map[uint16]float64{
		cavity.BoxBuccal:     (q.Y-s.buccal)*cos + q.Z*sin,
		cavity.BoxLingual:    -q.Y - s.lingual,
		cavity.AxialWall:     (faceRadius - s.axial) - math.Hypot(q.X-faceCentre, q.Y),
		cavity.GingivalFloor: -(q.Z+s.seat)*cosS - (q.X-axialX)*sinS,
	}
}

func (s slot) Distance(at r3.Vec) float64 {
	q := s.table.To(at)
	d := -q.X // only on the mesial side
	for _, f := range s.faces(q) {
		d = math.Max(d, f)
	}
	return d
}

func (s slot) Feature(at r3.Vec) uint16 {
	best, feature := math.Inf(-1), cavity.AxialWall
	faces := s.faces(s.table.To(at))
	for _, f := range []uint16{cavity.BoxBuccal, cavity.BoxLingual, cavity.AxialWall, cavity.GingivalFloor} {
		if faces[f] > best {
			best, feature = faces[f], f
		}
	}
	return feature
}

func (s slot) Bounds() solid.Box { return s.bounds }

func plainSlot() slot {
	return slot{buccal: 1.3, lingual: 1.2, lean: 5, seat: 2.6, axial: 1.3, neighbourFace: 0.2}
}

func (s slot) cutInto(h float64) (Box, *anatomy.AdjacentSurface) {
	s.table = turned()
	box := solid.Box{Min: r3.Vec{X: -4.6, Y: -3.8, Z: -2.6}, Max: r3.Vec{X: 4.8, Y: 3.8, Z: 3.4}}
	s.bounds = box
	block := solid.NewBlank(solid.NewGrid(box, h), func(at r3.Vec) float64 {
		q := s.table.To(at)
		return math.Max(math.Max(q.Z, -4-q.Z), math.Max(math.Max(math.Abs(q.Y)-2.8, -3.4-q.X), math.Hypot(q.X-faceCentre, q.Y)-faceRadius))
	})
	m := anatomy.FromFields(notation.MustParse("46"), s.table, block, nil, nil)
	p := NewPrepared(m, m.Surface.Uncut().Carve(s))

	// The adjacent tooth is a block with a flat face square to the table.
	face := 3.6 + s.neighbourFace
	beyond := solid.Box{Min: r3.Vec{X: 2.6, Y: -4, Z: -2.6}, Max: r3.Vec{X: 6.6, Y: 4, Z: 3.6}}
	wall := solid.NewBlank(solid.NewGrid(beyond, h), func(at r3.Vec) float64 {
		q := s.table.To(at)
		return math.Max(math.Max(face-q.X, q.X-face-1.5), math.Max(math.Abs(q.Y)-3, math.Abs(q.Z+2)-2))
	})
	other := &anatomy.Neighbour{Model: anatomy.FromFields(notation.MustParse("45"), s.table, wall, nil, nil)}
	contact := anatomy.Contact{At: s.table.From(r3.Vec{X: 3.6}), Normal: s.table.U}
	return p.Box(notation.Mesial), other.AdjacentSurface(contact, 2)
}

func TestBoxGaugesAgainstKnownAnswers(t *testing.T) {
	s := plainSlot()
	// Where the margins run on the round face.
	onFace := func(y float64) float64 { return faceCentre + math.Sqrt(faceRadius*faceRadius-y*y) }
	seatBuccal := s.buccal + s.seat*math.Tan(s.lean*math.Pi/180)
	exit := func(y float64) float64 { return 90 - math.Asin(y/faceRadius)*180/math.Pi }
	width := 0.7 * (seatBuccal + s.lingual)
	for _, h := range []float64{0.2, 0.1} {
		length, angle := 0.03*h/0.1, 1.0*h/0.1 // what the grid may leave
		b, beside := s.cutInto(h)
		if !b.Mesh.Closed() {
			t.Fatal("open mesh")
		}
		depth, ok := b.AxialDepth()
		near(t, "axial depth", depth, ok, s.axial, length)
		bulge, outer, ok := b.AxialConvexity()
		near(t, "axial convexity", bulge, ok, width*width/8/(faceRadius-s.axial), length/2)
		near(t, "convexity of the uncut face", Reading{Value: outer}, ok, width*width/8/faceRadius, length/2)
		for name, c := range map[string]struct {
			feature uint16
			want    float64
		}{
			"buccal clearance":   {cavity.BoxBuccal, s.neighbourFace + 3.6 - onFace(s.buccal)},
			"lingual clearance":  {cavity.BoxLingual, s.neighbourFace + 3.6 - onFace(s.lingual)},
			"gingival clearance": {cavity.GingivalFloor, s.neighbourFace},
		} {
			got, ok := b.Clearance(c.feature, beside)
			near(t, name, got, ok, c.want, length)
		}
		lingual, ok := b.ExitAngle(cavity.BoxLingual)
		near(t, "lingual exit angle", lingual, ok, exit(s.lingual), angle)
		buccal, ok := b.ExitAngle(cavity.BoxBuccal)
		near(t, "buccal exit angle", buccal, ok, exit((s.buccal+seatBuccal)/2), angle)
		leaning, ok := b.WallAngle(cavity.BoxBuccal)
		near(t, "buccal wall to the seat", leaning, ok, 90-s.lean, angle)
		square, ok := b.WallAngle(cavity.BoxLingual)
		near(t, "lingual wall to the seat", square, ok, 90, angle)
		slope, ok := b.GingivalSlope()
		near(t, "gingival slope", slope, ok, 0, angle)
	}
}

func TestASlopingSeatIsFelt(t *testing.T) {
	s := plainSlot()
	s.slope = 20
	b, _ := s.cutInto(0.1)
	slope, ok := b.GingivalSlope()
	near(t, "gingival slope", slope, ok, 20, 1)
	depth, ok := b.AxialDepth()
	near(t, "axial depth over a sloping seat", depth, ok, s.axial, 0.03)
}

func TestBoxGaugesSayWhereThereIsNoBox(t *testing.T) {
	b, beside := plainSlot().cutInto(0.2)
	other := b.Prepared.Box(notation.Distal)
	_, depth := other.AxialDepth()
	_, _, bulge := other.AxialConvexity()
	_, clearance := other.Clearance(cavity.BoxBuccal, beside)
	_, exit := other.ExitAngle(cavity.BoxBuccal)
	_, wall := other.WallAngle(cavity.BoxBuccal)
	_, slope := other.GingivalSlope()
	if depth || bulge || clearance || exit || wall || slope {
		t.Error("a gauge reads a box that was not cut")
	}
	if _, ok := b.Clearance(cavity.BoxBuccal, &anatomy.AdjacentSurface{}); ok {
		t.Error("a clearance to no neighbour")
	}
}

// errorsOfLengths sums what the length gauges are off by on one grid.
func errorsOfLengths(h float64) float64 {
	s := plainSlot()
	b, beside := s.cutInto(h)
	depth, _ := b.AxialDepth()
	gingival, _ := b.Clearance(cavity.GingivalFloor, beside)
	removed := b.Model.Surface.Volume() - b.Mesh.Volume()
	return math.Abs(depth.Value-s.axial) + math.Abs(gingival.Value-s.neighbourFace) + math.Abs(removed-slotVolume(s))/slotVolume(s)
}

// slotVolume integrates the slot's level sections inside the block.
func slotVolume(s slot) float64 {
	const steps = 400
	sum := 0.0
	for i := range steps {
		z := -s.seat * (float64(i) + 0.5) / steps
		high := s.buccal - z*math.Tan(s.lean*math.Pi/180)
		for j := range steps {
			y := -s.lingual + (high+s.lingual)*(float64(j)+0.5)/steps
			inner := faceRadius - s.axial
			sum += (math.Sqrt(faceRadius*faceRadius-y*y) - math.Sqrt(inner*inner-y*y)) * (high + s.lingual) / steps * s.seat / steps
		}
	}
	return sum
}

func TestBoxGaugesConverge(t *testing.T) {
	coarse, fine := errorsOfLengths(0.2), errorsOfLengths(0.1)
	t.Logf("summed errors %.4f at 0.2 mm, %.4f at 0.1 mm", coarse, fine)
	if fine > coarse/2+0.002 {
		t.Errorf("summed errors of %.4f at 0.1 mm, %.4f at 0.2 mm", fine, coarse)
	}
	if fine > 0.03 {
		t.Errorf("summed errors of %.4f at 0.1 mm", fine)
	}
}

func TestCuspThicknessAndDepthMap(t *testing.T) {
	p := cutInto(standard(), 0.1)
	table := p.Model.Table
	// The wall is thinnest where its lean ends above the line angle.
	want := 2.8 - (0.6 + 1.55*math.Tan(4*math.Pi/180))
	for name, y := range map[string]float64{"buccal": 2, "lingual": -2} {
		got, ok := p.CuspThickness(anatomy.Named{Name: name, At: table.From(r3.Vec{Y: y})})
		near(t, name+" cusp", got, ok, want, 0.03)
	}
	depths := p.DepthMap(0.1)
	near(t, "depth in the middle", Reading{Value: depths.At(0, 0)}, true, 1.7, 0.03)
	near(t, "depth beside the cavity", Reading{Value: depths.At(0, 0.85)}, true, 0, 0.03)
}

// enamelOf lays a flat junction under the top of a prepared block.
func enamelOf(shape pocket, thickness, h float64) *Prepared {
	p := cutInto(shape, h)
	table := p.Model.Table
	grid := solid.NewGrid(solid.Box{Min: r3.Vec{X: -4.6, Y: -3.6, Z: -1.8}, Max: r3.Vec{X: 4.8, Y: 3.6, Z: 3.4}}, 0.2)
	dentin := solid.Sample(grid, func(at r3.Vec) float64 { return table.To(at).Z + thickness })
	m := anatomy.FromFields(notation.MustParse("46"), table, p.Model.Surface, dentin, p.Model.Pulp())
	return NewPrepared(m, p.Workpiece)
}

func TestUnsupportedEnamelOverAnUndercutWall(t *testing.T) {
	const thickness = 1.5
	for _, lean := range []float64{10, 15} {
		shape := standard()
		shape.leanIn = lean
		got, ok := enamelOf(shape, thickness, 0.1).UnsupportedEnamel()
		near(t, "strip without dentin under it", got, ok, thickness*math.Tan(lean*math.Pi/180), 0.06)
	}
	shape := standard()
	shape.leanIn = -6 // walls that lean out leave nothing hanging
	got, ok := enamelOf(shape, thickness, 0.1).UnsupportedEnamel()
	near(t, "strip beside walls that lean out", got, ok, 0, 0.06)
}

func TestVolumesByTissue(t *testing.T) {
	const thickness = 1.0
	shape := standard()
	shape.radius = 0
	top := shape
	top.depth = thickness
	enamel := pocketVolume(top)
	got := enamelOf(shape, thickness, 0.1).Volumes()
	if math.Abs(got.Enamel/enamel-1) > 0.02 || math.Abs((got.Enamel+got.Dentin)/pocketVolume(shape)-1) > 0.01 {
		t.Errorf("removed %+v, want %.3f of enamel of %.3f", got, enamel, pocketVolume(shape))
	}
}

func TestACuspsForm(t *testing.T) {
	p := cutInto(standard(), 0.1)
	cusp := anatomy.Named{Name: "buccal", At: p.Model.Table.From(r3.Vec{Y: 2})}
	f, ok := p.CuspForm(cusp)
	thickness, _ := p.CuspThickness(cusp)
	if !ok || f.Base != thickness.Value || f.Over != thickness.Over || f.Under != 0 {
		t.Errorf("%+v, want %+v at its base on nothing but tooth", f, thickness)
	}
	// The block ends it on one side, the groove to the next cusp on the other.
	alone := f.Width
	p.Model.CuspTips = append(p.Model.CuspTips, cusp, anatomy.Named{Name: "next", At: p.Model.Table.From(r3.Vec{X: 2, Y: 2})})
	f, _ = p.CuspForm(cusp)
	near(t, "width beside another", Reading{Value: f.Width}, true, alone/2+1, 0.15)
}

func TestTheFillingsBulk(t *testing.T) {
	s := plainStep()
	b, _ := s.cut(0.1)
	f, ok := b.Bulk()
	if !ok {
		t.Fatal("a box with a floor beside it has no bulk")
	}
	near(t, "bulk over the floor", Reading{Value: f.Isthmus}, true, s.floor, 0.05)
	if f.Lever < 1 || f.Lever > s.axial+0.3 || f.Ridge < s.floor {
		t.Errorf("lever %.2f mm, bulk under the ridge %.2f", f.Lever, f.Ridge)
	}
	slotted, _ := plainSlot().cutInto(0.1)
	if alone, ok := slotted.Bulk(); ok {
		t.Errorf("a slot has no floor beside it, and a bulk of %+v", alone)
	}
}

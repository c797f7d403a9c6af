package solid

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

// frame is a rotated system, so that nothing lines up with the grid.
type frame struct{ x, y, z r3.Vec }

func tilted() frame {
	z := r3.Unit(r3.Vec{X: 0.31, Y: -0.17, Z: 1})
	x := r3.Unit(r3.Cross(r3.Vec{X: 0.2, Y: 1, Z: 0.1}, z))
	return frame{x, r3.Cross(z, x), z}
}

func (f frame) local(p r3.Vec) r3.Vec {
	return r3.Vec{X: r3.Dot(p, f.x), Y: r3.Dot(p, f.y), Z: r3.Dot(p, f.z)}
}

func boxDistance(p, half r3.Vec) float64 {
	q := r3.Vec{X: math.Abs(p.X) - half.X, Y: math.Abs(p.Y) - half.Y, Z: math.Abs(p.Z) - half.Z}
	outside := r3.Norm(r3.Vec{X: math.Max(q.X, 0), Y: math.Max(q.Y, 0), Z: math.Max(q.Z, 0)})
	return outside + math.Min(math.Max(q.X, math.Max(q.Y, q.Z)), 0)
}

// boxTool is a box in the tilted frame about a centre.
type boxTool struct {
	centre, half r3.Vec
}

func (b boxTool) Distance(p r3.Vec) float64 {
	return boxDistance(tilted().local(r3.Sub(p, b.centre)), b.half)
}
func (b boxTool) Feature(r3.Vec) uint16 { return 7 }
func (b boxTool) Bounds() Box {
	r := r3.Norm(b.half)
	d := r3.Vec{X: r, Y: r, Z: r}
	return Box{Min: r3.Sub(b.centre, d), Max: r3.Add(b.centre, d)}
}

func ball(radius, h float64) *Blank {
	m := radius + 0.55
	g := NewGrid(Box{Min: r3.Vec{X: -m, Y: -m, Z: -m}, Max: r3.Vec{X: m, Y: m, Z: m}}, h)
	return NewBlank(g, func(p r3.Vec) float64 { return r3.Norm(p) - radius })
}

func TestBallVolumeConverges(t *testing.T) {
	want := 4.0 / 3 * math.Pi * 27
	last := 1.0
	for _, h := range []float64{0.2, 0.1} {
		mesh := ball(3, h).Uncut().Mesh()
		if !mesh.Closed() {
			t.Fatalf("h %v: open mesh", h)
		}
		e := math.Abs(mesh.Volume()/want - 1)
		if e > 0.002 || e > last/2 {
			t.Errorf("h %v: volume off by %.5f, was %.5f at twice the step", h, e, last)
		}
		last = e
	}
}

func TestCutBoxIsExactAndSharp(t *testing.T) {
	tool := boxTool{centre: r3.Vec{X: 0.1, Y: 0.2, Z: -0.1}, half: r3.Vec{X: 0.8, Y: 0.6, Z: 0.5}}
	blank := ball(3, 0.1)
	cut := blank.Uncut().Carve(tool)
	mesh := cut.Mesh()
	if !mesh.Closed() {
		t.Fatal("open mesh")
	}
	want := 8 * 0.8 * 0.6 * 0.5
	removed := blank.Uncut().Mesh().Volume() - mesh.Volume()
	if math.Abs(removed/want-1) > 0.005 {
		t.Errorf("removed %.4f mm3, want %.4f", removed, want)
	}
	worst := 0.0
	for n, label := range mesh.Labels {
		if label == 7 {
			for _, v := range mesh.Triangles[n] {
				worst = math.Max(worst, math.Abs(tool.Distance(mesh.Vertices[v])))
			}
		}
	}
	if worst > 0.016 {
		t.Errorf("cut surface off by %.4f mm", worst)
	}
}

func TestClipGivesTheCommonSolid(t *testing.T) {
	blank := ball(3, 0.1)
	// A box that pokes out through the top of the ball.
	tool := boxTool{centre: r3.Scale(3, tilted().z), half: r3.Vec{X: 1, Y: 0.7, Z: 1.2}}
	whole, cut := blank.Uncut().Mesh(), blank.Uncut().Carve(tool).Mesh()
	common := blank.Uncut().Clip(tool).Mesh()
	if !cut.Closed() || !common.Closed() {
		t.Fatal("open mesh")
	}
	if diff := whole.Volume() - cut.Volume(); math.Abs(common.Volume()/diff-1) > 0.005 {
		t.Errorf("common %.4f mm3, difference %.4f", common.Volume(), diff)
	}
}

func TestCuttingLeavesEarlierStatesAlone(t *testing.T) {
	blank := ball(3, 0.2)
	start := blank.Uncut()
	before := start.Mesh().Volume()
	once := start.Carve(boxTool{half: r3.Vec{X: 1, Y: 1, Z: 1}})
	volume := once.Mesh().Volume()
	once.Carve(boxTool{centre: r3.Vec{X: 2}, half: r3.Vec{X: 1, Y: 1, Z: 1}})
	if start.Mesh().Volume() != before || once.Mesh().Volume() != volume {
		t.Error("a later cut changed an earlier state")
	}
}

func TestEveryCellPatternGroupsItsEdges(t *testing.T) {
	for pattern, config := range cellConfigs {
		for e, ends := range cellEdges {
			crossed := pattern>>ends[0]&1 != pattern>>ends[1]&1
			if crossed != (config.sheet[e] >= 0) || int(config.sheet[e]) >= config.sheets {
				t.Fatalf("pattern %08b edge %d: sheet %d of %d", pattern, e, config.sheet[e], config.sheets)
			}
		}
	}
	if got := cellConfigs[0b10000001].sheets; got != 2 {
		t.Errorf("opposite corners make %d sheets, want 2", got)
	}
}

func TestContourOfACircle(t *testing.T) {
	s := NewSheet(-3, -3, 3, 3, 0.05).Fill(func(x, y float64) float64 { return math.Hypot(x-0.3, y+0.2) - 2 })
	lines := s.Contours(0)
	if len(lines) != 1 || !lines[0].Closed {
		t.Fatalf("%d lines, want one closed", len(lines))
	}
	if a := lines[0].Area(); math.Abs(a/(4*math.Pi)-1) > 0.001 {
		t.Errorf("area %.4f, want %.4f counter-clockwise", a, 4*math.Pi)
	}
	if l := lines[0].Resample(0.02).Length(); math.Abs(l/(4*math.Pi)-1) > 0.001 {
		t.Errorf("length %.4f", l)
	}
	if !lines[0].Contains(Point2{0.3, 1}) || lines[0].Contains(Point2{2.4, 0}) {
		t.Error("inside and outside confused")
	}
}

func TestContourOpensAtTheBorder(t *testing.T) {
	s := NewSheet(0, 0, 1, 1, 0.1).Fill(func(x, _ float64) float64 { return x - 0.55 })
	lines := s.Contours(0)
	if len(lines) != 1 || lines[0].Closed || math.Abs(lines[0].Length()-1) > 1e-6 {
		t.Errorf("got %+v, want one open line of length 1", lines)
	}
}

func TestDistanceToPoints(t *testing.T) {
	var points []r3.Vec
	for a := 0.0; a < 2*math.Pi; a += 0.05 {
		for z := -1.0; z <= 1; z += 0.05 {
			points = append(points, r3.Vec{X: math.Cos(a), Y: math.Sin(a), Z: z})
		}
	}
	g := NewGrid(Box{Min: r3.Vec{X: -3, Y: -3, Z: -1}, Max: r3.Vec{X: 3, Y: 3, Z: 1}}, 0.2)
	d := DistanceToPoints(g, points)
	for _, p := range []r3.Vec{{X: 2.2, Y: 0.7, Z: 0.1}, {X: 0.1, Y: 0.2, Z: 0.4}, {X: -1.4, Y: 1.1, Z: -0.5}} {
		want := math.Abs(math.Hypot(p.X, p.Y) - 1)
		if got := d.Distance(p); math.Abs(got-want) > 0.02 {
			t.Errorf("at %v: %.4f, want %.4f", p, got, want)
		}
	}
}

func TestRoundedIntersectionRadius(t *testing.T) {
	// On the fillet of two square walls every surface point is r from the axis.
	for angle := 0.0; angle <= math.Pi/2; angle += 0.2 {
		a, b := -0.3+0.3*math.Cos(angle), -0.3+0.3*math.Sin(angle)
		if d := RoundedIntersection(a, b, 0.3); math.Abs(d) > 1e-12 {
			t.Errorf("angle %.1f: %.3g off the fillet", angle, d)
		}
	}
	if d := RoundedIntersection(-1, -0.05, 0.02); math.Abs(d+0.05) > 1e-12 {
		t.Errorf("away from the corner the wall itself counts: %v", d)
	}
}

func TestDistanceClampsOutsideTheGrid(t *testing.T) {
	b := ball(1, 0.2)
	for _, p := range []r3.Vec{{X: 99}, {X: math.NaN()}, {Z: -99, Y: 99}} {
		if d := b.Distance(p); math.IsNaN(d) {
			t.Errorf("%v reads NaN", p)
		}
	}
}

func BenchmarkMeshBall(b *testing.B) {
	w := ball(5, 0.1).Uncut().Carve(boxTool{half: r3.Vec{X: 2, Y: 1, Z: 6}})
	for b.Loop() {
		w.Mesh()
	}
}

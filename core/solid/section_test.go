package solid

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

func TestSmoothReadsAParabolaExactly(t *testing.T) {
	f := func(x, y float64) float64 { return 0.3*x*x - 0.2*x*y + y }
	s := NewSheet(-2, -2, 2, 2, 0.1).Fill(f)
	for _, p := range []Point2{{0.03, 0.07}, {-1.21, 0.93}, {1.55, -1.42}} {
		if got := s.Smooth(p.X, p.Y); math.Abs(got-f(p.X, p.Y)) > 1e-4 {
			t.Errorf("at %v: %.5f, want %.5f", p, got, f(p.X, p.Y))
		}
		dx, dy := s.Slope(p.X, p.Y)
		if math.Abs(dx-(0.6*p.X-0.2*p.Y)) > 1e-3 || math.Abs(dy-(1-0.2*p.X)) > 1e-3 {
			t.Errorf("slope at %v: %.4f %.4f", p, dx, dy)
		}
	}
}

func TestSheetsReadTheirBorderOutside(t *testing.T) {
	s := NewSheet(0, 0, 1, 1, 0.1).Fill(func(x, y float64) float64 { return x + 10*y })
	for _, c := range []struct{ x, y, want float64 }{{-5, 0, 0}, {9, 0, 1}, {0.5, 99, 10.5}, {math.NaN(), 0, 0}} {
		if got := s.At(c.x, c.y); math.Abs(got-c.want) > 1e-5 {
			t.Errorf("at %v, %v: %v, want %v", c.x, c.y, got, c.want)
		}
	}
}

func TestBlurKeepsPlanesAndSpreadsSpikes(t *testing.T) {
	plane := NewSheet(-2, -2, 2, 2, 0.1).Fill(func(x, y float64) float64 { return 2*x - y })
	if got := plane.Blur(0.2).At(0.3, -0.4); math.Abs(got-1.0) > 1e-4 {
		t.Errorf("a blurred plane reads %v", got)
	}
	spike := NewSheet(-2, -2, 2, 2, 0.1)
	spike.Values[20*spike.NX+20] = 1
	blurred := spike.Blur(0.2)
	sum := 0.0
	for _, v := range blurred.Values {
		sum += float64(v)
	}
	if math.Abs(sum-1) > 1e-3 || blurred.Values[20*spike.NX+20] > 0.1 {
		t.Errorf("a spike keeps %.4f in all, %.4f in its place", sum, blurred.Values[20*spike.NX+20])
	}
}

func TestContoursOfTwoHillsAndARing(t *testing.T) {
	hills := NewSheet(-4, -2, 4, 2, 0.05).Fill(func(x, y float64) float64 {
		return math.Min(math.Hypot(x-2, y)-1, math.Hypot(x+2, y)-1)
	}).Contours(0)
	if len(hills) != 2 {
		t.Errorf("%d outlines of two discs", len(hills))
	}
	ring := NewSheet(-3, -3, 3, 3, 0.05).Fill(func(x, y float64) float64 { return math.Abs(math.Hypot(x, y)-1.5) - 0.5 }).Contours(0)
	outer, ok := Largest(ring)
	if len(ring) != 2 || !ok || math.Abs(math.Abs(outer.Area())-4*math.Pi) > 0.05 {
		t.Errorf("%d outlines of a ring, the outer of %.3f mm2", len(ring), outer.Area())
	}
	total := 0.0
	for _, l := range ring {
		total += l.Area()
	}
	if math.Abs(total-3*math.Pi) > 0.05 {
		t.Errorf("the hole does not count against the ring: %.3f mm2", total)
	}
}

func TestPlanesProjectBack(t *testing.T) {
	f := tilted()
	pl := Plane{Origin: r3.Vec{X: 1, Y: -2, Z: 0.5}, U: f.x, V: f.y}
	for _, want := range []Point2{{0, 0}, {1.5, -0.7}, {-3, 2}} {
		if got := pl.Project(pl.At(want.X, want.Y)); math.Hypot(got.X-want.X, got.Y-want.Y) > 1e-9 {
			t.Errorf("%v comes back as %v", want, got)
		}
	}
}

func TestBoundaryOfACutIsOneClosedLoop(t *testing.T) {
	tool := boxTool{centre: r3.Scale(3, tilted().z), half: r3.Vec{X: 1, Y: 0.7, Z: 1.2}}
	mesh := ball(3, 0.1).Uncut().Carve(tool).Mesh()
	loops := mesh.Boundary(func(n int) bool { return mesh.Labels[n] != 0 })
	if len(loops) != 1 {
		t.Fatalf("%d loops", len(loops))
	}
	length, worst, cornered := 0.0, 0.0, 0
	for n, v := range loops[0] {
		p := mesh.Vertices[v]
		length += r3.Norm(r3.Sub(mesh.Vertices[loops[0][(n+1)%len(loops[0])]], p))
		off := math.Max(math.Abs(r3.Norm(p)-3), math.Abs(tool.Distance(p)))
		if off > 0.02 { // only at the box's four corners
			cornered++
		}
		worst = math.Max(worst, off)
	}
	if cornered > 8 || worst > 0.1 {
		t.Errorf("%d margin points lie off, the worst by %.3f mm", cornered, worst)
	}
	if length < 6.7 || length > 7.3 { // 6.8 on a flat surface, a little more on the ball
		t.Errorf("margin of %.2f mm", length)
	}
}

func TestCoarserIsTheSameSolid(t *testing.T) {
	fine := ball(3, 0.1)
	coarse := fine.Coarser()
	if coarse.H != 0.2 || math.Abs(coarse.Volume()/fine.Volume()-1) > 0.01 {
		t.Errorf("step %v, volume %.3f against %.3f", coarse.H, coarse.Volume(), fine.Volume())
	}
	mesh := coarse.Uncut().Carve(boxTool{half: r3.Vec{X: 1, Y: 1, Z: 4}}).Mesh()
	if !mesh.Closed() || len(mesh.Triangles) > len(fine.Uncut().Mesh().Triangles)/2 {
		t.Errorf("closed %v with %d triangles", mesh.Closed(), len(mesh.Triangles))
	}
}

func TestRootAlong(t *testing.T) {
	f := func(p r3.Vec) float64 { return r3.Norm(p) - 2 }
	if got, ok := RootAlong(f, r3.Vec{X: 5}, r3.Vec{X: -1}, 0, 10, 0.1); !ok || math.Abs(got-3) > 1e-4 {
		t.Errorf("enters after %v, %v", got, ok)
	}
	if got, ok := RootAlong(f, r3.Vec{}, r3.Vec{Y: 1}, 0, 10, 0.1); !ok || math.Abs(got-2) > 1e-4 {
		t.Errorf("leaves after %v, %v", got, ok)
	}
	if _, ok := RootAlong(f, r3.Vec{X: 5}, r3.Vec{X: 1}, 0, 10, 0.1); ok {
		t.Error("found a surface where there is none")
	}
}

func TestRunsAreThePartsThatAreKept(t *testing.T) {
	square := Polyline{Closed: true, Points: []Point2{{0, 0}, {1, 0}, {1, 1}, {0, 1}}}
	if whole := square.Runs(func(Point2) bool { return true }); len(whole) != 1 || !whole[0].Closed {
		t.Errorf("kept whole: %v", whole)
	}
	// What is kept runs over the place where the line begins.
	low := square.Runs(func(p Point2) bool { return p.X < 0.5 })
	if len(low) != 1 || low[0].Closed || len(low[0].Points) != 2 || low[0].Points[0] != (Point2{0, 1}) {
		t.Errorf("kept in part: %v", low)
	}
	open := Polyline{Points: []Point2{{0, 0}, {1, 0}, {2, 0}, {3, 0}, {4, 0}}}
	if parts := open.Runs(func(p Point2) bool { return p.X != 2 }); len(parts) != 2 {
		t.Errorf("cut in the middle: %v", parts)
	}
}

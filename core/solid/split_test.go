package solid

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

func TestSplittingFollowsTheFieldAndKeepsTheSolid(t *testing.T) {
	const radius = 3.0
	ball := NewBlank(NewGrid(Box{Min: r3.Vec{X: -4, Y: -4, Z: -4}, Max: r3.Vec{X: 4, Y: 4, Z: 4}}, 0.4), func(p r3.Vec) float64 { return r3.Norm(p) - radius })
	mesh := ball.Uncut().Mesh()
	triangles := len(mesh.Triangles)
	wave := func(p r3.Vec) float64 { return p.Z - 0.8*math.Sin(1.3*p.X) }
	split := mesh.SplitWhere(wave, func(n int) bool { return mesh.Centroid(n).X < 2 })
	if !split.Closed() || len(split.Labels) != len(split.Triangles) {
		t.Fatal("the mesh is open")
	}
	if got, want := split.Volume(), mesh.Volume(); math.Abs(got-want) > 1e-9*want {
		t.Errorf("volume %.6f, was %.6f", got, want)
	}
	if len(mesh.Triangles) != triangles {
		t.Error("the mesh itself was changed")
	}
	for n, tri := range split.Triangles {
		if split.Centroid(n).X > 1.5 {
			continue
		}
		low, high := math.Inf(1), math.Inf(-1)
		for _, v := range tri {
			value := wave(split.Vertices[v])
			low, high = min(low, value), max(high, value)
		}
		if low < -0.04 && high > 0.04 {
			t.Fatalf("a triangle still lies on both sides: %.3f to %.3f", low, high)
		}
	}
}

func TestWithoutACrossingNothingIsSplit(t *testing.T) {
	mesh := &Mesh{Vertices: []r3.Vec{{}, {X: 1}, {Y: 1}}, Triangles: [][3]int32{{0, 1, 2}}, Labels: []uint16{3}}
	if mesh.SplitWhere(func(r3.Vec) float64 { return 1 }, func(int) bool { return true }) != mesh {
		t.Error("a new mesh was made")
	}
}

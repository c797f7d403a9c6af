package solid

import (
	"math"
	"slices"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
)

// cutError is how far the vertices of cut facets lie off the tools' common
// surface, mm: at the 99th percentile and at the most. Vertices on the outer
// surface too, where the cut ends, are left out.
func cutError(mesh *Mesh, tools []Tool) (p99, most float64) {
	cut, outer := make([]bool, len(mesh.Vertices)), make([]bool, len(mesh.Vertices))
	for n, t := range mesh.Triangles {
		for _, v := range t {
			if mesh.Labels[n] != 0 {
				cut[v] = true
			} else {
				outer[v] = true
			}
		}
	}
	errors := make([]float64, 0, len(mesh.Vertices))
	at := make([]int32, 0, len(mesh.Vertices))
	for v := range mesh.Vertices {
		if cut[v] && !outer[v] {
			at = append(at, int32(v))
		}
	}
	errors = errors[:len(at)]
	parallel.Each(len(at), func(n int) {
		p := mesh.Vertices[at[n]]
		least := math.Inf(1)
		for _, tool := range tools {
			if b := tool.Bounds(); b.Contains(p) || least > 0.1 {
				least = math.Min(least, tool.Distance(p))
			}
		}
		errors[n] = math.Abs(least)
	})
	slices.Sort(errors)
	if len(errors) == 0 {
		return 0, 0
	}
	return errors[len(errors)*99/100], errors[len(errors)-1]
}

// foldedEdges counts edges whose two triangles turn back on each other.
func foldedEdges(mesh *Mesh) int {
	const turnedBack = -0.9 // cosine between neighbouring normals
	first := map[[2]int32]int32{}
	folded := 0
	for n, t := range mesh.Triangles {
		for e := range 3 {
			a, b := t[e], t[(e+1)%3]
			key := [2]int32{min(a, b), max(a, b)}
			other, seen := first[key]
			if !seen {
				first[key] = int32(n)
				continue
			}
			x, y := mesh.AreaVector(n), mesh.AreaVector(int(other))
			if r3.Norm(x) > 1e-9 && r3.Norm(y) > 1e-9 && r3.Dot(x, y) < turnedBack*r3.Norm(x)*r3.Norm(y) {
				folded++
			}
		}
	}
	return folded
}

func TestOverlappingMotionsLeaveAnExactSurface(t *testing.T) {
	tools := benchPath(NewPear(0.4, 0.3, 1.5), 1)
	last := math.Inf(1)
	for _, h := range []float64{0.2, 0.1} {
		mesh := slab(h).Uncut().Carve(tools...).Mesh()
		if !mesh.Closed() {
			t.Fatalf("open mesh at %v", h)
		}
		p99, most := cutError(mesh, tools)
		t.Logf("at %v mm: off by %.4f mm at the 99th percentile, %.4f at the most, %d folded edges", h, p99, most, foldedEdges(mesh))
		if p99 > 0.2*h || p99 > last/1.5 {
			t.Errorf("at %v mm: off by %.4f mm, %.4f at twice the step", h, p99, last)
		}
		last = p99
	}
}

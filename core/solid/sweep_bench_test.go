package solid

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
)

// benchPath is a pendulum path 150 mm long in 287 motions, its axis swaying.
func benchPath(head Revolution, label uint16) []Tool {
	const motions, length = 287, 150.0
	f := tilted()
	var poses []Pose
	x, sign := -2.5, 1.0
	for n := range motions + 1 {
		a := float64(n) / 9
		lean := r3.Vec{X: 0.08 * math.Sin(a), Y: 0.08 * math.Cos(a), Z: 1}
		poses = append(poses, Pose{f.world(r3.Vec{X: x, Y: -1.2 + 2.4*float64(n)/motions, Z: 0.9 - 0.8*float64(n)/motions}), r3.Unit(f.world(lean))})
		if x += sign * length / motions; math.Abs(x) > 2.5 {
			sign = -sign
		}
	}
	return Path(head, label, poses...)
}

func benchmarkCarve(b *testing.B, h float64) {
	blank := slab(h)
	tools := benchPath(NewPear(0.4, 0.3, 1.5), 1)
	blank.Volume()
	for b.Loop() {
		blank.Uncut().Carve(tools...)
	}
	b.ReportMetric(float64(len(tools)), "motions")
}

func BenchmarkCarvePear01(b *testing.B)  { benchmarkCarve(b, 0.1) }
func BenchmarkCarvePear005(b *testing.B) { benchmarkCarve(b, 0.05) }

// benchmarkNudge is one interactive move of half a millimetre: the cut, and the
// surface of the bricks that it changed.
func benchmarkNudge(b *testing.B, h float64) {
	head := NewPear(0.4, 0.3, 1.5)
	start := slab(h).Uncut().Carve(benchPath(head, 1)[:60]...)
	start.brickMeshes()
	f := tilted()
	move := Path(head, 2, Pose{f.world(r3.Vec{X: 0.2, Y: 0.6, Z: 0.5}), f.z}, Pose{f.world(r3.Vec{X: 0.7, Y: 0.6, Z: 0.45}), f.z})
	for b.Loop() {
		start.Carve(move...).brickMeshes()
	}
}

func BenchmarkNudge01(b *testing.B)  { benchmarkNudge(b, 0.1) }
func BenchmarkNudge005(b *testing.B) { benchmarkNudge(b, 0.05) }

func benchmarkWhole(b *testing.B, mesh bool) {
	blank := slab(0.05)
	tools := benchSequence()
	blank.Volume()
	for b.Loop() {
		w := blank.Uncut().Carve(tools...)
		if mesh {
			w.Mesh()
		}
	}
}

// removedByPath is what the 150 mm path takes from the slab, for comparison
// with other kernels.
func BenchmarkRemovedByPath(b *testing.B) {
	blank := slab(0.05)
	var removed float64
	for b.Loop() {
		cut := blank.Uncut().Carve(benchPath(NewPear(0.4, 0.3, 1.5), 1)...)
		removed = blank.Volume() - cut.Mesh().Volume()
	}
	b.ReportMetric(removed, "mm3")
}

// BenchmarkSurfaceError is by how much the cut surface of a sequence of three
// burs lies off the swept heads themselves.
func BenchmarkSurfaceError(b *testing.B) {
	blank := slab(0.05)
	tools := benchSequence()
	var p99, most, folded float64
	for b.Loop() {
		mesh := blank.Uncut().Carve(tools...).Mesh()
		p99, most = cutError(mesh, tools)
		folded = float64(foldedEdges(mesh))
	}
	b.ReportMetric(1000*p99, "µm-p99")
	b.ReportMetric(1000*most, "µm-max")
	b.ReportMetric(folded, "folded")
}

func BenchmarkSequenceCarve(b *testing.B) { benchmarkWhole(b, false) }
func BenchmarkSequenceMesh(b *testing.B)  { benchmarkWhole(b, true) }

// benchSequence is 450 mm of path with three heads in 861 motions.
func benchSequence() []Tool {
	var tools []Tool
	for n, head := range []Revolution{NewPear(0.3, 0.25, 1.2), NewPear(0.4, 0.3, 1.5), NewFrustum(0.25, 0.45, 4.4, 0.05)} {
		tools = append(tools, benchPath(head, uint16(n+1))...)
	}
	return tools
}

// BenchmarkWholeMesh contours a slab anew, all of it.
func BenchmarkWholeMesh(b *testing.B) {
	blank := slab(0.05)
	triangles := 0
	for b.Loop() {
		fresh := newWorkpieceUnmeshed(blank)
		triangles = len(fresh.Mesh().Triangles)
	}
	b.ReportMetric(float64(triangles), "triangles")
}

// newWorkpieceUnmeshed knows no surface yet, so that all bricks are contoured.
func newWorkpieceUnmeshed(blank *Blank) *Workpiece {
	w := blank.Uncut()
	parts := make([]*brickMesh, len(w.cut))
	parallel.Each(len(parts), func(n int) {
		if w.stored[n] != nil || w.borders(n) {
			parts[n] = w.meshBrick(n)
		}
	})
	w.known.Store(&knownSurface{cut: w.cut, parts: parts})
	return w
}

package solid

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

func TestCrumbsAreLeftOut(t *testing.T) {
	centres, radii := []r3.Vec{{}, {X: 3}, {X: 4, Y: 2}}, []float64{1, 0.05, 0.06}
	balls := NewBlank(NewGrid(Box{Min: r3.Vec{X: -2, Y: -2, Z: -2}, Max: r3.Vec{X: 5, Y: 3, Z: 2}}, 0.04), func(p r3.Vec) float64 {
		d := math.Inf(1)
		for n, c := range centres {
			d = math.Min(d, r3.Norm(r3.Sub(p, c))-radii[n])
		}
		return d
	}).Uncut().Mesh()
	whole, crumbs, volume := balls.WithoutCrumbs(0.001, 0)
	if crumbs != 2 || !whole.Closed() || len(whole.Labels) != len(whole.Triangles) {
		t.Fatalf("%d crumbs, closed %t", crumbs, whole.Closed())
	}
	if want := 4.0 / 3 * math.Pi; math.Abs(whole.Volume()-want) > 0.01*want {
		t.Errorf("what is left holds %.3f mm3, want %.3f", whole.Volume(), want)
	}
	if want := 4.0 / 3 * math.Pi * (0.05*0.05*0.05 + 0.06*0.06*0.06); volume < 0.3*want || volume > 1.1*want { // balls of three samples across
		t.Errorf("the crumbs held %.5f mm3, their balls %.5f", volume, want)
	}
	for _, v := range whole.Vertices {
		if r3.Norm(v) > 1.1 {
			t.Fatal("vertices of the crumbs are still there")
		}
	}
	if same, none, _ := whole.WithoutCrumbs(0.001, 0.1); same != whole || none != 0 {
		t.Error("nothing was to be left out")
	}
}

func TestAFilmIsACrumb(t *testing.T) {
	slabs := NewBlank(NewGrid(Box{Min: r3.Vec{X: -2, Y: -2, Z: -2}, Max: r3.Vec{X: 2, Y: 2, Z: 2}}, 0.05), func(p r3.Vec) float64 {
		across := math.Max(math.Abs(p.X), math.Abs(p.Y)) - 1
		thick := math.Max(across, math.Abs(p.Z+1)-0.4)
		return math.Min(thick, math.Max(across, math.Abs(p.Z-1)-0.04))
	}).Uncut().Mesh()
	whole, crumbs, volume := slabs.WithoutCrumbs(0.001, 0.1)
	if crumbs != 1 || math.Abs(volume-2*2*0.08) > 0.04 || math.Abs(whole.Volume()-2*2*0.8) > 0.05 {
		t.Errorf("%d crumbs of %.3f mm3, %.3f left", crumbs, volume, whole.Volume())
	}
}

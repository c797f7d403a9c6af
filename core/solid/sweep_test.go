package solid

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

var heads = map[string]Revolution{
	"round 1.4":        Ball{0.7},
	"pear 0.8":         NewPear(0.4, 0.3, 1.5),
	"straight 1.0":     NewFrustum(0.5, 0.5, 4, 0.05),
	"taper 0.9":        NewFrustum(0.25, 0.45, 4.4, 0.05),
	"inverted cone .8": NewFrustum(0.4, 0.25, 0.8, 0.03),
	"flame 1.0":        NewTurned([][2]float64{{0.02, 0}, {0.225, 0.75}, {0.425, 1.5}, {0.5, 2.16}, {0.4, 2.76}, {0.3, 3}}),
}

func TestProfileDerivativesAreTheSlope(t *testing.T) {
	for name, head := range heads {
		for rho := 0.05; rho < 1.2; rho += 0.11 {
			for z := -0.7; z < head.Length()+0.7; z += 0.13 {
				const e = 1e-6
				_, dRho, dZ := head.Profile(rho, z)
				up, _, _ := head.Profile(rho+e, z)
				down, _, _ := head.Profile(rho-e, z)
				above, _, _ := head.Profile(rho, z+e)
				below, _, _ := head.Profile(rho, z-e)
				if math.Abs((up-down)/(2*e)-dRho) > 1e-3 || math.Abs((above-below)/(2*e)-dZ) > 1e-3 {
					if math.Abs(math.Hypot((up-down)/(2*e), (above-below)/(2*e))-1) < 1e-3 { // not on a crease
						t.Errorf("%s at (%.2f, %.2f): slope (%.4f, %.4f), said (%.4f, %.4f)",
							name, rho, z, (up-down)/(2*e), (above-below)/(2*e), dRho, dZ)
					}
				}
			}
		}
	}
}

// TestMotionIsTheUnionOfItsPoses compares with a brute search along the way.
func TestMotionIsTheUnionOfItsPoses(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	random := func(scale float64) r3.Vec {
		return r3.Vec{X: scale * (rng.Float64() - 0.5), Y: scale * (rng.Float64() - 0.5), Z: scale * (rng.Float64() - 0.5)}
	}
	for name, head := range heads {
		worst := 0.0
		for range 300 {
			axis := r3.Unit(r3.Add(r3.Vec{Z: 1}, random(0.6)))
			m := NewMotion(head, 1, Pose{random(2), axis}, Pose{random(2), r3.Unit(r3.Add(axis, random(0.02)))})
			p := random(5)
			brute := math.Inf(1)
			const steps = 2000
			for i := 0; i <= steps; i++ {
				f := float64(i) / steps
				s := r3.Sub(p, mixVec(m.from.Tip, m.to.Tip, f))
				a := mixVec(m.from.Axis, m.to.Axis, f)
				z := r3.Dot(s, a)
				d, _, _ := head.Profile(math.Sqrt(math.Max(r3.Norm2(s)-z*z, 0)), z)
				brute = math.Min(brute, d)
			}
			got := m.Distance(p)
			if brute > 0.05 { // the normal is the slope of the distance
				const e = 1e-5
				slope := gradient(m.Distance, p, e)
				if n := m.Normal(p); r3.Norm(r3.Sub(n, slope)) > 0.06 {
					t.Errorf("%s at %v: normal %.4f, slope %.4f", name, p, n, slope)
				}
			}
			if brute > 0 { // outside, the side that a cut reads
				worst = math.Max(worst, math.Abs(got-brute))
			} else if got > 1e-3 {
				t.Errorf("%s: %v is inside by %.4f but reads %.4f", name, p, brute, got)
			}
			if b := m.Bounds(); got < 0 && !b.Contains(p) {
				t.Errorf("%s: the bounds leave out %v", name, p)
			}
		}
		if worst > 0.002 {
			t.Errorf("%s: off by %.4f mm", name, worst)
		}
	}
}

// slab is a block with a level top at z = 0, for cuts of known volume.
func slab(h float64) *Blank {
	f := tilted()
	half := r3.Vec{X: 4, Y: 2.5, Z: 1.5}
	m := 5.2
	g := NewGrid(Box{Min: r3.Vec{X: -m, Y: -m, Z: -m}, Max: r3.Vec{X: m, Y: m, Z: m}}, h)
	return NewBlank(g, func(p r3.Vec) float64 { return boxDistance(f.local(p), half) })
}

func (f frame) world(p r3.Vec) r3.Vec {
	return r3.Add(r3.Scale(p.X, f.x), r3.Add(r3.Scale(p.Y, f.y), r3.Scale(p.Z, f.z)))
}

// TestSlotsHaveTheirClosedFormVolume cuts slots of known volume into a tilted
// block at two grids.
func TestSlotsHaveTheirClosedFormVolume(t *testing.T) {
	f := tilted()
	const length, depth = 3.0, 1.0
	pose := func(x float64) Pose { return Pose{Tip: f.world(r3.Vec{X: x, Z: 1.5 - depth}), Axis: f.z} }
	for _, c := range []struct {
		name string
		head Revolution
		area float64 // of the slot's cross-section
		ends float64 // volume of the two rounded ends together
	}{
		// A cylinder: rectangle and one whole cylinder.
		{"cylinder", NewFrustum(0.5, 0.5, 4, 1e-6), 2 * 0.5 * depth, math.Pi * 0.25 * depth},
		// A ball sunk to one radius: half a disc, half a ball.
		{"round", Ball{1}, math.Pi / 2, 2 * math.Pi / 3},
	} {
		want := c.area*length + c.ends
		last := math.Inf(1)
		for _, h := range []float64{0.2, 0.1} {
			blank := slab(h)
			cut := blank.Uncut().Carve(Path(c.head, 3, pose(-length/2), pose(0.4), pose(length/2))...)
			mesh := cut.Mesh()
			if !mesh.Closed() {
				t.Fatalf("%s at %v: open mesh", c.name, h)
			}
			off := math.Abs((blank.Volume()-mesh.Volume())/want - 1)
			if off > 0.01 || (off > last/2 && off > 0.002) {
				t.Errorf("%s at %v: volume off by %.4f, was %.4f at twice the step", c.name, h, off, last)
			}
			last = off
			if h == 0.1 {
				if got := cut.Removed(nil); math.Abs(got.Total/want-1) > 0.01 {
					t.Errorf("%s: samples say %.4f mm3, want %.4f", c.name, got.Total, want)
				}
			}
		}
	}
}

func TestRemovedSplitsByTissue(t *testing.T) {
	f := tilted()
	blank := slab(0.1)
	// The lower half of what is cut counts as the other tissue.
	tissue := func(p r3.Vec) float64 { return f.local(p).Z - 1.0 }
	box := boxTool{centre: f.world(r3.Vec{Z: 1.5}), half: r3.Vec{X: 1, Y: 1, Z: 1}}
	got := blank.Uncut().Carve(box).Removed(tissue)
	if math.Abs(got.Total/4-1) > 0.01 || math.Abs(got.Inside/2-1) > 0.02 {
		t.Errorf("removed %+v, want 4 and 2 mm3", got)
	}
}

func TestKnownSurfacesFollowEveryCut(t *testing.T) {
	tools := wander(NewPear(0.4, 0.3, 1.5), 40, 7)
	piecewise := slab(0.1).Uncut()
	for _, tool := range tools {
		piecewise = piecewise.Carve(tool)
		piecewise.Mesh()
	}
	once := slab(0.1).Uncut().Carve(tools...).Mesh()
	step := piecewise.Mesh()
	// Motions that meet share a pose, and either may be named there.
	if math.Abs(once.Volume()/step.Volume()-1) > 1e-4 || len(once.Triangles) != len(step.Triangles) {
		t.Errorf("in one go %.6f mm3 and %d triangles, step by step %.6f and %d",
			once.Volume(), len(once.Triangles), step.Volume(), len(step.Triangles))
	}
}

// wander is a reproducible path over the slab's top.
func wander(head Revolution, motions int, seed uint64) []Tool {
	rng := rand.New(rand.NewPCG(seed, 3))
	f := tilted()
	var poses []Pose
	at := r3.Vec{Z: 0.9}
	for range motions + 1 {
		lean := r3.Vec{X: 0.2 * (rng.Float64() - 0.5), Y: 0.2 * (rng.Float64() - 0.5), Z: 1}
		poses = append(poses, Pose{f.world(at), r3.Unit(f.world(lean))})
		at.X = math.Min(math.Max(at.X+1.2*(rng.Float64()-0.5), -3), 3)
		at.Y = math.Min(math.Max(at.Y+1.2*(rng.Float64()-0.5), -1.8), 1.8)
		at.Z = math.Min(math.Max(at.Z+0.4*(rng.Float64()-0.5), -0.2), 1.6)
	}
	return Path(head, 5, poses...)
}

func TestWanderingBursLeaveSoundMeshes(t *testing.T) {
	seed := uint64(0)
	for name, head := range heads {
		for range 3 {
			seed++
			w := slab(0.15).Uncut().Carve(wander(head, 30, seed)...)
			if fault := meshFault(w.Mesh()); fault != "" {
				t.Errorf("%s, seed %d: %s", name, seed, fault)
			}
		}
	}
}

func meshFault(m *Mesh) string {
	if !m.Closed() {
		return "open mesh"
	}
	for _, v := range m.Vertices {
		if math.IsNaN(v.X + v.Y + v.Z) {
			return fmt.Sprintf("vertex %v", v)
		}
	}
	return ""
}

func FuzzBurPaths(f *testing.F) {
	f.Add(0.0, 0.0, 1.0, 1.0, 0.5, 0.9, 0.1, 0.0, uint8(0))
	f.Add(-2.0, 1.0, 1.4, 2.0, -1.0, 1.2, -0.3, 0.4, uint8(3))
	names := []string{"round 1.4", "pear 0.8", "straight 1.0", "taper 0.9", "inverted cone .8"}
	blank := slab(0.25)
	f.Fuzz(func(t *testing.T, x0, y0, z0, x1, y1, z1, leanX, leanY float64, which uint8) {
		tip := func(x, y, z float64) r3.Vec { return r3.Vec{X: clampTo(x, 9), Y: clampTo(y, 9), Z: clampTo(z, 9)} }
		a := Pose{tip(x0, y0, z0), r3.Vec{Z: 1}}
		b := Pose{tip(x1, y1, z1), r3.Unit(r3.Vec{X: clampTo(leanX, 1), Y: clampTo(leanY, 1), Z: 1})}
		w := blank.Uncut().Carve(Path(heads[names[int(which)%len(names)]], 2, a, b, a)...)
		if fault := meshFault(w.Mesh()); fault != "" {
			t.Error(fault)
		}
	})
}

func clampTo(x, most float64) float64 {
	if math.IsNaN(x) {
		return 0
	}
	return math.Min(math.Max(x, -most), most)
}

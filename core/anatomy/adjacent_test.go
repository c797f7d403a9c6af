package anatomy

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/spatial/kdtree"
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
)

func besideFirstMolar(t *testing.T) (*AdjacentSurface, []surfacePoint) {
	t.Helper()
	m, other := averages()["46"], averages()["45"]
	f := Place(m, notation.Mesial, other).AdjacentSurface(m.MesialContact, 2)
	var points []surfacePoint
	f.places.Do(func(c kdtree.Comparable, _ *kdtree.Bounding, _ int) bool {
		points = append(points, c.(surfacePoint))
		return false
	})
	if len(points) < 100 {
		t.Fatalf("%d points face the molar", len(points))
	}
	return f, points
}

// Points are found by a tree: the answer must be that of looking at all of them.
func TestTheNearestPointOfANeighbourIsFoundFromAnywhere(t *testing.T) {
	f, points := besideFirstMolar(t)
	random := rand.New(rand.NewPCG(7, 11))
	for range 400 {
		p := r3.Vec{X: 12*random.Float64() - 2, Y: 12*random.Float64() - 6, Z: 12*random.Float64() - 4}
		want := math.Inf(1)
		for _, q := range points {
			want = math.Min(want, r3.Norm(r3.Sub(p, q.at)))
		}
		highest := math.Inf(-1)
		for _, q := range points {
			if r3.Norm(r3.Sub(p, q.at)) < want+0.15 {
				highest = math.Max(highest, r3.Dot(r3.Sub(p, q.at), q.normal))
			}
		}
		at, ok := f.Nearest(p)
		if got := r3.Norm(r3.Sub(p, at)); !ok || math.Abs(got-want) > 1e-9 {
			t.Fatalf("from %v the nearest point lies %.4f away, found %.4f", p, want, got)
		}
		if mm, _ := f.Clearance(p); math.Abs(mm-math.Min(want, highest)) > 1e-9 {
			t.Errorf("from %v the clearance is %.4f, the nearest point %.4f away and its highest plane %.4f", p, mm, want, highest)
		}
	}
}

func TestClearanceIsNegativeInsideTheNeighbour(t *testing.T) {
	f, points := besideFirstMolar(t)
	contact := averages()["46"].MesialContact.At
	for n := 0; n < len(points); n += 20 {
		if r3.Norm(r3.Sub(points[n].at, contact)) > 1.2 { // the facing part ends there
			continue
		}
		for _, step := range []float64{-0.1, 0.1, 0.3} {
			p := r3.Add(points[n].at, r3.Scale(step, points[n].normal))
			if mm, ok := f.Clearance(p); !ok || math.Abs(mm-step) > 0.05 {
				t.Errorf("%.1f mm off the surface reads %.3f", step, mm)
			}
		}
	}
}

func TestNoNeighbourHasNoClearance(t *testing.T) {
	nobody := &AdjacentSurface{}
	if _, ok := nobody.Clearance(r3.Vec{}); ok {
		t.Error("a clearance to nobody")
	}
	if _, ok := nobody.Nearest(r3.Vec{}); ok {
		t.Error("a nearest point of nobody")
	}
}

// A cavity of usual depth must not meet a horn from the side either.
func TestHornsOfPrimaryMolarsKeepTheirDentin(t *testing.T) {
	for _, id := range []string{"54", "55", "84", "85"} {
		m := averages()[id]
		for _, h := range m.Horns {
			for _, way := range []r3.Vec{{Z: 1}, {X: 1, Z: 1}, {X: -1, Z: 1}, {Y: 1, Z: 1}, {Y: -1, Z: 1}, {X: 1, Y: 1, Z: 1}, {X: -1, Y: -1, Z: 1}} {
				if left, ok := m.Dentin().RootAlong(h.At, r3.Unit(way), 0, 6, 0.1); ok && left < 1.75 {
					t.Errorf("%s: %.2f mm of dentin over the %s horn, towards %v", id, left, h.Name, way)
				}
			}
		}
		for _, p := range m.Pits {
			const usual = 0.5 // mm into dentin
			for z := p.At.Z; z > 0; z -= 0.05 {
				at := r3.Vec{X: p.At.X, Y: p.At.Y, Z: z}
				if m.Dentin().Distance(r3.Add(at, r3.Vec{Z: usual})) < 0 {
					if left := m.Pulp().Distance(at); left < 0.8 {
						t.Errorf("%s: %.2f mm over the pulp under the %s", id, left, p.Name)
					}
					break
				}
			}
		}
	}
}

func TestASurfaceAsABurRidesItBridgesFissuresOnly(t *testing.T) {
	m := averages()["46"]
	bridged := 0
	heights := m.TableHeights()
	const edge = 0.5 // mm, within which the crown ends
	for n, h := range heights.Values {
		x, y := heights.X0+float64(n%heights.NX)*heights.H, heights.Y0+float64(n/heights.NX)*heights.H
		onCrown := true
		for _, step := range [][2]float64{{0, 0}, {edge, 0}, {-edge, 0}, {0, edge}, {0, -edge}} {
			onCrown = onCrown && heights.At(x+step[0], y+step[1]) > -3
		}
		if !onCrown {
			continue
		}
		ridden := m.RiddenHeights().At(x, y) - float64(h)
		if ridden > 0.1 {
			bridged++
		}
		if ridden < -0.35 {
			t.Fatalf("a ridge lost %.2f mm", -ridden)
		}
	}
	if bridged < 50 {
		t.Errorf("only %d places are bridged", bridged)
	}
}

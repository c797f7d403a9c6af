// Package measure gauges a cut tooth. Every figure is read off the computed
// solid, never off the design that made it, so it can disagree with the
// intention. Lengths are millimetres, angles degrees.
package measure

import (
	"fmt"
	"math"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/solid"
)

// Place is where on the tooth a reading was taken, in the tooth frame.
type Place struct {
	Name string
	At   r3.Vec
}

// Reading is one measured value with its place and the uncertainty that the
// grid leaves.
type Reading struct {
	Value       float64
	Where       Place
	Uncertainty float64
	// Whole is what a fraction of the figure refers to (mm), as the length of a
	// groove; 0 where it is none.
	Whole float64
	// Over is how high (mm) a cusp stands over the place where its base is read; 0 where
	// it is none.
	Over float64
	// More is what is wanted at this place beyond the school's target, and MoreFor why.
	More    float64
	MoreFor string
	// Need is the least that a width or a clearance could be, and Most the most that
	// could be kept of the tooth, with walls that stand back to the findings and no
	// further; 0 where they have no part in it.
	Need, Most float64
}

// Prepared is a cut tooth, ready to be gauged.
type Prepared struct {
	Model     *anatomy.Model
	Workpiece *solid.Workpiece
	Mesh      *solid.Mesh
	Margin    Margin

	ofFeature   map[uint16][]int // facets of each feature of the cut
	findFloors  sync.Once
	foundFloors []floor
	axials      sync.Map // axial walls felt, by the margin's place
	taken       sync.Map // readings already taken, by name: drawing and checks ask for the same
}

// once takes a reading the first time its name is asked for.
func (p *Prepared) once(name string, gauge func() (Reading, bool)) (Reading, bool) {
	take, _ := p.taken.LoadOrStore(name, sync.OnceValues(gauge))
	return take.(func() (Reading, bool))()
}

// NewPrepared meshes a workpiece and finds its margin.
func NewPrepared(m *anatomy.Model, w *solid.Workpiece) *Prepared {
	p := &Prepared{Model: m, Workpiece: w, Mesh: w.Mesh(), ofFeature: map[uint16][]int{}}
	for n, label := range p.Mesh.Labels {
		if label != 0 {
			p.ofFeature[label] = append(p.ofFeature[label], n)
		}
	}
	p.Margin = findMargin(p)
	return p
}

// RidgeKept is the least tooth left between a wall and the proximal surface
// beside it, seen along the bur: from the wall out to the crown's contour.
func (p *Prepared) RidgeKept(feature uint16) (Reading, bool) {
	return p.once(fmt.Sprint("ridge ", feature), func() (Reading, bool) { return p.feelRidge(feature) })
}

func (p *Prepared) feelRidge(feature uint16) (r Reading, ok bool) {
	table := p.Model.Table
	sign := 1.0
	if feature == cavity.WallDistal {
		sign = -1
	}
	const band = 0.1 // mm of buccolingual width that shares one contour
	contour := map[int]float64{}
	r.Value = math.Inf(1)
	for _, n := range p.ofFeature[feature] {
		at := p.Mesh.Centroid(n)
		q := table.To(at)
		key := int(math.Floor(q.Y / band))
		if _, known := contour[key]; !known {
			contour[key] = p.proximalContour((float64(key)+0.5)*band, sign)
		}
		if kept := contour[key] - sign*q.X; kept < r.Value {
			r.Value, r.Where = kept, Place{cavity.FeatureName(feature), at}
		}
	}
	r.Uncertainty = 0.2 * p.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// proximalContour is how far the uncut crown reaches mesially (+1) or
// distally (-1) at y of the table, at any height.
func (p *Prepared) proximalContour(y, sign float64) float64 {
	const beyond, step = 8, 0.2 // mm
	reach := 0.0
	dir := r3.Scale(-sign, p.Model.Table.U)
	for z := -4.0; z < 2; z += step {
		from := p.Model.Table.From(r3.Vec{X: sign * beyond, Y: y, Z: z})
		if t, hit := p.Model.Surface.RootAlong(from, dir, 0, beyond, step); hit {
			reach = math.Max(reach, beyond-t)
		}
	}
	return reach
}

// PulpDistance is the least dentin between the cavity and the pulp.
func (p *Prepared) PulpDistance() (Reading, bool) { return p.once("pulp", p.feelPulp) }

func (p *Prepared) feelPulp() (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for n, label := range p.Mesh.Labels {
		if label == 0 {
			continue
		}
		at := p.Mesh.Centroid(n)
		if d := p.Model.Pulp().Distance(at); d < r.Value {
			r.Value, r.Where = d, Place{cavity.FeatureName(label), at}
		}
	}
	r.Where.Name += ", towards the " + nearestHorn(p.Model, r.Where.At)
	r.Uncertainty = 0.05
	return r, !math.IsInf(r.Value, 1)
}

func nearestHorn(m *anatomy.Model, at r3.Vec) string {
	best, name := math.Inf(1), "pulp roof"
	for _, h := range m.Horns {
		if d := r3.Norm(r3.Sub(h.At, at)); d < best && d < 2 {
			best, name = d, h.Name+" horn"
		}
	}
	return name
}

func cosDeg(d float64) float64  { return math.Cos(d * math.Pi / 180) }
func degrees(r float64) float64 { return r * 180 / math.Pi }

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
	"obturon/core/lesion"
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

// PulpalDepth is the least thickness of tooth removed over the floor, along
// the bur's axis; ok is false when no floor was cut.
func (p *Prepared) PulpalDepth() (Reading, bool) { return p.once("depth", p.feelDepth) }

func (p *Prepared) feelDepth() (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for _, f := range p.floors() {
		p.shallowest(f, &r)
	}
	r.Uncertainty = 0.1 * p.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// shallowest lowers a reading to the least depth over a floor.
func (p *Prepared) shallowest(f floor, r *Reading) {
	up := p.Model.Table.W
	over := func(at r3.Vec) (float64, bool) { return p.Model.Surface.RootAlong(at, up, 0.02, 8, 0.1) }
	for _, n := range f.facets {
		if t, hit := over(p.Mesh.Centroid(n)); !hit || t >= r.Value {
			continue
		}
		// A candidate is felt on the solid itself: a sliver of the mesh at a
		// line angle may face the bur without being floor.
		at, facing, felt := p.feelDown(p.Mesh.Centroid(n))
		if !felt || r3.Dot(facing, f.normal) < cosDeg(inPlane) {
			continue
		}
		if t, hit := over(at); hit && t < r.Value {
			r.Value, r.Where = t, Place{"pulpal floor", at}
		}
	}
}

// feelDown drops a point onto the cut surface along the bur and gives the
// direction the surface faces there.
func (p *Prepared) feelDown(near r3.Vec) (at, facing r3.Vec, ok bool) {
	const above, reach, d = 0.15, 0.4, 1e-3 // mm
	up := p.Model.Table.W
	from := r3.Add(near, r3.Scale(above, up))
	t, ok := solid.RootAlong(p.Workpiece.Distance, from, r3.Scale(-1, up), 0, reach, 0.05)
	if !ok {
		return near, up, false
	}
	at = r3.Sub(from, r3.Scale(t, up))
	slope := func(axis r3.Vec) float64 {
		return p.Workpiece.Distance(r3.Add(at, r3.Scale(d, axis))) - p.Workpiece.Distance(r3.Sub(at, r3.Scale(d, axis)))
	}
	return at, r3.Unit(p.Model.Table.Turn(r3.Vec{X: slope(p.Model.Table.U), Y: slope(p.Model.Table.V), Z: slope(up)})), true
}

const (
	floorReach = 25.0 // degrees from the bur within which a facet may be floor
	inPlane    = 4.0  // degrees from the floor's own plane: what turns up more is line angle
	leastFloor = 0.25 // mm² of floor that can be told from a rounded trough
)

// floor is one pulpal floor: its plane, and the facets that lie in it.
type floor struct {
	centre, normal r3.Vec
	facets         []int
}

// floors lists the pulpal floors, one for each cavity that has one.
func (p *Prepared) floors() []floor {
	p.findFloors.Do(func() {
		for _, facets := range p.Mesh.Patches(func(n int) bool { return p.Mesh.Labels[n] == cavity.Floor }) {
			if f, ok := p.floorPlane(facets); ok {
				p.foundFloors = append(p.foundFloors, f)
			}
		}
	})
	return p.foundFloors
}

// floorPlane fits a plane to a floor's facets, leaving out what turns up into
// the line angles; ok is false where too little is left.
func (p *Prepared) floorPlane(patch []int) (f floor, ok bool) {
	f.normal = p.Model.Table.W
	const rounds = 4 // the fit settles as the line angles drop out
	within := floorReach
	for range rounds {
		var sum, middle r3.Vec
		area := 0.0
		f.facets = f.facets[:0]
		for _, n := range patch {
			facing := p.Mesh.Normal(n)
			if !(r3.Dot(facing, f.normal) >= cosDeg(within)) { // also drops facets without area
				continue
			}
			a := p.Mesh.Area(n)
			middle = r3.Add(middle, r3.Scale(a, p.Mesh.Centroid(n)))
			sum = r3.Add(sum, r3.Scale(a, facing))
			area += a
			f.facets = append(f.facets, n)
		}
		if area < leastFloor {
			return f, false
		}
		f.centre, f.normal = r3.Scale(1/area, middle), r3.Unit(sum)
		within = math.Max(inPlane, within/2.5)
	}
	return f, true
}

// FloorFlatness is the worst floor's peak-to-valley height about its own
// plane, leaving out the 1 % of points nearest the line angles.
func (p *Prepared) FloorFlatness() (r Reading, ok bool) {
	for _, f := range p.floors() {
		heights := make([]float64, len(f.facets))
		for n, facet := range f.facets {
			heights[n] = r3.Dot(r3.Sub(p.Mesh.Centroid(facet), f.centre), f.normal)
		}
		low, high := quantile(heights, 0.01), quantile(heights, 0.99)
		if ok && high-low <= r.Value {
			continue
		}
		r.Value, ok = high-low, true
		worst := -1.0
		for n, facet := range f.facets {
			if d := math.Abs(heights[n]); d > worst && heights[n] >= low && heights[n] <= high {
				worst, r.Where = d, Place{"pulpal floor", p.Mesh.Centroid(facet)}
			}
		}
	}
	r.Uncertainty = 0.05 * p.Model.Surface.H
	return r, ok
}

// FloorTilt is the greatest angle between a floor and the occlusal table, degrees.
func (p *Prepared) FloorTilt() (r Reading, ok bool) {
	for _, f := range p.floors() {
		tilt := degrees(math.Acos(math.Min(r3.Dot(f.normal, p.Model.Table.W), 1)))
		if !ok || tilt > r.Value {
			r.Value, r.Where, ok = tilt, Place{"pulpal floor", f.centre}, true
		}
	}
	r.Uncertainty = 0.3
	return r, ok
}

// WallLean is how far a wall leans over the cavity: positive when the cavity
// narrows towards the bur, negative when the wall leans out. It is the
// area-weighted mean over facets clear of line angles and margins.
func (p *Prepared) WallLean(feature uint16) (Reading, bool) {
	return p.once(fmt.Sprint("lean ", feature), func() (Reading, bool) { return p.feelLean(feature) })
}

func (p *Prepared) feelLean(feature uint16) (r Reading, ok bool) {
	up, outward := p.Model.Table.W, wallDirection(p.Model.Table, feature)
	var sum, area float64
	var at r3.Vec
	for _, n := range p.ofFeature[feature] {
		normal := p.Mesh.Normal(n)
		rise := r3.Dot(normal, up)
		// Facets of the line angle turn towards the floor; those round a
		// corner turn away from the wall's own direction.
		if math.Abs(rise) > 0.4 || r3.Dot(normal, outward) > -0.93*math.Sqrt(1-rise*rise) {
			continue
		}
		c := p.Mesh.Centroid(n)
		if p.nearLineAngle(c) {
			continue
		}
		a := p.Mesh.Area(n)
		sum -= a * math.Asin(rise)
		at = r3.Add(at, r3.Scale(a, c))
		area += a
	}
	if area < 0.05 {
		return r, false
	}
	r.Value, r.Uncertainty = degrees(sum/area), 0.5
	r.Where = Place{cavity.FeatureName(feature), p.nearestOf(feature, r3.Scale(1/area, at))}
	return r, true
}

// wallDirection is where a wall lies, seen from the middle of the cavity.
func wallDirection(table anatomy.Frame, feature uint16) r3.Vec {
	switch feature {
	case cavity.WallBuccal:
		return table.V
	case cavity.WallLingual:
		return r3.Scale(-1, table.V)
	case cavity.WallMesial:
		return table.U
	default:
		return r3.Scale(-1, table.U)
	}
}

// nearLineAngle reports floor within reach below a wall point.
func (p *Prepared) nearLineAngle(at r3.Vec) bool {
	const reach = 0.45 // mm, more than any line angle's radius
	down := r3.Add(at, r3.Scale(-reach, p.Model.Table.W))
	return p.Workpiece.Distance(r3.Add(down, r3.Scale(-0.02, p.Model.Table.W))) < -0.2
}

// nearestOf is the mesh point of a feature closest to a place.
func (p *Prepared) nearestOf(feature uint16, to r3.Vec) r3.Vec {
	best, nearest := math.Inf(1), to
	for _, n := range p.ofFeature[feature] {
		if c := p.Mesh.Centroid(n); r3.Norm2(r3.Sub(c, to)) < best {
			best, nearest = r3.Norm2(r3.Sub(c, to)), c
		}
	}
	return nearest
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

// LesionLeft is the volume of lesion (mm³) still in the tooth, at its middle.
// What has broken off is gone already.
func (p *Prepared) LesionLeft(lesions []lesion.Lesion) Reading {
	r := Reading{Where: Place{Name: "lesion"}}
	const h = 0.1
	var at r3.Vec
	for _, l := range lesions {
		if lesion.KindOf(l) == lesion.Fracture {
			continue
		}
		b := l.Bounds()
		for z := b.Min.Z; z <= b.Max.Z; z += h {
			for y := b.Min.Y; y <= b.Max.Y; y += h {
				for x := b.Min.X; x <= b.Max.X; x += h {
					q := r3.Vec{X: x, Y: y, Z: z}
					share := solid.Occupied(l.Distance(q), h)
					if share == 0 {
						continue
					}
					if v := share * solid.Occupied(p.Workpiece.Distance(q), h) * h * h * h; v > 0 {
						r.Value += v
						at = r3.Add(at, r3.Scale(v, q))
					}
				}
			}
		}
		if r.Where.At == (r3.Vec{}) {
			r.Where.At = l.Middle()
		}
	}
	if r.Value > 0 {
		r.Where.At = r3.Scale(1/r.Value, at)
	}
	r.Uncertainty = 0.01
	return r
}

func cosDeg(d float64) float64  { return math.Cos(d * math.Pi / 180) }
func degrees(r float64) float64 { return r * 180 / math.Pi }

package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/solid"
)

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

package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/hold"
)

// Beds are the surfaces that fillings of the cavity lie against: one for each part of it
// that stands by itself, since each part has a filling of its own.
func (s *Subject) Beds() []*hold.Bed { return s.beds() }

func (s *Subject) findBeds() []*hold.Bed {
	const least = 0.3 // mm² of a part: less is a scratch
	var beds []*hold.Bed
	for _, patch := range s.Mesh.Patches(func(n int) bool { return s.Mesh.Labels[n] != 0 }) {
		area := 0.0
		for _, n := range patch {
			area += s.Mesh.Area(n)
		}
		if area >= least {
			beds = append(beds, hold.NewBed(s.thinned(patch)))
		}
	}
	return beds
}

// thinned is one wall for each patch of facets: of a quarter of a millimetre on large walls,
// finer on small ones, whose outermost places hold most.
func (s *Subject) thinned(facets []int) []hold.Wall {
	const finest, coarsest, across = 0.12, 0.25, 20 // mm; patches over a wall
	faces := make([]r3.Vec, len(facets))            // normals as long as their areas
	sizes := make([]float64, len(facets))
	var patches [cavity.Features]float64 // mm, by feature; areas at first
	for n, facet := range facets {
		faces[n] = r3.Scale(0.5, s.Mesh.AreaVector(facet))
		sizes[n] = r3.Norm(faces[n])
		patches[s.Mesh.Labels[facet]] += sizes[n]
	}
	for feature, area := range patches {
		patches[feature] = math.Max(finest, math.Min(coarsest, math.Sqrt(area)/across))
	}
	const facetsEach = 6 // about, of a patch
	at := make(map[uint64]int, len(facets)/facetsEach)
	walls := make([]hold.Wall, 0, len(facets)/facetsEach)
	for n, facet := range facets {
		c, feature := s.Mesh.Centroid(facet), s.Mesh.Labels[facet]
		patch := patches[feature]
		within := func(v float64) uint64 { return uint64(uint16(int16(math.Floor(v / patch)))) }
		key := uint64(feature)<<48 | within(c.X)<<32 | within(c.Y)<<16 | within(c.Z)
		k, known := at[key]
		if !known {
			k = len(walls)
			at[key] = k
			walls = append(walls, hold.Wall{At: c, Feature: feature})
		}
		walls[k].Normal = r3.Add(walls[k].Normal, faces[n])
		walls[k].Area += sizes[n]
	}
	for n := range walls {
		if walls[n].Normal != (r3.Vec{}) {
			walls[n].Normal = r3.Unit(walls[n].Normal)
		}
	}
	return walls
}

// travel (mm) that a filling is pulled: past any crown.
const travel = 6.0

// Pull is how far (mm) the tooth stands over a filling that is pulled along a unit vector.
func (s *Subject) Pull(bed *hold.Bed, along r3.Vec) hold.Undercut {
	return bed.Undercut(s.Workpiece.Distance, along, travel)
}

// WeakestPull is the straight pull that holds a filling least, of all about the bur's.
func (s *Subject) WeakestPull(bed *hold.Bed) (along r3.Vec, u hold.Undercut) {
	return bed.Weakest(s.Workpiece.Distance, s.Cavity.Frame.W, travel)
}

// Standing is by how much (mm) the tooth stands over each wall of the bed of such a filling.
func (s *Subject) Standing(bed *hold.Bed, along r3.Vec) []float64 {
	return bed.Standing(s.Workpiece.Distance, along, travel)
}

// held is a pull as a reading; by names what stands in its way.
func (s *Subject) held(bed *hold.Bed, along r3.Vec) Reading {
	u := s.Pull(bed, along)
	r := Reading{Value: u.Depth, Where: Place{cavity.FeatureName(u.Feature), u.At}, Uncertainty: 0.02}
	if u.Depth == 0 {
		r.Where = Place{"cavity", bed.Walls[0].At}
	}
	return r
}

// PullOut is how far the tooth stands over each filling against a pull along the bur.
func (s *Subject) PullOut() []Reading {
	var all []Reading
	for _, bed := range s.Beds() {
		all = append(all, s.held(bed, s.Cavity.Frame.W))
	}
	return all
}

// BedOf is the bed that a box lies in, nil where there is none.
func (s *Subject) BedOf(b Box) *hold.Bed {
	for _, bed := range s.Beds() {
		for _, w := range bed.Walls {
			if w.Feature == cavity.GingivalFloor && b.here(w.At) {
				return bed
			}
		}
	}
	return nil
}

// PullProximal is how far the tooth stands over the filling of a box against a pull towards
// the adjacent tooth.
func (s *Subject) PullProximal(b Box) (Reading, bool) {
	bed := s.BedOf(b)
	if bed == nil {
		return Reading{}, false
	}
	return s.held(bed, b.Outward()), true
}

// Tipped (mm) is how far the place that moves furthest goes as a filling is tipped.
const Tipped = 0.5

// TippingAxis is the gingival margin of a box, by its middle and a unit vector about which
// the filling turns out towards the adjacent tooth; ok is false without one.
func (s *Subject) TippingAxis(b Box) (pivot, about r3.Vec, ok bool) {
	middle := b.middleOf(b.margin(cavity.GingivalFloor), 0.2)
	if len(middle) == 0 {
		return pivot, about, false
	}
	return middle[0].At, r3.Cross(b.Model.Table.W, b.Outward()), true
}

// Tipping is how far (mm) walls stand in the way of the filling as it turns about the
// gingival margin of a box, out towards the adjacent tooth, its furthest place by half a
// millimetre.
func (s *Subject) Tipping(b Box) (Reading, bool) {
	bed := s.BedOf(b)
	pivot, about, ok := s.TippingAxis(b)
	if bed == nil || !ok {
		return Reading{}, false
	}
	mm, at, feature := bed.Tipping(pivot, about, Tipped)
	return Reading{Value: mm, Where: Place{cavity.FeatureName(feature), at}, Uncertainty: 0.02}, true
}

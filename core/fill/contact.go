package fill

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
)

// outer visits the vertices of the part's outer surface, some of them several times.
func (p *Part) outer(visit func(v int32)) {
	for n, label := range p.Mesh.Labels {
		if label != 0 {
			continue
		}
		for _, v := range p.Mesh.Triangles[n] {
			visit(v)
		}
	}
}

// Contact is how near (mm) the filling's outer surface comes to the adjacent tooth, and where;
// ok is false where it has none there, or no tooth stands beside it. Its surface is looked
// at in patches first: what lies in one comes no nearer than its middle less its reach, so
// most of it is never held against the other tooth place by place.
func (p *Part) Contact(beside *anatomy.AdjacentSurface) (mm float64, at r3.Vec, ok bool) {
	if beside == nil {
		return 0, at, false
	}
	mm = math.Inf(1)
	patches := p.patches()
	for n := range patches {
		nearest, known := beside.Nearest(patches[n].middle)
		if !known {
			return 0, at, false
		}
		patches[n].least = r3.Norm(r3.Sub(nearest, patches[n].middle)) - patches[n].reach
	}
	slices.SortFunc(patches, func(a, b patch) int { return cmp.Compare(a.least, b.least) })
	const between = 0.15 // mm that the other tooth's points lie apart, which a place may pass between
	for _, one := range patches {
		if one.least-between > max(mm, 0) {
			break
		}
		for _, q := range one.places {
			if nearest, _ := beside.Nearest(q); r3.Norm(r3.Sub(nearest, q))-between > max(mm, 0) {
				continue
			}
			if d, _ := beside.Clearance(q); d < mm {
				mm, at, ok = d, q, true
			}
		}
	}
	return mm, at, ok
}

// patch is some of a part's outer surface: places that lie close together.
type patch struct {
	places []r3.Vec
	middle r3.Vec
	reach  float64 // mm from the middle to the furthest place
	least  float64 // mm to what it is held against that no place of it falls below
}

// patches divides the part's outer surface, in an order that does not change.
func (p *Part) patches() []patch {
	const wide = 1.0 // mm
	byCell := map[[3]int]int{}
	seen := make([]bool, len(p.Mesh.Vertices))
	var all []patch
	p.outer(func(v int32) {
		if seen[v] {
			return
		}
		seen[v] = true
		at := p.Mesh.Vertices[v]
		cell := [3]int{int(math.Floor(at.X / wide)), int(math.Floor(at.Y / wide)), int(math.Floor(at.Z / wide))}
		n, known := byCell[cell]
		if !known {
			n = len(all)
			byCell[cell] = n
			all = append(all, patch{})
		}
		all[n].places = append(all[n].places, at)
	})
	for n := range all {
		one := &all[n]
		for _, at := range one.places {
			one.middle = r3.Add(one.middle, r3.Scale(1/float64(len(one.places)), at))
		}
		for _, at := range one.places {
			one.reach = math.Max(one.reach, r3.Norm(r3.Sub(at, one.middle)))
		}
	}
	return all
}

// Package hold asks whether a filling can leave its cavity: as a rigid body without a bond,
// from the walls as they are cut. It knows geometry alone; what a pull of so many newtons
// does is not asked here.
package hold

import (
	"cmp"
	"math"
	"slices"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"
)

// Wall is a facet of a cavity's surface: its middle (mm), its unit normal into the filling,
// its area (mm²) and the feature of the cavity that it belongs to.
type Wall struct {
	At, Normal r3.Vec
	Area       float64
	Feature    uint16
}

// Bed is all of a cavity's surface that a filling lies against. It is safe for concurrent use.
type Bed struct {
	Walls   []Wall
	facings func() []facing // without the noise of the walls
}

// NewBed is made of walls.
func NewBed(walls []Wall) *Bed {
	return &Bed{walls, sync.OnceValue(func() []facing { return facings(walls, alike) })}
}

// Of is the part of the bed that keep holds for.
func (b *Bed) Of(keep func(feature uint16) bool) *Bed {
	return NewBed(slices.DeleteFunc(slices.Clone(b.Walls), func(w Wall) bool { return !keep(w.Feature) }))
}

// facing are the walls of one feature that look one way: what a rigid body meets there is
// one plane.
type facing struct {
	normal  r3.Vec // their mean
	area    float64
	feature uint16
	walls   []int
}

// Facets of one wall differ by the noise of the lattice: those within alike (degrees) look
// the same way, and a way tells nothing when less than fewest of its feature's area looks
// within about (degrees) of it: an edge or a stray triangle. A groove is small beside the
// walls that it is cut into, but it is a feature of its own.
const (
	alike  = 3.0
	about  = 6.0
	fewest = 0.01
)

// facings groups walls that look the same way within so many degrees, those of most area
// first.
func facings(walls []Wall, alike float64) []facing {
	near := math.Cos(alike * math.Pi / 180)
	var all []facing
	var ways []r3.Vec             // of them, as they stand
	of := map[uint16][]int{}      // by feature
	total := map[uint16]float64{} // by feature
	order := make([]int, len(walls))
	for n := range walls {
		order[n] = n
		total[walls[n].Feature] += walls[n].Area
	}
	// Large facets first: they seed the groups, small ones of edges join them.
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(walls[b].Area, walls[a].Area) })
	for _, n := range order {
		w := &walls[n]
		best, nearest := -1, near
		for _, k := range of[w.Feature] {
			if c := r3.Dot(ways[k], w.Normal); c >= nearest {
				best, nearest = k, c
			}
		}
		if best < 0 {
			best = len(all)
			all, ways = append(all, facing{feature: w.Feature}), append(ways, w.Normal)
			of[w.Feature] = append(of[w.Feature], best)
		}
		f := &all[best]
		f.normal = r3.Add(f.normal, r3.Scale(w.Area, w.Normal)) // a sum until all have joined
		f.area += w.Area
		f.walls = append(f.walls, n)
		ways[best] = r3.Unit(f.normal)
	}
	for n := range all {
		all[n].normal = r3.Unit(all[n].normal)
	}
	wide := math.Cos(about * math.Pi / 180)
	told := make([]facing, 0, len(all))
	for _, f := range all {
		area := 0.0
		for _, k := range of[f.feature] {
			if r3.Dot(f.normal, all[k].normal) >= wide {
				area += all[k].area
			}
		}
		if area >= fewest*total[f.feature] {
			told = append(told, f)
		}
	}
	slices.SortStableFunc(told, func(a, b facing) int { return cmp.Compare(b.area, a.area) })
	return told
}

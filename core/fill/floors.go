package fill

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// A floor is a plateau of the cavity: more than share of the plan's area that lies within
// even (mm) of one height and looks up to within flat (degrees).
const (
	floorShare = 0.15
	floorEven  = 0.3
	floorFlat  = 30.0
)

// floors are the heights (mm) of a part's plateaus along the axis, ascending: of each, where
// it begins, so that nothing laid up to it climbs on it.
func floors(m *solid.Mesh, axis r3.Vec) []float64 {
	const bin = 0.05                                     // mm
	area, moment := map[int]float64{}, map[int]float64{} // mm², and times height
	lowest, highest := math.MaxInt, math.MinInt
	plan := 0.0
	flat := math.Cos(floorFlat * math.Pi / 180)
	for n, label := range m.Labels {
		up := -r3.Dot(m.AreaVector(n), axis) / 2 // a filling's underside is the cavity's floor
		if up <= 0 {
			continue
		}
		plan += up
		if label == 0 || up < flat*m.Area(n) {
			continue
		}
		height := r3.Dot(m.Centroid(n), axis)
		k := int(math.Floor(height / bin))
		area[k] += up
		moment[k] += up * height
		lowest, highest = min(lowest, k), max(highest, k)
	}
	const wide = int(floorEven / bin)
	var found []float64
	for {
		best, most := 0, 0.0
		for k := lowest; k <= highest; k++ {
			sum := 0.0
			for n := range wide {
				sum += area[k+n]
			}
			if sum > most {
				best, most = k, sum
			}
		}
		if most <= floorShare*plan {
			break
		}
		begins := start(area, best, wide, most)
		found = append(found, moment[begins]/area[begins])
		for n := range wide {
			delete(area, best+n)
		}
	}
	slices.Sort(found)
	return found
}

// start is the bin where a plateau begins, its lowest few hundredths left out.
func start(area map[int]float64, from, wide int, total float64) int {
	const skirt = 0.05 // of its area
	sum := 0.0
	for n := range wide {
		if sum += area[from+n]; sum > skirt*total {
			return from + n
		}
	}
	return from
}

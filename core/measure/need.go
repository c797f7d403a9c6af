package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// standBack tells what a reading would be with walls that stand back to the findings and
// no further: a width or a clearance less, what is kept of the tooth more.
func (s *Subject) standBack(r *Reading, walls []uint16, kept bool) {
	const cutPast = 0.2 // mm past a finding that a wall is cut, and the steps it is moved by
	if len(s.Cavity.Lesions) == 0 {
		return
	}
	spare := 0.0
	for _, wall := range walls {
		if away := s.awayFromFindings(wall, r.Where.At, !kept); !math.IsInf(away, 1) || !kept {
			spare += math.Max(away-cutPast, 0)
		}
	}
	if kept {
		r.Most = r.Value + spare
	} else {
		r.Need = math.Max(r.Value-spare, 0)
	}
}

// awayFromFindings is how far (mm) a wall near a place stands from what is cut for,
// infinitely far where none of it is near. In dentin, caries is followed past a wall
// that could hold back: inEnamel leaves those places out.
func (s *Subject) awayFromFindings(wall uint16, near r3.Vec, inEnamel bool) float64 {
	const beside = 2.5 // mm: the wall of a box, or of an isthmus at its narrowest
	least := math.Inf(1)
	dentin := s.Model.Dentin()
	for _, n := range s.ofFeature[wall] {
		at := s.Mesh.Centroid(n)
		if r3.Norm2(r3.Sub(at, near)) > beside*beside || inEnamel && dentin.Distance(at) < 0 {
			continue
		}
		for _, l := range s.Cavity.Lesions {
			least = math.Min(least, l.Distance(at))
		}
	}
	return math.Max(least, 0)
}

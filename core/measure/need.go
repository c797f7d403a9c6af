package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/lesion"
)

// standBack tells what a reading would be with walls that stand back to the findings and
// no further: a width or a clearance less, what is kept of the tooth more.
func (s *Subject) standBack(r *Reading, walls []uint16, kept bool) {
	const cutPast = 0.2 // mm past a finding that a wall is cut, and the steps it is moved by
	if len(s.Cavity.Lesions) == 0 {
		return
	}
	beside := 1.2 // mm of wall about the place that decides
	if !kept && len(walls) > 1 {
		beside = r.Value/2 + 0.8 // the place lies between the walls
	}
	spare := 0.0
	for _, wall := range walls {
		if away := s.awayFromFindings(wall, r.Where.At, beside, !kept); !math.IsInf(away, 1) || !kept {
			spare += math.Max(away-cutPast, 0)
		}
	}
	if kept {
		r.Most = r.Value + spare
	} else {
		r.Need = math.Max(r.Need, r.Value-spare)
	}
}

// awayFromFindings is how far (mm) a wall stands from what is cut for, so near to a place,
// infinitely far where none of it is near. In dentin, caries is followed past a wall
// that could hold back: inEnamel leaves those places out.
func (s *Subject) awayFromFindings(wall uint16, near r3.Vec, beside float64, inEnamel bool) float64 {
	least := math.Inf(1)
	dentin := s.Model.Dentin()
	for _, n := range s.ofFeature[wall] {
		at := s.Mesh.Centroid(n)
		if r3.Norm2(r3.Sub(at, near)) > beside*beside || inEnamel && dentin.Distance(at) < 0 {
			continue
		}
		for _, l := range s.Cavity.Lesions {
			least = math.Min(least, lesion.Away(l, at))
		}
	}
	return math.Max(least, 0)
}

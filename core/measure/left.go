package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/solid"
)

// Left is what of a cavity's findings is still in the tooth.
type Left struct {
	ToGo Reading // mm³ that are to go, at their middle
	// Kept is soft or stained dentin that stays on purpose, mm³; Area (mm²) how much of the
	// cut lies on it, and OverPulp (mm) the dentin from there to the pulp, soft and sound
	// together.
	Kept, Area, OverPulp float64
	// Seal is the least clean dentin (mm) between what is kept and the junction, or the root's
	// surface.
	Seal Reading
}

// Leaves reports a cavity that leaves caries over the pulp on purpose.
func (s *Subject) Leaves() bool { return s.Left().Kept > cavity.LeastKept }

// Kept is what the cavity leaves over the pulp on purpose, as solids; nil where that is nothing.
func (s *Subject) Kept() []solid.Tool {
	if !s.Leaves() {
		return nil
	}
	return s.Cavity.Kept()
}

// Left looks for what is left. What has broken off is gone already.
func (s *Subject) Left() Left { return s.left() }

func (s *Subject) findLeft() Left {
	const h, film, within = 0.1, 0.02, 0.03 // mm between samples; of a lesion that counts; inside both borders
	left := Left{OverPulp: math.Inf(1)}
	left.ToGo = Reading{Where: Place{Name: "lesion"}, Uncertainty: 0.01}
	left.Seal = Reading{Value: math.Inf(1), Where: Place{Name: "soft dentin over the pulp"}, Uncertainty: 0.05}
	end := s.Cavity.Endpoint()
	var middle r3.Vec
	for _, l := range s.Cavity.Lesions {
		if lesion.ContentOf(l) == lesion.Gone {
			continue
		}
		for q := range solid.Places(l.Bounds(), h) {
			own := l.Distance(q)
			share := solid.Occupied(own, h)
			if share == 0 {
				continue
			}
			stands := s.Workpiece.Distance(q)
			if own+stands > -film {
				continue // the cut runs along the border
			}
			v := share * solid.Occupied(stands, h) * h * h * h
			if v == 0 {
				continue
			}
			// A place is judged by its middle: half a sample past the border belongs to what stays.
			if end.Keeps(l.Found(), q) < h/2 {
				left.Kept += v
				if under := s.Model.IntoDentin(q); max(own, stands) < -within && under < left.Seal.Value {
					left.Seal.Value, left.Seal.Where.At = under, q
				}
				continue
			}
			left.ToGo.Value += v
			middle = r3.Add(middle, r3.Scale(v, q))
		}
		if left.ToGo.Where.At == (r3.Vec{}) {
			left.ToGo.Where.At = l.Middle()
		}
	}
	if left.ToGo.Value > 0 {
		left.ToGo.Where.At = r3.Scale(1/left.ToGo.Value, middle)
	}
	if left.Kept > cavity.LeastKept {
		s.faceKept(&left)
	}
	return left
}

// faceKept measures the surface of the cut on what is kept.
func (s *Subject) faceKept(left *Left) {
	const at = 0.06 // mm, within which a facet lies on it
	pulp := s.Model.Pulp()
	kept := s.Cavity.Kept()
	for n, label := range s.Mesh.Labels {
		if label == 0 {
			continue
		}
		p := s.Mesh.Centroid(n)
		for _, k := range kept {
			if k.Bounds().Contains(p) && k.Distance(p) < at {
				left.Area += s.Mesh.Area(n)
				left.OverPulp = math.Min(left.OverPulp, pulp.Distance(p))
				break
			}
		}
	}
}

package fill

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// piece is some of a part's solid, with what is known of where it lies.
type piece struct {
	mesh  *solid.Mesh
	sides []lies
}

// lies says on which side of a border a piece lies.
type lies struct {
	of     *solid.Border
	within bool
}

// cut divides a piece by all borders of a portion: what belongs to it, and what each leaves.
func (one piece) cut(portion Portion) (own piece, rest []piece) {
	for n, b := range slices.Concat(portion.Borders, portion.Beyond) {
		wanted := n < len(portion.Borders)
		if within, known := one.knows(b); known {
			if within != wanted {
				return piece{mesh: &solid.Mesh{}}, append(rest, one)
			}
			continue
		}
		faces := [2]uint16{Upon, Beneath} // that what is laid first shows, and the rest
		if !wanted {
			faces = [2]uint16{Beneath, Upon}
		}
		within, without := one.mesh.Halves(b, faces[0], faces[1])
		kept, left := one.beside(within, b, true), one.beside(without, b, false)
		if !wanted {
			kept, left = left, kept
		}
		if len(left.mesh.Triangles) > 0 {
			rest = append(rest, left)
		}
		one = kept
	}
	return one, rest
}

func (one piece) knows(b *solid.Border) (within, known bool) {
	for _, s := range one.sides {
		if s.of == b {
			return s.within, true
		}
	}
	return false, false
}

func (one piece) beside(m *solid.Mesh, b *solid.Border, within bool) piece {
	return piece{m, append(one.sides[:len(one.sides):len(one.sides)], lies{b, within})}
}

// distance (mm, about one) is negative where a place lies as the piece does to all its borders.
func (one piece) distance(q r3.Vec) float64 {
	d := math.Inf(-1)
	for _, s := range one.sides {
		if f := s.of.Field(q); s.within {
			d = math.Max(d, f)
		} else {
			d = math.Max(d, -f)
		}
	}
	return d
}

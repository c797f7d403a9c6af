package occlusal

import (
	"obturon/core/cavity"
	"obturon/core/notation"
)

// SeatAt is how wide (mm) the gingival seat would be so much (mm) deeper.
type SeatAt struct{ Deeper, Width float64 }

// SeatWidths tells how narrow the seat of a box becomes as it is taken deeper
// while its axial wall stays, because the crown narrows towards the cervical line:
// at steps of half a millimetre from the design's own, to 0 where none is left.
func SeatWidths(c *cavity.Cavity, side notation.Side) []SeatAt {
	d, ok := c.Design.(Design)
	if !ok {
		return nil
	}
	return seatWidths(c.Request, d, side)
}

func seatWidths(r cavity.Request, d Design, side notation.Side) []SeatAt {
	const step, furthest = 0.5, 1.5 // mm
	p := newProximal(r.Model, side)
	own := d.Boxes[side]
	level := p.ridge - own.Depth
	here, ok := p.surface(p.contact.Y, level, 0, 0, 1)
	if !ok {
		return nil
	}
	var widths []SeatAt
	for down := 0.0; down <= furthest; down += step {
		there, ok := p.surface(p.contact.Y, level-down, 0, 0, 1)
		width := own.AxialDepth + there.X - here.X
		if !ok || width <= 0 {
			return append(widths, SeatAt{down, 0})
		}
		widths = append(widths, SeatAt{down, width})
	}
	return widths
}

package hold

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// face is a plane of a block: its unit normal into the block, and a place on it.
type face struct{ normal, on r3.Vec }

// block is a convex cavity in a tooth whose surface is z = 0, and that ends at x = end:
// what lies behind all its faces.
type block []face

// cavity is one of several blocks.
type cavity struct {
	blocks []block
	end    float64 // x where the tooth ends
}

// wall is a face along y (or x) through a place at a height, whose normal into the block
// points at (x, y) and which leans away from it by degrees on the way up: over 0 it diverges.
func wall(x, y, leans float64, on r3.Vec) face {
	sin, cos := math.Sincos(leans * math.Pi / 180)
	l := math.Hypot(x, y)
	return face{r3.Vec{X: x / l * cos, Y: y / l * cos, Z: sin}, on}
}

func floor(z float64) face { return face{r3.Vec{Z: 1}, r3.Vec{Z: z}} }

// trough lies between x = from and to and y = -half and half on a floor at z = -deep, its
// walls across y leaning by across and those across x by along degrees.
func trough(from, to, half, deep, across, along float64) block {
	return block{
		floor(-deep),
		wall(0, 1, across, r3.Vec{Y: -half, Z: -deep}), wall(0, -1, across, r3.Vec{Y: half, Z: -deep}),
		wall(1, 0, along, r3.Vec{X: from, Z: -deep}), wall(-1, 0, along, r3.Vec{X: to, Z: -deep}),
	}
}

func (b block) distance(p r3.Vec) float64 {
	most := math.Inf(-1)
	for _, f := range b {
		most = math.Max(most, -r3.Dot(f.normal, r3.Sub(p, f.on)))
	}
	return most
}

// tooth is the distance to what is left about the cavity, negative within it.
func (c cavity) tooth(p r3.Vec) float64 {
	within := math.Inf(1)
	for _, b := range c.blocks {
		within = math.Min(within, b.distance(p))
	}
	return max(p.Z, p.X-c.end, -within)
}

// walls are facets of it about size mm wide: each face, in pieces, where no other block and
// not the outside lies before it.
func (c cavity) walls(size float64) []Wall {
	var all []Wall
	for own, b := range c.blocks {
		for n, f := range b {
			e1, e2 := solid.Across(f.normal)
			const reach = 6.0
			for u := -reach; u < reach; u += size {
				for v := -reach; v < reach; v += size {
					at := r3.Add(f.on, r3.Add(r3.Scale(u+size/2, e1), r3.Scale(v+size/2, e2)))
					if at.Z > 0 || at.X > c.end || !b.holds(at, n) || c.within(r3.Add(at, r3.Scale(-1e-6, f.normal)), own) {
						continue
					}
					all = append(all, Wall{At: at, Normal: f.normal, Area: size * size, Feature: uint16(n)})
				}
			}
		}
	}
	return all
}

// holds reports a place of one face that lies within all others of a block.
func (b block) holds(p r3.Vec, of int) bool {
	for n, f := range b {
		if n != of && r3.Dot(f.normal, r3.Sub(p, f.on)) < 0 {
			return false
		}
	}
	return true
}

// within reports a place in another block.
func (c cavity) within(p r3.Vec, own int) bool {
	for n, b := range c.blocks {
		if n != own && b.distance(p) < 0 {
			return true
		}
	}
	return false
}

// outside is x past the end of the tooth.
const outside = 9.0

// The cavities of which the answers are known.
func classI(across, along float64) cavity {
	return cavity{[]block{trough(-2, 2, 1.5, 2, across, along)}, outside}
}

// mo is an isthmus 1 mm wide and 1.6 deep that runs out into a box to the end of the tooth at
// x = 4, with a dovetail 1.6 wide at its other end where that is asked for.
func mo(across float64, dovetail bool) cavity {
	isthmus := trough(-3, outside, 0.5, 1.6, across, 0)
	box := trough(2.5, outside, 1.5, 3.6, across, 0)
	c := cavity{[]block{isthmus, box}, 4}
	if dovetail {
		// Its neck is cut at 45 degrees.
		on := r3.Vec{X: -1.2, Y: 0.5, Z: -1.6}
		tail := block{
			floor(-1.6),
			wall(0, 1, across, r3.Vec{Y: -0.8, Z: -1.6}), wall(0, -1, across, r3.Vec{Y: 0.8, Z: -1.6}),
			wall(1, 0, 0, r3.Vec{X: -3}),
			wall(-1, -1, across, on), wall(-1, 1, across, r3.Vec{X: on.X, Y: -on.Y, Z: on.Z}),
		}
		c.blocks = append(c.blocks, tail)
	}
	return c
}

// slot is a box alone, 4.5 mm high, with grooves in its side walls where asked for.
func slot(across float64, grooves bool) cavity {
	const high = 4.5
	c := cavity{[]block{trough(2.5, outside, 1.5, high, across, 0)}, 4}
	if grooves {
		return grooved(c, across, high)
	}
	return c
}

// grooved is a box so high with grooves 0.3 deep in its side walls.
func grooved(c cavity, across, high float64) cavity {
	c.blocks = append(c.blocks, trough(2.7, 3.2, 1.8, high, across, 0))
	return c
}

// dish is a part of a ball's inside, its rim so many degrees off the middle.
func dish(rim float64) []Wall {
	var all []Wall
	const rows, columns = 25, 72
	for i := range rows {
		off := rim * math.Pi / 180 * (float64(i) + 0.5) / rows
		sin, cos := math.Sincos(off)
		for j := range columns {
			y, x := math.Sincos(2 * math.Pi * float64(j) / columns)
			normal := r3.Vec{X: sin * x, Y: sin * y, Z: cos}
			all = append(all, Wall{At: r3.Scale(-2, normal), Normal: normal, Area: sin})
		}
	}
	return all
}

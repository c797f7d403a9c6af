package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// lean bends a crown lingually over its root, as those of lower posterior
// teeth are: about the mesiodistal axis, setting in at the cervical line.
type lean struct{ sin, cos float64 }

func newLean(degrees float64) lean {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	return lean{sin, cos}
}

// setsIn is the share of the lean at a height: none up to the cervical line, all of it
// from the middle of the crown up.
func setsIn(z float64) float64 { return solid.Smoothstep(-0.2, 2.8, z) }

// upright takes a point of the leaning tooth to where it lies on the upright one.
func (l lean) upright(p r3.Vec) r3.Vec {
	if l.sin == 0 {
		return p
	}
	w := setsIn(p.Z)
	y, z := p.Y*l.cos+p.Z*l.sin, p.Z*l.cos-p.Y*l.sin
	return r3.Vec{X: p.X, Y: mix(p.Y, y, w), Z: mix(p.Z, z, w)}
}

// leaning takes a point of the upright tooth to where it lies on the leaning
// one: upright undone, step by step.
func (l lean) leaning(q r3.Vec) r3.Vec {
	p := q
	const rounds = 6 // each leaves about a fifth of the error
	for range rounds {
		p = r3.Add(p, r3.Sub(q, l.upright(p)))
	}
	return p
}

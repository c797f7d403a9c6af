// Package tolerance asks what becomes of a rehearsed cavity in a hand that is not perfect:
// it cuts the tooth again and again with errors drawn for it, has the gauges read each, and
// tells how often every criterion is met. It is a model of a hand, learned from nobody.
package tolerance

import (
	"math"
	"math/rand/v2"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/reach"
	"obturon/core/rehearsal"
)

// Hand is how an operator's cuts differ from what was meant, as numbers.
type Hand struct {
	// DepthBias is how much deeper (mm) every cut of a bur goes, DepthScatter by how much
	// (mm, standard deviation) one cut differs from the next.
	DepthBias, DepthScatter float64
	// Tilt is by how much (degrees, standard deviation) a bur leans otherwise than it should.
	Tilt float64
	// Wander is how far (mm, standard deviation) a tip strays sideways on its way.
	Wander float64
	// Extension is how far (mm) walls end up past what was meant; negative short of it.
	Extension float64
}

// Usual is a practised hand, as a guess to begin with: a depth is held to a tenth of a
// millimetre and an axis to some degrees (operative dentistry convention).
var Usual = Hand{DepthScatter: 0.1, Tilt: 2, Wander: 0.06}

// Errors are those of one step.
type Errors struct {
	Depth  float64 // mm deeper
	Tilt   r3.Vec  // added to the axis
	wander [2]waves
}

// Draw draws the errors of so many steps; the same seed draws the same.
func (h Hand) Draw(steps int, seed uint64) []Errors {
	pick := rand.New(rand.NewPCG(seed, 29))
	all := make([]Errors, steps)
	for n := range all {
		e := &all[n]
		e.Depth = h.DepthBias + h.DepthScatter*pick.NormFloat64()
		sin, cos := math.Sincos(2 * math.Pi * pick.Float64())
		e.Tilt = r3.Scale(math.Tan(h.Tilt*math.Pi/180*pick.NormFloat64()), r3.Vec{X: cos, Y: sin})
		e.wander = [2]waves{newWaves(pick, h.Wander), newWaves(pick, h.Wander)}
	}
	return all
}

// Spoil is a step as the hand does it.
func (h Hand) Spoil(s rehearsal.Step, e Errors) rehearsal.Step {
	own := s.Beyond(h.Extension)
	own.Cuts = make([]rehearsal.Cutting, len(s.Cuts))
	for n, c := range s.Cuts {
		own.Cuts[n] = h.spoilCut(c, e)
	}
	return own
}

// smoothed (mm) is what a way that strays may be drawn straight by: far less than hands err.
const smoothed = 0.015

// longest (mm) is how far a way runs straight before the hand strays again.
const longest = 2.0

func (h Hand) spoilCut(c rehearsal.Cutting, e Errors) rehearsal.Cutting {
	own := c
	own.Axis = r3.Unit(r3.Add(c.Axis, e.Tilt))
	if h.Extension != 0 { // walls further out are what a wider bur would make in the same way
		head := *c.Head
		head.Diameter += 2 * h.Extension
		own.Head = &head
	}
	own.Ways = make([]reach.Way, len(c.Ways))
	gone := 0.0 // mm
	for n, w := range c.Ways {
		for k, tip := range w {
			if k > 0 {
				from, length := w[k-1], r3.Norm(r3.Sub(tip, w[k-1]))
				for part := longest; part < length; part += longest {
					own.Ways[n] = append(own.Ways[n], e.stray(r3.Add(from, r3.Scale(part/length, r3.Sub(tip, from))), c.Axis, gone+part))
				}
				gone += length
			}
			own.Ways[n] = append(own.Ways[n], e.stray(tip, c.Axis, gone))
		}
		if h.Wander > 0 { // one that runs true keeps its form
			own.Ways[n] = own.Ways[n].Thinned(smoothed)
		}
	}
	return own
}

// stray is where a tip ends up, so far (mm) on its way.
func (e Errors) stray(tip, axis r3.Vec, gone float64) r3.Vec {
	tip = r3.Sub(tip, r3.Scale(e.Depth, axis))
	return r3.Add(tip, r3.Vec{X: e.wander[0].at(gone), Y: e.wander[1].at(gone)})
}

// waves are a few sines of 2 to 8 mm: a hand strays slowly.
type waves [3]struct{ height, length, from float64 }

func newWaves(pick *rand.Rand, deviation float64) waves {
	const shortest, span = 2.0, 6.0 // mm
	var w waves
	for n := range w {
		// The squares of sines have a mean of one half.
		w[n].height = deviation * math.Sqrt(2/float64(len(w)))
		w[n].length, w[n].from = shortest+span*pick.Float64(), 2*math.Pi*pick.Float64()
	}
	return w
}

func (w *waves) at(gone float64) float64 {
	sum := 0.0
	for _, one := range w {
		sum += one.height * math.Sin(2*math.Pi*gone/one.length+one.from)
	}
	return sum
}

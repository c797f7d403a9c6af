// Package resist asks what a cavity costs a tooth in stiffness: how far its cusps deflect under
// a load, beside those of the sound tooth, and what the depth of a wall and the radius of a
// line angle make of it. It compares: what breaks a tooth is not known so well.
package resist

import (
	"fmt"
	"math"
)

// Stiffness are the elastic constants of what a tooth is made of: moduli in MPa.
type Stiffness struct {
	Enamel, Dentin, Pulp, Composite float64
	Poisson                         float64 // of all of them
}

// ofCell is the modulus of a cell of which shares stand in a tissue and are filled. Where
// little stands it counts for nothing. A cell that the surface cuts is less stiff than its
// share: the material lies to one side of it. Its square makes the figures depend least on
// the cells (measured).
func ofCell(tissue, stands, filling, filled float64) float64 {
	const least = 0.15 // of a cell
	if stands+filled < least {
		return 0
	}
	return (tissue*stands + filling*filled) * (stands + filled)
}

// shareInside is how much of a cell lies inside a surface, from the distance of its middle:
// exact for a face that crosses it square.
func shareInside(distance, side float64) float64 {
	return math.Max(0, math.Min(1, 0.5-distance/side))
}

// Check names a constant that cannot be.
func (s Stiffness) Check() error {
	for _, c := range []struct {
		name  string
		value float64
	}{{"enamel", s.Enamel}, {"dentin", s.Dentin}, {"pulp", s.Pulp}, {"composite", s.Composite}} {
		if !(c.value > 0 && c.value < 1e6) {
			return fmt.Errorf("the modulus of %s is %g MPa: give one between 0 and a million", c.name, c.value)
		}
	}
	if !(s.Poisson >= 0 && s.Poisson <= 0.45) {
		return fmt.Errorf("Poisson's ratio is %g: give one from 0 to 0.45", s.Poisson)
	}
	return nil
}

// Package fill plans what a clean cavity is filled with and in which portions: the
// filling as a solid, its increments or carrier loads, and the light that cures them.
// Figures of materials are a practice's own products; those shipped are generic.
package fill

import "math"

// Amalgam is a practice's product and the carrier that brings it.
type Amalgam struct {
	Name string
	// Density is of the set alloy, mg/mm³; MercuryShare is of what is triturated, by mass.
	Density, MercuryShare float64
	// AlloyMg are the capsules' alloy masses, ascending.
	AlloyMg []float64
	// Times from the end of trituration; what varies with alloy and warmth of the room.
	CondenseSeconds, CarveSeconds, NoLoadHours float64
	Carrier                                    Carrier
}

// Carrier is the hollow end of an amalgam carrier, mm, and how densely it is packed: the
// share of set alloy in it.
type Carrier struct{ Diameter, Length, Packing float64 }

// Holds is what one load comes to once it is condensed, mm³.
func (c Carrier) Holds() float64 { return math.Pi * c.Diameter * c.Diameter / 4 * c.Length * c.Packing }

// overfilled is how much more is condensed than the cavity holds, to be carved off
// (operative dentistry convention: 1.1 to 1.25).
const overfilled = 1.2

// loadSeconds are what it takes to bring a load and condense it (operative dentistry
// convention).
const loadSeconds = 20

// Charge is what a filling takes of amalgam.
type Charge struct {
	Product Amalgam
	Volume  float64 // mm³, of the filling
	Mass    float64 // mg with what is carved off
	Loads   int     // of the carrier
	Mixes   []Mix
}

// Mix is one capsule, triturated when the one before is used up: no mix is condensed longer
// than its product allows.
type Mix struct {
	AlloyMg float64
	Loads   int
}

// Charge of a filling of so many mm³.
func (a Amalgam) Charge(volume float64) Charge {
	c := Charge{Product: a, Volume: volume, Mass: volume * overfilled * a.Density}
	each := a.Carrier.Holds()
	c.Loads = int(math.Ceil(volume * overfilled / each))
	largest := a.AlloyMg[len(a.AlloyMg)-1]
	most := max(1, min(int(a.CondenseSeconds/loadSeconds), int(a.triturated(largest)/(each*a.Density))))
	for mixes := (c.Loads + most - 1) / most; mixes > 0; mixes-- {
		m := Mix{AlloyMg: largest, Loads: (c.Loads - c.mixed() + mixes - 1) / mixes}
		for _, alloy := range a.AlloyMg {
			if a.triturated(alloy) >= float64(m.Loads)*each*a.Density {
				m.AlloyMg = alloy
				break
			}
		}
		c.Mixes = append(c.Mixes, m)
	}
	return c
}

func (c Charge) mixed() int {
	loads := 0
	for _, m := range c.Mixes {
		loads += m.Loads
	}
	return loads
}

// triturated is the mass (mg) that a capsule gives with its mercury.
func (a Amalgam) triturated(alloy float64) float64 { return alloy / (1 - a.MercuryShare) }

package sequence

import (
	"fmt"
	"math"

	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
	"obturon/core/instrument"
	"obturon/core/notation"
)

// sunk (mm) is how far a head may stand under the surface before its shank rubs the margin.
const sunk = 0.5

// outlineBur is the widest pear that still fits the isthmus with room to finish, and whose
// head comes up to the surface; in a narrow and deep cut the slim taper.
func outlineBur(d occlusal.Design) instrument.Instrument {
	const narrow = 0.9 // mm of isthmus
	pears := []instrument.ID{instrument.Pear, instrument.LongPear}
	if d.IsthmusWidth < narrow {
		pears = []instrument.ID{instrument.SmallPear, instrument.SlimTaper}
	}
	for _, id := range pears {
		if bur := instrument.MustFind(id); d.PulpalDepth <= bur.Head.Length+sunk {
			return bur
		}
	}
	return instrument.MustFind(pears[len(pears)-1])
}

// cariesBur is the widest round that turns in the narrowest part of a cavity.
func cariesBur(c *cavity.Cavity) instrument.ID {
	narrowest := math.Inf(1)
	switch d := c.Design.(type) {
	case occlusal.Design:
		if d.Occlusal {
			narrowest = d.IsthmusWidth
		}
		for _, side := range d.Sides() {
			narrowest = math.Min(narrowest, d.Boxes[side].AxialDepth)
		}
	case smooth.Design:
		if c.Kind != cavity.IncisalAngle { // open to three sides
			narrowest = math.Min(d.Width, d.Height)
		}
	}
	for _, id := range []instrument.ID{instrument.LargeRound, instrument.SmallRound} {
		if instrument.MustFind(id).Head.Diameter <= narrowest {
			return id
		}
	}
	return instrument.QuarterRound
}

// pins are the lengths (mm) of the gauge pins.
var pins = []float64{0.4, 1.0, 1.5}

// depthPin is the gauge that tells a floor's depth: the longest pin that it hides.
func depthPin(depth float64) string {
	text := "probe on the floor"
	for _, pin := range pins {
		if pin <= depth+0.02 {
			text = fmt.Sprintf("pin %.1f stands on the floor", pin)
		}
	}
	return text
}

// clearanceGauge is what passes a clearance (mm) of the size asked for: the shortest pin
// is too thick for less.
func clearanceGauge(asked float64) string {
	switch {
	case asked >= pins[0]:
		return "pin 0.4 passes"
	case asked > 0:
		return "a matrix band passes"
	}
	return "explorer along the margin"
}

// seatGauge is what lies on a seat so wide (mm).
func seatGauge(wide float64) string {
	if blade := instrument.MustFind(instrument.Hatchet).Blade.Width; wide >= blade {
		return fmt.Sprintf("hatchet %.1f lies flat", blade)
	}
	return "graduated probe across the seat"
}

// besideTooth reports a tooth that stands beside any of the sides.
func besideTooth(c *cavity.Cavity, sides ...notation.Side) bool {
	for _, side := range sides {
		if c.Adjacent[side] != nil {
			return true
		}
	}
	return false
}

package sequence

import (
	"fmt"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/school"
)

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

// clearanceAsked is the gauge for the clearance that the school asks a box's walls for;
// without an adjacent tooth there is none.
func clearanceAsked(c *cavity.Cavity) string {
	if len(c.Adjacent) == 0 {
		return clearanceGauge(0)
	}
	return clearanceGauge(c.Criterion(school.BoxClearanceBuccal).Target.Min)
}

func flushGauge(bur instrument.Instrument, depth float64) string {
	over := depth - bur.Head.Length
	switch {
	case over > 0.05:
		return fmt.Sprintf("head flush is %.1f; sink it another %.1f", bur.Head.Length, max(tenth(over), 0.1))
	case over < -0.05:
		return fmt.Sprintf("head flush is %.1f; leave %.1f of it out", bur.Head.Length, max(tenth(-over), 0.1))
	default:
		return fmt.Sprintf("head flush is %.1f", bur.Head.Length)
	}
}

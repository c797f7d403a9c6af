package device

import (
	"fmt"
	"slices"
)

// PedalAddress is where a foot switch that speaks WebSocket listens, on the computer whose
// browser shows the chair.
const PedalAddress = "127.0.0.1:8087"

// Pedals of a foot switch; each press is sent as a text message that names the pedal.
var Pedals = []string{"next", "back", "pause"}

// Pedal is a foot switch.
type Pedal struct{ Speaker }

// Press tells all that listen. It fails for a pedal that there is not.
func (p *Pedal) Press(pedal string) error {
	if !slices.Contains(Pedals, pedal) {
		return fmt.Errorf("there is no pedal %q: press one of %v", pedal, Pedals)
	}
	p.Say(pedal)
	return nil
}

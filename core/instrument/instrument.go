// Package instrument holds the kit: burs and hand instruments by their generic
// number or shape, with the profile or the blade that cuts, gauges, and what else
// lies on the tray.
package instrument

import "fmt"

// ID names an instrument; kit.go lists them all.
type ID string

// Instrument is an entry of the kit. What rotates has a head, what is pushed by
// hand a blade; gauges and supplies have neither. Lengths are millimetres.
type Instrument struct {
	ID    ID
	Name  string
	Use   string
	Head  *Head
	Blade *Blade
}

// Blade is the cutting end of a hand instrument.
type Blade struct {
	Width, Length float64
	Centigrades   float64 // hundredths of a full turn between blade and shaft
}

// Find finds an instrument of the kit.
func Find(id ID) (Instrument, bool) {
	for _, i := range Kit {
		if i.ID == id {
			return i, true
		}
	}
	return Instrument{}, false
}

// MustFind finds an instrument that the program names; it panics where the kit
// lacks it.
func MustFind(id ID) Instrument {
	i, ok := Find(id)
	if !ok {
		panic(fmt.Sprintf("instrument: %q is not in the kit", id))
	}
	return i
}

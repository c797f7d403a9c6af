// Package instrument holds burs and hand instruments by their generic number or shape,
// with the profile or the blade that cuts, gauges, and what else lies on the tray; and what
// of them a practice has ready.
package instrument

import (
	"fmt"
	"slices"
)

// ID names an instrument; all.go lists them all.
type ID string

// Instrument is an entry of the list. What rotates has a head, what is pushed by
// hand a blade; gauges and supplies have neither. Lengths are millimetres.
type Instrument struct {
	ID    ID
	Name  string
	Use   string
	Head  *Head
	Blade *Blade
	// SingleUse is thrown away after one patient, whatever a stock counts.
	SingleUse bool
}

// Find finds an instrument of All.
func Find(id ID) (Instrument, bool) {
	n := slices.IndexFunc(All, func(i Instrument) bool { return i.ID == id })
	if n < 0 {
		return Instrument{}, false
	}
	return All[n], true
}

// MustFind finds an instrument that the program names; it panics where there is none.
func MustFind(id ID) Instrument {
	i, ok := Find(id)
	if !ok {
		panic(fmt.Sprintf("instrument: %q is not known", id))
	}
	return i
}

package sequence

import (
	"fmt"
	"math"

	"obturon/core/instrument"
	"obturon/core/rehearsal"
)

// Rates of a practised operator, such that a Class II takes 15 to 20 minutes to a shaped
// cavity and about 10 more to refine (operative dentistry convention).
const (
	secondsToTakeUp  = 20.0 // each instrument
	secondsToLook    = 15.0 // wash, dry, gauge
	secondsOfPath    = 0.7  // each mm of a rotary tip's way
	secondsOfVolume  = 6.0  // each mm³ at high speed
	slower           = 2.0  // times as long at low speed
	secondsByHand    = 40.0
	secondsOfPlaning = 12.0 // each mm³ by hand
	mostByHand       = 150.0
)

// hotSeconds are what its bur works close to the pulp.
func (f fact) hotSeconds() int {
	s := secondsOfPath * f.Hot
	if f.first.Speed() != instrument.High {
		s *= slower
	}
	return int(math.Round(s))
}

// warming warns of a bur that works close to the pulp for longer than a light touch.
func (f fact) warming() string {
	const touch = 3 // seconds
	s := f.hotSeconds()
	if s < touch {
		return ""
	}
	return fmt.Sprintf("The bur works within %.0f mm of the pulp for about %d s: water, light strokes, lift it every few seconds.", rehearsal.HotPulp, s)
}

// seconds are what a step takes a practised operator.
func (f fact) seconds() int {
	const whole = 5
	s := secondsToTakeUp*float64(len(f.Instruments)) + secondsToLook
	if f.ByHand {
		s += min(secondsByHand+secondsOfPlaning*f.Taken, mostByHand)
	} else {
		length := 0.0
		for _, c := range f.Cuts {
			length += c.Length()
		}
		cutting := secondsOfPath*length + secondsOfVolume*f.Taken
		if f.first.Speed() != instrument.High {
			cutting *= slower
		}
		s += cutting
	}
	return int(s/whole+0.5) * whole
}

package sequence

import (
	"fmt"
	"math"

	"obturon/core/instrument"
	"obturon/core/procedure"
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

// Times of a practised operator for what cutting does not tell, seconds.
const (
	secondsMark        = 60
	secondsShade       = 90
	secondsIndex       = 120
	secondsGuard       = 60
	secondsCord        = 120
	secondsTrim        = 60
	secondsAxiopulpal  = 45
	secondsFreshen     = 120
	secondsCleanMargin = 45
	secondsInspect     = 60
	secondsSeal        = 120
)

// usual is what a kind of cutting takes before it is proven how far its burs go, seconds. It
// adds up to what preparation courses give for one tooth (operative dentistry convention).
var usual = map[procedure.Kind]int{
	procedure.OldFillingOut: 180, procedure.PunchCut: 60, procedure.Outline: 180, procedure.Ridges: 60, procedure.Extensions: 60,
	procedure.Ditch: 180, procedure.BreakShell: 60, procedure.BoxWalls: 60, procedure.Cleave: 90, procedure.OpenToSize: 150, procedure.Walls: 60,
	procedure.FractureSurface: 60, procedure.LingualLock: 60, procedure.Refine: 150, procedure.CariesLeft: 120, procedure.Grooves: 60,
	procedure.TrimSeat: 75, procedure.PlaneWalls: 90, procedure.LiftSoftDentin: 60, procedure.ReduceCusps: 90, procedure.Bevel: 60,
}

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
	return fmt.Sprintf(
		"The bur works within %.0f mm of the pulp for about %d s: water, light strokes, lift it every few seconds.",
		rehearsal.HotPulp,
		s,
	)
}

// seconds are what a step takes a practised operator.
func (f fact) seconds() int {
	if f.r == nil {
		return usual[f.Kind]
	}
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

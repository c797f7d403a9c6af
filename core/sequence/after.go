package sequence

import (
	"fmt"
	"slices"

	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/procedure"
)

// uncut are the steps of a cavity that take nothing which a rehearsal could show: those before
// its bevel, and those after all.
func uncut(c *cavity.Cavity) (before, after []procedure.Step) {
	switch d := c.Design.(type) {
	case occlusal.Design:
		before = trim(d)
	case smooth.Design:
		if c.Kind == cavity.Cervical && c.Material.Bonds() && sclerotic(c) {
			before = append(before, freshen())
		}
		if d.BevelWidth > 0 && d.Feathered() {
			after = append(after, cleanMargin())
		}
	}
	return before, after
}

// trim finishes the seat of a box and the line angle over it by hand.
func trim(d occlusal.Design) []procedure.Step {
	if !d.AnyBox() {
		return nil
	}
	s := procedure.New(procedure.TrimSeat, instrument.MarginTrimmer)
	s.Speed, s.Seconds, s.Gauge = instrument.ByHand, secondsTrim, "explorer along the margin"
	s.Action = "Trim loose rods; the seat stays flat and is not bevelled."
	if d.GingivalSlope >= 5 {
		s.Action = fmt.Sprintf("Slope the outer half to two thirds of the seat %.0f degrees outwards and down.", d.GingivalSlope)
	}
	if d.Occlusal && d.Axiopulpal > 0 {
		s.Action += fmt.Sprintf(" Then round the axiopulpal line angle %.1f mm wide, from the middle to each side.", d.Axiopulpal)
		s.Caution, s.Seconds = "Left sharp, the filling breaks there.", s.Seconds+secondsAxiopulpal
	}
	return []procedure.Step{s}
}

// sclerotic reports dentin that is hard and dark, as of a lesion that was arrested: bond takes on it
// only where it is freshened.
func sclerotic(c *cavity.Cavity) bool {
	return slices.ContainsFunc(c.Lesions, func(l lesion.Lesion) bool { return l.Found().Activity == lesion.Arrested })
}

func freshen() procedure.Step {
	s := procedure.New(procedure.FreshenDentin, instrument.LargeRound)
	s.Speed, s.Seconds = instrument.Low, secondsFreshen
	s.Action = "Freshen sclerotic dentin at about 10,000 a minute under a fine mist, barely touching; keep the floor concave."
	s.Caution = "The pulp answers heat before it shows."
	return s
}

func cleanMargin() procedure.Step {
	s := procedure.New(procedure.CleanMargin, instrument.UltrasonicTip, instrument.PumiceCup)
	s.Speed, s.Seconds = instrument.Low, secondsCleanMargin
	s.Action = "Refine the margin, then clean with pumice; leave the enamel rough for bonding."
	return s
}

// inspect is the last look before the filling.
func inspect(c *cavity.Cavity) procedure.Step {
	s := procedure.New(procedure.Inspect, instrument.Explorer, instrument.Probe)
	s.Speed, s.Seconds, s.Gauge = instrument.ByHand, secondsInspect, "probe, pins"
	switch {
	case len(c.Boxes) > 0 && !adjacent(c, c.Boxes...):
		s.Instruments = append(s.Instruments, instrument.Pins)
		s.Action = "Wash, dry lightly, feel the junction and margin all round and read depth, isthmus and the box's width."
	case len(c.Boxes) > 0:
		s.Instruments = append(s.Instruments, instrument.Pins)
		s.Action = "Wash, dry lightly, feel the junction and margin all round, take the wedge out and read depth, isthmus and clearances."
		s.Gauge = clearanceAsked(c) + "; probe, pins"
	case c.Kind == cavity.Occlusal:
		s.Instruments = append(s.Instruments, instrument.Pins)
		s.Action = "Wash, dry lightly, feel the junction and margin all round and read depth and isthmus."
	default:
		s.Action = "Wash, dry lightly, feel the margin all round and read depth and widths."
	}
	return s
}

// sealFissures is the step for fissures that are not opened.
func sealFissures() procedure.Step {
	s := procedure.New(procedure.SealFissures, instrument.Etch, instrument.Sealant)
	s.Action, s.Gauge = "With the filling: etch and seal the fissures that were not opened.", "explorer along the edge"
	s.Caution, s.Seconds = "Dry field: moisture lifts a sealant.", secondsSeal
	return s
}

// sealStaying is the step for an old filling that is not replaced.
func sealStaying() procedure.Step {
	s := procedure.New(procedure.SealStaying, instrument.FineFlame, instrument.Etch, instrument.Resin)
	s.Action, s.Gauge = "With the new filling: roughen the open margin of the old one, etch, bond, flow a thin resin over it, cure.", "explorer along the margin"
	s.Caution, s.Seconds = "Dry field: moisture lifts a sealant.", secondsSeal
	return s
}

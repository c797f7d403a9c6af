// Package sequence derives which instrument makes which part of a
// preparation, in which order. It is a first derivation from the design's
// geometry; it has not been proven by cutting the model.
package sequence

import (
	"fmt"

	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/prep"
)

// Step is one step at the chair.
type Step struct {
	Name       string
	Instrument string
	Speed      string // high, low, hand or none
	Action     string
	Depth      float64 // mm, 0 where depth plays no part
	Gauge      string
	Caution    string
	Seconds    int
}

// Step times are for a practised operator, 15 to 20 minutes to a shaped cavity
// (operative dentistry convention).
const (
	secondsMark   = 60
	secondsPunch  = 60
	secondsWiden  = 240
	secondsExtend = 60
	secondsRefine = 150
	secondsCaries = 120
	secondsPlane  = 90
	secondsClean  = 60
)

// ClassI derives the steps of an occlusal preparation.
func ClassI(d prep.ClassI, lesions []*lesion.Occlusal, material string) []Step {
	pear := outlineBur(d)
	steps := []Step{
		{"Confirm and mark", "articulating paper, pencil", "none", "Confirm the tooth a second way. Mark the contacts before isolation, then pencil the outline through the pits.", 0, "", "Wrong tooth and wrong surface cannot be undone.", secondsMark},
		{"Punch cut", pear.ID, "high", "Enter at the deepest pit, bur square to the occlusal table, full depth at once.", d.PulpalDepth, flushGauge(pear, d.PulpalDepth), "Water spray; eye protection for all.", secondsPunch},
		{"Outline at constant depth", pear.ID, "high", fmt.Sprintf("Carry the cut through the fissures at one depth; stop %.1f mm from the mesial and %.1f mm from the distal surface.", d.MesialRidge, d.DistalRidge), d.PulpalDepth, "probe on the floor", "Approach the ridges last, so that an overrun cannot cross them.", secondsWiden},
	}
	if d.DovetailWidth > d.IsthmusWidth {
		steps = append(steps, Step{"Dovetails", pear.ID, "high", fmt.Sprintf("Widen the pit ends to %.1f mm, buccally and lingually, leaning the bur out beside each ridge.", d.DovetailWidth), d.PulpalDepth, "", "Keep off the ridge: tooth beside it cannot be put back.", secondsExtend})
	}
	if reach := max(d.BuccalExtension, d.LingualExtension); reach > 0 {
		steps = append(steps, Step{"Groove extensions", "169L", "high", fmt.Sprintf("Follow each groove up to %.1f mm past the wall; clean and look after each.", reach), d.PulpalDepth, "", "Ends tend to stay shallow: take the floor to the end.", secondsExtend})
	}
	steps = append(steps, Step{"Floor and line angles", "refining pear", "low", fmt.Sprintf("Level the floor and set line angles of %.2f mm at a tenth of full speed.", d.LineAngleRadius), d.PulpalDepth, "pin 1.5 stands on the floor", "", secondsRefine})
	if followsCaries(lesions) {
		steps = append(steps, Step{"Caries below the floor", "4", "low", "Clean the junction first, then follow soft dentin only where it is; leave the rest of the floor.", 0, "explorer", "Near the pulp: stop at firm dentin and decide on a liner.", secondsCaries})
	}
	plane := "Plane the enamel walls with the blade flat to the wall; no bevel under amalgam."
	if material == "composite" {
		plane = "Plane loose rods; leave enamel roughened for bonding, with no bevel under contacts."
	}
	return append(steps,
		Step{"Enamel walls", "10-7-14", "hand", plane, 0, "", "Finger rest; a dull edge slips.", secondsPlane},
		Step{"Clean and inspect", "explorer, probe, pin 1.5", "hand", "Wash, dry lightly, feel the junction and margin all round, read depth and isthmus.", 0, "probe, pins", "", secondsClean},
	)
}

// outlineBur is the widest pear that still fits the isthmus with room to finish.
func outlineBur(d prep.ClassI) instrument.Rotary {
	id := "330"
	switch {
	case d.PulpalDepth > 2.6:
		id = "245"
	case d.IsthmusWidth < 0.9:
		id = "329"
	}
	bur, _ := instrument.RotaryByID(id)
	return bur
}

func flushGauge(bur instrument.Rotary, depth float64) string {
	over := depth - bur.Length
	switch {
	case over > 0.02:
		return fmt.Sprintf("head flush is %.1f; sink it %.2f below the surface", bur.Length, over)
	case over < -0.02:
		return fmt.Sprintf("head flush is %.1f; leave %.2f standing proud", bur.Length, -over)
	default:
		return fmt.Sprintf("head flush is %.1f", bur.Length)
	}
}

// followsCaries reports a lesion in dentin, whose floor must be checked.
func followsCaries(lesions []*lesion.Occlusal) bool {
	for _, l := range lesions {
		if l.IntoDentin() > 0 {
			return true
		}
	}
	return false
}

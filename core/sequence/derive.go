// Package sequence derives which instrument makes which part of a
// preparation, in which order. It is a first derivation from the design's
// geometry; it has not been proven by cutting the model.
package sequence

import (
	"fmt"
	"slices"
	"strings"

	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/notation"
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
// and about 10 more to refine it (operative dentistry convention).
const (
	secondsMark   = 60
	secondsGuard  = 60
	secondsPunch  = 60
	secondsWiden  = 240
	secondsExtend = 60
	secondsDitch  = 180
	secondsBreak  = 60
	secondsCleave = 150
	secondsAxial  = 60
	secondsCurve  = 45
	secondsRefine = 150
	secondsTrim   = 60
	secondsBevel  = 45
	secondsGroove = 60
	secondsCaries = 120
	secondsPlane  = 90
	secondsClean  = 60
	secondsFlame  = 60
	secondsOld    = 180
	secondsCusp   = 90
	secondsSeal   = 120
)

// Preparation derives the steps of a Class I or II from its design: what is
// cut, with what, in which order; seal tells that fissures left are sealed.
func Preparation(d prep.Design, lesions []lesion.Lesion, material string, seal bool) []Step {
	steps := []Step{{"Confirm and mark", "articulating paper, pencil", "none", "Confirm the tooth a second way. Mark the contacts before isolation, then pencil the outline through the pits" + toBoxes(d) + ".", 0, "", "Wrong tooth and wrong surface cannot be undone.", secondsMark}}
	if d.AnyBox() {
		steps = append(steps, Step{"Guard the neighbour", "wedge with guard", "none", "Wedge, with a steel guard or strip against the neighbour.", 0, "", "A wedge makes clearance look larger than it is: measure without it.", secondsGuard})
	}
	if replaces(lesions) {
		steps = append(steps, Step{"Old filling out", "330", "high", "Slit it from mesial to distal, then cut it loose around its edge before its depth; lift the pieces out and look at what is under it.", 0, "", "Stay in the filling: tooth beside it is cut later, on purpose. Rubber dam and suction; collect amalgam waste.", secondsOld})
	}
	if d.Occlusal {
		steps = append(steps, occlusalSteps(d)...)
	}
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		if d.Has(side) {
			steps = append(steps, boxSteps(d, side)...)
		}
	}
	steps = append(steps, refineSteps(d)...)
	if d.CuspReduction > 0 && len(d.Reduced) > 0 {
		steps = append(steps, Step{"Reduce " + strings.Join(d.Reduced, ", "), "1.0 cylinder diamond", "high", fmt.Sprintf("Only now, with enamel resting on dentin all round: take %.1f mm off along the cusp's slopes, then roll over every edge so that none is sharp.", d.CuspReduction), d.CuspReduction, "sink the 1.0 head twice", "Mark the contacts first: what is gone cannot be marked.", secondsCusp})
	}
	if d.CuspBevel > 0 && d.CuspReduction > 0 {
		steps = append(steps, Step{"Bevel round the cover", "fine flame", "high", fmt.Sprintf("%.1f mm wide, in irregular waves on the facial side, straight and as heavy on the lingual; roll the bur over every edge, so that no transition is sharp.", d.CuspBevel), 0, "probe beside the face", "In enamel only: none at a gingival wall.", secondsFlame})
	}
	if followsCaries(lesions) {
		steps = append(steps, Step{"Caries left at the junction", "4", "low", "Clean the junction first, then follow soft dentin only where it is; leave the rest of floor and wall.", 0, "explorer", "Near the pulp: stop at firm dentin and decide on a liner.", secondsCaries})
	}
	if d.GrooveDepth > 0 {
		steps = append(steps, Step{"Retention grooves", "169L", "low", fmt.Sprintf("In both corners of the box just inside the junction, %.2f mm into the side walls, running out under the margin.", d.GrooveDepth), d.GrooveDepth, "explorer tip catches", "In dentin only: no enamel is undermined.", secondsGroove})
	}
	plane := "Plane the enamel walls with the blade flat to the wall; no bevel under amalgam."
	if material == "composite" {
		plane = "Plane loose rods; leave enamel roughened for bonding, with no bevel under contacts" + gingivally(d) + "."
	}
	gauges := "probe, pins"
	if d.AnyBox() {
		gauges = "pins 0.4, hatchet 1.0 on the seat"
	}
	steps = append(steps, Step{"Enamel walls", "10-7-14", "hand", plane, 0, "", "Finger rest; a dull edge slips.", secondsPlane})
	if d.Bonded && d.BevelWidth > 0 {
		steps = append(steps, Step{"Bevel", "fine flame", "high", fmt.Sprintf("One light pass along the occlusal margin at %.0f degrees to the surface, %.1f mm wide; leave the enamel rough for bonding.", d.BevelAngle, d.BevelWidth), 0, "probe beside the face", "Not under a contact" + proximally(d) + ".", secondsFlame})
	}
	steps = append(steps,
		Step{"Clean and inspect", "explorer, probe, pins", "hand", "Wash, dry lightly, feel the junction and margin all round, take the wedge out and read depth, isthmus and clearances.", 0, gauges, "", secondsClean},
	)
	if seal {
		steps = append(steps, Step{"Seal the other fissures", "etch, sealant", "none", "With the filling: etch and seal the fissures that were not opened.", 0, "explorer along the edge", "Dry field: moisture lifts a sealant.", secondsSeal})
	}
	return steps
}

// SealStaying is the step for an old filling that is not replaced.
func SealStaying() Step {
	return Step{"Seal the filling that stays", "fine flame, etch, resin", "none", "With the new filling: roughen the open margin of the old one, etch, bond, flow a thin resin over it, cure.", 0, "explorer along the margin", "Dry field: moisture lifts a sealant.", secondsSeal}
}

func proximally(d prep.Design) string {
	if d.AnyBox() {
		return ", not down the proximal or gingival margin"
	}
	return ""
}

func toBoxes(d prep.Design) string {
	if d.AnyBox() {
		return " and the reach of each box"
	}
	return ""
}

func gingivally(d prep.Design) string {
	if d.AnyBox() {
		return " or at the gingival wall"
	}
	return ""
}

func occlusalSteps(d prep.Design) []Step {
	pear := outlineBur(d)
	where := "at the deepest pit"
	if d.AnyBox() {
		where = "at the pit nearest the box"
	}
	steps := []Step{
		{"Punch cut", pear.ID, "high", fmt.Sprintf("Enter %s, bur square to the occlusal table, full depth at once.", where), d.PulpalDepth, flushGauge(pear, d.PulpalDepth), "Water spray; eye protection for all.", secondsPunch},
		{"Outline at constant depth", pear.ID, "high", "Carry the cut through the fissures at one depth" + ridgesKept(d) + ".", d.PulpalDepth, "probe on the floor", "Approach the ridges last, so that an overrun cannot cross them.", secondsWiden},
	}
	if d.DovetailWidth > d.IsthmusWidth {
		steps = append(steps, Step{"Dovetails", pear.ID, "high", fmt.Sprintf("Widen the pit ends to %.1f mm, buccally and lingually, leaning the bur out beside each ridge.", d.DovetailWidth), d.PulpalDepth, "", "Keep off the ridge: tooth beside it cannot be put back.", secondsExtend})
	}
	if reach := max(d.BuccalExtension, d.LingualExtension); reach > 0 {
		steps = append(steps, Step{"Groove extensions", "169L", "high", fmt.Sprintf("Follow each groove up to %.1f mm past the wall; clean and look after each.", reach), d.PulpalDepth, "", "Ends tend to stay shallow: take the floor to the end.", secondsExtend})
	}
	return steps
}

// ridgesKept says where the outline stops.
func ridgesKept(d prep.Design) string {
	text := ""
	for _, end := range []struct {
		side notation.Side
		keep float64
	}{{notation.Mesial, d.MesialRidge}, {notation.Distal, d.DistalRidge}} {
		if d.Has(end.side) {
			text += fmt.Sprintf("; %sly carry it to the middle of the contact and leave the ridge as a shell", end.side)
		} else {
			text += fmt.Sprintf("; stop %.1f mm from the %s surface", end.keep, end.side)
		}
	}
	return text
}

// boxSteps cut one box: behind a shell of enamel first, then through it.
func boxSteps(d prep.Design, side notation.Side) []Step {
	own := d.Boxes[side]
	name := "Box, " + side.String()
	bur, _ := instrument.RotaryByID("245")
	lean := "upright"
	if d.FunctionalLean > 1 {
		lean = "leaning to the non-functional side beside the functional wall, upright on the other"
	}
	return []Step{
		{name + ": ditch", bur.ID, "high", fmt.Sprintf("Sweep along the junction from buccal to lingual, deepening each time, %s, to %.1f mm under the ridge.", lean, own.Depth), own.Depth, "hold the 245 against the crown first", "Stop when the shell is thin or a pinhole shows gingivally.", secondsDitch},
		{name + ": break the shell", "10-7-14", "hand", "Break the shell away from the axial wall, towards the space.", 0, "", "Away from the neighbour; finger rest.", secondsBreak},
		{name + ": walls to clearance", "10-7-14", "hand", fmt.Sprintf("Undermine, then cleave: buccal wall %.2f, lingual wall %.2f mm from the contact's middle, then the gingival margin; every exit at 90.", own.BuccalReach, own.LingualReach), 0, "pin 0.4 passes", "A dull hatchet slips; the neighbour is scratched when the box is too tight axially.", secondsCleave},
		{name + ": axial wall", "refining pear", "low", fmt.Sprintf("Set the seat %.2f mm wide, the wall convex like the outer surface.", own.AxialDepth), own.AxialDepth, "hatchet 1.0 lies flat", "The pulp lies behind this wall.", secondsAxial},
	}
}

func refineSteps(d prep.Design) []Step {
	var steps []Step
	if d.Occlusal && d.AnyBox() && d.ReverseCurve >= 0.08 {
		steps = append(steps, Step{"Reverse curve", "330", "high", fmt.Sprintf("Only now: from before the box, sweep the buccal wall %.2f mm into the cusp's slope, smooth, not angular.", d.ReverseCurve), d.PulpalDepth, "", "Made too early, or inside the box, it leaves a ledge.", secondsCurve})
	}
	depth := d.PulpalDepth
	gauge := "pin 1.5 stands on the floor"
	if !d.Occlusal {
		depth, gauge = 0, ""
	}
	steps = append(steps, Step{"Floors and line angles", "refining pear", "low", fmt.Sprintf("Smooth walls and floors and set line angles of %.2f mm at a tenth of full speed.", d.LineAngleRadius), depth, gauge, "A round end leaves dips in the floor.", secondsRefine})
	if d.AnyBox() {
		action := "Trim loose rods; the seat stays flat and is not bevelled."
		if d.GingivalSlope >= 5 {
			action = fmt.Sprintf("Slope the outer half to two thirds of the seat %.0f degrees outwards and down.", d.GingivalSlope)
		}
		steps = append(steps, Step{"Gingival margin", "margin trimmer", "hand", action, 0, "explorer along the margin", "", secondsTrim})
	}
	if d.Occlusal && d.AnyBox() && d.Axiopulpal > 0 {
		steps = append(steps, Step{"Axiopulpal line angle", "margin trimmer", "hand", fmt.Sprintf("Round it %.1f mm wide, from the middle to each side.", d.Axiopulpal), 0, "", "Left sharp, the filling breaks there.", secondsBevel})
	}
	return steps
}

// outlineBur is the widest pear that still fits the isthmus with room to finish.
func outlineBur(d prep.Design) instrument.Rotary {
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

// replaces reports an old filling among what must go.
func replaces(lesions []lesion.Lesion) bool {
	return slices.ContainsFunc(lesions, func(l lesion.Lesion) bool { return l.Is() == lesion.OldRestoration })
}

// followsCaries reports a lesion in dentin, whose floor must be checked.
func followsCaries(lesions []lesion.Lesion) bool {
	for _, l := range lesions {
		if l.Is() != lesion.OldRestoration && l.Is() != lesion.Fracture && l.IntoDentin() > 0 {
			return true
		}
	}
	return false
}

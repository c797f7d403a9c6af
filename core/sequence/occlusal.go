package sequence

import (
	"fmt"
	"strings"

	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/instrument"
	"obturon/core/notation"
	"obturon/core/school"
)

// ofOcclusal are the steps of a Class I or II.
func ofOcclusal(d occlusal.Design, c *cavity.Cavity) outlineOf {
	own := outlineOf{
		confirm: Step{Name: "Confirm and mark", Instruments: tray(instrument.ContactPaper, instrument.Pencil), Speed: instrument.NoSpeed, Action: "Confirm the tooth a second way. Mark the contacts before isolation, then pencil the outline through the pits" + toBoxes(d) + ".", Caution: "Wrong tooth and wrong surface cannot be undone.", Seconds: secondsMark},
		oldOut:  Step{Name: "Old filling out", Instruments: tray(instrument.Pear), Speed: instrument.High, Action: "Slit it from mesial to distal, then cut it loose around its edge before its depth; lift the pieces out and look at what is under it.", Caution: "Stay in the filling: tooth beside it is cut later, on purpose. Rubber dam and suction; collect amalgam waste.", Seconds: secondsOld},
		shape:   shapeOcclusal(d, c),
		finish:  finishOcclusal(d),
		inspect: Step{Name: "Clean and inspect", Instruments: tray(instrument.Explorer, instrument.Probe, instrument.Pins), Speed: instrument.ByHand, Action: "Wash, dry lightly, feel the junction and margin all round and read depth and isthmus.", Gauge: "probe, pins", Seconds: secondsClean},
	}
	if d.AnyBox() {
		own.inspect.Action = "Wash, dry lightly, feel the junction and margin all round, take the wedge out and read depth, isthmus and clearances."
		own.inspect.Gauge = clearanceAsked(c) + "; probe, pins"
	}
	if besideTooth(c, d.Sides()...) {
		own.protect = []Step{{Name: "Guard the neighbour", Instruments: tray(instrument.Guard), Speed: instrument.NoSpeed, Action: "Wedge, with a steel guard or strip against the neighbour.", Caution: "A wedge makes clearance look larger than it is: measure without it.", Seconds: secondsGuard}}
	}
	if d.GrooveDepth > 0 {
		own.grooves = []Step{{Name: "Retention grooves", Instruments: tray(instrument.SlimTaper), Speed: instrument.Low, Action: fmt.Sprintf("In both corners of the box just inside the junction, %.2f mm into the side walls, running out under the margin.", d.GrooveDepth), Depth: d.GrooveDepth, Gauge: "explorer tip catches", Caution: "In dentin only: no enamel is undermined.", Seconds: secondsGroove}}
	}
	return own
}

// shapeOcclusal cuts fissures, then boxes, then what lies on top of both.
func shapeOcclusal(d occlusal.Design, c *cavity.Cavity) []Step {
	var steps []Step
	if d.Occlusal {
		steps = append(steps, occlusalSteps(d)...)
	}
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		if d.Has(side) {
			steps = append(steps, boxSteps(d, side, clearanceAsked(c))...)
		}
	}
	steps = append(steps, refineSteps(d)...)
	if lowered := d.Lowered(); len(lowered) > 0 {
		steps = append(steps, Step{Name: "Reduce " + strings.Join(lowered, ", "), Instruments: tray(instrument.Cylinder), Speed: instrument.High, Action: fmt.Sprintf("Only now, with enamel resting on dentin all round: take %.1f mm off along the cusp's slopes, then roll over every edge so that none is sharp.", d.CuspReduction), Depth: d.CuspReduction, Gauge: "sink the 1.0 head twice", Caution: "Mark the contacts first: what is gone cannot be marked.", Seconds: secondsCusp})
	}
	if len(d.Gone) > 0 {
		steps = append(steps, Step{Name: "Plane the break of " + strings.Join(d.Gone, ", "), Instruments: tray(instrument.Cylinder), Speed: instrument.High, Action: fmt.Sprintf("It is low enough: take no height off. Plane %.1f mm off the broken surface, so that no enamel on it stands without dentin, and roll over every edge.", occlusal.Rounded), Depth: occlusal.Rounded, Gauge: "probe across the edge", Seconds: secondsCusp})
	}
	steps = append(steps, coverBevel(d)...)
	return steps
}

// coverBevel is the step that bevels round covered cusps, if any.
func coverBevel(d occlusal.Design) []Step {
	if d.CuspBevel <= 0 || len(d.Covered()) == 0 {
		return nil
	}
	return []Step{{Name: "Bevel round the cover", Instruments: tray(instrument.FineFlame), Speed: instrument.High, Action: fmt.Sprintf("%.1f mm wide, in irregular waves on the facial side, straight and as heavy on the lingual; roll the bur over every edge, so that no transition is sharp.", d.CuspBevel), Gauge: "probe beside it", Caution: "In enamel only: none at a gingival wall.", Seconds: secondsFlame}}
}

func finishOcclusal(d occlusal.Design) []Step {
	plane := "Plane the enamel walls with the blade flat to the wall; no bevel under amalgam."
	if d.Bonded {
		plane = "Plane loose rods; leave enamel roughened for bonding, with no bevel under contacts" + gingivally(d) + "."
	}
	steps := []Step{{Name: "Enamel walls", Instruments: tray(instrument.Hatchet), Speed: instrument.ByHand, Action: plane, Caution: "Finger rest; a dull edge slips.", Seconds: secondsPlane}}
	if d.Bonded && d.BevelWidth > 0 {
		steps = append(steps, Step{Name: "Bevel", Instruments: tray(instrument.FineFlame), Speed: instrument.High, Action: fmt.Sprintf("One light pass along the occlusal margin at %.0f degrees to the surface, %.1f mm wide; leave the enamel rough for bonding.", d.BevelAngle, d.BevelWidth), Gauge: "probe beside it", Caution: "Not under a contact" + proximally(d) + ".", Seconds: secondsFlame})
	}
	return steps
}

func proximally(d occlusal.Design) string {
	if d.AnyBox() {
		return ", not down the proximal or gingival margin"
	}
	return ""
}

func toBoxes(d occlusal.Design) string {
	if d.AnyBox() {
		return " and the reach of each box"
	}
	return ""
}

func gingivally(d occlusal.Design) string {
	if d.AnyBox() {
		return " or at the gingival wall"
	}
	return ""
}

func occlusalSteps(d occlusal.Design) []Step {
	pear := outlineBur(d)
	where := "at the deepest pit"
	if d.AnyBox() {
		where = "at the pit nearest the box"
	}
	steps := []Step{
		{Name: "Punch cut", Instruments: tray(pear.ID), Speed: instrument.High, Action: fmt.Sprintf("Enter %s, bur square to the occlusal table, full depth at once.", where), Depth: d.PulpalDepth, Gauge: flushGauge(pear, d.PulpalDepth), Caution: "Water spray; eye protection for all.", Seconds: secondsPunch},
		{Name: "Outline at constant depth", Instruments: tray(pear.ID), Speed: instrument.High, Action: "Carry the cut through the fissures at one depth" + ridgesKept(d) + ".", Depth: d.PulpalDepth, Gauge: "probe on the floor", Caution: "Approach the ridges last, so that an overrun cannot cross them.", Seconds: secondsWiden},
	}
	if d.DovetailWidth > d.IsthmusWidth {
		steps = append(steps, Step{Name: "Dovetails", Instruments: tray(pear.ID), Speed: instrument.High, Action: fmt.Sprintf("Widen the pit ends to %.1f mm, buccally and lingually, leaning the bur out beside each ridge.", d.DovetailWidth), Depth: d.PulpalDepth, Caution: "Keep off the ridge: tooth beside it cannot be put back.", Seconds: secondsExtend})
	}
	if reach := max(d.BuccalExtension, d.LingualExtension); reach > 0 {
		steps = append(steps, Step{Name: "Groove extensions", Instruments: tray(instrument.SlimTaper), Speed: instrument.High, Action: fmt.Sprintf("Follow each groove up to %.1f mm past the wall; clean and look after each.", reach), Depth: d.PulpalDepth, Caution: "Ends tend to stay shallow: take the floor to the end.", Seconds: secondsExtend})
	}
	return steps
}

// ridgesKept says where the outline stops. How far from the surface that is, only the cut
// tooth tells.
func ridgesKept(d occlusal.Design) string {
	text := ""
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		if d.Has(side) {
			text += fmt.Sprintf("; %sly carry it to the middle of the contact and leave the ridge as a shell", side)
		} else {
			text += fmt.Sprintf("; stop short of the %s ridge", side)
		}
	}
	return text
}

// clearanceAsked is the gauge for the clearance that the school asks a box's walls for;
// without a tooth beside there is none.
func clearanceAsked(c *cavity.Cavity) string {
	if len(c.Adjacent) == 0 {
		return clearanceGauge(0)
	}
	return clearanceGauge(c.Criterion(school.BoxClearanceBuccal).Target.Min)
}

// boxSteps cut one box: behind a shell of enamel first, then through it.
func boxSteps(d occlusal.Design, side notation.Side, clearance string) []Step {
	own := d.Boxes[side]
	name := "Box, " + side.String()
	lean := "upright"
	if d.FunctionalLean > 1 {
		lean = "leaning to the non-functional side beside the functional wall, upright on the other"
	}
	return []Step{
		{Name: name + ": ditch", Instruments: tray(instrument.LongPear), Speed: instrument.High, Action: fmt.Sprintf("Sweep along the junction from buccal to lingual, deepening each time, %s, to %.1f mm under the ridge.", lean, own.Depth), Depth: own.Depth, Gauge: "hold the 245 against the crown first", Caution: "Stop when the shell is thin or a pinhole shows gingivally.", Seconds: secondsDitch},
		{Name: name + ": break the shell", Instruments: tray(instrument.Hatchet), Speed: instrument.ByHand, Action: "Break the shell away from the axial wall, towards the space.", Caution: "Away from the neighbour; finger rest.", Seconds: secondsBreak},
		{Name: name + ": walls to clearance", Instruments: tray(instrument.Hatchet), Speed: instrument.ByHand, Action: fmt.Sprintf("Undermine, then cleave: buccal wall %.2f, lingual wall %.2f mm from the contact's middle, then the gingival margin; every exit at 90.", own.BuccalReach, own.LingualReach), Gauge: clearance, Caution: "A dull hatchet slips; the neighbour is scratched when the box is too tight axially.", Seconds: secondsCleave},
		{Name: name + ": axial wall", Instruments: tray(instrument.RefiningPear), Speed: instrument.Low, Action: fmt.Sprintf("Set the seat %.2f mm wide, the wall convex like the outer surface.", own.AxialDepth), Depth: own.AxialDepth, Gauge: seatGauge(own.AxialDepth), Caution: "The pulp lies behind this wall.", Seconds: secondsAxial},
	}
}

func refineSteps(d occlusal.Design) []Step {
	var steps []Step
	if d.Occlusal && d.AnyBox() && d.ReverseCurve >= 0.08 {
		steps = append(steps, Step{Name: "Reverse curve", Instruments: tray(instrument.Pear), Speed: instrument.High, Action: fmt.Sprintf("Only now: from before the box, sweep the buccal wall %.2f mm into the cusp's slope, smooth, not angular.", d.ReverseCurve), Depth: d.PulpalDepth, Caution: "Made too early, or inside the box, it leaves a ledge.", Seconds: secondsCurve})
	}
	depth := d.PulpalDepth
	gauge := depthPin(depth)
	if !d.Occlusal {
		depth, gauge = 0, ""
	}
	steps = append(steps, Step{Name: "Floors and line angles", Instruments: tray(instrument.RefiningPear), Speed: instrument.Low, Action: fmt.Sprintf("Smooth walls and floors and set line angles of %.2f mm at a tenth of full speed.", d.LineAngleRadius), Depth: depth, Gauge: gauge, Caution: "A round end leaves dips in the floor.", Seconds: secondsRefine})
	return append(steps, trimSteps(d)...)
}

// trimSteps finish the seat of a box and the line angle over it by hand.
func trimSteps(d occlusal.Design) []Step {
	if !d.AnyBox() {
		return nil
	}
	action := "Trim loose rods; the seat stays flat and is not bevelled."
	if d.GingivalSlope >= 5 {
		action = fmt.Sprintf("Slope the outer half to two thirds of the seat %.0f degrees outwards and down.", d.GingivalSlope)
	}
	steps := []Step{{Name: "Gingival margin", Instruments: tray(instrument.MarginTrimmer), Speed: instrument.ByHand, Action: action, Gauge: "explorer along the margin", Seconds: secondsTrim}}
	if d.Occlusal && d.Axiopulpal > 0 {
		steps = append(steps, Step{Name: "Axiopulpal line angle", Instruments: tray(instrument.MarginTrimmer), Speed: instrument.ByHand, Action: fmt.Sprintf("Round it %.1f mm wide, from the middle to each side.", d.Axiopulpal), Caution: "Left sharp, the filling breaks there.", Seconds: secondsBevel})
	}
	return steps
}

func flushGauge(bur instrument.Instrument, depth float64) string {
	over := depth - bur.Head.Length
	switch {
	case over > 0.02:
		return fmt.Sprintf("head flush is %.1f; sink it %.2f below the surface", bur.Head.Length, over)
	case over < -0.02:
		return fmt.Sprintf("head flush is %.1f; leave %.2f standing proud", bur.Head.Length, -over)
	default:
		return fmt.Sprintf("head flush is %.1f", bur.Head.Length)
	}
}

package sequence

import (
	"fmt"

	"obturon/core/face"
	"obturon/core/instrument"
	"obturon/core/lesion"
)

// Step times of cavities on faces and edges, for a practised operator.
const (
	secondsShade   = 90
	secondsIndex   = 120
	secondsCord    = 120
	secondsEnter   = 60
	secondsBox     = 150
	secondsSaucer  = 120
	secondsFeather = 150
	secondsPolish  = 45
	secondsPlaned  = 60
	secondsLock    = 60
)

// Face derives the steps of a cavity on a face or an edge from its design;
// facial tells that it is entered from there.
func Face(d face.Design, lesions []lesion.Lesion, material string, facial bool) []Step {
	steps := []Step{confirmFace(d, material)}
	if replaces(lesions) {
		steps = append(steps, Step{"Old filling out", "330", "high", "Cut it loose around its edge before its depth; lift the pieces out and look at what is under it.", 0, "", "Stay in the filling: tooth beside it is cut later, on purpose. Composite is told from tooth by the dark scratch of a sharp explorer.", secondsOld})
	}
	switch d.Class() {
	case lesion.ClassIII:
		steps = append(steps, boxOfThree(d, facial)...)
	case lesion.ClassIV:
		steps = append(steps, corner(d)...)
	case lesion.ClassV:
		steps = append(steps, neck(d, material)...)
	default:
		steps = append(steps, pit(d)...)
	}
	if followsCaries(lesions) {
		steps = append(steps, Step{"Caries left at the junction", "4", "low", "Clean the junction first, then follow soft dentin only where it is; leave the rest of floor and wall.", 0, "explorer", "Near the pulp: stop at firm dentin and decide on a liner.", secondsCaries})
	}
	if d.GrooveDepth > 0 {
		steps = append(steps, Step{"Retention grooves", "1/4", "low", grooveAction(d), d.GrooveDepth, "explorer tip catches", "In dentin only: no enamel is undermined.", secondsGroove})
	}
	if d.LockDepth > 0 {
		steps = append(steps, Step{"Lingual lock", "330", "high", fmt.Sprintf("A dovetail in the lingual face, %.1f mm deep, its neck open to the broken face.", d.LockDepth), d.LockDepth, "half the bur's width", "Of the old school: bonding has mostly replaced it.", secondsLock})
	}
	steps = append(steps, finishing(d)...)
	return append(steps, Step{"Clean and inspect", "explorer, probe", "hand", "Wash, dry lightly, feel the margin all round and read depth and widths.", 0, "probe, pins", "", secondsClean})
}

func confirmFace(d face.Design, material string) Step {
	s := Step{"Confirm and mark", "pencil", "none", "Confirm the tooth a second way and pencil the outline.", 0, "", "Wrong tooth and wrong surface cannot be undone.", secondsMark}
	if material == "composite" {
		s.Name, s.Instrument = "Confirm, shade and mark", "shade guide, pencil"
		s.Action += " Take the shade now, on the moist tooth."
		s.Caution += " Teeth dry out and lighten under the dam."
		s.Seconds += secondsShade
	}
	if d.Class() == lesion.ClassIV {
		s.Instrument += ", putty"
		s.Action += " Take a putty index of the tooth, or of a wax-up, before anything is cut. Mark the contacts in protrusion."
		s.Seconds += secondsIndex
	}
	return s
}

func boxOfThree(d face.Design, facial bool) []Step {
	side, view := "lingual", "by mirror, from behind the head"
	if facial {
		side, view = "facial", "direct view"
	}
	pear, _ := instrument.RotaryByID("330")
	return []Step{
		{"Guard the neighbour", "wedge, metal strip", "none", "Wedge, with a metal strip against the neighbour.", 0, "", "A wedge makes clearance look larger than it is: measure without it.", secondsGuard},
		{"Enter from " + side, pear.ID, "high", fmt.Sprintf("Enter beside the marginal ridge, bur square to the %s face, %s, short of the contact.", side, view), d.Depth, flushGauge(pear, d.Depth), "Water spray; eye protection for all.", secondsEnter},
		{"Box to size", pear.ID, "high", fmt.Sprintf("Open to %.1f mm along the crown and %.1f mm in from the proximal face, stopping %.1f mm under the face; break the proximal enamel away last, towards the space.", d.Height, d.Width, d.Depth), d.Depth, "probe along the box", "Never towards the incisal corner: what stands there is all that holds it.", secondsBox},
		{"Walls and line angles", "refining pear", "low", fmt.Sprintf("Smooth the walls and set line angles of %.2f mm.", d.LineAngleRadius), d.Depth, "", "The pulp lies behind the axial wall.", secondsRefine},
	}
}

func corner(d face.Design) []Step {
	return []Step{
		{"Round the broken face", "fine flame", "high", fmt.Sprintf("Take %.1f mm off the broken face: round sharp edges and remove enamel that nothing carries.", d.Planed), d.Planed, "", "Find out why it broke: a fall, hard food, grinding.", secondsPlaned},
	}
}

func neck(d face.Design, material string) []Step {
	steps := []Step{{"Dam and cord", "retraction cord, clamp", "none", "Dam with a cervical clamp, or a cord in the sulcus.", 0, "", "The gingival crest is never touched by a bur.", secondsCord}}
	if material == "amalgam" {
		return append(steps,
			Step{"Outline at constant depth", "330", "high", fmt.Sprintf("Enter at full depth and carry the cut to %.1f by %.1f mm, turning with the face so that the floor keeps one depth.", d.Width, d.Height), d.Depth, "probe on the floor", "Water spray; eye protection for all.", secondsWiden},
			Step{"Walls", "10-6-8", "hand", "Plane the enamel walls square to the face, so that they open outwards.", 0, "", "Finger rest; a dull edge slips.", secondsPlane})
	}
	return append(steps,
		Step{"Saucer", "micro-diamond", "high", fmt.Sprintf("Open to %.1f by %.1f mm and no deeper than the lesion leads, %.1f mm, turning with the face.", d.Width, d.Height, d.Depth), d.Depth, "probe on the floor", "Water spray; eye protection for all.", secondsSaucer},
		Step{"Freshen dentin", "4", "low", "Freshen sclerotic dentin at about 10,000 a minute under a fine mist, barely touching; keep the floor concave.", 0, "", "The pulp answers heat before it shows.", secondsCaries})
}

func pit(d face.Design) []Step {
	pear, _ := instrument.RotaryByID("330")
	return []Step{
		{"Open the pit", pear.ID, "high", fmt.Sprintf("Enter square to the face, full depth at once, and widen to %.1f by %.1f mm.", d.Width, d.Height), d.Depth, flushGauge(pear, d.Depth), "Water spray; eye protection for all.", secondsPunch},
		{"Floor and walls", "refining pear", "low", "Smooth floor and walls, square to the face.", d.Depth, "", "", secondsCurve},
	}
}

func grooveAction(d face.Design) string {
	switch d.Class() {
	case lesion.ClassIV:
		return fmt.Sprintf("Along the gingival part of the broken face, just inside the junction, %.2f mm deep.", d.GrooveDepth)
	case lesion.ClassV:
		return fmt.Sprintf("Along the occlusal and the gingival line angle, %.2f mm into the walls.", d.GrooveDepth)
	default:
		return fmt.Sprintf("Along the gingival and the incisal line angle of the axial wall, %.2f mm into the walls.", d.GrooveDepth)
	}
}

// finishing are the steps that bevel the enamel margin; none where it stays as
// the walls make it.
func finishing(d face.Design) []Step {
	if d.BevelWidth <= 0 && d.LingualBevel <= 0 {
		return nil
	}
	var steps []Step
	switch {
	case d.Style == face.Long || d.Style == face.Scalloped:
		action := fmt.Sprintf("Draw the enamel out over %.1f mm, thinning to nothing, no sharp edge anywhere.", d.BevelWidth)
		if d.Style == face.Scalloped {
			action = fmt.Sprintf("Draw the enamel out over about %.1f mm in irregular waves, thinning to nothing: no straight line for the light.", d.BevelWidth)
		}
		steps = append(steps,
			Step{"Long bevel", "football, long tapered diamond", "high", action, 0, "explorer slides over the edge", "Sound enamel is spent: no further than the bond needs.", secondsFeather},
			Step{"Margin and pumice", "fine ultrasonic margin tip, cup", "low", "Refine the margin, then clean with pumice; leave the enamel rough for bonding.", 0, "", "", secondsPolish})
	case d.Class() == lesion.ClassV:
		steps = append(steps, Step{"Long occlusal bevel", "fine flame", "high", fmt.Sprintf("Bevel the occlusal enamel %.1f mm wide at about %.0f degrees; none at the root.", d.BevelWidth, d.BevelAngle), 0, "probe beside the face", "Keep off the gingiva and off the root.", secondsFlame})
	case d.BevelWidth > 0:
		where := "the enamel margin"
		if d.Class() == lesion.ClassIV {
			where = "the facial margin as a slant, never a sharp 45 degree line"
		}
		steps = append(steps, Step{"Bevel", "fine flame", "high", fmt.Sprintf("Bevel %s, %.1f mm wide at %.0f degrees to the surface; leave the enamel rough for bonding.", where, d.BevelWidth, d.BevelAngle), 0, "probe beside the face", "", secondsFlame})
	}
	if d.LingualBevel > 0 {
		steps = append(steps, Step{"Lingual bevel", "football diamond", "high", fmt.Sprintf("A functional bevel of 45 degrees, %.1f mm wide; roll the bur over every edge.", d.LingualBevel), 0, "", "Keep it clear of the marked contacts.", secondsFlame})
	}
	return steps
}

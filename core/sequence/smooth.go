package sequence

import (
	"fmt"

	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/school"
)

// ofSmooth are the steps of a cavity on a smooth surface or an incisal edge.
func ofSmooth(d smooth.Design, c *cavity.Cavity) outlineOf {
	own := outlineOf{
		confirm: confirmSmooth(d, c.Material),
		oldOut:  Step{Name: "Old filling out", Instruments: tray(instrument.Pear), Speed: instrument.High, Action: "Cut it loose around its edge before its depth; lift the pieces out and look at what is under it.", Caution: "Stay in the filling: tooth beside it is cut later, on purpose. Composite is told from tooth by the dark scratch of a sharp explorer.", Seconds: secondsOld},
		finish:  finishing(d),
		inspect: Step{Name: "Clean and inspect", Instruments: tray(instrument.Explorer, instrument.Probe), Speed: instrument.ByHand, Action: "Wash, dry lightly, feel the margin all round and read depth and widths.", Gauge: "probe, pins", Seconds: secondsClean},
	}
	switch c.Kind {
	case cavity.Proximal:
		if side, _ := c.Site.Side(); besideTooth(c, side) {
			own.protect = []Step{{Name: "Guard the neighbour", Instruments: tray(instrument.Wedge, instrument.MetalStrip), Speed: instrument.NoSpeed, Action: "Wedge, with a metal strip against the neighbour.", Caution: "A wedge makes clearance look larger than it is: measure without it.", Seconds: secondsGuard}}
		}
		own.shape = proximalBox(d, c.EnteredFacially())
	case cavity.IncisalAngle:
		own.shape = incisalAngle(d)
	case cavity.Cervical:
		own.protect = []Step{{Name: "Dam and cord", Together: true, Instruments: tray(instrument.Dam, instrument.Cord, instrument.CervicalClamp), Speed: instrument.NoSpeed, Action: "Dam with a cervical clamp, or a cord in the sulcus.", Caution: "The gingival crest is never touched by a bur.", Seconds: secondsCord}}
		own.shape = cervical(d, c.Material)
	default:
		own.shape = pit(d)
	}
	if d.GrooveDepth > 0 {
		own.grooves = append(own.grooves, Step{Name: "Retention grooves", Instruments: tray(instrument.QuarterRound), Speed: instrument.Low, Action: grooveAction(d), Depth: d.GrooveDepth, Gauge: "explorer tip catches", Caution: "In dentin only: no enamel is undermined.", Seconds: secondsGroove})
	}
	if d.LockDepth > 0 {
		own.grooves = append(own.grooves, Step{Name: "Lingual lock", Instruments: tray(instrument.Pear), Speed: instrument.High, Action: fmt.Sprintf("A dovetail in the lingual surface, %.1f mm deep, its neck open to the fracture surface.", d.LockDepth), Depth: d.LockDepth, Gauge: "half the bur's width", Caution: "Of the old school: bonding has mostly replaced it.", Seconds: secondsLock})
	}
	return own
}

func confirmSmooth(d smooth.Design, material school.Material) Step {
	s := Step{Name: "Confirm and mark", Instruments: tray(instrument.Pencil), Speed: instrument.NoSpeed, Action: "Confirm the tooth a second way and pencil the outline.", Caution: "Wrong tooth and wrong surface cannot be undone.", Seconds: secondsMark}
	if material.Bonds() {
		s.Name, s.Instruments = "Confirm, shade and mark", tray(instrument.ShadeGuide, instrument.Pencil)
		s.Action += " Take the shade now, on the moist tooth."
		s.Caution += " Teeth dry out and lighten under the dam."
		s.Seconds += secondsShade
	}
	if smooth.ClassOf(d.Site) == lesion.ClassIV {
		s.Instruments = append(s.Instruments, tray(instrument.Putty)...)
		s.Action += " Take a putty index of the tooth, or of a wax-up, before anything is cut. Mark the contacts in protrusion."
		s.Seconds += secondsIndex
	}
	return s
}

func proximalBox(d smooth.Design, facial bool) []Step {
	side, view := "lingual", "by mirror, from behind the head"
	if facial {
		side, view = "facial", "direct view"
	}
	pear := instrument.MustFind(instrument.Pear)
	return []Step{
		{Name: "Enter from " + side, Instruments: tray(pear.ID), Speed: instrument.High, Action: fmt.Sprintf("Enter beside the marginal ridge, bur square to the %s surface, %s, short of the contact.", side, view), Depth: d.Depth, Gauge: flushGauge(pear, d.Depth), Caution: "Water spray; eye protection for all.", Seconds: secondsEnter},
		{Name: "Box to size", Instruments: tray(pear.ID), Speed: instrument.High, Action: fmt.Sprintf("Open to %.1f mm along the crown and %.1f mm in from the proximal surface, stopping %.1f mm under the surface; break the proximal enamel away last, towards the space.", d.Height, d.Width, d.Depth), Depth: d.Depth, Gauge: "probe along the box", Caution: "Never towards the incisal angle: what stands there is all that holds it.", Seconds: secondsBox},
		{Name: "Walls and line angles", Instruments: tray(instrument.RefiningPear), Speed: instrument.Low, Action: fmt.Sprintf("Smooth the walls and set line angles of %.2f mm.", d.LineAngleRadius), Depth: d.Depth, Caution: "The pulp lies behind the axial wall.", Seconds: secondsRefine},
	}
}

func incisalAngle(d smooth.Design) []Step {
	return []Step{
		{Name: "Round the fracture surface", Instruments: tray(instrument.FineFlame), Speed: instrument.High, Action: fmt.Sprintf("Take %.1f mm off the fracture surface: round sharp edges and remove enamel that nothing carries.", d.FractureReduction), Depth: d.FractureReduction, Caution: "Find out why it broke: a fall, hard food, grinding.", Seconds: secondsReduce},
	}
}

func cervical(d smooth.Design, material school.Material) []Step {
	if !material.Bonds() {
		return []Step{
			{Name: "Outline at constant depth", Instruments: tray(instrument.Pear), Speed: instrument.High, Action: fmt.Sprintf("Enter at full depth and carry the cut to %.1f by %.1f mm, turning with the surface so that the floor keeps one depth.", d.Width, d.Height), Depth: d.Depth, Gauge: "probe on the floor", Caution: "Water spray; eye protection for all.", Seconds: secondsWiden},
			{Name: "Walls", Instruments: tray(instrument.Chisel), Speed: instrument.ByHand, Action: "Plane the enamel walls square to the surface, so that they open outwards.", Caution: "Finger rest; a dull edge slips.", Seconds: secondsPlane},
		}
	}
	return []Step{
		{Name: "Saucer", Instruments: tray(instrument.MicroDiamond), Speed: instrument.High, Action: fmt.Sprintf("Open to %.1f by %.1f mm and no deeper than the lesion leads, %.1f mm, turning with the surface.", d.Width, d.Height, d.Depth), Depth: d.Depth, Gauge: "probe on the floor", Caution: "Water spray; eye protection for all.", Seconds: secondsSaucer},
		freshen(),
	}
}

func freshen() Step {
	return Step{Name: "Freshen dentin", Instruments: tray(instrument.LargeRound), Speed: instrument.Low, Action: "Freshen sclerotic dentin at about 10,000 a minute under a fine mist, barely touching; keep the floor concave.", Caution: "The pulp answers heat before it shows.", Seconds: secondsCaries}
}

// uncut are the steps of a cavity that take nothing which a rehearsal could show: those
// before its bevel, and those after all.
func uncut(c *cavity.Cavity) (before, after []Step) {
	switch d := c.Design.(type) {
	case occlusal.Design:
		before = trimSteps(d)
	case smooth.Design:
		if c.Kind == cavity.Cervical && c.Material.Bonds() {
			before = append(before, freshen())
		}
		for _, s := range finishing(d) {
			if s.Speed != instrument.High {
				after = append(after, s)
			}
		}
	}
	return before, after
}

func pit(d smooth.Design) []Step {
	pear := instrument.MustFind(instrument.Pear)
	return []Step{
		{Name: "Open the pit", Instruments: tray(pear.ID), Speed: instrument.High, Action: fmt.Sprintf("Enter square to the surface, full depth at once, and widen to %.1f by %.1f mm.", d.Width, d.Height), Depth: d.Depth, Gauge: flushGauge(pear, d.Depth), Caution: "Water spray; eye protection for all.", Seconds: secondsPunch},
		{Name: "Floor and walls", Instruments: tray(instrument.RefiningPear), Speed: instrument.Low, Action: "Smooth floor and walls, square to the surface.", Depth: d.Depth, Seconds: secondsCurve},
	}
}

func grooveAction(d smooth.Design) string {
	switch smooth.ClassOf(d.Site) {
	case lesion.ClassIV:
		return fmt.Sprintf("Along the gingival part of the fracture surface, just inside the junction, %.2f mm deep.", d.GrooveDepth)
	case lesion.ClassV:
		return fmt.Sprintf("Along the occlusal and the gingival line angle, %.2f mm into the walls.", d.GrooveDepth)
	default:
		return fmt.Sprintf("Along the gingival and the incisal line angle of the axial wall, %.2f mm into the walls.", d.GrooveDepth)
	}
}

// finishing are the steps that bevel the enamel margin; none where it stays as
// the walls make it.
func finishing(d smooth.Design) []Step {
	if d.BevelWidth <= 0 && d.LingualBevel <= 0 {
		return nil
	}
	var steps []Step
	switch {
	case d.Style == cavity.Long || d.Style == cavity.Scalloped:
		action := fmt.Sprintf("Draw the enamel out over %.1f mm, thinning to nothing, no sharp edge anywhere.", d.BevelWidth)
		if d.Style == cavity.Scalloped {
			action = fmt.Sprintf("Draw the enamel out over about %.1f mm in irregular waves, thinning to nothing: no straight line for the light.", d.BevelWidth)
		}
		steps = append(steps,
			Step{Name: "Long bevel", Instruments: tray(instrument.Football, instrument.LongTaper), Speed: instrument.High, Action: action, Gauge: "explorer slides over the edge", Caution: "Sound enamel is spent: no further than the bond needs.", Seconds: secondsFeather},
			Step{Name: "Margin and pumice", Instruments: tray(instrument.UltrasonicTip, instrument.PumiceCup), Speed: instrument.Low, Action: "Refine the margin, then clean with pumice; leave the enamel rough for bonding.", Seconds: secondsPolish})
	case smooth.ClassOf(d.Site) == lesion.ClassV:
		steps = append(steps, Step{Name: "Long occlusal bevel", Instruments: tray(instrument.FineFlame), Speed: instrument.High, Action: fmt.Sprintf("Bevel the occlusal enamel %.1f mm wide at about %.0f degrees; none at the root.", d.BevelWidth, d.BevelAngle), Gauge: "probe beside it", Caution: "Keep off the gingiva and off the root.", Seconds: secondsFlame})
	case d.BevelWidth > 0:
		where := "the enamel margin"
		if smooth.ClassOf(d.Site) == lesion.ClassIV {
			where = "the facial margin as a slant, never a sharp 45 degree line"
		}
		steps = append(steps, Step{Name: "Bevel", Instruments: tray(instrument.FineFlame), Speed: instrument.High, Action: fmt.Sprintf("Bevel %s, %.1f mm wide at %.0f degrees to the surface; leave the enamel rough for bonding.", where, d.BevelWidth, d.BevelAngle), Gauge: "probe beside it", Seconds: secondsFlame})
	}
	if d.LingualBevel > 0 {
		steps = append(steps, Step{Name: "Lingual bevel", Instruments: tray(instrument.Football), Speed: instrument.High, Action: fmt.Sprintf("A functional bevel of 45 degrees, %.1f mm wide; roll the bur over every edge.", d.LingualBevel), Caution: "Keep it clear of the marked contacts.", Seconds: secondsFlame})
	}
	return steps
}

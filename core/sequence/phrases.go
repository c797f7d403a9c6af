package sequence

import (
	"fmt"
	"slices"
	"strings"

	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/procedure"
	"obturon/core/rehearsal"
)

// phrases write what is done in a step, what proves it and what to beware of, by its kind.
// Every length in them is read off what is cut; before that is proven, off what is drawn.
var phrases = map[procedure.Kind]func(f fact, s *procedure.Step){
	procedure.OldFillingOut: func(f fact, s *procedure.Step) {
		s.Action, s.Caution = oldOut(f.c)
		s.LookFor = "Old material gone from the walls: a sharp explorer leaves a dark line on composite, none on tooth."
		s.Figure, s.Gauge = fmt.Sprintf("%.1f mm deep", f.most), "explorer"
		if f.r == nil { // how deep it goes nobody knows yet
			s.Figure, s.Depth = "", 0
		}
	},
	procedure.PunchCut: func(f fact, s *procedure.Step) {
		s.Action = fmt.Sprintf("Enter %s%s, full depth at once: %s under the surface.", f.entry(), f.held(), f.depth())
		if f.most > f.first.Head.Length+rehearsal.MostSunk {
			s.Action = fmt.Sprintf("Enter %s%s, a head's length at a time, lifting and looking: down to %s under the surface.", f.entry(), f.held(), f.depth())
		}
		s.Gauge, s.Caution = flushGauge(f.first, f.most), "Water spray; eye protection for all."
		if f.r != nil {
			s.LookFor = "The floor of the cut lies " + f.tissue() + "."
		}
	},
	procedure.Outline: func(f fact, s *procedure.Step) {
		s.Action = fmt.Sprintf("Carry the floor of the punch cut level through the fissures, %.1f mm under the pits%s.", f.floor, f.toContacts())
		s.Depth = f.floor
		s.Gauge, s.Caution = depthPin(f.floor), "Stay a head's width short of a ridge that is kept, for now."
		s.LookFor = "One depth all along, no step and no fissure left beyond the wall."
	},
	procedure.Ridges: func(f fact, s *procedure.Step) {
		s.Action = fmt.Sprintf("Now to the ends of the outline at the same depth%s.", f.ends())
		s.Depth = f.floor
		s.Gauge, s.Caution = depthPin(f.floor), "An overrun crosses the ridge: light strokes, away from it."
		s.LookFor = "A ridge with dentin under it; the end wall leaning outwards."
	},
	procedure.Extensions: func(f fact, s *procedure.Step) {
		s.Action = fmt.Sprintf("Follow each groove up its slope, %s under the surface; clean and look after each.", f.depth())
		s.Gauge, s.Caution = "probe on the floor", "Ends tend to stay shallow: take the floor to the end."
		s.LookFor = "The groove's end in sound enamel."
	},
	procedure.Ditch: func(f fact, s *procedure.Step) {
		s.Action = fmt.Sprintf(
			"Sweep along the junction from facial to lingual, deepening each time%s, down to %.1f mm under the ridge%s.",
			f.held(),
			f.most,
			f.behind(),
		)
		s.Gauge = fmt.Sprintf("hold the %s against the crown first", f.first.ID)
		s.Caution = "Stop when the shell is thin or a pinhole shows gingivally." + f.nearNeighbour()
		s.LookFor = "Light through the shell before it gives way."
		if f.free() {
			s.Caution, s.LookFor = "Nothing stands beside it: come out through the ridge, clear of cheek and tongue.", "Sound enamel all round the opening."
		}
	},
	procedure.BreakShell: func(f fact, s *procedure.Step) {
		s.Action = "Break the shell away from the axial wall, towards the space."
		s.Gauge, s.Caution = "daylight beside the blade", "Away from the adjacent tooth; finger rest."
		s.LookFor = "No shelf of enamel left at the gingival margin."
		s.Figure, s.Depth = f.took(), 0
	},
	procedure.BoxWalls: func(f fact, s *procedure.Step) {
		s.Action = fmt.Sprintf(
			"With nothing standing outside any more take the facial, lingual and axial wall and the seat to size%s, down to %.1f mm.",
			f.held(),
			f.most,
		)
		s.Gauge = clearanceAsked(f.c)
		s.Caution = "Leave the guard in." + f.nearNeighbour()
		if f.free() {
			s.Caution = "Nothing stands beside it: the probe is laid flat across the opening to read the walls."
		}
		s.LookFor = "Walls that run straight out, no hook of enamel at the corners."
	},
	procedure.Cleave: func(f fact, s *procedure.Step) {
		s.Action = "Cleave the undermined enamel of the facial, the lingual, then the gingival margin until it is clear of the adjacent tooth; every exit at 90."
		s.Gauge, s.Caution = clearanceAsked(f.c), "A dull edge slips; the adjacent tooth is scratched where the box is too tight axially."
		s.LookFor = "Daylight all round, measured without the wedge."
	},
	procedure.OpenToSize: func(f fact, s *procedure.Step) {
		s.Action = fmt.Sprintf(
			"Open outwards to the marked line at %s, turning with the surface so that the floor keeps its depth%s.",
			f.depth(),
			f.behind(),
		)
		s.Gauge, s.Caution = "probe on the floor", f.openingCaution()
		s.LookFor = "Sound enamel all round the opening."
	},
	procedure.Walls: func(f fact, s *procedure.Step) {
		s.Action = fmt.Sprintf("With nothing standing outside any more take the walls to size%s.", f.held())
		s.Gauge, s.Caution = "probe along the box", "Never towards the incisal angle: what stands there is all that holds it."+f.nearNeighbour()
	},
	procedure.FractureSurface: func(f fact, s *procedure.Step) {
		s.Action = "Round the sharp edges of the fracture surface and take off enamel that nothing carries."
		s.Caution, s.LookFor = "Find out why it broke: a fall, hard food, grinding.", "No crack lines at the edge, no white rods."
		s.Figure, s.Depth = f.took(), 0
	},
	procedure.LingualLock: func(f fact, s *procedure.Step) {
		s.Action = fmt.Sprintf("A dovetail in the lingual surface, %s deep, its neck open to the fracture surface.", f.depth())
		s.Gauge, s.Caution = "half the bur's width", "Of the old school: bonding has mostly replaced it."
	},
	procedure.Refine: func(f fact, s *procedure.Step) {
		s.Action = fmt.Sprintf("Smooth walls and floor and define the line angles at a tenth of full speed%s.", f.held())
		if f.floor > 0 {
			s.Depth = f.floor
		}
		s.Gauge, s.Caution = depthPin(s.Depth), "A round end leaves dips in the floor."
		s.LookFor = "A floor on which the flat end does not rock."
	},
	procedure.CariesLeft: func(f fact, s *procedure.Step) {
		s.Gauge = "explorer"
		s.Action, s.Caution, s.LookFor = endpoint(f.c)
		if near := f.Nearest.Pulp; f.r != nil && near < 2 {
			s.Figure = fmt.Sprintf("%.1f mm to the pulp", max(near, 0))
			s.Caution = fmt.Sprintf("The bur comes to %.1f mm from the pulp as modelled. ", max(near, 0)) + s.Caution
		}
	},
	procedure.Grooves: func(f fact, s *procedure.Step) {
		s.Speed = instrument.Low
		s.Action, s.Caution = "Along the inside of the junction in dentin, the bur leaning away from the wall: it sinks in at the seat and comes free under the enamel.", "In dentin only: no enamel is undermined."
		s.Gauge, s.LookFor, s.Depth = "explorer tip catches", "A groove that is felt, not seen through enamel.", 0
		s.Figure = f.took()
		if d, ok := f.c.Design.(smooth.Design); ok {
			s.Action = grooveAction(d)
		}
	},
	procedure.TrimSeat: func(f fact, s *procedure.Step) {
		s.Action = "Trim what the bur left at the gingival wall, then round the axiopulpal line angle from the middle to each side."
		if f.Side != "" {
			s.Action = fmt.Sprintf(
				"With the %s pair trim what the bur left at the gingival wall, then round the axiopulpal line angle from the middle to each side.",
				f.Side,
			)
		}
		s.Gauge, s.Caution = "explorer along the margin", "Left sharp, the filling breaks at the axiopulpal line angle."
		s.LookFor = "No loose rods at the gingival margin."
		s.Figure = f.took()
	},
	procedure.PlaneWalls: func(f fact, s *procedure.Step) {
		s.Action = "Plane the enamel walls with the blade flat to the wall; no bevel under amalgam."
		switch {
		case f.c.OnRoot():
			s.Action = "Plane the walls smooth: on the root there is no enamel to support and none to etch."
		case f.c.Bonded():
			s.Action = "Plane loose rods; leave the enamel rough for bonding."
		}
		s.Gauge, s.Caution, s.LookFor = "explorer across the wall", "Finger rest; a dull edge slips.", "No ledge where the blade ends."
		s.Figure = f.took()
	},
	procedure.LiftSoftDentin: func(f fact, s *procedure.Step) {
		s.Action = "Lift soft dentin layer by layer out of the corners, periphery first."
		s.Gauge, s.Caution, s.LookFor = "explorer", "Over the pulp firm dentin stays, stained or not.", "Dentin that comes off in flakes stays."
		if f.c.LeavesOverPulp() {
			s.Caution, s.LookFor = "Over the pulp soft dentin stays: lift only what is wet and loose.", "Hard dentin all round; over the pulp a floor that is soft and dry."
		}
		s.Figure = f.took()
	},
	procedure.ReduceCusps: func(f fact, s *procedure.Step) {
		s.Action = "With enamel resting on dentin all round take the cusp down along its slopes, then roll over every edge so that none is sharp."
		s.Caution = "Mark the contacts first: what is gone cannot be marked."
		s.Gauge = "sink the 1.0 head twice"
		if d, ok := f.c.Design.(occlusal.Design); ok && len(d.Lowered()) > 0 {
			s.Name = "Reduce " + strings.Join(d.Lowered(), ", ")
		} else if ok && len(d.Gone) > 0 {
			s.Name, s.Gauge, s.Caution = "Plane the break of "+strings.Join(d.Gone, ", "), "probe across the edge", ""
			s.Action = fmt.Sprintf("It is low enough: take no height off. Plane %.1f mm off the broken surface, so that no enamel on it stands without dentin, and roll over every edge.", occlusal.Rounded)
		}
		s.Depth = 0
	},
	procedure.Bevel: func(f fact, s *procedure.Step) {
		s.Action, s.Gauge, s.Caution = bevel(f.c)
		s.LookFor, s.Depth = "No sharp edge anywhere; the enamel rough for bonding.", 0
	},
}

// endpoint is where the removal of caries ends in a cavity: what to do, what to beware of, and what
// it looks like then.
func endpoint(c *cavity.Cavity) (action, caution, lookFor string) {
	edge := "junction"
	if c.OnRoot() {
		edge = "edge"
	}
	action = fmt.Sprintf("With the largest round bur that fits, or a spoon, clean the %s first; then follow soft dentin only where it is. The rest of floor and wall stays.", edge)
	if !c.LeavesOverPulp() {
		return action, "Stop at firm dentin.", fmt.Sprintf("A clean %s all round; dentin that does not give.", edge)
	}
	action = fmt.Sprintf(
		"With the largest round bur that fits, or a spoon, clean the %s and %.1f mm of dentin inside it to hard, all round. Over the pulp leave soft dentin: take off only what is wet and loose.",
		edge,
		c.Endpoint().Seal,
	)
	caution = "What stays over the pulp stays on purpose: don't go after it."
	if c.CariesRemoval == cavity.Stepwise {
		caution += " First visit of two: close it, and go on after 6 to 12 months."
	}
	return action, caution, "Hard, scratching dentin round the edge; over the pulp a floor that is soft and dry."
}

// tissue in which the first cut ends.
func (f fact) tissue() string {
	w := f.Cuts[0].Ways[0]
	if f.c.Model.Dentin().Distance(f.r.Survey.Frame.From(w[len(w)-1])) < 0 {
		return "in dentin"
	}
	return "in enamel: dentin is not met yet"
}

// ends are where the outline stops before a ridge, in words.
func (f fact) ends() string {
	text := ""
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		if mm, ok := f.ridge(side); ok && mm > 0 {
			text += fmt.Sprintf("; stop %.1f mm short of the %s surface", mm, side)
		}
	}
	return text
}

// ridge is what stays standing (mm) before a surface; as drawn, before it is proven.
func (f fact) ridge(side notation.Side) (mm float64, ok bool) {
	if f.r != nil {
		return f.r.Ridge(f.Step, side)
	}
	d, ok := f.c.Design.(occlusal.Design)
	if !ok || !d.Occlusal || d.Has(side) {
		return 0, false
	}
	return [2]float64{d.MesialRidge, d.DistalRidge}[side], true
}

// entry is where the first bur goes in, in words.
func (f fact) entry() string {
	if start := f.start(); start != "" {
		return start
	}
	switch {
	case f.c.Kind == cavity.Occlusal && !f.c.Opened:
		return "over the lesion, inside the ridge"
	case f.c.Kind == cavity.Occlusal && len(f.c.Boxes) > 0:
		return "at the pit nearest the box"
	case f.c.Kind == cavity.Occlusal:
		return "at the deepest pit"
	case f.c.Kind == cavity.Proximal && f.c.EnteredFacially():
		return "from facial, beside the marginal ridge and short of the contact"
	case f.c.Kind == cavity.Proximal:
		return "from lingual, beside the marginal ridge and short of the contact"
	}
	return "in the middle of the lesion"
}

// oldOut is how an old filling is taken out, and what to beware of.
func oldOut(c *cavity.Cavity) (action, caution string) {
	if c.Kind == cavity.Occlusal {
		return "Slit it from mesial to distal, then cut it loose around its edge before its depth; lift the pieces out and look at what is under it.",
			"Stay in the filling: sound tooth around it is cut later, on purpose. Rubber dam and suction; collect amalgam waste."
	}
	return "Cut it loose around its edge before its depth; lift the pieces out and look at what is under it.",
		"Stay in the filling: sound tooth around it is cut later, on purpose. Composite is told from tooth by the dark scratch of a sharp explorer."
}

// grooveAction is where the grooves of a cavity on a smooth surface lie.
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

// toContacts is where the outline runs on into a box, in words.
func (f fact) toContacts() string {
	text := ""
	for _, side := range f.c.Boxes {
		text += fmt.Sprintf("; %sly carry it to the middle of the contact", side)
	}
	return text
}

func (f fact) behind() string {
	if f.Behind == 0 {
		return ""
	}
	return fmt.Sprintf(", leaving %.1f mm of enamel towards the adjacent tooth", f.Behind)
}

// free reports a step at a proximal surface beside which no tooth stands.
func (f fact) free() bool {
	return !slices.ContainsFunc(f.c.Boxes, func(side notation.Side) bool {
		return (f.Side == "" || side.String() == f.Side) && f.c.Adjacent[side] != nil
	})
}

// nearNeighbour warns of a bur that runs close to the adjacent tooth.
func (f fact) nearNeighbour() string {
	const close = 0.6 // mm
	if f.r == nil || f.Nearest.Beside > close {
		return ""
	}
	return fmt.Sprintf(" The bur comes to %.1f mm from the adjacent tooth.", max(f.Nearest.Beside, 0))
}

func (f fact) openingCaution() string {
	switch f.c.Kind {
	case cavity.Cervical:
		return "The gingival crest is never touched by a bur."
	case cavity.Proximal:
		return "Never towards the incisal angle: what stands there is all that holds it." + f.nearNeighbour()
	}
	return "Keep one depth."
}

package sequence

import (
	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/instrument"
	"obturon/core/notation"
	"obturon/core/procedure"
)

// confirm is the first step: the tooth a second way, and on it what isolation and the bur hide.
func confirm(c *cavity.Cavity) procedure.Step {
	s := procedure.New(procedure.Confirm)
	s.Seconds = secondsMark
	s.Caution = "Wrong tooth and wrong surface cannot be undone."
	if d, ok := c.Design.(occlusal.Design); ok {
		s.Instruments = []instrument.ID{instrument.ContactPaper, instrument.Pencil}
		reach := ""
		if d.AnyBox() {
			reach = " and the reach of each box"
		}
		s.Action = "Confirm the tooth a second way, with the film before you. Mark the contacts while the teeth are moist and bite, then pencil the outline through the pits" + reach + "."
		if c.Bonded() {
			shaded(&s)
		}
		return s
	}
	s.Instruments = []instrument.ID{instrument.Pencil}
	s.Action = "Confirm the tooth a second way and pencil the outline."
	if c.Material.Bonds() {
		shaded(&s)
	}
	if c.Kind == cavity.IncisalAngle {
		s.Instruments = append(s.Instruments, instrument.Putty)
		s.Action += " Take a putty index of the tooth, or of a wax-up, before anything is cut. Mark the contacts in protrusion."
		s.Seconds += secondsIndex
	}
	return s
}

// shaded takes the shade of a composite with the first step, before the tooth dries out.
func shaded(s *procedure.Step) {
	s.Name, s.Instruments = "Confirm, shade and mark", append([]instrument.ID{instrument.ShadeGuide}, s.Instruments...)
	s.Action += " Take the shade now, on the moist tooth."
	s.Caution += " Teeth dry out and lighten under the dam."
	s.Seconds += secondsShade
}

// protect are the steps that keep burs off the adjacent tooth and the gingiva.
func protect(c *cavity.Cavity) []procedure.Step {
	guard := func(action string, ids ...instrument.ID) []procedure.Step {
		s := procedure.New(procedure.Guard, ids...)
		s.Action, s.Caution, s.Seconds = action, "A wedge makes clearance look larger than it is: measure without it.", secondsGuard
		return []procedure.Step{s}
	}
	switch c.Kind {
	case cavity.Proximal:
		if side, _ := c.Site.Side(); adjacent(c, side) {
			return guard("Wedge, with a metal strip against the adjacent tooth.", instrument.Wedge, instrument.MetalStrip)
		}
	case cavity.Cervical:
		s := procedure.New(procedure.IsolateNeck, instrument.Dam, instrument.Cord, instrument.CervicalClamp)
		s.Action, s.Caution, s.Seconds = "Dam with a cervical clamp, or a cord in the sulcus.", "The gingival crest is never touched by a bur.", secondsCord
		return []procedure.Step{s}
	case cavity.Occlusal:
		if adjacent(c, c.Boxes...) {
			return guard("Wedge, with a steel guard or strip against the adjacent tooth.", instrument.Guard)
		}
	}
	return nil
}

// adjacent reports a tooth that stands beside any of the sides.
func adjacent(c *cavity.Cavity, sides ...notation.Side) bool {
	for _, side := range sides {
		if c.Adjacent[side] != nil {
			return true
		}
	}
	return false
}

package rehearsal

import (
	"math"
	"slices"

	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/procedure"
)

// Expected are the steps that a cavity's design asks for, in the order in which they are to be
// proven, each with the instrument of the kit that suits it best as far as the design tells.
// What only cutting shows they do not know: what a step reaches and takes, how it is held, and
// whether anything is left for it.
func Expected(c *cavity.Cavity, kit *instrument.Kit) []Step {
	drawn := drawnFeatures(c)
	var all []Step
	for _, j := range jobsOf(c, nil) {
		if !asked(j, c, drawn) {
			continue
		}
		tools := j.tools
		if slices.Contains(taught, j.kind) {
			tools = c.School.Preferring(tools)
		}
		if ready := kit.Ready(tools); len(ready) > 0 {
			tools = ready
		}
		s := Step{Kind: j.kind, Side: j.side, Why: j.why, Instruments: []instrument.ID{fitting(j, c, tools)}}
		if j.open != "" && !shelled(c) {
			s.Why = j.open
		}
		s.ByHand = instrument.MustFind(s.Instruments[0]).Blade != nil
		all = append(all, s)
	}
	return all
}

// asked reports a job that the design gives something to do.
func asked(j job, c *cavity.Cavity, drawn []uint16) bool {
	switch j.kind {
	case procedure.BreakShell, procedure.Cleave, procedure.Walls: // else opened to size at once
		return shelled(c)
	case procedure.Ridges:
		return len(c.Boxes) < len(notation.Sides)
	}
	return slices.ContainsFunc(drawn, j.wants)
}

// shelled reports a cavity beside another tooth, towards which a shell is left at first.
func shelled(c *cavity.Cavity) bool {
	sides := c.Boxes
	if side, ok := c.Site.Side(); ok && c.Kind == cavity.Proximal {
		sides = []notation.Side{side}
	}
	return slices.ContainsFunc(sides, func(side notation.Side) bool { return c.Adjacent[side] != nil })
}

// drawnFeatures are those of the surface that a design comes to.
func drawnFeatures(c *cavity.Cavity) []uint16 {
	var all []uint16
	add := func(drawn bool, features ...uint16) {
		if drawn {
			all = append(all, features...)
		}
	}
	switch d := c.Design.(type) {
	case occlusal.Design:
		add(d.Occlusal, cavity.Floor, cavity.WallBuccal, cavity.WallLingual)
		add(d.Occlusal && math.Max(d.BuccalExtension, d.LingualExtension) > 0, cavity.WallExtension)
		add(d.AnyBox(), cavity.BoxBuccal, cavity.BoxLingual, cavity.AxialWall, cavity.GingivalFloor)
		add(d.GrooveDepth > 0, cavity.RetentionGroove)
		add(len(d.Covered()) > 0, cavity.CuspReduction)
		add(d.BevelWidth > 0 || d.CuspBevel > 0 && len(d.Covered()) > 0, cavity.BevelFlag|cavity.WallBuccal)
	case smooth.Design:
		add(c.Kind == cavity.IncisalAngle, cavity.FractureSurface)
		add(c.Kind != cavity.IncisalAngle, cavity.AxialWall)
		add(d.LockDepth > 0, cavity.LingualLock)
		add(d.GrooveDepth > 0, cavity.RetentionGroove)
		add(d.BevelWidth > 0 || d.LingualBevel > 0, cavity.BevelFlag|cavity.FacialWall)
	}
	add(intoDentin(c) || len(c.Fillings()) > 0, cavity.Excavation)
	return all
}

// intoDentin reports caries in dentin, which is followed past floor and wall.
func intoDentin(c *cavity.Cavity) bool {
	return slices.ContainsFunc(c.Lesions, func(l lesion.Lesion) bool {
		return lesion.ContentOf(l) == lesion.Caries && l.IntoDentin() > 0
	})
}

// MostSunk (mm) is how far a head may stand under the surface before its shank rubs the margin.
const MostSunk = 0.5

// fitting is the first of some instruments that the design leaves room for; where none is long
// enough, the longest of those that are narrow enough.
func fitting(j job, c *cavity.Cavity, tools []instrument.ID) instrument.ID {
	narrowest, depth := room(j.kind, c)
	narrow := slices.DeleteFunc(slices.Clone(tools), func(id instrument.ID) bool {
		head := instrument.MustFind(id).Head
		return head != nil && head.Diameter > narrowest
	})
	if len(narrow) == 0 {
		narrow = tools
	}
	best := narrow[0]
	for _, id := range narrow {
		head := instrument.MustFind(id).Head
		if head == nil || depth <= head.Length+MostSunk {
			return id
		}
		if head.Length > instrument.MustFind(best).Head.Length {
			best = id
		}
	}
	return best
}

// room is how wide and how deep (mm) the narrowest place is that a step's bur goes to, as
// drawn; no bound where the design gives none.
func room(k procedure.Kind, c *cavity.Cavity) (narrowest, depth float64) {
	narrowest = math.Inf(1)
	d, ok := c.Design.(occlusal.Design)
	switch {
	case k == procedure.CariesLeft && ok:
		if d.Occlusal {
			narrowest = d.IsthmusWidth
		}
		for _, side := range d.Sides() {
			narrowest = math.Min(narrowest, d.Boxes[side].AxialDepth)
		}
	case ok && !d.Occlusal && k == procedure.PunchCut:
		for _, side := range d.Sides() {
			depth = math.Max(depth, d.Boxes[side].Depth)
		}
	case ok && d.Occlusal && slices.Contains([]procedure.Kind{procedure.PunchCut, procedure.Outline, procedure.Ridges}, k):
		const play = 0.1 // mm, to finish the walls in
		return d.IsthmusWidth - play, d.PulpalDepth
	case k == procedure.CariesLeft && c.Kind != cavity.IncisalAngle: // which is open to three sides
		if d, ok := c.Design.(smooth.Design); ok {
			narrowest = math.Min(d.Width, d.Height)
		}
	}
	return narrowest, depth
}

package sequence

import (
	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/notation"
)

// positionFor is where a right-handed operator sits and how the place is seen; a
// left-handed one sits at the mirror image (operative dentistry convention).
func positionFor(t notation.Tooth, c *cavity.Cavity) string {
	facial := c.Kind != cavity.Occlusal && c.EnteredFacially()
	switch {
	case t.Upper() && facial && t.Anterior():
		return "direct view, at 11 o'clock"
	case t.Upper() && facial && t.Right():
		return "direct view, head turned away, at 9 o'clock"
	case t.Upper() && facial:
		return "direct view, head turned towards you, at 10 o'clock"
	case t.Upper():
		return "by mirror, from behind the head at 12 o'clock"
	case facial:
		return "direct view, at 10 o'clock"
	case t.Anterior():
		return "by mirror, from behind the head at 12 o'clock"
	case t.Right():
		return "direct view, at 9 o'clock"
	default:
		return "direct view, head turned towards you, at 10 o'clock"
	}
}

// grasps are how hand instruments are held and which edge works (operative dentistry
// convention).
var grasps = map[instrument.ID]string{
	instrument.Hatchet:       "Pen grasp with a finger rest; flat face to the wall, the primary edge planes, the side edge scrapes.",
	instrument.ShortHatchet:  "Pen grasp with a finger rest; flat face to the wall, the primary edge planes, the side edge scrapes.",
	instrument.AngledChisel:  "Inverted pen grasp with a finger rest; flat face to the wall, the angle brings the edge round the distal corner.",
	instrument.Chisel:        "Pen grasp with a finger rest; bevel away from the wall, push towards the outside.",
	instrument.MarginTrimmer: "Pen grasp with a finger rest; the long corner towards the wall that is trimmed, scrape from the middle to each side.",
	instrument.Spoon:         "Pen grasp with a finger rest; lift with the edge, never press towards the pulp.",
}

package assess

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"obturon/core/cavity"
	"obturon/core/school"
)

// Move is a figure of the cavity that moves what a check measures. Slope is by how much
// of the check's unit for each mm, or degree, of the figure, roughly.
type Move struct {
	Dimension string // its id
	Slope     float64
	Same      bool // the check measures this figure
}

// moves lists the figures of a cavity that an entry names, best first: those of the wall
// that a place lies on before the others, and of every box where the check is of no side.
func moves(c *cavity.Cavity, e school.Entry, side, place string) []Move {
	sides := []string{side}
	if side == "" {
		for _, box := range c.Boxes {
			sides = append(sides, box.String())
		}
	}
	var named, other []Move
	for _, m := range e.MovedBy {
		for _, side := range sides {
			id := c.Figure(m.Figure, side)
			if id == "" || slices.ContainsFunc(slices.Concat(named, other), func(known Move) bool { return known.Dimension == id }) {
				continue
			}
			if onWall(m.Figure, place) {
				named = append(named, Move{id, m.Slope, m.Same})
			} else if !m.There {
				other = append(other, Move{id, m.Slope, m.Same})
			}
		}
	}
	return append(named, other...)
}

// onWall reports a figure that is named after the wall of a place: those of a box after no
// other wall of that side.
func onWall(figure, place string) bool {
	if strings.Contains(place, "of the box") != strings.HasPrefix(figure, "box_") {
		place = strings.NewReplacer("buccal", "", "lingual", "").Replace(place)
	}
	for _, wall := range []string{"mesial", "distal", "pulpal", "axial", "buccal", "lingual", "groove"} {
		if strings.Contains(figure, wall) && strings.Contains(place, wall) {
			return true
		}
	}
	return false
}

// Apart says of a figure of a cavity that the cut solid measures otherwise, and why; ""
// where they agree, or where nothing measures it.
func Apart(d cavity.Dimension, checks []Check) string {
	most := 0.2 // mm by which a measured figure is another one
	if d.Unit == "deg" {
		most = 4
	}
	for _, c := range checks {
		same := slices.ContainsFunc(c.Moves, func(m Move) bool { return m.Dimension == d.ID && m.Same })
		if !same || !c.Measured() || math.Abs(c.Value-d.Value) <= most {
			continue
		}
		why := "the tooth's own form makes it so"
		if c.Followed {
			why = "caries is followed there"
		}
		return fmt.Sprintf("measures %s on the cut tooth: %s", school.InUnit(c.Value, c.Unit), why)
	}
	return ""
}

// Dimension is the figure of the design that moves the value best, "" if none does.
func (c Check) Dimension() string {
	if len(c.Moves) == 0 {
		return ""
	}
	return c.Moves[0].Dimension
}

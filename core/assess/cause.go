package assess

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/school"
)

// cause is the finding that keeps a check from being met, with what is said of
// it; nil where the design could meet it.
func (c *Check) cause(s *measure.Subject, r measure.Reading, target school.Range) (*lesion.Finding, string) {
	if c.ID == school.LesionJunction { // a cavity can always be cut where caries is
		return nil, ""
	}
	// mm: what is cut past a finding's border, and the cut's own error; what measures
	// too long reaches by that much from its place.
	reach := 0.2
	if c.ID == school.ResistAxiopulpal {
		reach = 0.6 // and the edge's own width
	}
	if c.Unit == "mm" && r.Value > target.Max {
		reach += r.Value - target.Max
	}
	f, away := nearest(s.Cavity.Lesions, r.Where.At)
	switch {
	case away < reach:
		return &f, fmt.Sprintf(" It is the finding itself that reaches there, no wall of the plan: %s.", f.Name())
	case r.Most > 0 && r.Most < target.Min:
		return &f, fmt.Sprintf(" It is the finding itself that leaves no more: %s.", f.Name())
	case c.Verdict == Missed && c.ID == school.ResistPulpDistance && !math.IsInf(away, 1) && asProposed(s.Cavity):
		return &f, fmt.Sprintf(
			" The proposal already keeps to the least that opening this finding takes on this tooth: %s. Weigh sealing it, or treating the pulp, before cutting.",
			f.Name(),
		)
	}
	return nil, ""
}

// nearest is the finding that lies nearest to a place, and how far (mm) away;
// infinitely far where there is none.
func nearest(lesions []lesion.Lesion, at r3.Vec) (f lesion.Finding, away float64) {
	away = math.Inf(1)
	for _, l := range lesions {
		if d := lesion.Away(l, at); d < away {
			f, away = l.Found(), d
		}
	}
	return f, away
}

// followed reports a reading that a finding has made: it lies where one was cut, or walls
// that stand back to one would leave it as it is.
func followed(s *measure.Subject, r measure.Reading) bool {
	const cutPast = 0.3 // mm past a finding, and the gauge's own reach
	_, away := nearest(s.Cavity.Lesions, r.Where.At)
	return away < cutPast || r.Need > 0 && r.Need > r.Value-cutPast
}

// asProposed reports a cavity none of whose figures was set by hand.
func asProposed(c *cavity.Cavity) bool {
	return !slices.ContainsFunc(c.Dimensions, cavity.Dimension.Overridden)
}

package rehearsal

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/instrument"
	"obturon/core/reach"
	"obturon/core/solid"
)

// Cutting is what one rotary instrument does in a step: how it is held, and the ways of
// its tip, both in the cavity's frame.
type Cutting struct {
	Instrument instrument.ID
	Head       *instrument.Head
	Axis       r3.Vec // from the tip to the shank
	Ways       []reach.Way
}

// Length of its ways, mm.
func (c Cutting) Length() float64 {
	sum := 0.0
	for _, w := range c.Ways {
		sum += w.Length()
	}
	return sum
}

// motions are the ways as the head sweeps them, its poses placed by a frame.
func (c Cutting) motions(place func(solid.Pose) solid.Pose) []*solid.Motion {
	head := c.Head.Solid()
	var motions []*solid.Motion
	for _, w := range c.Ways {
		for n := range w {
			if n > 0 || len(w) == 1 {
				from, to := solid.Pose{Tip: w[max(n-1, 0)], Axis: c.Axis}, solid.Pose{Tip: w[n], Axis: c.Axis}
				motions = append(motions, solid.NewMotion(head, 1, place(from), place(to)))
			}
		}
	}
	return motions
}

// tools are the motions in the tooth frame, which name what they cut by the drawn surface.
func (c Cutting) tools(s *Survey) []solid.Tool {
	var tools []solid.Tool
	for _, m := range c.motions(func(p solid.Pose) solid.Pose {
		return solid.Pose{Tip: s.Frame.From(p.Tip), Axis: s.Frame.Turn(p.Axis)}
	}) {
		tools = append(tools, &named{m, s})
	}
	return tools
}

// named is a motion whose surface takes the features of the drawn one.
type named struct {
	*solid.Motion
	survey *Survey
}

// Feature is that of the drawn surface nearest to p.
func (m *named) Feature(p r3.Vec) uint16 { return m.survey.featureAt(p) }

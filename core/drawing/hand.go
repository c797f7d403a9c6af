package drawing

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

// rightwards is what lies to the right of a viewer who looks at a tooth as it stands in the
// mouth: towards points from the tooth to the viewer, up upwards in the view, both in the
// tooth frame and square to each other.
func rightwards(m *anatomy.Model, towards, up r3.Vec) r3.Vec {
	right := r3.Unit(r3.Cross(up, towards))
	if m.Tooth.FrameHand() == notation.LeftHand {
		return r3.Scale(-1, right)
	}
	return right
}

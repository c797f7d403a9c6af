package export

import (
	"obturon/core/notation"
	"obturon/core/solid"
)

// Solid is a body that goes into a file of its own.
type Solid struct {
	Mesh  *solid.Mesh    // in the tooth frame
	Tooth notation.Tooth // whose frame that is
	Name  string
}

// standing is the mesh as it stands in the mouth: files are read in right-handed spaces.
func (s Solid) standing() *solid.Mesh {
	if s.Tooth.FrameHand() == notation.LeftHand {
		return s.Mesh.TurnedOver()
	}
	return s.Mesh
}

// told is what the head of a file says of it: whose it is, and where its axes point.
func (s Solid) told() string {
	x := "mesial"
	if s.Tooth.FrameHand() == notation.LeftHand {
		x = "distal"
	}
	return "obturon tooth " + s.Tooth.String() + ", mm, x " + x + ", y facial, z occlusal; " + s.Name
}

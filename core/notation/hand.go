package notation

// Hand is that of a frame in space, of the tooth frame above all: x mesial, y facial, z
// occlusal or incisal along the crown's long axis.
type Hand string

// A right-handed frame is one in which x turned onto y drives a screw towards z.
const (
	RightHand Hand = "right"
	LeftHand  Hand = "left"
)

// FrameHand is the hand of the tooth frame as the tooth stands in the mouth. Mesial and
// facial change their sense from one quadrant to the next, so upper right and lower left
// teeth have a right-handed frame, upper left and lower right ones a left-handed one: what
// is shown or written of those in a right-handed space is turned over in x first.
func (t Tooth) FrameHand() Hand {
	if t.Upper() == t.Right() {
		return RightHand
	}
	return LeftHand
}

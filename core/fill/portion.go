package fill

import "obturon/core/solid"

// Faces that an increment turns to the others, as labels of its mesh; 0 is the tooth's
// original surface, all else the cavity's own features.
const (
	Upon    uint16 = 0x400 + iota // what the next ones lie on: free as it sets
	Beneath                       // what it lies on
)

// Portion is one increment as it is meant: all of the filling that lies within its borders, and
// beyond others, and that none before took.
type Portion struct {
	Name string
	// Why it is laid so; "" where the name says it.
	Why  string
	Kind Kind // of composite
	// Most is how thick (mm) it may be, where that is less than the others.
	Most            float64
	Borders, Beyond []*solid.Border
}

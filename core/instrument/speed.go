package instrument

// Speed at which an instrument turns.
type Speed string

// The speeds; ByHand is pushed, NoSpeed is neither.
const (
	High    Speed = "high"
	Low     Speed = "low"
	ByHand  Speed = "hand"
	NoSpeed Speed = "none"
)

// Speeds lists them.
var Speeds = []Speed{High, Low, ByHand, NoSpeed}

// Speed is the usual one of an instrument: rounds and the refining pear turn slowly, so
// that the hand feels soft dentin and a wall (operative dentistry convention).
func (i Instrument) Speed() Speed {
	switch {
	case i.Blade != nil:
		return ByHand
	case i.Head == nil:
		return NoSpeed
	case i.Head.Shape == Round || i.Head.Shape == FlatPear:
		return Low
	}
	return High
}

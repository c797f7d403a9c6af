package notation

// Side is where a neighbour stands along the arch.
type Side int

// Towards the midline, or away from it.
const (
	Mesial Side = iota
	Distal
)

// Sides lists both, in the order in which all that has an order takes them.
var Sides = []Side{Mesial, Distal}

func (s Side) String() string { return [2]string{"mesial", "distal"}[s] }

// eruptionYears is the age at which permanent teeth stand in the arch, by
// position, upper and lower (average eruption dates).
var eruptionYears = [9][2]float64{
	1: {7.5, 6.5},
	2: {8.5, 7.5},
	3: {11.5, 10},
	4: {10.5, 10.5},
	5: {11.5, 11.5},
	6: {6.5, 6},
	7: {12.5, 12},
	8: {19, 19},
}

// primaryTeeth is how many primary teeth a quadrant holds.
const primaryTeeth = 5

// Neighbour is the adjacent tooth t in a mouth of that age with no tooth missing;
// ok is false where none stands there. Across the midline it is the other
// side's. A primary and its permanent successor never stand together: the one
// that the age calls for is taken.
func (t Tooth) Neighbour(side Side, ageYears float64) (neighbour Tooth, ok bool) {
	if t.IsZero() {
		return t, false
	}
	position, right := t.Position()+1, t.Right()
	if side == Mesial {
		position -= 2
	}
	if position == 0 {
		position, right = 1, !right
	}
	if position > 8 {
		return Tooth{}, false
	}
	row := 1
	if t.Upper() {
		row = 0
	}
	quadrant := [2][2]int{{2, 1}, {3, 4}}[row][index(right)]
	erupted := ageYears >= eruptionYears[position][row]
	if !erupted {
		if position > primaryTeeth {
			return Tooth{}, false
		}
		quadrant += 4
	}
	neighbour, err := New(quadrant, position)
	return neighbour, err == nil
}

func index(right bool) int {
	if right {
		return 1
	}
	return 0
}

package lesion

import (
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

// On the other side of the tooth a lesion is a tooth's width away, whatever its field
// says there; in its middle it is not away at all.
func TestALesionIsAsFarAwayAsItLies(t *testing.T) {
	m, err := anatomy.Build(notation.MustParse("46"), anatomy.MeasuredSizes{}, 36, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	l, err := New(m, Finding{Kind: ProximalCaries, Site: Distal, Depth: OuterDentin})
	if err != nil {
		t.Fatal(err)
	}
	b := l.Bounds()
	for _, p := range []r3.Vec{{X: 4.1, Y: 1.6, Z: 4.2}, {X: 4.4, Y: -1, Z: 5}} {
		if got := Away(l, p); got < p.X-b.Max.X {
			t.Errorf("a distal lesion is %.2f mm from %v, at least %.2f are between", got, p, p.X-b.Max.X)
		}
	}
	if got := Away(l, l.(*Proximal).Middle()); got > 0.01 {
		t.Errorf("its middle is %.2f mm away from it", got)
	}
}

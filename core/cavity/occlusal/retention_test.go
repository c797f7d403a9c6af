package occlusal

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/solid"
)

// A groove is as deep as asked half a millimetre over the seat, deepest where it ends on
// the seat, and runs out where dentin ends.
func TestARetentionGrooveFadesOutUpwards(t *testing.T) {
	for _, tooth := range []string{"17", "45"} {
		r := boxRequest(t, tooth, "traditional", "amalgam", 0.2, lesion.Distal)
		d, err := propose(r)
		if err != nil {
			t.Fatal(err)
		}
		p := newProximal(r.Model, notation.Distal)
		b, err := p.newBox(d)
		if err != nil {
			t.Fatal(err)
		}
		if len(b.grooves) != 2 {
			t.Fatalf("%s: %d grooves", tooth, len(b.grooves))
		}
		for n, w := range []*sideWall{&b.buccal, &b.lingual} {
			g := &b.grooves[n]
			// deepest is how far the groove reaches past its side wall at a height, mm.
			deepest := func(z float64) float64 {
				most := 0.0
				for aside := 0.0; aside < 0.8; aside += 0.02 {
					start := b.beside(w, z, 0, 0, 0)
					start.X += aside
					start.Y -= w.sign * w.distance(start.X, start.Y, z)
					within := func(q r3.Vec) float64 {
						f := b.facesAt(r3.Vec{X: b.sign * q.X, Y: q.Y, Z: q.Z})
						return g.distance(&f)
					}
					if within(start) < 0 {
						if far, ok := solid.RootAlong(within, start, r3.Vec{Y: w.sign}, 0, 2, 0.02); ok {
							most = math.Max(most, w.distance(start.X, start.Y+w.sign*far, z))
						}
					}
				}
				return most
			}
			for _, c := range []struct{ z, low, high float64 }{
				{b.seat.level - 0.05, 0, 0},
				{b.seat.level + 0.2, d.GrooveDepth, d.GrooveDepth + 0.2},
				{b.seat.level + grooveAt, d.GrooveDepth - 0.03, d.GrooveDepth + 0.03},
				{g.top - 0.05, 0, 0.06},
				{g.top + 0.1, 0, 0},
			} {
				if got := deepest(c.z); got < c.low || got > c.high {
					t.Errorf("%s, groove %d: %.3f mm deep %.2f over the seat, not %.2f to %.2f", tooth, n, got, c.z-b.seat.level, c.low, c.high)
				}
			}
		}
	}
}

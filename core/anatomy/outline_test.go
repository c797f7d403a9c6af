package anatomy

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

func TestOutlinesLieOnTheSurfaceWhereItTurnsAway(t *testing.T) {
	for name, m := range averages() {
		for _, towards := range []r3.Vec{{Y: 1}, {X: 1}, m.Table.W, {X: 0.6, Y: 0.8}} {
			lines := m.Aspect(towards).Outline()
			if len(lines) != 1 {
				t.Fatalf("%s from %v: %d curves", name, towards, len(lines))
			}
			for _, at := range lines[0] {
				if d := math.Abs(m.SurfaceShape(at)); d > 0.02 {
					t.Errorf("%s from %v: %v lies %.4f off", name, towards, at, d)
					break
				}
			}
		}
	}
}

func BenchmarkOutline(b *testing.B) {
	m := averages()["46"]
	m.Turning()
	for b.Loop() {
		newAspect(m, r3.Vec{Y: 1}).Outline()
	}
}

func TestAnAspectSeesTheNearestSurface(t *testing.T) {
	m := averages()["46"]
	facial := m.Aspect(r3.Vec{Y: 1})
	for _, through := range []r3.Vec{{Z: 3}, {X: 2, Z: 1}, {X: -3, Y: -9, Z: 4}} {
		at, ok := facial.Seen(through)
		if !ok || math.Abs(at.X-through.X)+math.Abs(at.Z-through.Z) > 1e-9 {
			t.Fatalf("through %v: sees %v, %t", through, at, ok)
		}
		if d := m.Surface.Distance(at); math.Abs(d) > 1e-4 {
			t.Errorf("through %v: %v lies %.4f off", through, at, d)
		}
		if m.Surface.Gradient(at).Y <= 0 {
			t.Errorf("through %v: %v faces away", through, at)
		}
	}
	if _, ok := facial.Seen(r3.Vec{X: 30}); ok {
		t.Error("a line of sight beside the tooth meets it")
	}
}

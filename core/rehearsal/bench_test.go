package rehearsal_test

import (
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity/cavitytest"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/reach"
	"obturon/core/rehearsal"
	"obturon/core/school"
)

// The Class I of a lower molar: deriving its steps and rehearsing them, the same steps
// again, and the room of single burs.
func BenchmarkClassI(b *testing.B) {
	subject := cavitytest.Cut(b, cavitytest.Propose(b, cavitytest.Request(b, "46", "board", school.Amalgam, 0.1, finding(lesion.FissureCaries, lesion.Central))), nil)
	r, err := rehearsal.Of(b.Context(), nil, subject.Cavity, subject.Workpiece, nil)
	if err != nil {
		b.Fatal(err)
	}
	b.Run("Derived", func(b *testing.B) {
		for b.Loop() {
			if _, err := rehearsal.Of(b.Context(), nil, subject.Cavity, subject.Workpiece, nil); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("Repeated", func(b *testing.B) {
		for b.Loop() {
			r.Repeat(r.Steps)
		}
	})
	b.Run("Carved", func(b *testing.B) {
		for b.Loop() {
			r.Workpieces()
		}
	})
	long := 0.0
	for _, s := range r.Steps {
		for _, c := range s.Cuts {
			long += c.Length()
		}
	}
	b.Logf("%.0f mm of ways", long)
	for _, id := range []instrument.ID{instrument.Pear, instrument.StraightBur} {
		b.Run("Where/"+string(id), func(b *testing.B) {
			for b.Loop() {
				reach.Where(r.Survey.Kept, instrument.MustFind(id).Head, r3.Vec{Z: 1}, 0.02, r.Survey.Kept.Room())
			}
		})
	}
}

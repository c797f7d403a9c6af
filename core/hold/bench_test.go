package hold

import "testing"

// The answers are to follow a drag: a few milliseconds each.
func BenchmarkRelease(b *testing.B) {
	walls := mo(-4, true).walls(0.1)
	for b.Loop() {
		NewBed(walls).Release()
	}
}

func BenchmarkFreedom(b *testing.B) {
	walls := append(mo(-4, true).walls(0.1), dish(50)...)
	for b.Loop() {
		NewBed(walls).Freedom(up)
	}
}

func BenchmarkUndercut(b *testing.B) {
	c := mo(-4, true)
	walls := c.walls(0.25)
	for b.Loop() {
		NewBed(walls).Undercut(c.tooth, up, 6)
	}
}

package hold

import "testing"

// The answers are to follow a drag: a few milliseconds each.
func BenchmarkRelease(b *testing.B) {
	walls := mo(-4, true).walls(0.1)
	for b.Loop() {
		ReleaseOf(walls)
	}
}

func BenchmarkFreedom(b *testing.B) {
	walls := append(mo(-4, true).walls(0.1), dish(50)...)
	for b.Loop() {
		FreedomOf(walls, up)
	}
}

func BenchmarkUndercut(b *testing.B) {
	c := mo(-4, true)
	walls := c.walls(0.25)
	for b.Loop() {
		UndercutOf(walls, c.tooth, up, 6)
	}
}

package anatomy

import (
	"testing"

	"obturon/core/notation"
)

// BenchmarkFirstView builds a tooth cold, as its first view does.
func BenchmarkFirstView(b *testing.B) {
	for _, id := range []string{"11", "16", "46", "75"} {
		b.Run(id, func(b *testing.B) {
			for b.Loop() {
				if _, err := Build(notation.MustParse(id), Own{}, 34, 0.1); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

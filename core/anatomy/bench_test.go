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

// BenchmarkArches draws all four arches, 26 types of teeth, from nothing.
func BenchmarkArches(b *testing.B) {
	for b.Loop() {
		if _, err := drawArches(); err != nil {
			b.Fatal(err)
		}
	}
}

// BenchmarkOutlinesForTheChooser draws the permanent teeth alone.
func BenchmarkOutlinesForTheChooser(b *testing.B) {
	var teeth []notation.Tooth
	for _, t := range everyType() {
		if !t.Primary() {
			teeth = append(teeth, t)
		}
	}
	for b.Loop() {
		if _, err := buildAll(teeth); err != nil {
			b.Fatal(err)
		}
	}
}

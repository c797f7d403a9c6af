package anatomy

import (
	"runtime"
	"testing"

	"obturon/core/notation"
)

// BenchmarkFirstView builds a tooth cold, as its first view does.
func BenchmarkFirstView(b *testing.B) {
	for _, tooth := range everyType() {
		age := 34.0
		if tooth.Primary() {
			age = 6
		}
		b.Run(tooth.String(), func(b *testing.B) {
			for b.Loop() {
				if _, err := Build(tooth, MeasuredSizes{}, age, 0.1); err != nil {
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

// BenchmarkToothMemory holds one lower molar at 0.05 mm with its surface meshed.
func BenchmarkToothMemory(b *testing.B) {
	var held float64
	for b.Loop() {
		before := heapInUse()
		m, err := Build(notation.MustParse("46"), MeasuredSizes{}, 34, 0.05)
		if err != nil {
			b.Fatal(err)
		}
		m.Surface.Volume()
		held = float64(heapInUse()-before) / (1 << 20)
		runtime.KeepAlive(m)
	}
	b.ReportMetric(held, "MB")
}

func heapInUse() uint64 {
	runtime.GC()
	var stats runtime.MemStats
	runtime.ReadMemStats(&stats)
	return stats.HeapAlloc
}

package measure

import (
	"testing"

	"obturon/core/prep"
)

// BenchmarkAllBoxGauges takes every reading of a proximal box, from the carved
// solid on: its mesh, its margin, and all gauges.
func BenchmarkAllBoxGauges(b *testing.B) {
	box, beside := plainSlot().prepared(0.1)
	for b.Loop() {
		p := NewPrepared(box.Model, box.Workpiece)
		fresh := p.Box(box.Side)
		fresh.AxialDepth()
		fresh.AxialConvexity()
		fresh.GingivalSlope()
		for _, wall := range []uint16{prep.BoxBuccal, prep.BoxLingual, prep.GingivalFloor} {
			fresh.Clearance(wall, beside)
			fresh.ExitAngle(wall)
			fresh.WallAngle(wall)
		}
		p.CavosurfaceAngle()
		p.Smoothness()
		p.DepthMap(0.1)
	}
}

package measure

import (
	"testing"

	"obturon/core/cavity"
)

// BenchmarkAllBoxGauges takes every reading of a proximal box, from the carved
// solid on: its mesh, its margin, and all gauges.
func BenchmarkAllBoxGauges(b *testing.B) {
	box, beside := plainSlot().cutInto(0.1)
	for b.Loop() {
		p := NewPrepared(box.Model, box.Workpiece)
		fresh := p.Box(box.Side)
		fresh.AxialDepth()
		fresh.AxialConvexity()
		fresh.GingivalSlope()
		for _, wall := range []uint16{cavity.BoxBuccal, cavity.BoxLingual, cavity.GingivalFloor} {
			fresh.Clearance(wall, beside)
			fresh.ExitAngle(wall)
			fresh.WallAngle(wall)
		}
		p.MarginAngles()
		p.Smoothness()
		p.DepthMap(0.1)
	}
}

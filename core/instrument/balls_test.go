package instrument

import (
	"fmt"
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

// The balls lie within the head and miss no more of its surface than they say: the
// surface is walked all round, between the balls of rings as well.
func TestBallsFillTheHead(t *testing.T) {
	const tolerance = 0.02
	for _, i := range All {
		if i.Head == nil {
			continue
		}
		t.Run(fmt.Sprint(i.ID), func(t *testing.T) {
			head, balls := i.Head.Solid(), i.Head.Balls(tolerance)
			for _, b := range balls {
				if d, _, _ := head.Profile(b.Off, b.Height); -d < b.Radius-1e-6 {
					t.Errorf("%+v sticks out by %.4f", b, b.Radius+d)
				}
			}
			worst := 0.0
			for z := 0.0; z <= head.Length(); z += 0.031 {
				rho := across(head, z)
				for turn := 0.0; turn < 2*math.Pi; turn += 0.07 {
					sin, cos := math.Sincos(turn)
					p, missed := r3.Vec{X: rho * cos, Y: rho * sin, Z: z}, math.Inf(1)
					for _, b := range balls {
						bs, bc := math.Sincos(b.Turn)
						missed = math.Min(missed, r3.Norm(r3.Sub(p, r3.Vec{X: b.Off * bc, Y: b.Off * bs, Z: b.Height}))-b.Radius)
					}
					worst = math.Max(worst, missed)
				}
			}
			if worst > 2*tolerance {
				t.Errorf("%d balls miss %.3f of the surface", len(balls), worst)
			}
			t.Logf("%d balls, at worst %.3f missed", len(balls), worst)
		})
	}
}

package smooth

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// groove is what a round bur cuts along a line.
type groove struct {
	line   []r3.Vec
	radius float64 // mm
}

func (g *groove) distance(p r3.Vec) float64 {
	least := math.Inf(1)
	for n := 1; n < len(g.line); n++ {
		a, b := g.line[n-1], g.line[n]
		way := r3.Sub(b, a)
		t := 0.0
		if length := r3.Norm2(way); length > 0 {
			t = math.Min(math.Max(r3.Dot(r3.Sub(p, a), way)/length, 0), 1)
		}
		least = math.Min(least, r3.Norm(r3.Sub(p, r3.Add(a, r3.Scale(t, way)))))
	}
	return least - g.radius
}

// grooveBur (mm) is the radius of the 0.5 round.
const grooveBur = 0.25

// lineAngleGrooves run along the line angles between floor and the gingival and
// the occlusal wall, short of the ends.
func (k *pocket) lineAngleGrooves(d Design) []groove {
	const share = 0.34 // of the width, to either side of the middle
	const step = 0.2   // mm
	var upper, lower groove
	upper.radius, lower.radius = grooveBur, grooveBur
	for x := -share * d.Width; x <= share*d.Width; x += step {
		low, high, ok := k.across(x)
		if !ok {
			continue
		}
		inset := (k.depth - grooveBur) * k.open // where the bur's middle runs
		upper.line = append(upper.line, k.inWall(x, high-inset, +1, d.GrooveDepth))
		lower.line = append(lower.line, k.inWall(x, low+inset, -1, d.GrooveDepth))
	}
	return []groove{upper, lower}
}

// inWall is where the bur's middle runs for its cut to reach so deep into the
// wall at (x, y), whose outward sign is given, resting on the floor.
func (k *pocket) inWall(x, y, sign, deep float64) r3.Vec {
	foot, normal := k.surfaceOver(x, y)
	into := r3.Scale(sign*(deep-grooveBur), k.frame.V)
	into = r3.Sub(into, r3.Scale(r3.Dot(into, normal), normal)) // along the surface
	return r3.Add(r3.Sub(foot, r3.Scale(k.depth-grooveBur, normal)), into)
}

// across is where the line x cuts the outline.
func (k *pocket) across(x float64) (low, high float64, ok bool) {
	low, high = math.Inf(1), math.Inf(-1)
	for n, a := range k.line.Points {
		b := k.line.Points[(n+1)%len(k.line.Points)]
		if (a.X-x)*(b.X-x) > 0 || a.X == b.X {
			continue
		}
		y := a.Y + (b.Y-a.Y)*(x-a.X)/(b.X-a.X)
		low, high, ok = math.Min(low, y), math.Max(high, y), true
	}
	return low, high, ok
}

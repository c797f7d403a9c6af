package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/solid"
)

// DepthMap is how deep the tooth was cut, along the bur, over the occlusal
// table's frame: mm under the uncut surface, 0 where nothing was cut.
func (p *Prepared) DepthMap(step float64) *solid.Sheet {
	table := p.Model.Table
	low, high, lowY, highY := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	for _, m := range p.Margin.Points {
		q := table.To(m.At)
		low, high = math.Min(low, q.X), math.Max(high, q.X)
		lowY, highY = math.Min(lowY, q.Y), math.Max(highY, q.Y)
	}
	const around = 0.3 // mm
	const above, reach = 4.0, 12.0
	down := r3.Scale(-1, table.W)
	return solid.NewSheet(low-around, lowY-around, high+around, highY+around, step).Fill(func(x, y float64) float64 {
		from := table.From(r3.Vec{X: x, Y: y, Z: above})
		uncut, ok := p.Model.Surface.RootAlong(from, down, 0, reach, 0.1)
		if !ok {
			return 0
		}
		cut, ok := solid.RootAlong(p.Workpiece.Distance, from, down, math.Max(uncut-0.05, 0), reach, 0.1)
		if !ok {
			return 0
		}
		return math.Max(cut-uncut, 0)
	})
}

// Volumes is what was cut away, mm³.
type Volumes struct{ Enamel, Dentin float64 }

// Volumes splits what was removed by tissue, from the samples of the solid.
func (p *Prepared) Volumes() Volumes {
	v := p.Workpiece.Removed(p.Model.Dentin().Distance)
	return Volumes{Enamel: v.Total - v.Inside, Dentin: v.Inside}
}

// CuspThickness is the least tooth left at a cusp's base: from the walls beside
// the cusp, at the height of the floor, out to the facial or lingual surface.
func (p *Prepared) CuspThickness(cusp anatomy.Named) (r Reading, ok bool) {
	const base, beside, reach, step = 0.5, 1.5, 7.0, 0.1 // mm
	table := p.Model.Table
	tip := table.To(cusp.At)
	out := table.V
	if tip.Y < 0 {
		out = r3.Scale(-1, out)
	}
	lowest := math.Inf(1)
	for _, n := range p.ofFeature[cavity.Floor] {
		lowest = math.Min(lowest, table.To(p.Mesh.Centroid(n)).Z)
	}
	r.Value = math.Inf(1)
	for n, label := range p.Mesh.Labels {
		if label == 0 || label >= cavity.BoxBuccal { // a box ends at the proximal surface, not at a cusp
			continue
		}
		at := p.Mesh.Centroid(n)
		q := table.To(at)
		if math.Abs(q.X-tip.X) > beside || q.Z > lowest+base || r3.Dot(p.Mesh.Normal(n), out) > -0.5 {
			continue // elsewhere, too high, or not facing away from the cusp
		}
		if p.Model.TableHeights().At(q.X, q.Y)-q.Z < base {
			continue // at the margin, where a wall ends there is no cusp over it
		}
		if t, hit := p.Model.Surface.RootAlong(at, out, 0.02, reach, step); hit && t < r.Value {
			r.Value, r.Over, r.Where = t, tip.Z-q.Z, Place{"base of the " + cusp.Name + " cusp", at}
		}
	}
	r.Uncertainty = 0.2 * p.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// UnsupportedEnamel is the width (mm) of the strip beside the margin whose enamel rods
// end in the cavity instead of on dentin, where it is widest over some 0.8 mm of margin:
// the middle width there, since a single rod that misses the dentin at a corner or a
// fissure breaks no edge. Rods run from the surface to the nearest dentin; they deviate
// by 10 to 20 degrees in life, so that strips under a tenth of a millimetre mean nothing.
func (p *Prepared) UnsupportedEnamel() (r Reading, ok bool) {
	for _, l := range p.Margin.loops {
		points := l.spaced(stripStep)
		widths := make([]float64, len(points))
		for n, m := range points {
			widths[n] = p.unsupportedAt(m)
		}
		widths = overStrips(widths)
		for n, m := range points {
			if !ok || widths[n] > r.Value {
				r.Value, r.Where, ok = widths[n], Place{"enamel beside the " + cavity.FeatureName(m.Feature), m.At}, true
			}
		}
	}
	r.Uncertainty = 0.05
	return r, ok
}

// spaced picks points along the loop that stand about so far (mm) apart.
func (l *marginLoop) spaced(apart float64) []MarginPoint {
	var picked []MarginPoint
	walked := math.Inf(1)
	for n, m := range l.points {
		if n > 0 {
			walked += r3.Norm(r3.Sub(m.At, l.points[n-1].At))
		}
		if walked >= apart {
			picked, walked = append(picked, m), 0
		}
	}
	return picked
}

// unsupportedAt is how far (mm) from a place of the margin enamel rods end in the cavity.
func (p *Prepared) unsupportedAt(m MarginPoint) float64 {
	const step, widest, halvings = 0.08, 2.5, 4 // mm
	away, found := p.awayFromCavity(m)
	if !found {
		return 0
	}
	dentin := p.Model.Dentin()
	supported := func(d float64) bool {
		at, on := p.ontoSurface(r3.Add(m.At, r3.Scale(d, away)), m.Outer)
		return !on || p.rodIsSupported(dentin, at)
	}
	if supported(step) {
		return 0
	}
	hanging, firm := step, 2*step
	for ; !supported(firm); firm += step {
		if hanging = firm; hanging >= widest {
			return hanging
		}
	}
	for range halvings {
		if middle := (hanging + firm) / 2; supported(middle) {
			firm = middle
		} else {
			hanging = middle
		}
	}
	return (hanging + firm) / 2
}

// awayFromCavity is the direction along the outer surface that leads from a
// margin point away from the cavity.
func (p *Prepared) awayFromCavity(m MarginPoint) (r3.Vec, bool) {
	const d = 0.15 // mm
	best, direction := math.Inf(1), r3.Vec{}
	side := r3.Cross(m.Outer, p.Model.Table.W)
	if r3.Norm(side) < 0.2 {
		side = p.Model.Table.U
	}
	side = r3.Unit(r3.Sub(side, r3.Scale(r3.Dot(side, m.Outer), m.Outer)))
	other := r3.Cross(m.Outer, side)
	under := r3.Sub(m.At, r3.Scale(d, m.Outer))
	const ways = 16
	for n := range ways {
		sin, cos := math.Sincos(2 * math.Pi * float64(n) / ways)
		way := r3.Add(r3.Scale(cos, side), r3.Scale(sin, other))
		if inside := p.Workpiece.Distance(r3.Add(under, r3.Scale(d, way))); inside < best {
			best, direction = inside, way
		}
	}
	return direction, best < 0
}

// ontoSurface drops a point near the outer surface onto it along a normal.
func (p *Prepared) ontoSurface(near, normal r3.Vec) (r3.Vec, bool) {
	const reach = 0.6 // mm
	from := r3.Add(near, r3.Scale(reach, normal))
	t, ok := p.Model.Surface.RootAlong(from, r3.Scale(-1, normal), 0, 2*reach, 0.1)
	return r3.Sub(from, r3.Scale(t, normal)), ok
}

// rodIsSupported follows the enamel from a surface point down to the dentin
// and reports whether it gets there inside the tooth. Where there is no enamel
// nothing needs support.
func (p *Prepared) rodIsSupported(dentin *solid.Dense, at r3.Vec) bool {
	const step, reach = 0.05, 3.0 // mm
	at = r3.Sub(at, r3.Scale(step, r3.Unit(p.Model.Surface.Gradient(at))))
	for range int(reach / step) {
		if dentin.Distance(at) <= 0 {
			return p.Workpiece.Distance(at) < 0
		}
		if p.Workpiece.Distance(at) > 0 {
			return false
		}
		at = r3.Sub(at, r3.Scale(step, r3.Unit(dentin.Gradient(at))))
	}
	return true
}

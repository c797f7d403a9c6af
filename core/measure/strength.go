package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
)

// CuspForm is a cusp as it stands beside a cavity, mm.
type CuspForm struct {
	Base, Over float64 // how thick at its base, how high over that
	Width      float64 // along the tooth at its base, to halfway to the next cusp
	// Under is how far under the tip the cavity begins that runs beneath it; 0 where it does
	// not, and the cusp stands on tooth down to the root.
	Under float64
	// Middle is halfway through its base.
	Middle r3.Vec
}

// CuspForm measures a cusp; ok is false where no wall stands beside it.
func (p *Prepared) CuspForm(cusp anatomy.Named) (f CuspForm, ok bool) {
	base, ok := p.CuspThickness(cusp)
	if !ok {
		return f, false
	}
	f.Base, f.Over = base.Value, base.Over
	table := p.Model.Table
	out := r3.Scale(math.Copysign(1, cusp.At.Y), table.V)
	middle := r3.Add(base.Where.At, r3.Scale(base.Value/2, out))
	f.Middle = middle
	const step, reach = 0.1, 8.0 // mm
	for _, way := range []float64{1, -1} {
		far := math.Min(reach, p.halfwayToTheNext(cusp, way)-way*table.To(middle).X)
		end, hit := solidEnd(p, middle, r3.Scale(way, table.U), far, step)
		if !hit {
			end = math.Max(far, 0)
		}
		f.Width += end
	}
	const skin, deep = 0.3, 6.0 // mm
	tip := r3.Sub(cusp.At, r3.Scale(skin, table.W))
	if under, hit := solidEnd(p, tip, r3.Scale(-1, table.W), deep, step); hit &&
		p.Workpiece.Feature(r3.Sub(tip, r3.Scale(under, table.W))) != 0 {
		f.Under = under + skin
	}
	return f, true
}

// solidEnd is how far (mm) the cut tooth goes on from a place within it.
func solidEnd(p *Prepared, from, along r3.Vec, reach, step float64) (float64, bool) {
	for t := 0.0; t <= reach; t += step {
		if p.Workpiece.Distance(r3.Add(from, r3.Scale(t, along))) > 0 {
			return math.Max(t-step/2, 0), true
		}
	}
	return 0, false
}

// halfwayToTheNext is how far towards mesial (way 1) or distal (-1) from the middle of the
// table the groove lies between a cusp and the next on its side.
func (p *Prepared) halfwayToTheNext(cusp anatomy.Named, way float64) float64 {
	own := way * p.Model.Table.To(cusp.At).X
	nearest := math.Inf(1)
	for _, other := range p.Model.CuspTips {
		if x := way * p.Model.Table.To(other.At).X; other.At.Y*cusp.At.Y > 0 && x > own+0.1 {
			nearest = math.Min(nearest, (own+x)/2)
		}
	}
	return nearest
}

// Bulk is the filling where a load on its marginal ridge bends it, mm.
type Bulk struct {
	Isthmus float64 // least over the end of the pulpal floor
	Ridge   float64 // under the ridge's crest
	Lever   float64 // from the floor's end out to the crest
}

// Bulk measures the filling between pulpal floor and marginal ridge; ok is false of a box
// that has no floor beside it.
func (b Box) Bulk() (f Bulk, ok bool) {
	end, ok := b.floorEnd()
	if !ok || !b.endsAtBox(end) {
		return f, false
	}
	const beside, reach, step = 1.0, 8.0, 0.1 // mm
	table := b.Model.Table
	f.Isthmus = math.Inf(1)
	for back := 0.0; back <= beside; back += step {
		at := r3.Sub(end, r3.Scale(back, b.Outward()))
		if over, hit := b.Model.Surface.RootAlong(at, table.W, 0.02, reach, step); hit {
			f.Isthmus = math.Min(f.Isthmus, over)
		}
	}
	// The crest is the highest place of the uncut tooth between there and its outer surface.
	crest, highest := end, math.Inf(-1)
	for out := beside; out <= reach; out += step {
		at := r3.Add(end, r3.Scale(out, b.Outward()))
		over, hit := b.Model.Surface.RootAlong(at, table.W, 0, reach, step)
		if !hit || b.Model.Surface.Distance(at) > 0 {
			break
		}
		if top := r3.Add(at, r3.Scale(over, table.W)); r3.Dot(top, table.W) > highest {
			crest, highest = top, r3.Dot(top, table.W)
		}
	}
	if math.IsInf(highest, -1) || math.IsInf(f.Isthmus, 1) {
		return f, false
	}
	f.Lever = r3.Dot(r3.Sub(crest, end), b.Outward())
	for f.Ridge = step; f.Ridge < reach; f.Ridge += step {
		if b.Workpiece.Distance(r3.Sub(crest, r3.Scale(f.Ridge, table.W))) < 0 {
			break
		}
	}
	return f, true
}

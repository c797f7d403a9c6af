package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/solid"
)

// IsthmusWidth is the least distance across between buccal and lingual wall at
// their upper ends, square to the bur, as a calliper finds it. A bevel over the
// walls does not count.
func (p *Prepared) IsthmusWidth() (Reading, bool) { return p.once("isthmus", p.feelIsthmus) }

func (p *Prepared) feelIsthmus() (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for _, l := range p.Margin.loops {
		p.narrowest(l, &r)
	}
	r.Uncertainty = 0.2 * p.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// narrowest lowers a reading to the least width across a loop.
func (p *Prepared) narrowest(l marginLoop, r *Reading) {
	table := p.Model.Table
	var buccal, lingual []r3.Vec
	low, high := extentX(l.flat)
	if high-low < l.high.Y-l.low.Y { // a cavity of a side groove alone
		return
	}
	for _, m := range l.points {
		q := table.To(m.Wall)
		if q.X > high-endZone || q.X < low+endZone { // the rounded ends close by themselves
			continue
		}
		switch m.Feature {
		case cavity.WallBuccal:
			buccal = append(buccal, q)
		case cavity.WallLingual:
			lingual = append(lingual, q)
		}
	}
	for _, a := range buccal {
		for _, b := range lingual {
			if d := math.Hypot(a.X-b.X, a.Y-b.Y); d < r.Value {
				r.Value = d
				r.Where = Place{"isthmus, buccal to lingual margin", table.From(r3.Scale(0.5, r3.Add(a, b)))}
			}
		}
	}
}

// endZone (mm) is the part of the outline that counts as its mesial or distal end.
const endZone = 0.9

func extentX(line solid.Polyline) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, q := range line.Points {
		low, high = math.Min(low, q.X), math.Max(high, q.X)
	}
	return low, high
}

// EndWidth is the greatest width within endZone of the margin's mesial (+1) or
// distal (-1) end, measured across; ok is false where a box ends it.
func (p *Prepared) EndWidth(sign float64) (r Reading, ok bool) {
	const step = 0.05
	var line solid.Polyline
	end := math.Inf(-1)
	for _, l := range p.Margin.loops {
		low, high := extentX(l.flat)
		if reach := math.Max(sign*low, sign*high); reach > end {
			end, line = reach, l.flat
		}
	}
	for _, m := range p.Margin.Points {
		if m.Feature >= cavity.BoxBuccal && sign*p.Model.Table.To(m.At).X > end-endZone {
			return r, false
		}
	}
	for d := step; d <= endZone; d += step {
		x := sign * (end - d)
		from, to, hit := span(line, x)
		if hit && to-from > r.Value {
			r.Value = to - from
			r.Where = Place{"dovetail", p.Model.Table.From(r3.Vec{X: x, Y: (from + to) / 2, Z: p.marginHeight(x, to)})}
			ok = true
		}
	}
	r.Uncertainty = 0.2 * p.Model.Surface.H
	return r, ok
}

// span is where the line x cuts a closed polyline, outermost.
func span(line solid.Polyline, x float64) (low, high float64, hit bool) {
	low, high = math.Inf(1), math.Inf(-1)
	for n, a := range line.Points {
		b := line.Points[(n+1)%len(line.Points)]
		if (a.X-x)*(b.X-x) > 0 || a.X == b.X {
			continue
		}
		y := a.Y + (b.Y-a.Y)*(x-a.X)/(b.X-a.X)
		low, high, hit = math.Min(low, y), math.Max(high, y), true
	}
	return low, high, hit
}

// marginHeight is the height of the margin point nearest (x, y) of the table.
func (p *Prepared) marginHeight(x, y float64) float64 {
	best, height := math.Inf(1), 0.0
	for _, m := range p.Margin.Points {
		q := p.Model.Table.To(m.At)
		if d := math.Hypot(q.X-x, q.Y-y); d < best {
			best, height = d, q.Z
		}
	}
	return height
}

// GrooveReach is how far the outline runs into a side groove: from the
// isthmus wall to the margin, along the groove. Length is what the groove
// offers from that wall. ok is false where the groove starts outside.
func (p *Prepared) GrooveReach(g anatomy.GrooveLine, isthmus float64) (r Reading, length float64, ok bool) {
	var walked, reached float64
	for n, at := range g.Points {
		q := p.Model.Table.To(at)
		if n > 0 {
			prev := p.Model.Table.To(g.Points[n-1])
			step := math.Hypot(q.X-prev.X, q.Y-prev.Y)
			// March finely, so that the margin is met to a hundredth.
			const fine = 12
			for s := 1; s <= fine; s++ {
				t := float64(s) / fine
				if p.Margin.contains(solid.Point2{X: prev.X + t*(q.X-prev.X), Y: prev.Y + t*(q.Y-prev.Y)}) {
					reached = walked + t*step
					r.Where = Place{g.Name, r3.Add(g.Points[n-1], r3.Scale(t, r3.Sub(at, g.Points[n-1])))}
				}
			}
			walked += step
		} else if !p.Margin.contains(solid.Point2{X: q.X, Y: q.Y}) {
			return r, 0, false
		}
	}
	r.Value, r.Uncertainty = math.Max(reached-isthmus/2, 0), 0.2*p.Model.Surface.H
	return r, walked - isthmus/2, true
}

// Smoothness is the smallest radius of the occlusal margin seen along the bur,
// over a third of a millimetre at a time. Where the margin runs down a proximal
// face it turns by itself, and where it crosses a fissure too narrow for a bur it
// dips: both are left out.
func (p *Prepared) Smoothness() (r Reading, ok bool) {
	r.Value = math.Inf(1)
	for _, l := range p.Margin.loops {
		p.tightest(l, &r)
	}
	r.Uncertainty = p.Model.Surface.H
	return r, !math.IsInf(r.Value, 1)
}

// tightest lowers a reading to the least radius of a loop.
func (p *Prepared) tightest(l marginLoop, r *Reading) {
	// noiseRounds sheds mesh noise and the nicks where a fissure crosses.
	const step, window, noiseRounds = 0.05, 7, 12
	if len(l.flat.Points) < 3 {
		return
	}
	sampled := l.flat.Resample(step).Points
	counts := make([]bool, len(sampled))
	for n, q := range sampled {
		counts[n] = l.facesBur(q, p.Model.Table.W) && !p.inFissure(q)
	}
	line := solid.Polyline{Points: sampled, Closed: true}.Smoothed(noiseRounds).Points
	n := len(line)
	for i := range line {
		before, after := (i+n-window)%n, (i+window)%n
		all := true
		for k := -window; k <= window; k++ {
			all = all && counts[(i+n+k)%n]
		}
		if !all {
			continue
		}
		if radius := circumradius(line[before], line[i], line[after]); radius < r.Value {
			r.Value = radius
			r.Where = Place{"margin", p.Model.Table.From(r3.Vec{X: line[i].X, Y: line[i].Y, Z: p.marginHeight(line[i].X, line[i].Y)})}
		}
	}
}

// inFissure reports a place of the table's plane in a fissure too narrow for a bur.
func (p *Prepared) inFissure(q solid.Point2) bool {
	const deep = 0.08 // mm under what a bur rides over
	return p.Model.RiddenHeights().At(q.X, q.Y)-p.Model.TableHeights().At(q.X, q.Y) > deep
}

// facesBur reports that the outer surface at the loop's point nearest q faces
// the bur rather than a neighbour, and is not the margin of a covered cusp, whose
// bevel is waved.
func (l *marginLoop) facesBur(q solid.Point2, up r3.Vec) bool {
	const least = 0.5
	best, faces := math.Inf(1), false
	for n, at := range l.flat.Points {
		if d := (at.X-q.X)*(at.X-q.X) + (at.Y-q.Y)*(at.Y-q.Y); d < best {
			best, faces = d, r3.Dot(l.points[n].Outer, up) > least && l.points[n].Feature != cavity.CuspReduction
		}
	}
	return faces
}

// circumradius of three points; infinite on a line.
func circumradius(a, b, c solid.Point2) float64 {
	ab, bc, ca := math.Hypot(a.X-b.X, a.Y-b.Y), math.Hypot(b.X-c.X, b.Y-c.Y), math.Hypot(c.X-a.X, c.Y-a.Y)
	area2 := math.Abs((b.X-a.X)*(c.Y-a.Y) - (c.X-a.X)*(b.Y-a.Y))
	if area2 < 1e-9 {
		return math.Inf(1)
	}
	return ab * bc * ca / (2 * area2)
}

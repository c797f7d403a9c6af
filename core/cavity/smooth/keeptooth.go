package smooth

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/school"
)

const (
	// gaugeRoom (mm) is proposed past the end of a target, for the cut's own error.
	gaugeRoom = 0.06
	feltApart = 0.2 // mm between places of a wall
)

// keepTooth draws the incisal wall of a Class III gingivally while the angle over it
// stands on too little, and the wall the bur stops at back while too little is left
// behind it: the starting form gives way as far as the caries lets it.
func (r request) keepTooth(d Design) Design {
	const step, rounds = 0.05, 60 // mm
	l, ok := lesionOf[*lesion.Proximal](r)
	if !ok {
		return d
	}
	bridge := r.Criterion(school.AnteriorIncisalBridge).Target.Min + gaugeRoom
	behind := r.Criterion(school.AnteriorFacialTooth).Target.Min + gaugeRoom
	shortest := r.Criterion(school.AnteriorBoxHeight).Target.Min + gaugeRoom
	shallowest := math.Max(r.Criterion(school.AnteriorBoxDepth).Target.Min+gaugeRoom, leastDepth)
	f := r.boxFrame(l)
	top, floor := math.Inf(-1), math.Inf(1)
	for _, p := range append(l.Rim(), l.Deepest()) {
		q := f.To(p)
		top, floor = math.Max(top, q.Y+cavity.RoundedCover), math.Min(floor, q.Z-cavity.RoundedCover)
	}
	for range rounds {
		b, err := r.newBox(d)
		if err != nil {
			return d
		}
		next := d
		if b.top-step >= top && r.overBox(b) < bridge {
			next.IncisalShift -= step / 2
			next.Height -= step
			if next.Height < shortest { // the gingival wall follows
				next.Height += step
				next.IncisalShift -= step / 2
			}
		}
		if b.floor+step <= floor && d.Depth-step >= shallowest && r.behindBox(b) < behind {
			next.Depth -= step
		}
		if next == d {
			break
		}
		d = next
	}
	d.Height, d.IncisalShift, d.Depth = nearest(d.Height), nearest(d.IncisalShift), nearest(d.Depth)
	return d
}

// overBox is the least tooth (mm) over the incisal wall, clear of its own margin.
func (r request) overBox(b *proximalBox) float64 {
	const inside, reach = 0.45, 8.0 // mm
	least := math.Inf(1)
	for z := b.floor; z <= b.surface; z += feltApart {
		for x := b.axialAt(b.top, z); x <= 0; x += feltApart {
			p := b.frame.From(r3.Vec{X: x, Y: b.top, Z: z})
			if r.Model.Surface.Distance(p) > -inside {
				continue
			}
			if t, hit := r.Model.Surface.RootAlong(p, r3.Vec{Z: 1}, 0, reach, feltApart); hit {
				least = math.Min(least, t)
			}
		}
	}
	return least
}

// behindBox is the least tooth (mm) behind the wall that the bur stops at, but for the
// half of it beside the proximal surface.
func (r request) behindBox(b *proximalBox) float64 {
	const share, reach = 0.5, 6.0 // of the wall's width; mm
	least := math.Inf(1)
	for y := b.low + b.radius; y <= b.top-b.radius; y += feltApart {
		axial := b.axialAt(y, b.floor)
		out, ok := r.proximalAt(b.frame, y, b.floor)
		if !ok {
			continue
		}
		for x := axial; x <= axial+share*(out-axial); x += feltApart {
			p := b.frame.From(r3.Vec{X: x, Y: y, Z: b.floor})
			if t, hit := r.Model.Surface.RootAlong(p, r3.Scale(-1, b.frame.W), 0, reach, feltApart); hit {
				least = math.Min(least, t)
			}
		}
	}
	return least
}

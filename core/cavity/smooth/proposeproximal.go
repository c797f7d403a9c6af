package smooth

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/school"
)

// proposeBox lays the box of a Class III about its lesion, from the starting form
// that the school has, and keeps the incisal angle.
func (r request) proposeBox(d *Design) error {
	l, ok := lesionOf[*lesion.Proximal](r)
	if !ok {
		return cavity.ErrOffSmoothSurface
	}
	f := r.boxFrame(l)
	size := r.smaller()
	low, top, floor, in := 0.0, 0.0, 0.0, 0.0
	for _, p := range append(l.Rim(), l.Deepest()) {
		q := f.To(p)
		low, top = math.Min(low, q.Y), math.Max(top, q.Y)
		floor, in = math.Min(floor, q.Z), math.Max(in, -q.X)
	}
	low, top, floor = low-cavity.RoundedCover, top+cavity.RoundedCover, floor-cavity.RoundedCover
	edge := r.incisalAt(f)
	if top > edge-leastIncisalAngle {
		return cavity.ErrNoIncisalAngleLeft
	}
	low = math.Min(low, top-2*burRadius) // no bur cuts a smaller one
	// The starting form is longer than most lesions: it is moved towards gingival,
	// so that the incisal angle over it stands.
	height := math.Max(r.Aim(school.AnteriorBoxHeight)*size, r.Criterion(school.AnteriorBoxHeight).Target.Min+gaugeRoom)
	if spare := height - (top - low); spare > 0 {
		upper := math.Min(top+spare/2, math.Max(top, edge-r.Aim(school.AnteriorIncisalBridge)))
		low, top = low-(spare-(upper-top)), upper
	}
	low = r.clearOfNeighbour(f, low)
	d.Height = nearest(top - low)
	d.IncisalShift = nearest((top + low) / 2)
	d.Width = up(math.Max(r.Aim(school.AnteriorBoxWidth)*size, math.Min(in+cavity.RoundedCover, 2)))
	d.Width = math.Max(d.Width, math.Max(leastWide, up(r.Criterion(school.AnteriorBoxWidth).Target.Min+gaugeRoom)))
	surface, ok := r.entered(f, -d.Width/2, d.IncisalShift)
	if !ok {
		return cavity.ErrOffSmoothSurface
	}
	d.Depth = up(math.Max(r.Aim(school.AnteriorBoxDepth), surface-floor))
	if !r.Bonded() {
		d.GrooveDepth = r.Aim(school.AnteriorGrooves)
		return nil
	}
	if d.Style == cavity.Long {
		d.BevelWidth = r.Aim(school.FinishFeatherWidth)
	} else {
		d.BevelWidth, d.BevelAngle = r.Aim(school.FinishBevelWidth), cavity.UsualBevelAngle
	}
	return nil
}

// clearOfNeighbour lowers the gingival wall until its margin clears the tooth
// beside by what the school asks for; where the embrasure is too narrow for that,
// as far as the furthest it may be lowered for a strip to pass.
func (r request) clearOfNeighbour(f anatomy.Frame, low float64) float64 {
	const step, furthest, margin = 0.05, 1.2, 0.02 // mm; mm; mm for what is cut beside the walls
	aim := r.Aim(school.AnteriorClearanceGingival)
	if r.beside() == nil || aim == 0 {
		return low
	}
	for lowered := 0.0; lowered < furthest; lowered += step {
		if r.clearanceAt(f, low-lowered) >= aim+margin {
			return low - lowered
		}
	}
	return low - furthest
}

// clearanceAt is the least distance (mm) from the proximal surface to the tooth
// beside along a gingival wall at y of a box's frame.
func (r request) clearanceAt(f anatomy.Frame, y float64) float64 {
	const ways, half = 7, 1.2 // mm to either side of the lesion's middle
	nearest := math.Inf(1)
	for n := range ways {
		z := (2*float64(n)/(ways-1) - 1) * half
		out, ok := r.proximalAt(f, y, z)
		if !ok {
			continue
		}
		if mm, near := r.beside().Clearance(f.From(r3.Vec{X: out, Y: y, Z: z})); near {
			nearest = math.Min(nearest, mm)
		}
	}
	return nearest
}

// leastIncisalAngle (mm) is the least tooth over a box that an incisal angle stands
// on: it bears the bite from one side only, unlike a bridge between two cavities
// (texts on Class III: undermined incisal enamel under a millimetre breaks).
const leastIncisalAngle = 0.8

// smaller is the share of the starting form that a tooth smaller than the upper
// central incisor takes.
func (r request) smaller() float64 {
	const whole, least = 8.0, 0.6 // mm of mesiodistal size
	return math.Min(math.Max(r.Model.Sizes.Mesiodistal/whole, least), 1)
}

// incisalAt is how high the incisal edge stands over a box, along V of its frame.
func (r request) incisalAt(f anatomy.Frame) float64 {
	const beside = 1.5 // mm from the proximal surface
	lowest := math.Inf(1)
	for _, p := range r.Model.IncisalEdge {
		q := f.To(p)
		if q.X > -beside && q.X < -0.4 {
			lowest = math.Min(lowest, q.Y)
		}
	}
	if math.IsInf(lowest, 1) {
		return r.Model.Sizes.Height - f.Origin.Z
	}
	return lowest
}

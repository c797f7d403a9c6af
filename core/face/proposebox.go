package face

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
)

// proposeBox lays the box of a Class III about its lesion, from the starting form
// that the school has, and keeps the incisal corner.
func (r Request) proposeBox(d *Design) error {
	l, ok := lesionOf[*lesion.Proximal](r)
	if !ok {
		return ErrOffFace
	}
	f := r.boxFrame(l)
	size := r.smaller()
	low, top, floor, in := 0.0, 0.0, 0.0, 0.0
	for _, p := range append(l.Rim(), l.Deepest()) {
		q := f.To(p)
		low, top = math.Min(low, q.Y), math.Max(top, q.Y)
		floor, in = math.Min(floor, q.Z), math.Max(in, -q.X)
	}
	low, top, floor = low-lesionCover, top+lesionCover, floor-lesionCover
	edge := r.incisalAt(f)
	if top > edge-leastBridge || top-low < 2*burRadius {
		return ErrNoCornerLeft
	}
	// The starting form is longer than most lesions: it is moved towards gingival,
	// so that the corner over it stands.
	if spare := r.aim("anterior.box_height")*size - (top - low); spare > 0 {
		upper := math.Min(top+spare/2, math.Max(top, edge-r.aim("anterior.incisal_bridge")))
		low, top = low-(spare-(upper-top)), upper
	}
	low = r.clearOfNeighbour(f, low)
	d.Height = nearest(top - low)
	d.Rise = nearest((top + low) / 2)
	d.Width = up(math.Max(r.aim("anterior.box_width")*size, math.Min(in+lesionCover, 2)))
	d.Width = math.Max(d.Width, leastWide)
	surface, ok := r.entered(f, -d.Width/2, d.Rise)
	if !ok {
		return ErrOffFace
	}
	d.Depth = up(math.Max(r.aim("anterior.box_depth"), surface-floor))
	if !r.bonded() {
		d.GrooveDepth = r.aim("anterior.grooves")
		return nil
	}
	if d.Style == Long {
		d.BevelWidth = r.aim("finish.feather_width")
	} else {
		d.BevelWidth, d.BevelAngle = r.aim("finish.bevel_width"), usualAngle
	}
	return nil
}

// clearOfNeighbour lowers the gingival wall until its margin clears the tooth
// beside by what the school asks for; where the embrasure is too narrow for that,
// as far as the furthest it may be lowered for a strip to pass.
func (r Request) clearOfNeighbour(f anatomy.Frame, low float64) float64 {
	const step, furthest, margin = 0.05, 1.2, 0.02 // mm; mm; mm for what is cut beside the walls
	aim := r.aim("anterior.clearance_gingival")
	if r.Facing == nil || aim == 0 {
		return low
	}
	for lowered := 0.0; lowered < furthest; lowered += step {
		if r.clearanceAt(f, low-lowered) >= aim+margin {
			return low - lowered
		}
	}
	return low - furthest
}

// clearanceAt is the least distance (mm) from the proximal face to the tooth
// beside along a gingival wall at y of a box's frame.
func (r Request) clearanceAt(f anatomy.Frame, y float64) float64 {
	const ways, half = 7, 1.2 // mm to either side of the lesion's middle
	nearest := math.Inf(1)
	for n := range ways {
		z := (2*float64(n)/(ways-1) - 1) * half
		out, ok := r.proximalAt(f, y, z)
		if !ok {
			continue
		}
		if mm, near := r.Facing.Clearance(f.From(r3.Vec{X: out, Y: y, Z: z})); near {
			nearest = math.Min(nearest, mm)
		}
	}
	return nearest
}

// leastBridge (mm) is the least tooth over a box that an incisal corner stands on.
const leastBridge = 0.8

// smaller is the share of the starting form that a tooth smaller than the upper
// central incisor takes.
func (r Request) smaller() float64 {
	const whole, least = 8.0, 0.6 // mm of mesiodistal size
	return math.Min(math.Max(r.Model.Sizes.Mesiodistal/whole, least), 1)
}

// incisalAt is how high the incisal edge stands over a box, along V of its frame.
func (r Request) incisalAt(f anatomy.Frame) float64 {
	const beside = 1.5 // mm from the proximal face
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

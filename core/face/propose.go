package face

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/solid"
)

// usualAngle (degrees) is the angle of a short bevel to the outer surface
// (operative dentistry convention).
const usualAngle = 45

// Propose derives the dimensions from the school's aims, the lesion and the
// tooth.
func Propose(r Request) (Design, error) {
	d := Design{Site: r.Site, Style: r.style(), LineAngleRadius: r.aim("resist.line_angle_radius")}
	var err error
	switch ClassOf(r.Site) {
	case lesion.ClassIII:
		err = r.proposeBox(&d)
	case lesion.ClassIV:
		err = r.proposeCorner(&d)
	case lesion.ClassV:
		err = r.proposeNeck(&d)
	default:
		err = r.proposePit(&d)
	}
	if err != nil {
		return d, err
	}
	return r.spareThePulp(d)
}

// style is the finish in force: the one asked for, else a short bevel.
func (r Request) style() Style {
	for _, s := range StylesOf(ClassOf(r.Site)) {
		if s == r.Style {
			return s
		}
	}
	if len(StylesOf(ClassOf(r.Site))) == 0 {
		return AnyStyle
	}
	return Short
}

// spareThePulp draws the wall over the pulp back while too little dentin is left
// there: to what the school accepts as met, and then, before the pulp is laid
// open, to what it still accepts.
func (r Request) spareThePulp(d Design) (Design, error) {
	if d.Class() == lesion.ClassIV {
		return d, nil // what has broken off decides
	}
	figure := func(d *Design) *float64 { return &d.Depth }
	own, ground := r.criterion("neck.depth"), leastSunk
	switch d.Class() {
	case lesion.ClassIII:
		figure = func(d *Design) *float64 { return &d.Width }
		own, ground = r.criterion("anterior.box_width"), leastWide
	case lesion.ClassI:
		own = r.criterion("pit.depth")
	default:
		if into := r.criterion("neck.into_dentin").Target.Min; into > 0 {
			l, _ := r.onFace()
			ground = r.thickestEnamel(l.Frame, d) + into
		}
	}
	pulp := r.criterion("resist.pulp_distance")
	d, err := r.drawBack(d, figure, pulp.Target.Min, math.Max(own.Target.Min, ground))
	if err != nil {
		return d, err
	}
	return r.drawBack(d, figure, pulp.Limits.Min, math.Max(own.Limits.Min, leastSunk))
}

// drawBack lowers a figure, to no less than ground, until so much dentin (mm) is
// left over the pulp.
func (r Request) drawBack(d Design, figure func(*Design) *float64, want, ground float64) (Design, error) {
	const step = 0.05 // mm
	for {
		c, err := Build(r, d)
		if err != nil {
			return d, err
		}
		at, lacking := figure(&d), want+pulpAllowance-c.ToPulp(r.Model)
		if *at-step < ground-1e-9 || lacking <= 0 {
			return d, nil
		}
		// What is drawn back comes to the pulp's good, or nearly.
		const share = 0.8
		*at = math.Max(nearest(*at-math.Max(step, share*lacking)), nearest(ground))
	}
}

const (
	leastSunk = 0.5 // mm that any cavity is deep: less holds no filling
	leastWide = 0.9 // mm, a pear and a little: no box is narrower
)

// proposeNeck lays a Class V about its lesion.
func (r Request) proposeNeck(d *Design) error {
	l, ok := r.onFace()
	if !ok {
		return ErrOffFace
	}
	width, height := l.Size()
	top, bottom := height/2+lesionCover, -height/2-lesionCover
	// In view a margin is hidden just under the free gingiva; elsewhere it stays
	// as found, as long as the gingiva is healthy (operative dentistry convention).
	d.Width = up(math.Max(width+2*lesionCover, 2*burRadius))
	d.Height = up(math.Max(top-bottom, 2*burRadius))
	d.Rise = nearest((top + bottom) / 2)
	if r.Visible {
		if over, ok := r.overGingiva(l, *d); ok && over > -hidden {
			bottom -= over + hidden
			d.Height = nearest(top - bottom)
			d.Rise = nearest((top + bottom) / 2)
		}
	}
	d.Depth = up(r.neckDepth(l, *d))
	if r.bonded() {
		d.LineAngleRadius = math.Max(d.LineAngleRadius, nearest(saucerRound*d.Depth))
		d.BevelWidth, d.BevelAngle = r.aim("neck.bevel_width"), longAngle
		return nil
	}
	d.WallOpen = r.aim("neck.wall_open")
	d.GrooveDepth = r.aim("neck.grooves")
	return nil
}

const (
	hidden      = 0.2 // mm that a margin in view lies under the free gingiva
	saucerRound = 0.6 // of the depth: how round a saucer's line angles are
	longAngle   = 30  // degrees of a long bevel to the surface
)

// neckDepth is the axial depth of a Class V: what the school asks for, and past
// the junction by as much.
func (r Request) neckDepth(l *lesion.Face, d Design) float64 {
	depth := math.Max(r.aim("neck.depth"), leastSunk)
	if into := r.aim("neck.into_dentin"); into > 0 {
		depth = math.Max(depth, r.thickestEnamel(l.Frame, d)+into)
	}
	if r.aim("neck.depth") == 0 { // led by the lesion
		_, deepest := l.Frame.Origin, l.Deepest()
		depth = math.Max(depth, r.Model.Skin().Depth(deepest))
	}
	return depth
}

// thickestEnamel under the outline of a design.
func (r Request) thickestEnamel(f anatomy.Frame, d Design) float64 {
	const step, exponent = 0.3, 2.8 // mm; of the broadest outline
	k := pocket{frame: f, skin: r.Model.Skin()}
	thickest := 0.0
	for x := -d.Width / 2; x <= d.Width/2; x += step {
		for y := -d.Height / 2; y <= d.Height/2; y += step {
			if math.Pow(math.Abs(2*x/d.Width), exponent)+math.Pow(math.Abs(2*y/d.Height), exponent) > 1 {
				continue
			}
			foot, _ := k.onFace(x, y+d.Rise)
			thickest = math.Max(thickest, r.Model.Dentin().Distance(foot))
		}
	}
	return thickest
}

// overGingiva is how far (mm) the lower edge of a design's outline stays over the
// free gingival margin, where it comes lowest.
func (r Request) overGingiva(l *lesion.Face, d Design) (mm float64, ok bool) {
	const middle, furthest = 0.25, 1.0 // of the width, to either side, that counts; mm aside
	k := pocket{frame: l.Frame, skin: r.Model.Skin(), line: r.outline(l.Frame, d)}
	gingiva := r.Model.GingivalLine(r.Gingiva)
	mm = math.Inf(1)
	for _, at := range k.line.Points {
		if at.Y > 0 || math.Abs(at.X) > middle*d.Width {
			continue
		}
		foot, _ := k.onFace(at.X, at.Y+d.Rise)
		nearest, level := furthest, 0.0
		for _, p := range gingiva {
			if off := math.Hypot(p.X-foot.X, p.Y-foot.Y); off < nearest {
				nearest, level = off, p.Z
			}
		}
		if nearest < furthest {
			mm, ok = math.Min(mm, foot.Z-level), true
		}
	}
	return mm, ok
}

// proposePit opens a pit of a face.
func (r Request) proposePit(d *Design) error {
	l, ok := r.onFace()
	if !ok {
		return ErrOffFace
	}
	width, height := l.Size()
	d.Width = up(math.Max(width+2*lesionCover, r.aim("pit.width")))
	d.Height = up(math.Max(height+2*lesionCover, r.aim("pit.width")))
	d.Depth = r.aim("pit.depth")
	if d.Depth == 0 {
		d.Depth = up(math.Max(r.Model.Skin().Depth(l.Deepest()), leastSunk))
	}
	if r.bonded() {
		d.BevelWidth, d.BevelAngle = r.aim("retain.bevel_width"), usualAngle
	}
	return nil
}

// proposeBox lays the box of a Class III about its lesion, from the starting form
// that the school has, and keeps the incisal corner.
func (r Request) proposeBox(d *Design) error {
	l, ok := r.lesionAtProximal()
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
// beside by what the school asks for: there the contact is always broken.
func (r Request) clearOfNeighbour(f anatomy.Frame, low float64) float64 {
	const step, furthest, ways = 0.05, 1.5, 5 // mm, mm
	aim := r.aim("anterior.clearance_gingival")
	if r.Facing == nil || aim == 0 {
		return low
	}
	for lowered := 0.0; lowered < furthest; lowered += step {
		nearest := math.Inf(1)
		for n := range ways {
			z := (float64(n)/(ways-1) - 0.5) * 1.6 // mm to either side of the lesion's middle
			out, ok := r.proximalAt(f, low-lowered, z)
			if !ok {
				continue
			}
			if mm, near := r.Facing.Clearance(f.From(r3.Vec{X: out, Y: low - lowered, Z: z})); near {
				nearest = math.Min(nearest, mm)
			}
		}
		if nearest >= aim {
			return low - lowered
		}
	}
	return low
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

// proposeCorner finishes a broken corner.
func (r Request) proposeCorner(d *Design) error {
	lost, ok := r.lostCorner()
	if !ok {
		return ErrOffFace
	}
	const planed, lock = 0.1, 0.4 // mm: no edge stays sharp; half a bur's head
	d.Planed = planed
	if GrooveFits(lost) {
		d.GrooveDepth = r.aim("corner.groove")
	}
	if r.Lock {
		d.LockDepth = lock
	}
	if !r.bonded() {
		return nil
	}
	d.LingualBevel = r.aim("corner.lingual_bevel")
	d.BevelWidth, d.BevelAngle = facialFinish(d.Style, r.Translucent)
	return nil
}

// GrooveFits reports a broken corner that lays so much dentin open that a
// retention groove lies inside the junction all along.
func GrooveFits(lost *lesion.Corner) bool {
	const room = 0.6 // mm
	return lost.IntoDentin() > room
}

// facialFinish is the width (mm) and the angle (degrees) of the facial bevel of a
// broken corner: never the sharp 45 degree line, which shows (operative
// dentistry convention).
func facialFinish(style Style, translucent bool) (width, angle float64) {
	switch {
	case style == Long || style == Scalloped:
		return 2.5, 0
	case style == Translucency && translucent:
		return 2.5, 18
	case style == Translucency:
		return 1.0, 20
	default:
		return 1.0, 30
	}
}

// bevelZones finish the occlusal margin of a cavity at the neck with a long
// bevel, and the whole margin of a pit.
func (k *pocket) bevelZones(r Request, d Design) []zone {
	if d.BevelWidth <= 0 {
		return nil
	}
	whole := func(_, _ r3.Vec) float64 { return 1 }
	if d.Class() != lesion.ClassV {
		return []zone{chamfer(d.BevelWidth, d.BevelAngle, whole)}
	}
	biting := func(foot, _ r3.Vec) float64 {
		q := k.frame.To(foot)
		_, dy := k.outline.slope(q.X, q.Y)
		return solid.Smoothstep(-0.1, 0.6, dy)
	}
	return []zone{chamfer(d.BevelWidth, d.BevelAngle, biting)}
}

package solid

import (
	"cmp"
	"math"
	"slices"
	"sync/atomic"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
)

// Tool is a solid that cuts or clips a workpiece.
type Tool interface {
	// Distance is the signed distance to the tool's surface in millimetres,
	// exact in sign; negative inside. It may understate distances, but hardly
	// ever overstate them (see slack).
	Distance(p r3.Vec) float64
	// Feature names the part of the tool's surface nearest p. It must be at
	// least 1: 0 is the blank itself.
	Feature(p r3.Vec) uint16
	// Bounds holds everything the tool can remove.
	Bounds() Box
}

// Workpiece is a blank with cuts. Cutting returns a new workpiece that shares
// the unchanged bricks, so every earlier state stays valid.
type Workpiece struct {
	*Blank
	tools []shaping
	cut   []*brick // nil where the blank is unchanged
	// known is the surface of this state or of one it was cut from.
	known atomic.Pointer[knownSurface]
}

// knownSurface is the meshed surface of one state.
type knownSurface struct {
	cut   []*brick
	parts []*brickMesh
}

// brick holds the samples of one cube of 8x8x8 lattice points.
type brick struct {
	distance [brickCells]float32
	tool     [brickCells]uint16 // 0 the blank, n the n-th tool
	tools    []uint16           // those that changed a sample
	empty    bool               // air throughout, beyond a clip
}

// shaping is a tool with its sense: -1 removes the tool's inside, +1 keeps only it.
type shaping struct {
	Tool
	sign    float64
	limited limited // the tool, where it is one and is removed
	convex  convex  // the same
}

// limited is a tool that can tell sooner that a place does not matter.
type limited interface {
	// DistanceUnder is the distance where that is less than limit; else it may
	// be any value from limit up to it, found sooner.
	DistanceUnder(p r3.Vec, limit float64) float64
}

// convex is a tool whose distance is a convex function: it lies nowhere below
// its tangents, which spares most samples of a cut.
type convex interface {
	limited
	// Normal is the slope of the distance.
	Normal(p r3.Vec) r3.Vec
}

func newShaping(t Tool, sign float64) shaping {
	s := shaping{Tool: t, sign: sign}
	if sign < 0 {
		s.limited, _ = t.(limited)
		s.convex, _ = t.(convex)
	}
	return s
}

func (s *shaping) distance(p r3.Vec) float64 { return s.sign * s.Distance(p) }

// above is distance where that is more than least; else it is no more either.
func (s *shaping) above(p r3.Vec, least float64) float64 {
	if s.limited != nil {
		return -s.limited.DistanceUnder(p, -least)
	}
	return s.distance(p)
}

// Uncut starts a workpiece.
func (b *Blank) Uncut() *Workpiece {
	return &Workpiece{Blank: b, cut: make([]*brick, b.brickCount())}
}

// Carve removes the inside of the tools.
func (w *Workpiece) Carve(tools ...Tool) *Workpiece { return w.shape(tools, -1) }

// Clip keeps only what lies inside the tool.
func (w *Workpiece) Clip(tool Tool) *Workpiece { return w.shape([]Tool{tool}, +1) }

// mostTools is how many tools one workpiece can tell apart.
const mostTools = math.MaxUint16

func (w *Workpiece) shape(tools []Tool, sign float64) *Workpiece {
	if len(w.tools)+len(tools) > mostTools {
		panic("solid: more tools than labels: join them")
	}
	next := &Workpiece{Blank: w.Blank, tools: slices.Clone(w.tools), cut: slices.Clone(w.cut)}
	next.known.Store(w.known.Load())
	first := len(next.tools)
	for _, t := range tools {
		next.tools = append(next.tools, newShaping(t, sign))
	}
	if sign > 0 { // a clip leaves nothing outside the tool's bounds
		air := w.emptyBrick()
		for n := range next.cut {
			next.cut[n] = air
		}
	}
	bins, order := w.bin(next.tools[first:])
	parallel.Each(len(order), func(n int) {
		at := order[n]
		next.cut[at] = w.shapeBrick(at, next.tools, first, bins[at])
	})
	return next
}

// bin lists, for every brick, the tools (counted from 0) whose bounds touch it.
func (w *Workpiece) bin(tools []shaping) (bins map[int][]uint16, order []int) {
	bins = map[int][]uint16{}
	for n := range tools {
		lo, hi := w.brickRange(tools[n].Bounds())
		for z := lo[2]; z <= hi[2]; z++ {
			for y := lo[1]; y <= hi[1]; y++ {
				for x := lo[0]; x <= hi[0]; x++ {
					at := w.brickIndex(x, y, z)
					if bins[at] == nil {
						order = append(order, at)
					}
					bins[at] = append(bins[at], uint16(n))
				}
			}
		}
	}
	return bins, order
}

// slack allows tools to overstate distances a little when whole blocks are
// passed over.
const slack = 1.15

// shapeBrick returns the brick after the cuts: the old one where nothing changes.
func (w *Workpiece) shapeBrick(at int, tools []shaping, first int, which []uint16) *brick {
	old := w.cut[at]
	if old == nil && w.stored[at] == nil && !w.inside[at] {
		return old // air stays air
	}
	x0, y0, z0 := w.brickOrigin(at)
	half := float64(brickSide-1) / 2 * w.H
	centre := r3.Add(w.Point(x0, y0, z0), r3.Vec{X: half, Y: half, Z: half})
	radius := half * math.Sqrt(3) * slack
	near := make([]candidate, 0, 32)
	for _, t := range which {
		d := tools[first+int(t)].distance(centre)
		// A sample becomes d+radius at the most; no sample is below -far.
		if d > -float64(w.far)-radius {
			near = append(near, candidate{tool: first + int(t), d: d})
		}
	}
	if len(near) > 1 {
		layTangents(near, tools, centre, float64(w.far))
	}
	if len(near) == 0 {
		return old
	}
	out := w.copyBrick(old, at)
	changed := false
	store := make([]candidate, 0, len(near))
	for octant := range 8 {
		i, j, k := octant&1*blockSide, octant>>1&1*blockSide, octant>>2&1*blockSide
		part := w.newBlock(out, (k*brickSide+j)*brickSide+i, w.Point(x0+i, y0+j, z0+k))
		changed = w.cutBlock(part, centre, tools, near, store) || changed
	}
	if !changed {
		return old
	}
	shows := make([]bool, len(tools)+1)
	for _, label := range out.tool {
		shows[label] = true
	}
	for _, c := range near {
		if shows[c.tool+1] {
			out.tools = append(out.tools, uint16(c.tool+1))
		}
	}
	return out
}

// candidate is a tool with its value in the middle of a brick or a block, and
// for convex tools the tangent there.
type candidate struct {
	tool    int
	d       float64
	tangent bool
	slope   r3.Vec
}

// atMost bounds the candidate's value at an offset from the middle.
func (c *candidate) atMost(offset r3.Vec, reach float64) float64 {
	// The turn of an axis leaves a motion not quite convex.
	const allowance = 1e-3 // mm
	if c.tangent {
		return c.d + r3.Dot(c.slope, offset) + allowance
	}
	return c.d + reach
}

// block is a part of a brick whose samples are cut together.
type block struct {
	brick   *brick
	start   int     // of its samples in the brick's
	corner  r3.Vec  // place of the first
	centre  r3.Vec  // of all
	radius  float64 // mm from the centre to the corners
	highest float64 // value that stands for all air
}

func (w *Workpiece) newBlock(b *brick, start int, corner r3.Vec) block {
	const middle = float64(blockSide-1) / 2
	return block{
		brick: b, start: start, corner: corner, centre: r3.Add(corner, r3.Vec{X: middle * w.H, Y: middle * w.H, Z: middle * w.H}),
		radius: middle * w.H * math.Sqrt(3) * slack, highest: float64(w.far),
	}
}

// lowest value of the block's samples.
func (k *block) lowest() float64 {
	lowest := k.highest
	for n := range blockCells {
		lowest = min(lowest, float64(k.brick.distance[k.start+blockAt[n]]))
	}
	return lowest
}

// cutBlock applies the tools that can matter to a block of samples, and reports
// whether a sample changed. store is scratch.
func (w *Workpiece) cutBlock(k block, brickCentre r3.Vec, tools []shaping, near, store []candidate) bool {
	lowest := k.lowest()
	if lowest >= k.highest {
		return false // all air already
	}
	chosen := k.mattering(lowest, brickCentre, tools, near, store)
	if len(chosen) == 0 {
		return false
	}
	if chosen[0].d-k.radius >= k.highest { // the whole block goes
		for n := range blockCells {
			at := k.start + blockAt[n]
			k.brick.distance[at], k.brick.tool[at] = w.far, uint16(chosen[0].tool+1)
		}
		return true
	}
	if len(chosen) > 1 {
		layTangents(chosen, tools, k.centre, k.highest)
	}
	return w.cutSamples(k, chosen, tools)
}

// mattering chooses the tools that can change a sample of the block, the one that
// takes most in its middle first. Within the block a tool differs from its value
// there by radius at the most: those that stay below another's least, or below all
// samples, change nothing.
func (k *block) mattering(lowest float64, brickCentre r3.Vec, tools []shaping, near, store []candidate) []candidate {
	chosen := store[:0]
	best := math.Inf(-1)
	fromBrick := r3.Sub(k.centre, brickCentre)
	away := r3.Norm(fromBrick) * slack
	for i := range near {
		c := &near[i]
		least := max(lowest-k.radius, best-2*k.radius)
		if c.atMost(fromBrick, away) <= least {
			continue
		}
		if d := tools[c.tool].above(k.centre, least); d > least {
			chosen = append(chosen, candidate{tool: c.tool, d: d})
			best = max(best, d)
		}
	}
	slices.SortFunc(chosen, func(a, b candidate) int { return cmp.Compare(b.d, a.d) })
	for n, c := range chosen {
		if c.d <= best-2*k.radius {
			return chosen[:n]
		}
	}
	return chosen
}

// cutSamples takes the tools away from every sample of a block, and reports
// whether one changed.
func (w *Workpiece) cutSamples(k block, chosen []candidate, tools []shaping) (changed bool) {
	// Further from the surface than this only the sign counts.
	enough := (band + 0.5) * w.H
	b := k.brick
	for n := range blockCells {
		at := k.start + blockAt[n]
		before := float64(b.distance[at])
		if before >= k.highest {
			continue
		}
		value, label := before, b.tool[at]
		p := r3.Add(k.corner, r3.Vec{
			X: float64(n%blockSide) * w.H, Y: float64(n/blockSide%blockSide) * w.H, Z: float64(n/(blockSide*blockSide)) * w.H,
		})
		offset, reach := r3.Sub(p, k.centre), blockOffsets[n]*w.H*slack
		for i := range chosen {
			c := &chosen[i]
			if value >= enough {
				break
			}
			least := max(value, -enough)
			if c.atMost(offset, reach) <= least {
				continue
			}
			if d := tools[c.tool].above(p, least); d > least {
				value, label = d, uint16(c.tool+1)
			}
		}
		if value > before {
			b.distance[at], b.tool[at] = float32(min(value, k.highest)), label
			changed = true
		}
	}
	return changed
}

// layTangents gives the candidates that are convex their tangents at p.
func layTangents(candidates []candidate, tools []shaping, p r3.Vec, far float64) {
	for n := range candidates {
		c := &candidates[n]
		if tool := &tools[c.tool]; tool.convex != nil && c.d > -far {
			// The value may have been a bound: the tangent needs its own.
			c.tangent, c.d = true, tool.distance(p)
			c.slope = r3.Scale(-1, tool.convex.Normal(p))
		}
	}
}

const blockCells = blockSide * blockSide * blockSide

// blockAt is where each sample of a block lies, from the block's first one.
var blockAt = func() (at [blockCells]int) {
	for n := range at {
		at[n] = (n/(blockSide*blockSide)*brickSide+n/blockSide%blockSide)*brickSide + n%blockSide
	}
	return at
}()

// blockOffsets is how far each sample of a block lies from its middle, in steps.
var blockOffsets = func() (offsets [blockCells]float64) {
	const middle = float64(blockSide-1) / 2
	for n := range offsets {
		x, y, z := float64(n%blockSide)-middle, float64(n/blockSide%blockSide)-middle, float64(n/(blockSide*blockSide))-middle
		offsets[n] = math.Sqrt(x*x + y*y + z*z)
	}
	return offsets
}()

func (w *Workpiece) copyBrick(old *brick, at int) *brick {
	if old != nil {
		c := *old
		c.tools = slices.Clone(old.tools)
		return &c
	}
	c := &brick{}
	if s := w.stored[at]; s != nil {
		c.distance = *s
		return c
	}
	v := float32(w.uniform(at))
	for n := range c.distance {
		c.distance[n] = v
	}
	return c
}

// emptyBrick is air throughout.
func (b *Blank) emptyBrick() *brick {
	air := &brick{empty: true}
	for n := range air.distance {
		air.distance[n] = b.far
	}
	return air
}

// Distance is the workpiece's field at any point: the blank's samples joined
// with the tools themselves, so that cut edges stay sharp. Clear of the surface,
// where only its sign counts, it is read from the samples.
func (w *Workpiece) Distance(p r3.Vec) float64 {
	if d, ok := w.Clear(p); ok {
		return d
	}
	return w.cutAbove(p, w.Blank.Distance(p))
}

// clearance is how many steps from the surface the samples around a place must
// lie for the place itself to be clear of it, however steep the field.
const clearance = 1.5

// Clear reads the field from the samples about p; ok is false where the surface
// may be near, or the samples lie in several bricks.
func (w *Workpiece) Clear(p r3.Vec) (d float64, ok bool) {
	i, fx := w.cell(p.X-w.Origin.X, 0)
	j, fy := w.cell(p.Y-w.Origin.Y, 1)
	k, fz := w.cell(p.Z-w.Origin.Z, 2)
	if i&7 == 7 || j&7 == 7 || k&7 == 7 {
		return 0, false
	}
	n := w.brickIndex(i>>3, j>>3, k>>3)
	s := w.stored[n]
	if b := w.cut[n]; b != nil {
		s = &b.distance
	}
	if s == nil {
		return w.uniform(n), true
	}
	at := (k&7*brickSide+j&7)*brickSide + i&7
	c := [8]float32{s[at], s[at+1], s[at+8], s[at+9], s[at+64], s[at+65], s[at+72], s[at+73]}
	least, most := c[0], c[0]
	for _, v := range c[1:] {
		least, most = min(least, v), max(most, v)
	}
	if enough := float32(clearance * w.H); least < enough && most > -enough {
		return 0, false
	}
	return lerp(lerp(lerp(float64(c[0]), float64(c[1]), fx), lerp(float64(c[2]), float64(c[3]), fx), fy),
		lerp(lerp(float64(c[4]), float64(c[5]), fx), lerp(float64(c[6]), float64(c[7]), fx), fy), fz), true
}

// CutDistance is the field of what the tools have left, whether or not there
// was any solid: positive where they cut. Away from their surfaces it may be
// minus infinity.
func (w *Workpiece) CutDistance(p r3.Vec) float64 { return w.cutAbove(p, math.Inf(-1)) }

// cutAbove is CutDistance where that is more than d, else d: most tools need not be looked
// at closely then.
func (w *Workpiece) cutAbove(p r3.Vec, d float64) float64 {
	i, _ := w.cell(p.X-w.Origin.X, 0)
	j, _ := w.cell(p.Y-w.Origin.Y, 1)
	k, _ := w.cell(p.Z-w.Origin.Z, 2)
	// The cell of p can reach into the next brick along each axis.
	for z := k >> 3; z <= (k+1)>>3; z++ {
		for y := j >> 3; y <= (j+1)>>3; y++ {
			for x := i >> 3; x <= (i+1)>>3; x++ {
				if x >= w.bricks[0] || y >= w.bricks[1] || z >= w.bricks[2] {
					continue
				}
				c := w.cut[w.brickIndex(x, y, z)]
				if c == nil {
					continue
				}
				if c.empty {
					return max(d, float64(w.far))
				}
				for _, t := range c.tools {
					d = max(d, w.tools[t-1].above(p, d))
				}
			}
		}
	}
	return d
}

// Feature names the tool's part that made the surface nearest p; 0 where it is
// the blank's own.
func (w *Workpiece) Feature(p r3.Vec) uint16 {
	feature, most := uint16(0), w.Blank.Distance(p)
	i, _ := w.cell(p.X-w.Origin.X, 0)
	j, _ := w.cell(p.Y-w.Origin.Y, 1)
	k, _ := w.cell(p.Z-w.Origin.Z, 2)
	for z := k >> 3; z <= min((k+1)>>3, w.bricks[2]-1); z++ {
		for y := j >> 3; y <= min((j+1)>>3, w.bricks[1]-1); y++ {
			for x := i >> 3; x <= min((i+1)>>3, w.bricks[0]-1); x++ {
				c := w.cut[w.brickIndex(x, y, z)]
				if c == nil {
					continue
				}
				for _, t := range c.tools {
					if d := w.tools[t-1].above(p, most); d > most {
						feature, most = w.tools[t-1].Feature(p), d
					}
				}
			}
		}
	}
	return feature
}

// sample reads lattice point (i,j,k) and which tool made it.
func (w *Workpiece) sample(i, j, k int) (float32, uint16) {
	bx, by, bz := i>>3, j>>3, k>>3
	if bx < w.bricks[0] && by < w.bricks[1] && bz < w.bricks[2] {
		if b := w.cut[w.brickIndex(bx, by, bz)]; b != nil {
			n := (k&7*brickSide+j&7)*brickSide + i&7
			return b.distance[n], b.tool[n]
		}
	}
	return w.value(i, j, k), 0
}

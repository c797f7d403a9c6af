package solid

import (
	"math"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"
)

// Dual contouring: one vertex per surface sheet in each cell, placed where the
// planes at the cell's edge crossings meet, so that line angles stay sharp.
// Crossings on cut surfaces are found on the tool itself, not on its samples.

// brickMesh is the part of the surface that belongs to one brick: vertices of
// its cells, and a quad for each crossed lattice edge that starts in it.
type brickMesh struct {
	vertices []meshVertex
	first    [brickCells]int16 // first vertex of each cell, -1 where none
	pattern  [brickCells]uint8 // solid corners of each cell
	edges    []crossedEdge
}

type meshVertex struct {
	p       r3.Vec
	feature bool // normals at its crossings differ by more than 20 degrees
}

type crossedEdge struct {
	cell    uint16 // lattice point where the edge starts, within the brick
	axis    uint8
	outward bool // the edge runs from solid to air
	label   uint16
}

type crossing struct {
	p, normal r3.Vec
	tool      uint16
}

const featureCosine = 0.94 // 20 degrees

// meshBrick contours one brick of the workpiece; nil where no surface passes.
func (w *Workpiece) meshBrick(n int) *brickMesh {
	bx := n % w.bricks[0]
	by := n / w.bricks[0] % w.bricks[1]
	bz := n / (w.bricks[0] * w.bricks[1])
	b := samplesPool.Get().(*brickSamples)
	defer samplesPool.Put(b)
	if !b.gather(w, bx*brickSide, by*brickSide, bz*brickSide) {
		return nil
	}
	mesh := &brickMesh{}
	cell := 0
	for k := range brickSide {
		for j := range brickSide {
			for i := range brickSide {
				mesh.first[cell] = -1
				mesh.pattern[cell] = b.patternAt(i, j, k)
				if p := mesh.pattern[cell]; p != 0 && p != 255 {
					mesh.first[cell] = int16(len(mesh.vertices))
					mesh.addCell(b, i, j, k, cell)
				}
				cell++
			}
		}
	}
	if len(mesh.vertices) == 0 && len(mesh.edges) == 0 {
		return nil
	}
	return mesh
}

func (m *brickMesh) addCell(b *brickSamples, i, j, k, cell int) {
	config := &cellConfigs[m.pattern[cell]]
	var store [4][12]crossing
	var sheets [4][]crossing
	for s := range config.sheets {
		sheets[s] = store[s][:0]
	}
	for e, ends := range cellEdges {
		sheet := config.sheet[e]
		if sheet < 0 {
			continue
		}
		c := b.crossingOf(i, j, k, e)
		sheets[sheet] = append(sheets[sheet], c)
		if ends[0] == 0 { // the three edges that start at the cell's own corner
			label := uint16(0)
			if c.tool > 0 {
				label = b.w.tools[c.tool-1].Feature(c.p)
			}
			m.edges = append(m.edges, crossedEdge{cell: uint16(cell), axis: uint8(e / 4), outward: m.pattern[cell]&1 == 1, label: label})
		}
	}
	low := b.point(i, j, k)
	for s := range config.sheets {
		m.vertices = append(m.vertices, placeVertex(b.w, sheets[s], low))
	}
}

// placeVertex minimises the distance to the planes at the crossings, drawn
// lightly to their centre, inside the cell.
func placeVertex(w *Workpiece, at []crossing, low r3.Vec) meshVertex {
	var centre r3.Vec
	for _, c := range at {
		centre = r3.Add(centre, c.p)
	}
	centre = r3.Scale(1/float64(len(at)), centre)

	const pull = 0.01 // weight of the centre, per crossing
	lambda := pull * float64(len(at))
	xx, yy, zz := lambda, lambda, lambda
	var xy, xz, yz float64
	var rhs r3.Vec
	feature, cutHere := false, false
	for _, c := range at {
		n := c.normal
		xx, yy, zz = xx+n.X*n.X, yy+n.Y*n.Y, zz+n.Z*n.Z
		xy, xz, yz = xy+n.X*n.Y, xz+n.X*n.Z, yz+n.Y*n.Z
		rhs = r3.Add(rhs, r3.Scale(r3.Dot(n, r3.Sub(c.p, centre)), n))
		feature = feature || r3.Dot(n, at[0].normal) < featureCosine
		cutHere = cutHere || c.tool != at[0].tool
	}
	p := r3.Add(centre, solveSymmetric(xx, yy, zz, xy, xz, yz, rhs))
	h := w.H
	p.X = min(max(p.X, low.X), low.X+h)
	p.Y = min(max(p.Y, low.Y), low.Y+h)
	p.Z = min(max(p.Z, low.Z), low.Z+h)
	if (feature || cutHere) && math.Abs(w.Distance(centre)) < math.Abs(w.Distance(p)) {
		p = centre
	}
	return meshVertex{p: p, feature: feature || cutHere}
}

// solveSymmetric solves the 3x3 positive definite system by Cramer's rule.
func solveSymmetric(xx, yy, zz, xy, xz, yz float64, b r3.Vec) r3.Vec {
	cx, cy, cz := yy*zz-yz*yz, xz*yz-xy*zz, xy*yz-xz*yy
	det := xx*cx + xy*cy + xz*cz
	if math.Abs(det) < 1e-300 {
		return r3.Vec{}
	}
	ey, ez, fz := xx*zz-xz*xz, xy*xz-xx*yz, xx*yy-xy*xy
	return r3.Scale(1/det, r3.Vec{
		X: cx*b.X + cy*b.Y + cz*b.Z,
		Y: cy*b.X + ey*b.Y + ez*b.Z,
		Z: cz*b.X + ez*b.Y + fz*b.Z,
	})
}

// brickSamples is a brick's lattice with the next layer on the far sides.
type brickSamples struct {
	w          *Workpiece
	x0, y0, z0 int
	distance   [sampleCount]float32
	tool       [sampleCount]uint16
	// Each lattice edge is shared by up to four cells: its crossing is found
	// once. found holds one more than its place in crossings, 0 where none yet.
	found     [3 * sampleCount]uint16
	crossings []crossing
}

const (
	sampleSide  = brickSide + 1
	sampleCount = sampleSide * sampleSide * sampleSide
)

var samplesPool = sync.Pool{New: func() any { return new(brickSamples) }}

// gather reads a brick's samples and reports whether a surface passes.
func (b *brickSamples) gather(w *Workpiece, x0, y0, z0 int) bool {
	b.w, b.x0, b.y0, b.z0 = w, x0, y0, z0
	b.found, b.crossings = [3 * sampleCount]uint16{}, b.crossings[:0]
	own, stored := w.brickData(x0/brickSide, y0/brickSide, z0/brickSide)
	n := 0
	for k := range sampleSide {
		for j := range sampleSide {
			i := 0
			if k < brickSide && j < brickSide { // a row of the brick's own samples
				row := (k*brickSide + j) * brickSide
				switch {
				case own != nil:
					copy(b.distance[n:], own.distance[row:row+brickSide])
					copy(b.tool[n:], own.tool[row:row+brickSide])
					i = brickSide
				case stored != nil:
					copy(b.distance[n:], stored[row:row+brickSide])
					clear(b.tool[n : n+brickSide])
					i = brickSide
				}
			}
			for ; i < sampleSide; i++ {
				b.distance[n+i], b.tool[n+i] = w.sample(x0+i, y0+j, z0+k)
			}
			n += sampleSide
		}
	}
	solid, air := false, false
	for _, d := range b.distance {
		if d < 0 {
			solid = true
		} else {
			air = true
		}
	}
	return solid && air
}

// brickData is a brick's cut samples, or the blank's where it is uncut; both
// nil where neither holds any.
func (w *Workpiece) brickData(x, y, z int) (*brick, *[brickCells]float32) {
	n := w.brickIndex(x, y, z)
	return w.cut[n], w.stored[n]
}

func (b *brickSamples) patternAt(i, j, k int) (pattern uint8) {
	for c := range 8 {
		if b.distance[sampleAt(i, j, k, c)] < 0 {
			pattern |= 1 << c
		}
	}
	return pattern
}

func (b *brickSamples) point(i, j, k int) r3.Vec { return b.w.Point(b.x0+i, b.y0+j, b.z0+k) }

// crossingOf is the crossing on edge e of a cell, found once for all its cells.
func (b *brickSamples) crossingOf(i, j, k, e int) crossing {
	ends := cellEdges[e]
	at := &b.found[e/4*sampleCount+sampleAt(i, j, k, ends[0])]
	if *at == 0 {
		b.crossings = append(b.crossings, b.crossing(i, j, k, ends))
		*at = uint16(len(b.crossings))
	}
	return b.crossings[*at-1]
}

// crossing finds the surface on the edge between two corners of a cell.
func (b *brickSamples) crossing(i, j, k int, ends [2]int) crossing {
	na, nb := sampleAt(i, j, k, ends[0]), sampleAt(i, j, k, ends[1])
	pa, pb := b.corner(i, j, k, ends[0]), b.corner(i, j, k, ends[1])
	da, db := float64(b.distance[na]), float64(b.distance[nb])
	if da >= 0 { // from solid to air
		na, nb, pa, pb, da, db = nb, na, pb, pa, db, da
	}
	// The first surface met on the way out of the solid bounds it there.
	best, winner := 2.0, uint16(0)
	for _, tool := range [2]uint16{b.tool[na], b.tool[nb]} {
		if best <= 1 && tool == winner {
			continue
		}
		known := [2]float64{math.NaN(), math.NaN()}
		if b.tool[na] == tool {
			known[0] = da
		}
		if b.tool[nb] == tool {
			known[1] = db
		}
		if t, ok := b.w.exit(tool, pa, pb, known); ok && t < best {
			best, winner = t, tool
		}
	}
	if best > 1 { // no primitive alone changes sign here: trust the samples
		best, winner = da/(da-db), b.tool[nb]
	}
	p := r3.Add(pa, r3.Scale(best, r3.Sub(pb, pa)))
	c := crossing{p: p, tool: winner}
	if winner == 0 {
		c.normal = b.blankNormal(i, j, k, ends, p)
	} else {
		c.normal = b.w.toolNormal(winner, p)
	}
	return c
}

// blankNormal is the blank's normal at a crossing, between those of the edge's ends.
func (b *brickSamples) blankNormal(i, j, k int, ends [2]int, p r3.Vec) r3.Vec {
	at := func(c int) r3.Vec {
		return b.w.latticeGradient(b.x0+i+c&1, b.y0+j+c>>1&1, b.z0+k+c>>2&1)
	}
	t := r3.Norm(r3.Sub(p, b.corner(i, j, k, ends[0]))) / b.w.H
	return unitOrUp(r3.Add(r3.Scale(1-t, at(ends[0])), r3.Scale(t, at(ends[1]))))
}

func (b *brickSamples) corner(i, j, k, c int) r3.Vec {
	return b.point(i+c&1, j+c>>1&1, k+c>>2&1)
}

func sampleAt(i, j, k, c int) int {
	return ((k+c>>2&1)*sampleSide+j+c>>1&1)*sampleSide + i + c&1
}

// primitive is the field of the blank (0) or of one tool in its sense.
func (w *Workpiece) primitive(tool uint16, p r3.Vec) float64 {
	if tool == 0 {
		return w.Blank.Distance(p)
	}
	return w.tools[tool-1].distance(p)
}

// exit finds t in [0,1] where the primitive turns from negative to positive
// between pa and pb, by regula falsi with the usual halving of a stuck end.
// known holds the values at the ends where they are at hand, else NaN.
func (w *Workpiece) exit(tool uint16, pa, pb r3.Vec, known [2]float64) (float64, bool) {
	fa, fb := known[0], known[1]
	if math.IsNaN(fa) {
		fa = w.primitive(tool, pa)
	}
	if math.IsNaN(fb) {
		fb = w.primitive(tool, pb)
	}
	if fa >= 0 || fb < 0 {
		return 0, false
	}
	if tool == 0 { // trilinear samples are linear along a lattice edge
		return fa / (fa - fb), true
	}
	a, b := 0.0, 1.0
	t, side := 0.0, 0
	for range 12 {
		t = a + (b-a)*fa/(fa-fb)
		f := w.primitive(tool, r3.Add(pa, r3.Scale(t, r3.Sub(pb, pa))))
		if math.Abs(f) < 1e-4 { // a tenth of a micrometre
			break
		}
		if f < 0 {
			a, fa = t, f
			if side == -1 {
				fb /= 2
			}
			side = -1
		} else {
			b, fb = t, f
			if side == 1 {
				fa /= 2
			}
			side = 1
		}
	}
	return t, true
}

// toolNormal is a tool's normal at p, in its sense: as the tool gives it, or
// from four samples at the corners of a small tetrahedron.
func (w *Workpiece) toolNormal(tool uint16, p r3.Vec) r3.Vec {
	if known, ok := w.tools[tool-1].Tool.(interface{ Normal(r3.Vec) r3.Vec }); ok {
		return unitOrUp(r3.Scale(w.tools[tool-1].sign, known.Normal(p)))
	}
	const d = 1e-3 // mm
	var g r3.Vec
	for _, k := range [4]r3.Vec{{X: 1, Y: -1, Z: -1}, {X: -1, Y: -1, Z: 1}, {X: -1, Y: 1, Z: -1}, {X: 1, Y: 1, Z: 1}} {
		g = r3.Add(g, r3.Scale(w.primitive(tool, r3.Add(p, r3.Scale(d, k))), k))
	}
	return unitOrUp(g)
}

func unitOrUp(g r3.Vec) r3.Vec {
	if length := r3.Norm(g); length > 1e-12 {
		return r3.Scale(1/length, g)
	}
	return r3.Vec{Z: 1}
}

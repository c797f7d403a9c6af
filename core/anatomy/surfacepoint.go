package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Names of the pits that lie off the occlusal surface.
const (
	BuccalPit  = "buccal pit"
	LingualPit = "lingual pit"
)

// smoothSurfacePits lists where the grooves of the buccal and lingual surfaces end in a pit,
// and the pit over the cingulum of upper incisors.
func (c *crown) smoothSurfacePits() []string {
	var names []string
	for _, o := range c.OuterGrooves {
		switch {
		case o.EndPit > 0 && o.Side == "B":
			names = append(names, BuccalPit)
		case o.EndPit > 0 && o.Side == "L":
			names = append(names, LingualPit)
		}
	}
	if c.hasCingulumPit() {
		names = append(names, LingualPit)
	}
	return names
}

// hasCingulumPit: where fossa and cingulum of upper permanent incisors meet,
// enamel may not have closed (dental anatomy).
func (c *crown) hasCingulumPit() bool {
	return c.Upper && c.Anterior && !c.Primary && c.EdgeSlopeMesial == 0
}

// FacePit is where a pit off the occlusal surface lies; ok is false where the
// tooth has none of that name.
func (m *Model) FacePit(name string) (at r3.Vec, ok bool) {
	c := m.shape.c
	dir, side := r3.Vec{Y: 1}, "B"
	if name == LingualPit {
		dir, side = r3.Vec{Y: -1}, "L"
	}
	if side == "L" && c.hasCingulumPit() {
		return m.onAxialSurface(dir, 0, (m.Cingulum.Z+m.LingualFossa.Z)/2)
	}
	for _, o := range c.OuterGrooves {
		if o.EndPit > 0 && o.Side == side {
			end := o.Points[len(o.Points)-1]
			over := m.shape.lean.leaning(r3.Vec{X: c.x(end[0]), Y: dir.Y * 0.4 * c.Buccolingual, Z: end[1] * c.Height})
			return m.onAxialSurface(dir, -dir.Y*over.X, over.Z)
		}
	}
	return at, false
}

// OverCervicalLine is the place in the middle of the facial or lingual surface so far (mm)
// above the CEJ; negative is on the root.
func (m *Model) OverCervicalLine(facial bool, mm float64) (at r3.Vec, ok bool) {
	dir := r3.Vec{Y: 1}
	if !facial {
		dir.Y = -1
	}
	return m.onAxialSurface(dir, 0, enamelCover{m.shape.c}.cervicalLine(0, dir.Y)+mm)
}

// IncisalAngle is the mesial (+1) or distal (-1) angle of an incisal edge: how far the
// crown reaches on that side, and how high the edge stands at the incisal angle.
func (m *Model) IncisalAngle(sign float64) (reach, height float64) {
	const turned = 0.8 // of the reach, where the edge turns down to the proximal surface
	contact := m.MesialContact
	if sign < 0 {
		contact = m.DistalContact
	}
	return contact.At.X, m.EdgeHeight(turned * contact.At.X)
}

// EdgeHeight is how high the incisal edge stands at x.
func (m *Model) EdgeHeight(x float64) float64 { return m.EdgeAt(x).Z }

// EdgeAt is the place of the incisal edge at x; beyond its ends, their own.
func (m *Model) EdgeAt(x float64) r3.Vec {
	nearest, at := math.Inf(1), r3.Vec{}
	for n, p := range m.IncisalEdge {
		if d := math.Abs(p.X - x); d < nearest {
			nearest, at = d, p
		}
		if n == 0 {
			continue
		}
		if q := m.IncisalEdge[n-1]; (q.X-x)*(p.X-x) < 0 {
			return r3.Add(q, r3.Scale((x-q.X)/(p.X-q.X), r3.Sub(p, q)))
		}
	}
	return at
}

// OnProximal is the place of the mesial (+1) or distal (-1) surface at a height,
// y mm towards facial; ok is false beside the crown.
func (m *Model) OnProximal(sign, y, z float64) (at r3.Vec, ok bool) {
	return m.onAxialSurface(r3.Vec{X: sign}, sign*y, z)
}

// OnSide is the place of the facial (+1) or lingual (-1) surface at a height, x mm
// towards mesial; ok is false beside the crown.
func (m *Model) OnSide(facial, x, z float64) (at r3.Vec, ok bool) {
	return m.onAxialSurface(r3.Vec{Y: facial}, -facial*x, z)
}

// FrameAt is a frame on the surface at a place of it: W out of the tooth, V as
// far towards the biting side as the surface allows, and U along it towards
// mesial, or towards facial on proximal surfaces. It is not always right-handed.
func (m *Model) FrameAt(at r3.Vec) Frame {
	_, out, _ := m.OuterSurface().Over(at)
	return frameOut(at, out)
}

func frameOut(at, out r3.Vec) Frame {
	rise := r3.Sub(r3.Vec{Z: 1}, r3.Scale(out.Z, out))
	const level = 1e-6
	if r3.Norm(rise) < level { // a surface that lies level has no way up: facial stands for it
		rise = r3.Vec{Y: 1}
	}
	up := r3.Unit(rise)
	along := r3.Cross(out, up)
	if math.Abs(along.X) >= math.Abs(along.Y) && along.X < 0 || math.Abs(along.X) < math.Abs(along.Y) && along.Y < 0 {
		along = r3.Scale(-1, along)
	}
	return Frame{Origin: at, U: along, V: up, W: out}
}

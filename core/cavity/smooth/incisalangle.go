package smooth

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/solid"
)

// incisalAngle is the cavity of a Class IV: what has broken off, and a little more
// where the fracture surface is reduced.
type incisalAngle struct {
	lost    *lesion.IncisalAngle
	reduced float64
}

func (k *incisalAngle) distance(at *cavity.Place) float64 { return -k.lost.Beyond(at.P) - k.reduced }

func (k *incisalAngle) walls(at *cavity.Place) float64 { return k.distance(at) }

func (k *incisalAngle) Over(foot, _ r3.Vec) float64 { return -k.lost.Beyond(foot) - k.reduced }

func (k *incisalAngle) feature(*cavity.Place) uint16 { return cavity.FractureSurface }

func (k *incisalAngle) bounds() solid.Box {
	b := k.lost.Bounds()
	const around = 0.6 // mm
	grow := r3.Vec{X: around + k.reduced, Y: around, Z: around + k.reduced}
	return solid.Box{Min: r3.Sub(b.Min, grow), Max: r3.Add(b.Max, grow)}
}

func (k *incisalAngle) toPulp(*solid.Dense) float64 { return k.lost.ToPulp() - k.reduced }

// buildCorner makes the body of a Class IV.
func (c *Solid) buildCorner(r request, d Design) error {
	lost, ok := lesionOf[*lesion.IncisalAngle](r)
	if !ok {
		return cavity.ErrOffSmoothSurface
	}
	k := &incisalAngle{lost: lost, reduced: d.FractureReduction}
	c.body = k
	rise := r3.Vec{X: -lost.Normal.Z, Z: lost.Normal.X}
	if rise.Z < 0 {
		rise = r3.Scale(-1, rise)
	}
	c.Frame = anatomy.Frame{Origin: lost.At, U: r3.Vec{Y: 1}, V: rise, W: lost.Normal}
	if d.GrooveDepth > 0 {
		if g, ok := k.gingivalGroove(r, d, c.Frame); ok {
			c.grooves = append(c.grooves, g)
		}
	}
	if d.LockDepth > 0 {
		c.lock = r.lingualLock(d, lost, c.outer)
	}
	c.bevel = r.newBevel(incisalAngleZones(d, rise)...)
	return nil
}

// incisalAngleZones finish the two faces of a broken incisal angle: a functional bevel on the
// lingual one, and on the facial one what the style asks for.
func incisalAngleZones(d Design, along r3.Vec) []cavity.Zone {
	facing := func(sign float64) func(foot, normal r3.Vec) float64 {
		return func(_, normal r3.Vec) float64 { return solid.Smoothstep(-0.3, 0.3, sign*normal.Y) }
	}
	var zones []cavity.Zone
	if d.BevelWidth > 0 {
		outer := cavity.Chamfer(d.BevelWidth, d.BevelAngle, facing(+1))
		if d.Feathered() {
			outer = cavity.Feather(d.BevelWidth, facing(+1))
		}
		if d.Style == cavity.Scalloped {
			outer = cavity.ScallopedZone(outer, along)
		}
		zones = append(zones, outer)
	}
	if d.LingualBevel > 0 {
		zones = append(zones, cavity.Chamfer(d.LingualBevel, cavity.UsualBevelAngle, facing(-1)))
	}
	return zones
}

// gingivalGroove runs in dentin just inside the junction along the gingival part
// of the fracture surface; ok is false where no dentin is laid open.
func (k *incisalAngle) gingivalGroove(r request, d Design, f anatomy.Frame) (groove, bool) {
	const step, part, inside = 0.08, 0.45, 0.2 // mm; share of the surface's height; mm from the junction
	far := math.Hypot(k.lost.Height, k.lost.Width)/2 + 0.8
	face := r3.Scale(-k.reduced, k.lost.Normal)
	at := func(x, y float64) r3.Vec { return r3.Add(f.From(r3.Vec{X: x, Y: y}), face) }
	sheet := solid.NewSheet(-far, -far, far, far, step).Fill(func(x, y float64) float64 {
		return r.Model.Dentin().Distance(at(x, y)) + inside + grooveBur
	})
	line, ok := solid.Largest(sheet.Contours(0))
	if !ok {
		return groove{}, false
	}
	low, high := math.Inf(1), math.Inf(-1)
	for _, p := range line.Points {
		low, high = math.Min(low, p.Y), math.Max(high, p.Y)
	}
	g := groove{radius: grooveBur}
	for _, p := range turnedToTop(line.Points) {
		if p.Y < low+part*(high-low) {
			g.line = append(g.line, r3.Add(at(p.X, p.Y), r3.Scale(grooveBur-d.GrooveDepth, k.lost.Normal)))
		}
	}
	return g, len(g.line) > 1
}

// turnedToTop starts a closed line at its highest point, so that its lower part
// runs in one piece.
func turnedToTop(points []solid.Point2) []solid.Point2 {
	top := 0
	for n, p := range points {
		if p.Y > points[top].Y {
			top = n
		}
	}
	return append(append([]solid.Point2{}, points[top:]...), points[:top]...)
}

// lingualLock is a shallow dovetail in the lingual surface beside a broken incisal angle:
// a neck that leaves the fracture surface and a wider end.
func (r request) lingualLock(d Design, lost *lesion.IncisalAngle, outer *anatomy.OuterSurface) *pocket {
	const isthmus, tail, length, past = 0.5, 0.9, 2.2, 0.5 // mm: half widths, length, and past the fracture surface
	inward := r3.Scale(-1, lost.Normal)
	edge := r3.Add(lost.At, r3.Scale(d.FractureReduction, inward))
	at, ok := r.Model.OnSide(-1, edge.X+inward.X*length/2, edge.Z+inward.Z*length/2)
	if !ok {
		return nil
	}
	frame := r.Model.FrameAt(at)
	axis := solid.Point2{X: r3.Dot(inward, frame.U), Y: r3.Dot(inward, frame.V)}
	size := math.Hypot(axis.X, axis.Y)
	axis.X, axis.Y = axis.X/size, axis.Y/size
	q := frame.To(edge)
	start := solid.Point2{X: q.X, Y: q.Y}
	line := solid.Polyline{Closed: true}
	for _, c := range [][2]float64{{-past, -isthmus}, {0.45 * length, -isthmus}, {0.7 * length, -tail}, {length - 0.2, -tail}, {length, -tail + 0.3}, {length, tail - 0.3}, {length - 0.2, tail}, {0.7 * length, tail}, {0.45 * length, isthmus}, {-past, isthmus}} {
		line.Points = append(line.Points, solid.Point2{X: start.X + c[0]*axis.X - c[1]*axis.Y, Y: start.Y + c[0]*axis.Y + c[1]*axis.X})
	}
	k := newPocket(outer, frame, line, 1)
	const round = 0.15 // mm, of its line angles
	k.depth, k.radius = d.LockDepth, round
	return k
}

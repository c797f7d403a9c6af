package prep

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

const (
	outlineStep = 0.05 // mm between samples of the outline's field
	contourStep = 0.03 // mm between points of the outline
	outlineFlow = 0.5  // mm over which parts of the outline flow together
)

// stroke is a chain of points drawn with a round pen.
type stroke struct {
	points []solid.Point2
	half   float64
}

func (s stroke) distance(x, y float64) float64 {
	best := math.Inf(1)
	for n := range s.points {
		a, b := s.points[n], s.points[min(n+1, len(s.points)-1)]
		dx, dy := b.X-a.X, b.Y-a.Y
		t := 0.0
		if l2 := dx*dx + dy*dy; l2 > 0 {
			t = math.Min(math.Max(((x-a.X)*dx+(y-a.Y)*dy)/l2, 0), 1)
		}
		best = math.Min(best, math.Hypot(x-a.X-t*dx, y-a.Y-t*dy))
	}
	return best - s.half
}

// outline is the preparation's plan form: a signed distance in the occlusal
// table's plane and the lean of the wall at the nearest outline point.
type outline struct {
	distance *solid.Sheet // mm, negative inside
	lean     *solid.Sheet // degrees, positive leaning in (converging occlusally)
}

// newOutline flows the strokes together and measures from the smooth result.
func newOutline(strokes []stroke, leanAt func(p, normal solid.Point2) float64) outline {
	low, high := solid.Point2{X: math.Inf(1), Y: math.Inf(1)}, solid.Point2{X: math.Inf(-1), Y: math.Inf(-1)}
	const around = 1.2 // mm of field kept outside the outline
	for _, s := range strokes {
		for _, p := range s.points {
			low.X, low.Y = math.Min(low.X, p.X-s.half), math.Min(low.Y, p.Y-s.half)
			high.X, high.Y = math.Max(high.X, p.X+s.half), math.Max(high.Y, p.Y+s.half)
		}
	}
	field := solid.NewSheet(low.X-around, low.Y-around, high.X+around, high.Y+around, outlineStep).Fill(func(x, y float64) float64 {
		d := strokes[0].distance(x, y)
		for _, s := range strokes[1:] {
			d = solid.SmoothMin(d, s.distance(x, y), outlineFlow)
		}
		return d
	})
	var edge []edgePoint
	for _, line := range field.Contours(0) {
		if line.Closed && len(line.Points) > 8 {
			edge = append(edge, edgePoints(line.Resample(contourStep))...)
		}
	}
	for n := range edge {
		edge[n].lean = leanAt(edge[n].p, edge[n].normal)
	}
	return measureFrom(field, edge)
}

// edgePoint is a point of the outline with its outward normal and the step to
// the next point.
type edgePoint struct {
	p, normal, step solid.Point2
	lean            float64
}

func edgePoints(line solid.Polyline) []edgePoint {
	n := len(line.Points)
	points := make([]edgePoint, n)
	for i := range line.Points {
		prev, here, next := line.Points[(i+n-1)%n], line.Points[i], line.Points[(i+1)%n]
		tx, ty := next.X-prev.X, next.Y-prev.Y
		length := math.Hypot(tx, ty)
		// The inside lies on the left of the walk.
		points[i] = edgePoint{p: here, normal: solid.Point2{X: ty / length, Y: -tx / length}, step: solid.Point2{X: next.X - here.X, Y: next.Y - here.Y}}
	}
	return points
}

// measureFrom carries the nearest edge point across the sheet and measures
// the exact distance to the edge there; the sign is that of the field.
func measureFrom(field *solid.Sheet, edge []edgePoint) outline {
	o := outline{distance: field.Like(), lean: field.Like()}
	nx, ny := field.NX, field.NY
	nearest := make([]int32, nx*ny)
	best := make([]float64, nx*ny)
	for n := range nearest {
		nearest[n], best[n] = -1, math.Inf(1)
	}
	offer := func(i, j int, candidate int32) {
		if candidate < 0 {
			return
		}
		x, y := field.X0+float64(i)*field.H, field.Y0+float64(j)*field.H
		e := edge[candidate].p
		if d := (x-e.X)*(x-e.X) + (y-e.Y)*(y-e.Y); d < best[j*nx+i] {
			best[j*nx+i], nearest[j*nx+i] = d, candidate
		}
	}
	for n, e := range edge {
		i, j := int((e.p.X-field.X0)/field.H), int((e.p.Y-field.Y0)/field.H)
		for c := range 4 {
			offer(min(i+c&1, nx-1), min(j+c>>1, ny-1), int32(n))
		}
	}
	for pass := range 4 {
		for jj := range ny {
			for ii := range nx {
				i, j, di, dj := ii, jj, 1, 1
				if pass&1 == 1 {
					i, di = nx-1-ii, -1
				}
				if pass&2 == 2 {
					j, dj = ny-1-jj, -1
				}
				for back := 1; back < 4; back++ {
					bi, bj := i-di*(back&1), j-dj*(back>>1)
					if bi >= 0 && bj >= 0 && bi < nx && bj < ny {
						offer(i, j, nearest[bj*nx+bi])
					}
				}
			}
		}
	}
	for n, c := range nearest {
		if c < 0 {
			o.distance.Values[n] = field.Values[n]
			continue
		}
		x, y := field.X0+float64(n%nx)*field.H, field.Y0+float64(n/nx)*field.H
		d := math.Min(edgeDistance(edge, int(c), x, y), edgeDistance(edge, int(c)-1, x, y))
		if field.Values[n] < 0 {
			d = -d
		}
		o.distance.Values[n] = float32(d)
		o.lean.Values[n] = float32(edge[c].lean)
	}
	o.lean = o.lean.Blur(outlineStep) // no seams where the nearest point jumps
	return o
}

// edgeDistance is the distance to the piece of outline that starts at point n.
func edgeDistance(edge []edgePoint, n int, x, y float64) float64 {
	if n < 0 {
		return math.Inf(1)
	}
	e := edge[n]
	t := 0.0
	if l2 := e.step.X*e.step.X + e.step.Y*e.step.Y; l2 > 0 {
		t = math.Min(math.Max(((x-e.p.X)*e.step.X+(y-e.p.Y)*e.step.Y)/l2, 0), 1)
	}
	return math.Hypot(x-e.p.X-t*e.step.X, y-e.p.Y-t*e.step.Y)
}

// smoothCourse draws a groove's course as a bur would follow it: in the
// table's plane, without the fissure's small zigzag, points about 0.25 mm apart.
func smoothCourse(points []r3.Vec, sigma float64) []solid.Point2 {
	const step = 0.25
	length := make([]float64, len(points))
	for n := 1; n < len(points); n++ {
		length[n] = length[n-1] + math.Hypot(points[n].X-points[n-1].X, points[n].Y-points[n-1].Y)
	}
	total := length[len(length)-1]
	count := max(2, int(total/step)+1)
	course := make([]solid.Point2, count)
	for c := range course {
		at := total * float64(c) / float64(count-1)
		reach := math.Min(sigma, math.Min(at, total-at)/2+1e-3) // ends stay where they are
		var sx, sy, sw float64
		for n, p := range points {
			w := math.Exp(-math.Pow((length[n]-at)/reach, 2)/2) + 1e-300
			sx, sy, sw = sx+w*p.X, sy+w*p.Y, sw+w
		}
		course[c] = solid.Point2{X: sx / sw, Y: sy / sw}
	}
	return course
}

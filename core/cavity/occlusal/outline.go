package occlusal

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

const (
	outlineStep = 0.05 // mm between samples of the outline's field
	contourStep = 0.03 // mm between points of the outline
	branchFlow  = 0.60 // mm over which a side branch flows into the main outline
	outlineBlur = 0.20 // mm, rounds the corners where strokes meet; straight walls stay
	edgeCalm    = 0.3  // mm along the outline over which walls follow the surface's height
)

// stroke is a chain of points drawn with a round pen.
type stroke struct {
	points []solid.Point2
	half   float64
	branch bool // leaves the main outline sideways
}

func (s stroke) distance(x, y float64) float64 {
	best := math.Inf(1)
	for n := range s.points {
		a, b := s.points[n], s.points[min(n+1, len(s.points)-1)]
		dx, dy := b.X-a.X, b.Y-a.Y
		t := 0.0
		if l2 := dx*dx + dy*dy; l2 > 0 {
			t = min(max(((x-a.X)*dx+(y-a.Y)*dy)/l2, 0), 1)
		}
		ex, ey := x-a.X-t*dx, y-a.Y-t*dy
		best = min(best, ex*ex+ey*ey)
	}
	return math.Sqrt(best) - s.half
}

// nearDistance is distance where it is small enough to matter, else a lower
// bound that is cheap to find.
func (s stroke) nearDistance(x, y float64) float64 {
	const matters = 1.5 // mm, more than any flow reaches
	low, high := s.points[0], s.points[0]
	for _, p := range s.points[1:] {
		low.X, low.Y = min(low.X, p.X), min(low.Y, p.Y)
		high.X, high.Y = max(high.X, p.X), max(high.Y, p.Y)
	}
	dx, dy := max(low.X-x, x-high.X), max(low.Y-y, y-high.Y)
	if bound := max(dx, dy) - s.half; bound > matters {
		return bound
	}
	return s.distance(x, y)
}

// outline is the preparation's plan form at its margin: a signed distance in
// the occlusal table's plane, and for the nearest outline point the lean of
// its wall and the height of its margin.
type outline struct {
	distance *solid.Sheet // mm, negative inside
	lean     *solid.Sheet // degrees, positive leaning in (converging occlusally)
	height   *solid.Sheet // mm over the table
	walls    []wallSample // the three together, for speed
}

// wallSample is what the wall over one place of the plan needs.
type wallSample struct{ distance, sin, cos, height float32 }

// wallAt interpolates the wall's figures at (x, y): distance from the outline
// (mm), sine and cosine of the lean, height of the margin (mm).
func (o *outline) wallAt(x, y float64) (distance, sin, cos, height float64) {
	i, fx := o.distance.Cell(x, 0)
	j, fy := o.distance.Cell(y, 1)
	at := j*o.distance.NX + i
	a, b := &o.walls[at], &o.walls[at+1]
	c, d := &o.walls[at+o.distance.NX], &o.walls[at+o.distance.NX+1]
	wa, wb, wc, wd := (1-fx)*(1-fy), fx*(1-fy), (1-fx)*fy, fx*fy
	mix := func(a, b, c, d float32) float64 {
		return wa*float64(a) + wb*float64(b) + wc*float64(c) + wd*float64(d)
	}
	return mix(a.distance, b.distance, c.distance, d.distance), mix(a.sin, b.sin, c.sin, d.sin),
		mix(a.cos, b.cos, c.cos, d.cos), mix(a.height, b.height, c.height, d.height)
}

// form is the outline's field before it is measured: strokes flowed together.
type form struct {
	course   *solid.Sheet // distance to the middle of the first stroke
	others   *solid.Sheet // distance to the other main strokes
	branches []*solid.Sheet
	bevelled float64 // mm that a bevel moves the margin out: corners are flowed more
}

// newForm samples the strokes; the first is the isthmus, whose width may
// still change.
func newForm(strokes []stroke, bevelled float64) form {
	low, high := solid.Point2{X: math.Inf(1), Y: math.Inf(1)}, solid.Point2{X: math.Inf(-1), Y: math.Inf(-1)}
	const around = 0.9 // mm of field kept outside the outline
	for _, s := range strokes {
		for _, p := range s.points {
			low.X, low.Y = min(low.X, p.X-s.half), min(low.Y, p.Y-s.half)
			high.X, high.Y = max(high.X, p.X+s.half), max(high.Y, p.Y+s.half)
		}
	}
	middle := stroke{points: strokes[0].points}
	f := form{bevelled: bevelled, course: solid.NewSheet(low.X-around, low.Y-around, high.X+around, high.Y+around, outlineStep)}
	f.course.Fill(middle.distance)
	f.others = f.course.Like().Fill(func(x, y float64) float64 {
		d := math.Inf(1)
		for _, s := range strokes[1:] {
			if !s.branch {
				d = min(d, s.distance(x, y))
			}
		}
		return d
	})
	for _, s := range strokes[1:] {
		if s.branch {
			f.branches = append(f.branches, f.course.Like().Fill(s.nearDistance))
		}
	}
	return f
}

// flow joins the parts with the isthmus at a half width: main strokes simply,
// branches with a fillet, then all corners rounded.
func (f form) flow(half float64) *solid.Sheet {
	field := f.course.Like()
	field.Each(func(n int, _, _ float64) {
		d := min(float64(f.course.Values[n])-half, float64(f.others.Values[n]))
		for _, b := range f.branches {
			d = solid.SmoothMin(d, float64(b.Values[n]), branchFlow+f.bevelled)
		}
		field.Values[n] = float32(d)
	})
	return field.Blur(outlineBlur)
}

// isthmusFlow flows the parts together so that the narrowest place between the
// end zones is as wide as asked: where strokes meet the outline swells, and
// the pen is thinned by what that place gained.
func (f form) isthmusFlow(course []solid.Point2, width, endZone float64) *solid.Sheet {
	half := width / 2
	field := f.flow(half)
	for range 2 {
		swell := (narrowest(field, course, endZone) - width) / 2
		if math.Abs(swell) < 0.005 {
			break
		}
		half = max(half-swell, 0.1)
		field = f.flow(half)
	}
	return field
}

// newOutline measures from the zero line of a flowed field.
func newOutline(field *solid.Sheet, surface *solid.Sheet, leanAt func(p, normal solid.Point2) float64) outline {
	var edge []edgePoint
	for _, line := range field.Contours(0) {
		if line.Closed && len(line.Points) > 8 {
			edge = append(edge, edgePoints(line.Resample(contourStep), surface)...)
		}
	}
	for n := range edge {
		edge[n].lean = leanAt(edge[n].p, edge[n].normal)
	}
	return measureFrom(field, edge)
}

// narrowest is the least width across the course between its end zones,
// square to it.
func narrowest(field *solid.Sheet, course []solid.Point2, endZone float64) float64 {
	first, last := course[0].X-endZone/2, course[len(course)-1].X+endZone/2
	least := math.Inf(1)
	for n := 1; n < len(course); n++ {
		a, b := course[n-1], course[n]
		length := math.Hypot(b.X-a.X, b.Y-a.Y)
		if length < 1e-9 { // a course without length has no direction
			continue
		}
		nx, ny := -(b.Y-a.Y)/length, (b.X-a.X)/length
		const pieces = 4
		for s := range pieces {
			t := (float64(s) + 0.5) / pieces
			x, y := a.X+t*(b.X-a.X), a.Y+t*(b.Y-a.Y)
			if x < first && x > last {
				least = min(least, reach(field, x, y, nx, ny)+reach(field, x, y, -nx, -ny))
			}
		}
	}
	if math.IsInf(least, 1) { // no isthmus between the end zones: its middle counts
		x, y := (course[0].X+course[len(course)-1].X)/2, (course[0].Y+course[len(course)-1].Y)/2
		return reach(field, x, y, 0, 1) + reach(field, x, y, 0, -1)
	}
	return least
}

// reach is how far the outline extends from an inner point in a direction.
func reach(field *solid.Sheet, x, y, dx, dy float64) float64 {
	const step, furthest = 0.05, 4.0
	before := field.At(x, y)
	for d := step; d < furthest; d += step {
		here := field.At(x+d*dx, y+d*dy)
		if here >= 0 {
			return d - step + step*before/(before-here)
		}
		before = here
	}
	return furthest
}

// edgePoint is a point of the outline with its outward normal and the step to
// the next point.
type edgePoint struct {
	p, normal, step solid.Point2
	lean, height    float64
}

func edgePoints(line solid.Polyline, surface *solid.Sheet) []edgePoint {
	n := len(line.Points)
	points := make([]edgePoint, n)
	for i := range line.Points {
		prev, here, next := line.Points[(i+n-1)%n], line.Points[i], line.Points[(i+1)%n]
		tx, ty := next.X-prev.X, next.Y-prev.Y
		length := math.Hypot(tx, ty)
		// The inside lies on the left of the walk.
		points[i] = edgePoint{
			p:      here,
			normal: solid.Point2{X: ty / length, Y: -tx / length},
			step:   solid.Point2{X: next.X - here.X, Y: next.Y - here.Y},
		}
	}
	const calm = int(edgeCalm / contourStep)
	var weights [4*calm + 1]float64
	for k := range weights {
		d := float64(k-2*calm) / float64(calm)
		weights[k] = math.Exp(-d * d / 2)
	}
	heights := make([]float64, n)
	for i := range points {
		heights[i] = surface.At(points[i].p.X, points[i].p.Y)
	}
	for i := range points {
		sum, weight := 0.0, 0.0
		for k, w := range weights {
			sum, weight = sum+w*heights[((i+k-2*calm)%n+n)%n], weight+w
		}
		points[i].height = sum / weight
	}
	return points
}

// measureFrom measures, at every sample of the field, the exact distance to the
// edge and takes over the wall's lean and height from the edge point nearest to
// it; the sign is that of the field.
func measureFrom(field *solid.Sheet, edge []edgePoint) outline {
	o := outline{distance: field.Like(), lean: field.Like(), height: field.Like()}
	for n, c := range nearestEdge(field, edge) {
		if c < 0 {
			o.distance.Values[n] = field.Values[n]
			continue
		}
		x, y := field.X0+float64(n%field.NX)*field.H, field.Y0+float64(n/field.NX)*field.H
		d := min(edgeDistance(edge, int(c), x, y), edgeDistance(edge, int(c)-1, x, y))
		if field.Values[n] < 0 {
			d = -d
		}
		o.distance.Values[n] = float32(d)
		o.lean.Values[n] = float32(edge[c].lean)
		o.height.Values[n] = float32(edge[c].height)
	}
	// No seams where the nearest point jumps.
	o.lean, o.height = o.lean.Blur(outlineStep), o.height.Blur(outlineStep)
	o.walls = make([]wallSample, len(field.Values))
	for n := range o.walls {
		sin, cos := math.Sincos(float64(o.lean.Values[n]) * math.Pi / 180)
		o.walls[n] = wallSample{o.distance.Values[n], float32(sin), float32(cos), o.height.Values[n]}
	}
	return o
}

// nearestEdge names the edge point nearest to every sample of a sheet, -1 where
// there is no edge. Each sample takes the best of its neighbours' points, in four
// sweeps from the sheet's corners.
func nearestEdge(sheet *solid.Sheet, edge []edgePoint) []int32 {
	nx, ny := sheet.NX, sheet.NY
	nearest := make([]int32, nx*ny)
	best := make([]float64, nx*ny)
	for n := range nearest {
		nearest[n], best[n] = -1, math.Inf(1)
	}
	offer := func(i, j int, candidate int32) {
		if candidate < 0 {
			return
		}
		x, y := sheet.X0+float64(i)*sheet.H, sheet.Y0+float64(j)*sheet.H
		e := edge[candidate].p
		if d := (x-e.X)*(x-e.X) + (y-e.Y)*(y-e.Y); d < best[j*nx+i] {
			best[j*nx+i], nearest[j*nx+i] = d, candidate
		}
	}
	for n, e := range edge {
		i, j := int((e.p.X-sheet.X0)/sheet.H), int((e.p.Y-sheet.Y0)/sheet.H)
		for c := range 4 {
			offer(min(i+c&1, nx-1), min(j+c>>1, ny-1), int32(n))
		}
	}
	for _, sweep := range [][2]int{{1, 1}, {-1, 1}, {1, -1}, {-1, -1}} {
		for row := range ny {
			for column := range nx {
				i, j := along(sweep[0], column, nx), along(sweep[1], row, ny)
				// What lies behind in the sweep has its best point already.
				for _, behind := range [][2]int{{1, 0}, {0, 1}, {1, 1}} {
					bi, bj := i-sweep[0]*behind[0], j-sweep[1]*behind[1]
					if bi >= 0 && bj >= 0 && bi < nx && bj < ny {
						offer(i, j, nearest[bj*nx+bi])
					}
				}
			}
		}
	}
	return nearest
}

// along is the nth of count places, from the first or, with direction -1, the last.
func along(direction, n, count int) int {
	if direction < 0 {
		return count - 1 - n
	}
	return n
}

// edgeDistance is the distance to the piece of outline that starts at point n.
func edgeDistance(edge []edgePoint, n int, x, y float64) float64 {
	if n < 0 {
		return math.Inf(1)
	}
	e := edge[n]
	t := 0.0
	if l2 := e.step.X*e.step.X + e.step.Y*e.step.Y; l2 > 0 {
		t = min(max(((x-e.p.X)*e.step.X+(y-e.p.Y)*e.step.Y)/l2, 0), 1)
	}
	dx, dy := x-e.p.X-t*e.step.X, y-e.p.Y-t*e.step.Y
	return math.Sqrt(dx*dx + dy*dy)
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
		reach := min(sigma, min(at, total-at)/2+1e-3) // ends stay where they are
		var sx, sy, sw float64
		for n, p := range points {
			d := (length[n] - at) / reach
			w := math.Exp(-d*d/2) + 1e-300
			sx, sy, sw = sx+w*p.X, sy+w*p.Y, sw+w
		}
		course[c] = solid.Point2{X: sx / sw, Y: sy / sw}
	}
	return course
}

package solid

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/parallel"
)

// Point2 is a point in a plane, mm.
type Point2 struct{ X, Y float64 }

// Polyline is a chain of points; a closed one does not repeat its first point.
type Polyline struct {
	Points []Point2
	Closed bool
}

// Plane is a drawing plane: Origin plus X and Y along unit axes U and V.
type Plane struct{ Origin, U, V r3.Vec }

// At is the point (x, y) of the plane in space.
func (pl Plane) At(x, y float64) r3.Vec {
	return r3.Add(pl.Origin, r3.Add(r3.Scale(x, pl.U), r3.Scale(y, pl.V)))
}

// Project drops a point onto the plane.
func (pl Plane) Project(p r3.Vec) Point2 {
	d := r3.Sub(p, pl.Origin)
	return Point2{r3.Dot(d, pl.U), r3.Dot(d, pl.V)}
}

// Sheet is a scalar field sampled on a rectangle of a plane.
type Sheet struct {
	X0, Y0, H float64
	NX, NY    int
	Values    []float32
}

// NewSheet covers [x0,x1] x [y0,y1] with samples h apart.
func NewSheet(x0, y0, x1, y1, h float64) *Sheet {
	nx, ny := int(math.Ceil((x1-x0)/h))+1, int(math.Ceil((y1-y0)/h))+1
	return &Sheet{X0: x0, Y0: y0, H: h, NX: nx, NY: ny, Values: make([]float32, nx*ny)}
}

// Each visits every sample, rows in parallel: n is its place in Values.
func (s *Sheet) Each(visit func(n int, x, y float64)) {
	parallel.Each(s.NY, func(j int) {
		y := s.Y0 + float64(j)*s.H
		for i := range s.NX {
			visit(j*s.NX+i, s.X0+float64(i)*s.H, y)
		}
	})
}

// Fill samples f at every point, rows in parallel, and returns the sheet.
func (s *Sheet) Fill(f func(x, y float64) float64) *Sheet {
	s.Each(func(n int, x, y float64) { s.Values[n] = float32(f(x, y)) })
	return s
}

// Like makes an empty sheet of the same extent.
func (s *Sheet) Like() *Sheet {
	out := *s
	out.Values = make([]float32, len(s.Values))
	return &out
}

// Cell finds the sample before a coordinate along x (axis 0) or y (axis 1),
// and how far past it the coordinate lies, 0 to 1.
func (s *Sheet) Cell(at float64, axis int) (int, float64) {
	if axis == 0 {
		return clampCell((at-s.X0)/s.H, s.NX)
	}
	return clampCell((at-s.Y0)/s.H, s.NY)
}

// At reads the sheet by bilinear interpolation, border values outside.
func (s *Sheet) At(x, y float64) float64 {
	i, fx := clampCell((x-s.X0)/s.H, s.NX)
	j, fy := clampCell((y-s.Y0)/s.H, s.NY)
	at := j*s.NX + i
	return lerp(lerp(float64(s.Values[at]), float64(s.Values[at+1]), fx),
		lerp(float64(s.Values[at+s.NX]), float64(s.Values[at+s.NX+1]), fx), fy)
}

// Smooth reads the sheet by Catmull-Rom interpolation: values and slopes are
// continuous, which wall normals need.
func (s *Sheet) Smooth(x, y float64) float64 {
	i, fx := clampCell((x-s.X0)/s.H, s.NX)
	j, fy := clampCell((y-s.Y0)/s.H, s.NY)
	if i < 1 || j < 1 || i > s.NX-3 || j > s.NY-3 {
		return s.At(x, y)
	}
	wx, wy := catmullRom(fx), catmullRom(fy)
	sum := 0.0
	for b := range 4 {
		row := s.Values[(j+b-1)*s.NX+i-1:]
		sum += wy[b] * (wx[0]*float64(row[0]) + wx[1]*float64(row[1]) + wx[2]*float64(row[2]) + wx[3]*float64(row[3]))
	}
	return sum
}

// Slope is the gradient of Smooth.
func (s *Sheet) Slope(x, y float64) (dx, dy float64) {
	i, fx := clampCell((x-s.X0)/s.H, s.NX)
	j, fy := clampCell((y-s.Y0)/s.H, s.NY)
	i, j = min(max(i, 1), s.NX-3), min(max(j, 1), s.NY-3)
	wx, wy := catmullRom(fx), catmullRom(fy)
	ux, uy := catmullRomSlope(fx), catmullRomSlope(fy)
	for b := range 4 {
		row := s.Values[(j+b-1)*s.NX+i-1:]
		var value, slope float64
		for a := range 4 {
			v := float64(row[a])
			value += wx[a] * v
			slope += ux[a] * v
		}
		dx += wy[b] * slope
		dy += uy[b] * value
	}
	return dx / s.H, dy / s.H
}

// Blur smooths the sheet with a Gaussian of the given standard deviation in mm.
func (s *Sheet) Blur(sigma float64) *Sheet {
	radius := int(math.Ceil(3 * sigma / s.H))
	if radius < 1 {
		return s
	}
	weights := make([]float64, 2*radius+1)
	sum := 0.0
	for n := range weights {
		d := float64(n-radius) * s.H / sigma
		weights[n] = math.Exp(-d * d / 2)
		sum += weights[n]
	}
	pass := func(in *Sheet, alongX bool) *Sheet {
		out := in.Like()
		parallel.Each(in.NY, func(j int) {
			for i := range in.NX {
				v := 0.0
				for n, w := range weights {
					x, y := i, j
					if alongX {
						x = min(max(i+n-radius, 0), in.NX-1)
					} else {
						y = min(max(j+n-radius, 0), in.NY-1)
					}
					v += w * float64(in.Values[y*in.NX+x])
				}
				out.Values[j*in.NX+i] = float32(v / sum)
			}
		})
		return out
	}
	return pass(pass(s, true), false)
}

// Length is the polyline's length in mm.
func (l Polyline) Length() float64 {
	sum := 0.0
	for n := 1; n < len(l.Points); n++ {
		sum += dist2(l.Points[n-1], l.Points[n])
	}
	if l.Closed && len(l.Points) > 1 {
		sum += dist2(l.Points[len(l.Points)-1], l.Points[0])
	}
	return sum
}

// Area is the signed area of a closed polyline, positive counter-clockwise.
func (l Polyline) Area() float64 {
	sum := 0.0
	for n, p := range l.Points {
		q := l.Points[(n+1)%len(l.Points)]
		sum += p.X*q.Y - q.X*p.Y
	}
	return sum / 2
}

// Resample spaces points evenly along a closed polyline, about step apart.
func (l Polyline) Resample(step float64) Polyline {
	total := l.Length()
	count := max(8, int(math.Round(total/step)))
	out := Polyline{Closed: true, Points: make([]Point2, 0, count)}
	spacing := total / float64(count)
	walked, want := 0.0, 0.0
	for n := range l.Points {
		a, b := l.Points[n], l.Points[(n+1)%len(l.Points)]
		d := dist2(a, b)
		for want < walked+d && len(out.Points) < count {
			t := (want - walked) / d
			out.Points = append(out.Points, Point2{lerp(a.X, b.X, t), lerp(a.Y, b.Y, t)})
			want += spacing
		}
		walked += d
	}
	return out
}

// Smoothed averages each point of a closed polyline with its neighbours, round
// after round.
func (l Polyline) Smoothed(rounds int) Polyline {
	points, n := l.Points, len(l.Points)
	for range rounds {
		next := make([]Point2, n)
		for i, p := range points {
			a, b := points[(i+n-1)%n], points[(i+1)%n]
			next[i] = Point2{(a.X + 2*p.X + b.X) / 4, (a.Y + 2*p.Y + b.Y) / 4}
		}
		points = next
	}
	return Polyline{Points: points, Closed: l.Closed}
}

// Contains reports whether p lies inside a closed polyline.
func (l Polyline) Contains(p Point2) bool {
	inside := false
	for n, a := range l.Points {
		b := l.Points[(n+1)%len(l.Points)]
		if (a.Y > p.Y) != (b.Y > p.Y) && p.X < a.X+(p.Y-a.Y)/(b.Y-a.Y)*(b.X-a.X) {
			inside = !inside
		}
	}
	return inside
}

// Runs are the parts of the polyline whose points keep accepts, left open where
// it is cut; a closed line that is kept whole stays closed.
func (l Polyline) Runs(keep func(Point2) bool) []Polyline {
	var lines []Polyline
	for _, run := range Runs(l.Points, l.Closed, keep) {
		lines = append(lines, Polyline{Points: run, Closed: l.Closed && len(run) == len(l.Points)})
	}
	return lines
}

// Runs are the parts of two places or more, of a chain or a ring of them, that keep
// accepts. A run over the place where a ring begins stays one.
func Runs[P any](places []P, ring bool, keep func(P) bool) [][]P {
	n, first := len(places), 0
	for ring && first < n && keep(places[first]) {
		first++
	}
	if first == n { // all of it, or nothing
		first = 0
	}
	var runs [][]P
	var run []P
	end := func() {
		if len(run) > 1 {
			runs = append(runs, run)
		}
		run = nil
	}
	for k := range n {
		at := places[(first+k)%n]
		if keep(at) {
			run = append(run, at)
		} else {
			end()
		}
	}
	end()
	return runs
}

// Away is how far (mm) a place lies from the polyline.
func (l Polyline) Away(p Point2) float64 {
	least := math.Inf(1)
	for n, a := range l.Points {
		if n == len(l.Points)-1 && !l.Closed {
			break
		}
		b := l.Points[(n+1)%len(l.Points)]
		x, y := b.X-a.X, b.Y-a.Y
		share := 0.0
		if d := x*x + y*y; d > 0 {
			share = min(max(((p.X-a.X)*x+(p.Y-a.Y)*y)/d, 0), 1)
		}
		least = min(least, math.Hypot(p.X-a.X-share*x, p.Y-a.Y-share*y))
	}
	return least
}

// Largest picks the closed line with the greatest area.
func Largest(lines []Polyline) (Polyline, bool) {
	best, found := Polyline{}, false
	for _, l := range lines {
		if l.Closed && (!found || math.Abs(l.Area()) > math.Abs(best.Area())) {
			best, found = l, true
		}
	}
	return best, found
}

func dist2(a, b Point2) float64 { return math.Hypot(a.X-b.X, a.Y-b.Y) }

func clampCell(at float64, n int) (int, float64) {
	if !(at > 0) {
		return 0, 0
	}
	if at >= float64(n-1) {
		return n - 2, 1
	}
	i := int(at)
	return i, at - float64(i)
}

func catmullRom(t float64) [4]float64 {
	t2, t3 := t*t, t*t*t
	return [4]float64{(-t3 + 2*t2 - t) / 2, (3*t3 - 5*t2 + 2) / 2, (-3*t3 + 4*t2 + t) / 2, (t3 - t2) / 2}
}

func catmullRomSlope(t float64) [4]float64 {
	t2 := t * t
	return [4]float64{(-3*t2 + 4*t - 1) / 2, (9*t2 - 10*t) / 2, (-9*t2 + 8*t + 1) / 2, (3*t2 - 2*t) / 2}
}

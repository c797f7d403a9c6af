package solid

import (
	"math"
	"slices"

	"obturon/core/parallel"
)

// Tracing says how a line is drawn onto the zero of a field.
type Tracing struct {
	Spacing   float64 // mm between places felt along the line
	Reach     float64 // mm to either side in which the zero is looked for
	Tolerance float64 // mm that the drawn chords may lie off the zero
}

// Trace moves a rough line onto the zero of a field that is negative on the left of
// its walk, as Contours have it: a distance, or no more than a sign. Places where the field does not change
// sign within reach are left out, so that a line which stands for nothing comes
// back empty; where the line bends, places are added until its chords keep to the
// tolerance.
func Trace(rough Polyline, field func(Point2) float64, t Tracing) Polyline {
	start := rough.spaced(t.Spacing)
	n := len(start)
	moved := make([]Point2, n)
	found := make([]bool, n)
	parallel.Each(n, func(k int) {
		before, after := start[max(k-1, 0)], start[min(k+1, n-1)]
		if rough.Closed {
			before, after = start[(k+n-1)%n], start[(k+1)%n]
		}
		moved[k], found[k] = passing(field, start[k], across(before, after), t.Reach)
	})
	felt := make([]Point2, 0, n)
	for k, p := range moved {
		if found[k] && !feltTwice(felt, p, t.Spacing) {
			felt = append(felt, p)
		}
	}
	if len(felt) < 3 {
		return Polyline{Closed: rough.Closed}
	}
	count := len(felt)
	if !rough.Closed {
		count--
	}
	parts := make([][]Point2, count)
	parallel.Each(count, func(k int) {
		const halvings = 4
		parts[k] = append(parts[k], felt[k])
		if turn := max(turning(felt, k, rough.Closed), turning(felt, k+1, rough.Closed)); turn*t.Spacing < 4*t.Tolerance {
			return // an arc that turns so little keeps to its chord
		}
		parts[k] = bend(parts[k], field, felt[k], felt[(k+1)%len(felt)], t, halvings)
	})
	line := Polyline{Closed: rough.Closed, Points: slices.Concat(parts...)}
	if !rough.Closed {
		line.Points = append(line.Points, felt[len(felt)-1])
	}
	return line
}

// spaced is places along the line, about step apart, with the ends of an open one.
func (l Polyline) spaced(step float64) []Point2 {
	if l.Closed {
		return l.Resample(step).Points
	}
	var out []Point2
	walked := math.Inf(1)
	for k, p := range l.Points {
		if k > 0 {
			walked += dist2(l.Points[k-1], p)
		}
		if walked >= step || k == len(l.Points)-1 {
			out, walked = append(out, p), 0
		}
	}
	return out
}

// feltTwice reports a place so close to the last of a line, or so little behind it,
// that it is the same place felt twice.
func feltTwice(line []Point2, p Point2, spacing float64) bool {
	n := len(line)
	if n == 0 {
		return false
	}
	last := line[n-1]
	d := dist2(last, p)
	if n < 2 || d < spacing/3 || d > spacing {
		return d < spacing/3
	}
	way := Point2{last.X - line[n-2].X, last.Y - line[n-2].Y}
	return way.X*(p.X-last.X)+way.Y*(p.Y-last.Y) < 0
}

// turning is by how much (radians) a line turns at a place; 0 at the ends of an open
// one.
func turning(line []Point2, k int, closed bool) float64 {
	n := len(line)
	if !closed && (k%n == 0 || k == n-1) {
		return 0
	}
	a, b, c := line[(k+n-1)%n], line[k%n], line[(k+1)%n]
	return math.Abs(math.Remainder(math.Atan2(c.Y-b.Y, c.X-b.X)-math.Atan2(b.Y-a.Y, b.X-a.X), 2*math.Pi))
}

// across is the unit direction to the right of the way from a to b.
func across(a, b Point2) Point2 {
	d := dist2(a, b)
	if d < 1e-12 {
		return Point2{1, 0}
	}
	return Point2{(b.Y - a.Y) / d, (a.X - b.X) / d}
}

// bend adds the places between a and b where the zero runs off their chord.
func bend(line []Point2, field func(Point2) float64, a, b Point2, t Tracing, halvings int) []Point2 {
	length := dist2(a, b)
	if halvings == 0 || length < 4*t.Tolerance {
		return line
	}
	middle := Point2{(a.X + b.X) / 2, (a.Y + b.Y) / 2}
	at, ok := passing(field, middle, across(a, b), min(t.Reach, length))
	if !ok || dist2(at, middle) < t.Tolerance {
		return line
	}
	line = bend(line, field, a, at, t, halvings-1)
	line = append(line, at)
	return bend(line, field, at, b, t, halvings-1)
}

// passing is where the field changes sign on the way from p: outwards if it is
// negative there, else back. A small value is taken for a distance, and the first step
// goes a little past it.
func passing(field func(Point2) float64, p, outwards Point2, reach float64) (Point2, bool) {
	const steps, past, least = 4, 1.3, 0.008 // mm
	on := func(s float64) (Point2, float64) {
		q := Point2{p.X + s*outwards.X, p.Y + s*outwards.Y}
		return q, field(q)
	}
	_, here := on(0)
	if here == 0 {
		return p, true
	}
	way := 1.0
	if here > 0 {
		way = -1
	}
	step := reach / steps
	if near := past * math.Abs(here); near < step {
		step = max(near, least)
	}
	last, lastAt := here, 0.0
	for lastAt < reach {
		at := min(lastAt+step, reach)
		_, value := on(way * at)
		if (value < 0) != (here < 0) {
			return between(on, way*lastAt, last, way*at, value), true
		}
		last, lastAt = value, at
		step = reach / steps
	}
	return p, false
}

// between narrows a change of sign down, by turns along the chord and by halves,
// so that a field which is a mere sign is found as surely.
func between(on func(float64) (Point2, float64), a, fa, b, fb float64) Point2 {
	const rounds, close, enough = 16, 2e-3, 4e-4 // mm, of the place and of a distance
	for k := range rounds {
		if math.Abs(b-a) < close {
			break
		}
		m := (a + b) / 2
		if k%2 == 0 && !math.IsInf(fa-fb, 0) {
			m = a + (b-a)*min(max(fa/(fa-fb), 0.05), 0.95)
		}
		p, fm := on(m)
		if math.Abs(fm) < enough {
			return p
		}
		if (fm < 0) == (fa < 0) {
			a, fa = m, fm
		} else {
			b, fb = m, fm
		}
	}
	s := (a + b) / 2
	if !math.IsInf(fa-fb, 0) && fa != fb {
		s = a + (b-a)*fa/(fa-fb)
	}
	p, _ := on(s)
	return p
}

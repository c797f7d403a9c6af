package hold

import "math"

// constraint is a·x <= b.
type constraint struct {
	a []float64
	b float64
}

// lowest is the x within low and high at which cost·x is least where all constraints hold;
// ok is false where none does. For few variables and many constraints (Seidel 1991): each
// constraint that what was found so far breaks is one that the answer lies on.
func lowest(cost, low, high []float64, constraints []constraint) (x []float64, ok bool) {
	if len(cost) == 1 {
		return lowestOnLine(cost[0], low[0], high[0], constraints)
	}
	x = make([]float64, len(cost))
	for k := range x {
		x[k] = low[k]
		if cost[k] < 0 {
			x[k] = high[k]
		}
	}
	for n, c := range constraints {
		if dot(c.a, x) <= c.b+broken {
			continue
		}
		k := largest(c.a)
		if math.Abs(c.a[k]) < vanishing {
			return nil, false
		}
		within := make([]constraint, 0, n+2)
		for _, before := range constraints[:n] {
			within = append(within, before.on(c, k))
		}
		// The bounds of the variable that goes bind the others.
		upper, lower := make([]float64, len(cost)), make([]float64, len(cost))
		upper[k], lower[k] = 1, -1
		within = append(within, constraint{upper, high[k]}.on(c, k), constraint{lower, -low[k]}.on(c, k))
		rest, found := lowest(constraint{a: cost}.on(c, k).a, without(low, k), without(high, k), within)
		if !found {
			return nil, false
		}
		at := c.b
		for j, r := range without(c.a, k) {
			at -= r * rest[j]
		}
		x = append(append(append(x[:0:0], rest[:k]...), at/c.a[k]), rest[k:]...)
	}
	return x, true
}

// broken is by how much a constraint may be missed, vanishing what counts for nothing.
const broken, vanishing = 1e-10, 1e-12

func lowestOnLine(cost, low, high float64, constraints []constraint) (x []float64, ok bool) {
	for _, c := range constraints {
		switch {
		case c.a[0] > vanishing:
			high = math.Min(high, c.b/c.a[0])
		case c.a[0] < -vanishing:
			low = math.Max(low, c.b/c.a[0])
		case c.b < -broken:
			return nil, false
		}
	}
	if low > high+broken {
		return nil, false
	}
	if cost < 0 {
		return []float64{high}, true
	}
	return []float64{low}, true
}

// on is a constraint for those x that lie on another's bound, without the variable k.
func (c constraint) on(bound constraint, k int) constraint {
	share := c.a[k] / bound.a[k]
	a := make([]float64, 0, len(c.a)-1)
	for j := range c.a {
		if j != k {
			a = append(a, c.a[j]-share*bound.a[j])
		}
	}
	return constraint{a, c.b - share*bound.b}
}

func without(x []float64, k int) []float64 {
	return append(append(make([]float64, 0, len(x)-1), x[:k]...), x[k+1:]...)
}

func dot(a, b []float64) float64 {
	sum := 0.0
	for k := range a {
		sum += a[k] * b[k]
	}
	return sum
}

func largest(a []float64) int {
	k := 0
	for j := range a {
		if math.Abs(a[j]) > math.Abs(a[k]) {
			k = j
		}
	}
	return k
}

// mostBroken is the constraint that an x breaks by most, under 0 where it holds all.
func mostBroken(constraints []constraint, x []float64) int {
	const told = 1e-7 // by as much as counts
	worst, most := -1, told
	for n, c := range constraints {
		if by := dot(c.a, x) - c.b; by > most {
			worst, most = n, by
		}
	}
	return worst
}

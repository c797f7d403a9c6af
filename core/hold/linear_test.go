package hold

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize/convex/lp"
)

// What is lowest agrees with a general solver, also on whether there is anything.
func TestLowestAgreesWithASimplex(t *testing.T) {
	pick := rand.New(rand.NewPCG(3, 4))
	none := 0
	for n := range 200 {
		d, rows := 1+n%6, 4+pick.IntN(20)
		random := func() []float64 {
			x := make([]float64, d)
			for k := range x {
				x[k] = pick.NormFloat64()
			}
			return x
		}
		cost, low, high := random(), make([]float64, d), make([]float64, d)
		var constraints []constraint
		g := mat.NewDense(rows+2*d, d, nil)
		h := make([]float64, rows+2*d)
		for r := range rows {
			c := constraint{random(), pick.NormFloat64() + 0.8}
			constraints = append(constraints, c)
			g.SetRow(r, c.a)
			h[r] = c.b
		}
		for k := range d {
			low[k], high[k] = -1, 2
			g.Set(rows+2*k, k, 1)
			h[rows+2*k] = high[k]
			g.Set(rows+2*k+1, k, -1)
			h[rows+2*k+1] = -low[k]
		}
		x, ok := lowest(cost, low, high, constraints)
		general, a, b := lp.Convert(cost, g, h, nil, nil)
		want, _, err := lp.Simplex(general, a, b, 1e-10, nil)
		if ok != (err == nil) {
			t.Errorf("%d variables, %d constraints: found %v, the simplex says %v", d, rows, ok, err)
			continue
		}
		if !ok {
			none++
			continue
		}
		if got := dot(cost, x); math.Abs(got-want) > 1e-6 {
			t.Errorf("%d variables, %d constraints: %.9f, the simplex finds %.9f", d, rows, got, want)
		}
		for _, c := range constraints {
			if dot(c.a, x) > c.b+1e-8 {
				t.Errorf("%d variables: a constraint is broken by %g", d, dot(c.a, x)-c.b)
			}
		}
	}
	if none == 0 || none > 150 {
		t.Errorf("%d of 200 have no answer", none)
	}
}

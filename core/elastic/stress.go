package elastic

import (
	"math"

	"gonum.org/v1/gonum/mat"
)

// Stress (MPa) is of one cell at its middle, by components xx, yy, zz, xy, yz, zx.
type Stress [6]float64

// StressIn is that of a cell by its place; ok is false where there is no cell that is
// carried. In a slice zz is what keeps it from spreading.
func (d *Displacements) StressIn(i, j, k int) (s Stress, ok bool) {
	b, e := d.system.body, d.system.element
	cell := b.cell(i, j, k)
	if cell < 0 || !d.system.carried[cell] {
		return s, false
	}
	u := mat.NewVecDense(e.corners*e.dim, nil)
	for c := range e.corners {
		v := d.At(corner(i, j, k, c))
		for p, f := range []float64{v.X, v.Y, v.Z}[:e.dim] {
			u.SetVec(c*e.dim+p, f)
		}
	}
	var strain, stress mat.VecDense
	strain.MulVec(e.strain, u)
	stress.MulVec(e.elastic, &strain)
	stress.ScaleVec(b.Modulus[cell], &stress)
	if e.dim == 3 {
		copy(s[:], stress.RawVector().Data)
		return s, true
	}
	xx, yy, xy := stress.AtVec(0), stress.AtVec(1), stress.AtVec(2)
	return Stress{xx, yy, b.Poisson * (xx + yy), xy}, true
}

// Tension is the largest principal stress (MPa), under 0 where all is pressed.
func (s Stress) Tension() float64 {
	var eigen mat.EigenSym
	m := mat.NewSymDense(3, []float64{s[0], s[3], s[5], s[3], s[1], s[4], s[5], s[4], s[2]})
	if !eigen.Factorize(m, false) {
		return math.NaN()
	}
	values := eigen.Values(nil)
	return values[2]
}

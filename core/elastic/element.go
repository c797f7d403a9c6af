package elastic

import (
	"math"

	"gonum.org/v1/gonum/mat"
)

// element is one cell of modulus 1: a bilinear square in plane strain, one millimetre thick,
// or a trilinear cube. Both have incompatible modes (Wilson's), condensed out: without them
// a beam one cell wide bends many times too stiffly.
type element struct {
	dim, corners int
	// stiffness in N/mm between corners, (corners·dim)², for cells of the side given.
	stiffness []float64
	// strain at the middle from the corners' displacements: components x corners·dim. In
	// space they are xx, yy, zz, xy, yz, zx, in the plane xx, yy, xy; shears are doubled.
	strain  *mat.Dense
	elastic *mat.Dense // stress from strain, for modulus 1
}

// sheared are the axes of each shear component.
func sheared(dim int) [][2]int {
	if dim == 2 {
		return [][2]int{{0, 1}}
	}
	return [][2]int{{0, 1}, {1, 2}, {2, 0}}
}

// newElement is that of a dimension (2 or 3), with sides in mm and Poisson's ratio under 0.5.
func newElement(dim int, side, poisson float64) *element {
	e := &element{dim: dim, corners: 1 << dim}
	shears := sheared(dim)
	components, dofs := dim+len(shears), e.corners*dim
	lame := poisson / ((1 + poisson) * (1 - 2*poisson))
	shear := 1 / (2 * (1 + poisson))
	e.elastic = mat.NewDense(components, components, nil)
	for i := range dim {
		for j := range dim {
			e.elastic.Set(i, j, lame)
		}
		e.elastic.Set(i, i, lame+2*shear)
	}
	for i := range shears {
		e.elastic.Set(dim+i, dim+i, shear)
	}
	// rows fills the strains of a shape function's slopes, in columns from at on.
	rows := func(b *mat.Dense, at int, slope []float64) {
		for axis := range dim {
			b.Set(axis, at+axis, slope[axis])
		}
		for n, s := range shears {
			b.Set(dim+n, at+s[0], slope[s[1]])
			b.Set(dim+n, at+s[1], slope[s[0]])
		}
	}
	at := func(natural []float64) (ofCorners, ofModes *mat.Dense) {
		ofCorners, ofModes = mat.NewDense(components, dofs, nil), mat.NewDense(components, dim*dim, nil)
		for c := range e.corners {
			slope := make([]float64, dim)
			for axis := range dim {
				slope[axis] = 2 / side
				for other := range dim {
					sign := 2*float64(c>>other&1) - 1
					if other == axis {
						slope[axis] *= sign / 2
					} else {
						slope[axis] *= (1 + sign*natural[other]) / 2
					}
				}
			}
			rows(ofCorners, c*dim, slope)
		}
		for mode := range dim {
			slope := make([]float64, dim)
			slope[mode] = -2 * natural[mode] * 2 / side
			rows(ofModes, mode*dim, slope)
		}
		return ofCorners, ofModes
	}
	full := mat.NewDense(dofs+dim*dim, dofs+dim*dim, nil)
	share := math.Pow(side/2, float64(dim))
	for point := range e.corners {
		natural := make([]float64, dim)
		for axis := range dim {
			natural[axis] = (2*float64(point>>axis&1) - 1) / math.Sqrt(3)
		}
		ofCorners, ofModes := at(natural)
		var b, eb, beb mat.Dense
		b.Augment(ofCorners, ofModes)
		eb.Mul(e.elastic, &b)
		beb.Mul(b.T(), &eb)
		beb.Scale(share, &beb)
		full.Add(full, &beb)
	}
	// The modes carry no load: they follow the corners.
	outer := full.Slice(0, dofs, 0, dofs)
	across := full.Slice(0, dofs, dofs, dofs+dim*dim)
	inner := full.Slice(dofs, dofs+dim*dim, dofs, dofs+dim*dim)
	var follow, taken, condensed mat.Dense
	if err := follow.Solve(inner, across.T()); err != nil {
		panic("elastic: modes of a cell are not independent: " + err.Error())
	}
	taken.Mul(across, &follow)
	condensed.Sub(outer, &taken)
	e.stiffness = mat.DenseCopyOf(&condensed).RawMatrix().Data
	e.strain, _ = at(make([]float64, dim))
	return e
}

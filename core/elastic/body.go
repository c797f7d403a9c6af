// Package elastic solves how a body of small equal cells gives way under loads: in space, or
// as a slice one millimetre thick that cannot spread (plane strain). It is linear, small
// strain, isotropic in each cell, and knows nothing of teeth.
package elastic

import (
	"errors"
	"fmt"
	"math"
)

// Node is a corner of cells, by its place on the lattice; the last is 0 in a slice.
type Node [3]int

// Body is made of cells on a lattice.
type Body struct {
	Cells   [3]int  // along each axis; the last is 0 for a slice
	Side    float64 // mm, of every cell
	Poisson float64
	// Modulus (MPa) of each cell, the first axis running fastest; 0 where there is none.
	Modulus []float64
	// Held are the nodes that cannot move along some axes.
	Held map[Node][3]bool
}

// ErrUnheld is of a body of which nothing is held.
var ErrUnheld = errors.New("nothing of the body is held: hold its base")

func (b *Body) dim() int {
	if b.Cells[2] == 0 {
		return 2
	}
	return 3
}

// check names what is wrong with the figures of a body.
func (b *Body) check() error {
	cells := b.Cells[0] * b.Cells[1] * max(b.Cells[2], 1)
	switch {
	case b.Cells[0] < 1 || b.Cells[1] < 1 || b.Cells[2] < 0:
		return fmt.Errorf("the lattice is %v cells: each side must have one at least", b.Cells)
	case !(b.Side > 0) || math.IsInf(b.Side, 1):
		return fmt.Errorf("a cell's side is %v mm: it must be more than 0", b.Side)
	case !(b.Poisson >= 0 && b.Poisson < 0.49):
		return fmt.Errorf("Poisson's ratio is %v: it must be from 0 to under 0.49", b.Poisson)
	case len(b.Modulus) != cells:
		return fmt.Errorf("there are %d moduli for %d cells: each cell has one", len(b.Modulus), cells)
	case len(b.Held) == 0:
		return ErrUnheld
	}
	for n, e := range b.Modulus {
		if !(e >= 0) || math.IsInf(e, 1) {
			return fmt.Errorf("the modulus of cell %d is %v MPa: it must be 0 or more", n, e)
		}
	}
	return nil
}

// cell is the number of a cell, -1 outside the lattice.
func (b *Body) cell(i, j, k int) int {
	if i < 0 || j < 0 || k < 0 || i >= b.Cells[0] || j >= b.Cells[1] || k >= max(b.Cells[2], 1) {
		return -1
	}
	return i + b.Cells[0]*(j+b.Cells[1]*k)
}

func (b *Body) placeOf(cell int) (i, j, k int) {
	return cell % b.Cells[0], cell / b.Cells[0] % b.Cells[1], cell / b.Cells[0] / b.Cells[1]
}

// corner is a cell's node: bit n of c is its end along axis n.
func corner(i, j, k, c int) Node { return Node{i + c&1, j + c>>1&1, k + c>>2&1} }

// carried tells which cells hang together, face to face, with one that is held: others are
// loose, or turn on an edge as on a hinge, and are left out.
func (b *Body) carried() []bool {
	found := make([]bool, len(b.Modulus))
	var queue []int
	take := func(cell int) {
		if cell >= 0 && b.Modulus[cell] > 0 && !found[cell] {
			found[cell] = true
			queue = append(queue, cell)
		}
	}
	for cell := range b.Modulus {
		i, j, k := b.placeOf(cell)
		for c := range 1 << b.dim() {
			if h, is := b.Held[corner(i, j, k, c)]; is && h != [3]bool{} {
				take(cell)
			}
		}
	}
	for len(queue) > 0 {
		i, j, k := b.placeOf(queue[0])
		queue = queue[1:]
		for axis := range b.dim() {
			for _, step := range []int{-1, 1} {
				to := [3]int{i, j, k}
				to[axis] += step
				take(b.cell(to[0], to[1], to[2]))
			}
		}
	}
	return found
}

package elastic

import "gonum.org/v1/gonum/mat"

// fewest dofs are solved directly.
const fewest = 300

// coarsen makes the coarser levels, down to one that is solved directly. Their stiffness is
// the finer one's as the coarse nodes move it (Galerkin's).
func (l *level) coarsen() {
	l.ready()
	if len(l.nodes)*l.dim <= fewest {
		l.factor()
		return
	}
	var size [3]int
	for axis := range size {
		size[axis] = l.index.size[axis]/2 + 1
	}
	c := newLevel(l.dim, size)
	for _, node := range l.nodes {
		eachCoarser(node, func(to Node, _ float64) { c.add(to) })
	}
	if len(c.nodes) >= len(l.nodes) {
		return // nothing is gained: smoothing alone must do
	}
	c.wire()
	c.each(func(from, to int) {
		for n := from; n < to; n++ {
			l.gather(c, n)
		}
	})
	l.coarser = c
	c.coarsen()
}

// share is a part of a fine block that goes to a slot of a coarse node's stencil.
type share struct {
	slot   int
	weight float64
}

// sharing lists the shares of the block between the fine node in a slot about a coarse node
// and the one in a slot about that.
var sharing = [4][][]share{2: shareOut(2), 3: shareOut(3)}

func shareOut(dim int) [][]share {
	stencil := 9
	if dim == 3 {
		stencil = 27
	}
	all := make([][]share, stencil*stencil)
	for first := range stencil {
		for second := range stencil {
			a, b := offset(first, dim), offset(second, dim)
			weight := 1.0
			var at Node // of the second fine node, in fine steps from the coarse node; counted up from an even place
			for axis := range at {
				if a[axis] != 0 {
					weight /= 2
				}
				at[axis] = a[axis] + b[axis] + 4
			}
			eachCoarser(at, func(to Node, other float64) {
				slot := slotOf(Node{to[0] - 2, to[1] - 2, to[2] - 2}, dim)
				all[first*stencil+second] = append(all[first*stencil+second], share{slot, weight * other})
			})
		}
	}
	return all
}

// gather fills the stiffness of a coarse node.
func (l *level) gather(c *level, n int) {
	middle, size, coarse := slotOf(Node{}, l.dim), l.dim*l.dim, c.nodes[n]
	for first := range l.stencil {
		by := offset(first, l.dim)
		i := int(l.index.of(Node{2*coarse[0] + by[0], 2*coarse[1] + by[1], 2*coarse[2] + by[2]}))
		if i < 0 {
			continue
		}
		for second, j := range l.near[i*l.stencil:][:l.stencil] {
			if j < 0 {
				continue
			}
			block := l.between(i, second)
			if second == middle {
				block = l.unheld(i, block)
			}
			for _, s := range sharing[l.dim][first*l.stencil+second] {
				sum := c.between(n, s.slot)
				for p := range size {
					sum[p] += s.weight * block[p]
				}
			}
		}
	}
}

// unheld is a node's own block without what stands there for a held dof.
func (l *level) unheld(n int, block []float64) []float64 {
	free := block
	for p := range l.dim {
		if l.held[n*l.dim+p] {
			free = append([]float64(nil), free...)
			free[p*l.dim+p] = 0
		}
	}
	return free
}

// eachCoarser lists the coarse nodes that a node is moved by, with their weights.
func eachCoarser(n Node, f func(to Node, weight float64)) {
	for c := range 8 {
		weight := 1.0
		var to Node
		counts := true
		for axis := range n {
			up := c >> axis & 1
			to[axis] = n[axis]/2 + up
			if n[axis]%2 != 0 {
				weight /= 2
			} else if up == 1 {
				counts = false
			}
		}
		if counts {
			f(to, weight)
		}
	}
}

// eachFiner lists the nodes of this level that a coarse node moves, with their weights.
func (l *level) eachFiner(coarse Node, f func(n int, weight float64)) {
	for slot := range l.stencil {
		by := offset(slot, l.dim)
		weight := 1.0
		for _, step := range by {
			if step != 0 {
				weight /= 2
			}
		}
		if n := l.index.of(Node{2*coarse[0] + by[0], 2*coarse[1] + by[1], 2*coarse[2] + by[2]}); n >= 0 {
			f(int(n), weight)
		}
	}
}

// restrict sums residuals up to the coarser level.
func (l *level) restrict(to, from []float64) {
	c := l.coarser
	c.each(func(first, last int) {
		for n := first; n < last; n++ {
			for p := range l.dim {
				to[n*l.dim+p] = 0
			}
			l.eachFiner(c.nodes[n], func(i int, weight float64) {
				for p := range l.dim {
					if !l.held[i*l.dim+p] {
						to[n*l.dim+p] += weight * from[i*l.dim+p]
					}
				}
			})
			for p := range l.dim {
				if c.held[n*l.dim+p] {
					to[n*l.dim+p] = 0
				}
			}
		}
	})
}

// prolong spreads what the coarser level moves.
func (l *level) prolong(to, from []float64) {
	c := l.coarser
	l.each(func(first, last int) {
		for n := first; n < last; n++ {
			for p := range l.dim {
				to[n*l.dim+p] = 0
			}
			eachCoarser(l.nodes[n], func(at Node, weight float64) {
				m := int(c.index.of(at))
				for p := range l.dim {
					if !l.held[n*l.dim+p] {
						to[n*l.dim+p] += weight * from[m*l.dim+p]
					}
				}
			})
		}
	})
}

// factor prepares the direct solution, where the stiffness allows one.
func (l *level) factor() {
	size := len(l.nodes) * l.dim
	full := mat.NewSymDense(size, nil)
	for n := range l.nodes {
		for slot := range l.stencil {
			m := int(l.near[n*l.stencil+slot])
			if m < 0 {
				continue
			}
			block := l.between(n, slot)
			for p := range l.dim {
				for q := range l.dim {
					if row, column := n*l.dim+p, m*l.dim+q; row <= column {
						full.SetSym(row, column, block[p*l.dim+q])
					}
				}
			}
		}
	}
	var direct mat.Cholesky
	if direct.Factorize(full) {
		l.direct = &direct
	}
}

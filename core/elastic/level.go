package elastic

import (
	"math"

	"gonum.org/v1/gonum/mat"

	"obturon/core/parallel"
)

// level is the body on one lattice, every second node of the finer one before it: its
// stiffness between each node and those about it.
type level struct {
	dim, stencil int
	nodes        []Node
	index        lattice
	// near are the nodes about each one, itself in the middle, -1 where there is none; of
	// them block is what one moves the other by, dim² figures each, row by row.
	near  []int32
	block []float64
	held  []bool    // by dof
	slack []float64 // 1 over the diagonal
	most  float64   // the largest eigenvalue of slack times stiffness
	// weights to the coarser nodes about each node, and how the coarsest is solved.
	coarser *level
	direct  *mat.Cholesky
	scratch [4][]float64
}

// lattice numbers nodes by place.
type lattice struct {
	size [3]int
	at   []int32 // -1 where there is none
}

func newLattice(size [3]int) lattice {
	l := lattice{size, make([]int32, size[0]*size[1]*size[2])}
	for n := range l.at {
		l.at[n] = -1
	}
	return l
}

func (l lattice) place(n Node) int {
	for axis, at := range n {
		if at < 0 || at >= l.size[axis] {
			return -1
		}
	}
	return n[0] + l.size[0]*(n[1]+l.size[1]*n[2])
}

func (l lattice) of(n Node) int32 {
	if p := l.place(n); p >= 0 {
		return l.at[p]
	}
	return -1
}

// offset is the step to a neighbour by its slot in the stencil.
func offset(slot, dim int) Node {
	o := Node{slot%3 - 1, slot/3%3 - 1, slot/9 - 1}
	if dim == 2 {
		o[2] = 0
	}
	return o
}

func slotOf(by Node, dim int) int {
	slot := by[0] + 1 + 3*(by[1]+1)
	if dim == 3 {
		slot += 9 * (by[2] + 1)
	}
	return slot
}

func newLevel(dim int, size [3]int) *level {
	l := &level{dim: dim, stencil: 9, index: newLattice(size)}
	if dim == 3 {
		l.stencil = 27
	}
	return l
}

// add numbers a node if it is new.
func (l *level) add(n Node) {
	if p := l.index.place(n); l.index.at[p] < 0 {
		l.index.at[p] = int32(len(l.nodes))
		l.nodes = append(l.nodes, n)
	}
}

// wire finds each node's neighbours, and makes room for what stands between them.
func (l *level) wire() {
	l.near = make([]int32, len(l.nodes)*l.stencil)
	l.block = make([]float64, len(l.near)*l.dim*l.dim)
	l.held = make([]bool, len(l.nodes)*l.dim)
	for n := range l.scratch {
		l.scratch[n] = make([]float64, len(l.nodes)*l.dim)
	}
	for n, node := range l.nodes {
		for slot := range l.stencil {
			by := offset(slot, l.dim)
			l.near[n*l.stencil+slot] = l.index.of(Node{node[0] + by[0], node[1] + by[1], node[2] + by[2]})
		}
	}
}

// between is the block of a node and the adjacent tooth in a slot.
func (l *level) between(n, slot int) []float64 {
	size := l.dim * l.dim
	at := (n*l.stencil + slot) * size
	return l.block[at : at+size : at+size]
}

// hold takes held dofs out: they move by nothing, and nothing is moved by them.
func (l *level) hold() {
	middle := slotOf(Node{}, l.dim)
	for n := range l.nodes {
		for slot := range l.stencil {
			m := l.near[n*l.stencil+slot]
			if m < 0 {
				continue
			}
			block := l.between(n, slot)
			for p := range l.dim {
				for q := range l.dim {
					if l.held[n*l.dim+p] || l.held[int(m)*l.dim+q] {
						block[p*l.dim+q] = 0
					}
				}
			}
		}
		for p := range l.dim {
			if l.held[n*l.dim+p] {
				l.between(n, middle)[p*l.dim+p] = 1
			}
		}
	}
}

// chunks is by how many nodes at once work is shared out.
const chunks = 512

func (l *level) each(f func(from, to int)) {
	count := (len(l.nodes) + chunks - 1) / chunks
	parallel.Each(count, func(n int) { f(n*chunks, min((n+1)*chunks, len(l.nodes))) })
}

// times is y = stiffness · x.
func (l *level) times(y, x []float64) {
	if l.dim == 3 {
		l.each(func(from, to int) { l.timesInSpace(y, x, from, to) })
		return
	}
	l.each(func(from, to int) {
		for n := from; n < to; n++ {
			var a, b float64
			for slot, m := range l.near[n*9 : n*9+9] {
				if m < 0 {
					continue
				}
				k, u := l.block[(n*9+slot)*4:][:4], x[m*2:][:2]
				a += k[0]*u[0] + k[1]*u[1]
				b += k[2]*u[0] + k[3]*u[1]
			}
			y[n*2], y[n*2+1] = a, b
		}
	})
}

func (l *level) timesInSpace(y, x []float64, from, to int) {
	for n := from; n < to; n++ {
		var a, b, c float64
		for slot, m := range l.near[n*27 : n*27+27] {
			if m < 0 {
				continue
			}
			k, u := l.block[(n*27+slot)*9:][:9], x[m*3:][:3]
			a += k[0]*u[0] + k[1]*u[1] + k[2]*u[2]
			b += k[3]*u[0] + k[4]*u[1] + k[5]*u[2]
			c += k[6]*u[0] + k[7]*u[1] + k[8]*u[2]
		}
		y[n*3], y[n*3+1], y[n*3+2] = a, b, c
	}
}

// ready computes what smoothing needs.
func (l *level) ready() {
	middle := slotOf(Node{}, l.dim)
	l.slack = make([]float64, len(l.nodes)*l.dim)
	for n := range l.nodes {
		block := l.between(n, middle)
		for p := range l.dim {
			if block[p*l.dim+p] <= 0 { // of nothing but held nodes
				block[p*l.dim+p] = 1
				l.held[n*l.dim+p] = true
			}
			l.slack[n*l.dim+p] = 1 / block[p*l.dim+p]
		}
	}
	const rounds = 12
	x, y := l.scratch[0], l.scratch[1]
	for n := range x {
		x[n] = 1 + 0.3*math.Sin(float64(7*n)) // nothing that a symmetry could hide
	}
	for range rounds {
		l.times(y, x)
		l.most = 0
		for n := range y {
			y[n] *= l.slack[n]
			l.most = math.Max(l.most, math.Abs(y[n]))
		}
		for n := range y {
			x[n] = y[n] / l.most
		}
	}
	// The largest entry bounds the growth of a round; the quotient is what it tends to.
	l.times(y, x)
	up, down := 0.0, 0.0
	for n := range y {
		up, down = up+x[n]*y[n], down+x[n]*x[n]/l.slack[n]
	}
	l.most = up / down
}

// smooth improves x towards stiffness · x = b by Chebyshev's polynomial of the third degree;
// from nothing, x is taken as 0.
func (l *level) smooth(x, b []float64, fromNothing bool) {
	const degree = 3
	high, low := 1.1*l.most, l.most/6
	middle, half := (high+low)/2, (high-low)/2
	r, p := l.scratch[0], l.scratch[1]
	sigma := middle / half
	rho := 1 / sigma
	for step := range degree {
		if step == 0 && fromNothing {
			copy(r, b)
		} else {
			l.times(r, x)
			for n := range r {
				r[n] = b[n] - r[n]
			}
		}
		if step == 0 {
			for n := range p {
				p[n] = l.slack[n] * r[n] / middle
			}
		} else {
			next := 1 / (2*sigma - rho)
			for n := range p {
				p[n] = next*rho*p[n] + 2*next/half*l.slack[n]*r[n]
			}
			rho = next
		}
		if step == 0 && fromNothing {
			copy(x, p)
			continue
		}
		for n := range x {
			x[n] += p[n]
		}
	}
}

// cycle improves x from 0 towards stiffness · x = b, through all coarser levels.
func (l *level) cycle(x, b []float64) {
	if l.direct != nil {
		var out mat.VecDense
		if err := l.direct.SolveVecTo(&out, mat.NewVecDense(len(b), b)); err == nil || isCondition(err) {
			copy(x, out.RawVector().Data)
			return
		}
	}
	l.smooth(x, b, true)
	if l.coarser != nil {
		r, up := l.scratch[2], l.scratch[3]
		l.times(r, x)
		for n := range r {
			r[n] = b[n] - r[n]
		}
		c := l.coarser
		rc, xc := make([]float64, len(c.nodes)*c.dim), make([]float64, len(c.nodes)*c.dim)
		l.restrict(rc, r)
		c.cycle(xc, rc)
		l.prolong(up, xc)
		for n := range x {
			x[n] += up[n]
		}
	}
	l.smooth(x, b, false)
}

func isCondition(err error) bool {
	_, is := err.(mat.Condition)
	return is
}

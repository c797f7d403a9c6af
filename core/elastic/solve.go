package elastic

import (
	"context"
	"errors"
	"fmt"
	"math"

	"gonum.org/v1/gonum/floats"
	"gonum.org/v1/gonum/spatial/r3"
)

// System is a body made ready, for any number of loads one after the other. It is not safe
// for concurrent use.
type System struct {
	body    *Body
	element *element
	carried []bool
	level   *level
	// Progress, where it is set, is told after each round of solving what share of the way to
	// the tolerance is done.
	Progress func(share float64)
}

// Prepare assembles a body: what hangs on nothing that is held is left out. Errors name the
// figure that is wrong.
func Prepare(b *Body) (*System, error) {
	if err := b.check(); err != nil {
		return nil, err
	}
	s := &System{body: b, element: newElement(b.dim(), b.Side, b.Poisson), carried: b.carried()}
	l := newLevel(b.dim(), [3]int{b.Cells[0] + 1, b.Cells[1] + 1, b.Cells[2] + 1})
	for cell, is := range s.carried {
		if is {
			i, j, k := b.placeOf(cell)
			for c := range s.element.corners {
				l.add(corner(i, j, k, c))
			}
		}
	}
	if len(l.nodes) == 0 {
		return nil, ErrUnheld
	}
	l.wire()
	for n, h := range b.Held {
		if at := l.index.of(n); at >= 0 {
			for p := range l.dim {
				l.held[int(at)*l.dim+p] = h[p]
			}
		}
	}
	s.assemble(l)
	l.hold()
	l.coarsen()
	s.level = l
	return s, nil
}

// assemble sums the cells about each node.
func (s *System) assemble(l *level) {
	e := s.element
	dofs := e.corners * e.dim
	l.each(func(from, to int) {
		for n := from; n < to; n++ {
			node := l.nodes[n]
			for a := range e.corners { // the node's own corner of the cell
				i, j, k := node[0]-a&1, node[1]-a>>1&1, node[2]-a>>2&1
				cell := s.body.cell(i, j, k)
				if cell < 0 || !s.carried[cell] {
					continue
				}
				modulus := s.body.Modulus[cell]
				for b := range e.corners {
					other := corner(i, j, k, b)
					block := l.between(n, slotOf(Node{other[0] - node[0], other[1] - node[1], other[2] - node[2]}, l.dim))
					for p := range l.dim {
						for q := range l.dim {
							block[p*l.dim+q] += modulus * e.stiffness[(a*l.dim+p)*dofs+b*l.dim+q]
						}
					}
				}
			}
		}
	})
}

// Nodes counts the nodes that can be loaded.
func (s *System) Nodes() int { return len(s.level.nodes) }

// Has reports a node of what is carried.
func (s *System) Has(n Node) bool { return s.level.index.of(n) >= 0 }

// Displacements are how far (mm) nodes move under a load.
type Displacements struct {
	system *System
	u      []float64
	Rounds int // of the solver
}

// ErrUnsolved is of loads for which no solution came near enough.
var ErrUnsolved = errors.New("the solver found no rest for these loads")

// Solve is how the body gives way to forces (N; of a slice N per mm of its thickness) on
// nodes, to a tolerance relative to them. Errors: a load on no node, ErrUnsolved, and the
// context's.
func (s *System) Solve(ctx context.Context, loads map[Node]r3.Vec, tolerance float64) (*Displacements, error) {
	const most = 300 // rounds
	l := s.level
	b := make([]float64, len(l.nodes)*l.dim)
	for node, force := range loads {
		n := l.index.of(node)
		if n < 0 {
			return nil, fmt.Errorf("node %v is no part of what is held: load one that is", node)
		}
		for p, f := range []float64{force.X, force.Y, force.Z}[:l.dim] {
			if !l.held[int(n)*l.dim+p] {
				b[int(n)*l.dim+p] = f
			}
		}
	}
	d := &Displacements{system: s, u: make([]float64, len(b))}
	r, z, p, q := b, make([]float64, len(b)), make([]float64, len(b)), make([]float64, len(b))
	first := floats.Norm(r, 2)
	limit := tolerance * first
	if limit == 0 {
		return d, nil
	}
	before := 0.0
	for left := first; left > limit; left, d.Rounds = floats.Norm(r, 2), d.Rounds+1 {
		if s.Progress != nil {
			s.Progress(math.Max(0, math.Log(left/first)/math.Log(tolerance)))
		}
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		if d.Rounds == most {
			return nil, ErrUnsolved
		}
		l.cycle(z, r)
		now := floats.Dot(r, z)
		if d.Rounds == 0 {
			copy(p, z)
		} else {
			floats.AddScaledTo(p, z, now/before, p)
		}
		before = now
		l.times(q, p)
		step := now / floats.Dot(p, q)
		if math.IsNaN(step) || math.IsInf(step, 0) {
			return nil, ErrUnsolved
		}
		floats.AddScaled(d.u, step, p)
		floats.AddScaled(r, -step, q)
	}
	return d, nil
}

// At is how far (mm) a node moves; nothing where it is no part of the body.
func (d *Displacements) At(n Node) r3.Vec {
	l := d.system.level
	at := int(l.index.of(n))
	if at < 0 {
		return r3.Vec{}
	}
	v := r3.Vec{X: d.u[at*l.dim], Y: d.u[at*l.dim+1]}
	if l.dim == 3 {
		v.Z = d.u[at*l.dim+2]
	}
	return v
}

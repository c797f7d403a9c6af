package resist

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/elastic"
	"obturon/core/parallel"
	"obturon/core/solid"
)

// heldAt (mm from the cervical line) is where the root is held: about the crest of the bone
// and a little under it.
const heldAt = -3.0

// lattice lays equal cells over a tooth, in the tooth's frame.
type lattice struct {
	side  float64 // mm
	low   r3.Vec
	cells [3]int
	// Shares of each cell that are sound tooth, dentin or pulp of it, and pulp.
	tooth, inner, pulp []float64
}

func newLattice(m *anatomy.Model, side float64) *lattice {
	// Cells begin at the tooth's axis, so that they lie alike whatever the model's own samples.
	g := m.Surface.Grid
	high := r3.Add(g.Origin, r3.Scale(g.H, r3.Vec{X: float64(g.N[0]), Y: float64(g.N[1]), Z: float64(g.N[2])}))
	l := &lattice{side: side, low: r3.Vec{X: side * math.Floor(g.Origin.X/side), Y: side * math.Floor(g.Origin.Y/side), Z: heldAt}}
	for axis, reach := range []float64{high.X - l.low.X, high.Y - l.low.Y, high.Z - l.low.Z} {
		l.cells[axis] = int(math.Ceil(reach / side))
	}
	dentin, pulp := m.Dentin(), m.Pulp()
	l.tooth = l.shares(m.Surface.Distance)
	l.inner = l.shares(dentin.Distance)
	l.pulp = l.shares(pulp.Distance)
	return l
}

// shares is how much of each cell lies inside a surface.
func (l *lattice) shares(distance func(r3.Vec) float64) []float64 {
	all := make([]float64, l.cells[0]*l.cells[1]*l.cells[2])
	layer := l.cells[0] * l.cells[1]
	parallel.Each(l.cells[2], func(k int) {
		for n := k * layer; n < (k+1)*layer; n++ {
			all[n] = shareInside(distance(l.middle(n)), l.side)
		}
	})
	return all
}

func (l *lattice) middle(cell int) r3.Vec {
	i, j, k := cell%l.cells[0], cell/l.cells[0]%l.cells[1], cell/l.cells[0]/l.cells[1]
	return l.at(float64(i)+0.5, float64(j)+0.5, float64(k)+0.5)
}

func (l *lattice) at(i, j, k float64) r3.Vec {
	return r3.Add(l.low, r3.Scale(l.side, r3.Vec{X: i, Y: j, Z: k}))
}

func (l *lattice) node(n elastic.Node) r3.Vec {
	return l.at(float64(n[0]), float64(n[1]), float64(n[2]))
}

// body is the tooth of which the share left stands, the rest of it being a filling of a
// modulus (0 where there is none).
func (l *lattice) body(left []float64, filling float64, s Stiffness) *elastic.Body {
	b := &elastic.Body{Cells: l.cells, Side: l.side, Poisson: s.Poisson, Modulus: make([]float64, len(left)), Held: map[elastic.Node][3]bool{}}
	for n := range left {
		stands := math.Min(left[n], l.tooth[n])
		filled := 0.0
		if filling > 0 {
			filled = l.tooth[n] - stands
		}
		tissue := s.Enamel
		if l.tooth[n] > 0 {
			inner, pulp := math.Min(l.inner[n], l.tooth[n])/l.tooth[n], math.Min(l.pulp[n], l.tooth[n])/l.tooth[n]
			inner = math.Max(inner-pulp, 0)
			tissue = s.Enamel*math.Max(1-inner-pulp, 0) + s.Dentin*inner + s.Pulp*pulp
		}
		b.Modulus[n] = ofCell(tissue, stands, filling, filled)
	}
	for j := range l.cells[1] + 1 {
		for i := range l.cells[0] + 1 {
			b.Held[elastic.Node{i, j, 0}] = [3]bool{true, true, true}
		}
	}
	return b
}

// weighted is a node by how much it counts.
type weighted struct {
	node elastic.Node
	w    float64
}

// evenly has weights sum up to 1.
func evenly(nodes []weighted) []weighted {
	sum := 0.0
	for _, n := range nodes {
		sum += n.w
	}
	for k := range nodes {
		nodes[k].w /= sum
	}
	return nodes
}

// about lists the nodes of a system near a place, with weights that fall off to its reach.
func (l *lattice) about(s *elastic.System, place r3.Vec, reach float64) []weighted {
	from := r3.Sub(place, l.low)
	var found []weighted
	low := func(v float64) int { return int(math.Floor((v - reach) / l.side)) }
	high := func(v float64) int { return int(math.Ceil((v + reach) / l.side)) }
	for k := low(from.Z); k <= high(from.Z); k++ {
		for j := low(from.Y); j <= high(from.Y); j++ {
			for i := low(from.X); i <= high(from.X); i++ {
				n := elastic.Node{i, j, k}
				if d := r3.Norm(r3.Sub(l.node(n), place)) / reach; d < 1 && s.Has(n) {
					found = append(found, weighted{n, (1 - d*d) * (1 - d*d)})
				}
			}
		}
	}
	return evenly(found)
}

// inside is the share of cells within a solid.
func (l *lattice) inside(w *solid.Workpiece) []float64 { return l.shares(w.Distance) }

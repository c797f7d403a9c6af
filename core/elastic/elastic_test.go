package elastic

import (
	"context"
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/spatial/r3"
)

// block is a body of cells all alike, held by rule.
func block(cells [3]int, side, modulus float64, held func(Node) [3]bool) *Body {
	b := &Body{Cells: cells, Side: side, Poisson: 0.3, Held: map[Node][3]bool{}}
	b.Modulus = make([]float64, cells[0]*cells[1]*max(cells[2], 1))
	for n := range b.Modulus {
		b.Modulus[n] = modulus
	}
	for k := 0; k <= cells[2]; k++ {
		for j := 0; j <= cells[1]; j++ {
			for i := 0; i <= cells[0]; i++ {
				if h := held(Node{i, j, k}); h != [3]bool{} {
					b.Held[Node{i, j, k}] = h
				}
			}
		}
	}
	return b
}

func solved(t *testing.T, b *Body, loads map[Node]r3.Vec) *Displacements {
	t.Helper()
	s, err := Prepare(b)
	if err != nil {
		t.Fatal(err)
	}
	d, err := s.Solve(context.Background(), loads, 1e-8)
	if err != nil {
		t.Fatal(err)
	}
	return d
}

// spread shares a force over nodes of a face as its area does.
func spread(total r3.Vec, nodes map[Node]float64) map[Node]r3.Vec {
	sum := 0.0
	for _, w := range nodes {
		sum += w
	}
	loads := map[Node]r3.Vec{}
	for n, w := range nodes {
		loads[n] = r3.Scale(w/sum, total)
	}
	return loads
}

// endFace weighs the nodes of the last face along the first axis.
func endFace(cells [3]int) map[Node]float64 {
	nodes := map[Node]float64{}
	for k := 0; k <= cells[2]; k++ {
		for j := 0; j <= cells[1]; j++ {
			w := 1.0
			if j == 0 || j == cells[1] {
				w /= 2
			}
			if cells[2] > 0 && (k == 0 || k == cells[2]) {
				w /= 2
			}
			nodes[Node{cells[0], j, k}] = w
		}
	}
	return nodes
}

// A bar that is pulled has one stress, and thins by Poisson's ratio.
func TestABarInTension(t *testing.T) {
	for _, cells := range [][3]int{{12, 5, 0}, {12, 5, 4}} {
		rolling := func(n Node) [3]bool { return [3]bool{n[0] == 0, n == Node{}, n == Node{} || n == Node{0, 5, 0}} }
		b := block(cells, 0.5, 2000, rolling)
		area := 2.5
		if cells[2] > 0 {
			area *= 2
		}
		d := solved(t, b, spread(r3.Vec{X: 10 * area}, endFace(cells)))
		s, ok := d.StressIn(7, 2, cells[2]/2)
		if !ok || math.Abs(s[0]-10) > 1e-4 || math.Abs(s[1]) > 1e-4 || math.Abs(s.Tension()-10) > 1e-4 {
			t.Errorf("%v: stress %.5v, want 10 MPa along the bar alone", cells, s)
		}
		modulus := 2000.0
		if cells[2] == 0 { // a slice cannot thin across
			modulus /= 1 - 0.3*0.3
		}
		if got, want := d.At(Node{12, 2, 0}).X, 10/modulus*6; math.Abs(got-want) > 1e-6 {
			t.Errorf("%v: longer by %.6f mm, want %.6f", cells, got, want)
		}
	}
}

// Timoshenko's cantilever, as a slice and in space: within 2 % from four cells of height on.
func TestACantilever(t *testing.T) {
	const modulus, poisson, load = 18000.0, 0.3, 5.0
	for _, high := range []int{1, 2, 4, 8} {
		for _, space := range []bool{false, true} {
			cells := [3]int{10 * high, high, 0}
			side := 1 / float64(high) // of a beam 1 high and 10 long
			width, e := 1.0, modulus/(1-poisson*poisson)
			if space {
				cells[2], e = high, modulus
			}
			b := block(cells, side, modulus, func(n Node) [3]bool {
				clamped := n[0] == 0
				return [3]bool{clamped, clamped && n[1] == high/2, clamped && n[2] == cells[2]/2}
			})
			d := solved(t, b, spread(r3.Vec{Y: load}, endFace(cells)))
			inertia, shear := width/12, modulus/(2*(1+poisson))
			want := load*1000/(3*e*inertia) + 1.2*load*10/(shear*width)
			got := d.At(Node{cells[0], high / 2, cells[2] / 2}).Y
			if off := math.Abs(got/want - 1); off > 0.02 {
				t.Errorf("%d cells high, in space %v: the end moves by %.5f mm, want %.5f", high, space, got, want)
			}
		}
	}
}

// A wide plate with a hole in tension: Kirsch's stress beside it, as the mean over a disc
// that stays the same whatever the cells.
func TestAPlateWithAHole(t *testing.T) {
	const radius, half, pulled = 1.0, 10.0, 1.0
	for _, side := range []float64{0.2, 0.1} {
		across := int(math.Round(half / side))
		cells := [3]int{2 * across, across, 0}
		// A quarter, on its two planes of symmetry.
		b := block(cells, side, 1000, func(n Node) [3]bool { return [3]bool{n[0] == 0, n[1] == 0} })
		for cell := range b.Modulus {
			i, j, _ := b.placeOf(cell)
			b.Modulus[cell] *= filled(side, i, j, radius)
		}
		d := solved(t, b, spread(r3.Vec{X: pulled * half}, endFace(cells)))
		sum, want, count := 0.0, 0.0, 0
		for cell := range b.Modulus {
			i, j, k := b.placeOf(cell)
			x, y := (float64(i)+0.5)*side, (float64(j)+0.5)*side
			if math.Hypot(x, y-1.3*radius) > 0.15*radius {
				continue
			}
			s, ok := d.StressIn(i, j, k)
			if !ok {
				t.Fatal("a cell of the disc is empty")
			}
			sum, want, count = sum+s.Tension(), want+kirsch(x, y, radius), count+1
		}
		// A plate 20 radii wide is stressed by 1 % more than one without end (Howland).
		if got, want := sum/float64(count), 1.008*want/float64(count); math.Abs(got/want-1) > 0.02 {
			t.Errorf("cells of %.2f: tension %.4f of what is pulled, want %.4f", side, got, want)
		}
	}
}

// filled is the share of a cell outside the hole.
func filled(side float64, i, j int, radius float64) float64 {
	const parts = 8
	count := 0
	for a := range parts {
		for b := range parts {
			x := (float64(i) + (float64(a)+0.5)/parts) * side
			y := (float64(j) + (float64(b)+0.5)/parts) * side
			if math.Hypot(x, y) > radius {
				count++
			}
		}
	}
	return float64(count) / parts / parts
}

// kirsch is the largest principal stress about a hole under tension 1 along x.
func kirsch(x, y, radius float64) float64 {
	r, angle := math.Hypot(x, y), math.Atan2(y, x)
	q := radius * radius / r / r
	rr := (1-q)/2 + (1-4*q+3*q*q)/2*math.Cos(2*angle)
	tt := (1+q)/2 - (1+3*q*q)/2*math.Cos(2*angle)
	rt := -(1 + 2*q - 3*q*q) / 2 * math.Sin(2*angle)
	return (rr+tt)/2 + math.Hypot((rr-tt)/2, rt)
}

// Bodies of any cells come out as a direct solution of the same equations does.
func TestRandomBodiesAgreeWithADirectSolution(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	for n := range 30 {
		cells := [3]int{3 + random.IntN(4), 3 + random.IntN(4), 0}
		if n%2 == 0 {
			cells[2] = 2 + random.IntN(3)
		}
		b := block(cells, 0.3, 1, func(n Node) [3]bool { return [3]bool{n[1] == 0, n[1] == 0, n[1] == 0} })
		for cell := range b.Modulus {
			b.Modulus[cell] = []float64{0, 2, 12000, 18000, 84000}[random.IntN(5)]
			if _, j, _ := b.placeOf(cell); j == 0 {
				b.Modulus[cell] = 18000 // what it stands on
			}
		}
		s, err := Prepare(b)
		if err != nil {
			t.Fatal(err)
		}
		loads := map[Node]r3.Vec{}
		for _, node := range s.level.nodes {
			if random.IntN(4) == 0 {
				loads[node] = r3.Vec{X: random.NormFloat64(), Y: random.NormFloat64(), Z: random.NormFloat64()}
			}
		}
		got, err := s.Solve(context.Background(), loads, 1e-10)
		if err != nil {
			t.Fatalf("body %d: %v", n, err)
		}
		want := direct(t, s.level, loads)
		most, off := 0.0, 0.0
		for k := range want {
			most, off = math.Max(most, math.Abs(want[k])), math.Max(off, math.Abs(want[k]-got.u[k]))
		}
		if off > 1e-5*most {
			t.Errorf("body %d: off by %.2g of %.2g mm", n, off, most)
		}
	}
}

func direct(t *testing.T, l *level, loads map[Node]r3.Vec) []float64 {
	t.Helper()
	size := len(l.nodes) * l.dim
	full, b, column, unit := mat.NewDense(size, size, nil), mat.NewVecDense(size, nil), make([]float64, size), make([]float64, size)
	for n := range size {
		clear(unit)
		unit[n] = 1
		l.times(column, unit)
		full.SetCol(n, column)
	}
	for node, f := range loads {
		at := int(l.index.of(node))
		for p, v := range []float64{f.X, f.Y, f.Z}[:l.dim] {
			if !l.held[at*l.dim+p] {
				b.SetVec(at*l.dim+p, v)
			}
		}
	}
	var x mat.VecDense
	if err := x.SolveVec(full, b); err != nil && !isCondition(err) {
		t.Fatal(err)
	}
	return x.RawVector().Data
}

// A slotted block takes few rounds whatever its cells: two walls on one base, as of a cavity.
func TestRoundsDoNotGrowWithTheCells(t *testing.T) {
	for _, n := range []int{8, 16, 32} {
		for _, deep := range []int{0, n} {
			cells := [3]int{n, n, deep}
			b := block(cells, 8/float64(n), 18000, func(n Node) [3]bool { h := n[1] == 0; return [3]bool{h, h, h} })
			for cell := range b.Modulus {
				if i, j, _ := b.placeOf(cell); j >= n/2 && i >= n*3/8 && i < n*5/8 {
					b.Modulus[cell] = 0
				}
			}
			s, err := Prepare(b)
			if err != nil {
				t.Fatal(err)
			}
			d, err := s.Solve(context.Background(), map[Node]r3.Vec{{0, n, deep / 2}: {X: 10, Y: -10}, {n, n, deep / 2}: {X: -10, Y: -10}}, 1e-4)
			if err != nil || d.Rounds > 16 {
				t.Errorf("%v: %d rounds, %v", cells, d.Rounds, err)
			}
		}
	}
}

// Cells that hang on nothing, or on an edge alone, are left out.
func TestLooseCellsAreLeftOut(t *testing.T) {
	b := block([3]int{6, 6, 0}, 1, 0, func(n Node) [3]bool { return [3]bool{n[1] == 0, n[1] == 0} })
	for _, at := range [][2]int{{0, 0}, {1, 0}, {2, 1}, {5, 5}} { // the third on an edge, the last alone
		b.Modulus[b.cell(at[0], at[1], 0)] = 100
	}
	s, err := Prepare(b)
	if err != nil || s.Nodes() != 6 || s.Has(Node{5, 5, 0}) {
		t.Fatalf("%d nodes, %v", s.Nodes(), err)
	}
	if _, err := s.Solve(context.Background(), map[Node]r3.Vec{{5, 5, 0}: {X: 1}}, 1e-4); err == nil {
		t.Error("a load on a loose cell is taken")
	}
}

func TestWrongBodiesAreRefused(t *testing.T) {
	held := func(n Node) [3]bool { return [3]bool{n[1] == 0, n[1] == 0, n[1] == 0} }
	for name, spoil := range map[string]func(*Body){
		"no cells":        func(b *Body) { b.Cells[0] = 0 },
		"side":            func(b *Body) { b.Side = math.NaN() },
		"Poisson's ratio": func(b *Body) { b.Poisson = 0.5 },
		"moduli":          func(b *Body) { b.Modulus = b.Modulus[1:] },
		"modulus":         func(b *Body) { b.Modulus[3] = -1 },
		"nothing held":    func(b *Body) { b.Held = nil },
		"empty":           func(b *Body) { clear(b.Modulus) },
	} {
		b := block([3]int{4, 4, 4}, 1, 100, held)
		spoil(b)
		if _, err := Prepare(b); err == nil || err.Error() == "" {
			t.Errorf("%s: taken", name)
		}
	}
	s, _ := Prepare(block([3]int{8, 8, 8}, 1, 100, held))
	ended, cancel := context.WithCancel(context.Background())
	cancel()
	if _, err := s.Solve(ended, map[Node]r3.Vec{{0, 8, 0}: {X: 1}}, 1e-4); !errors.Is(err, context.Canceled) {
		t.Errorf("solving goes on after its end: %v", err)
	}
}

// large is a block as large as a molar on cells of 0.4 mm, with a slot.
func large() (*Body, map[Node]r3.Vec) {
	body := block([3]int{28, 20, 28}, 0.4, 18000, func(n Node) [3]bool { h := n[1] == 0; return [3]bool{h, h, h} })
	for cell := range body.Modulus {
		if i, j, _ := body.placeOf(cell); j >= 10 && i >= 11 && i < 17 {
			body.Modulus[cell] = 0
		}
	}
	return body, map[Node]r3.Vec{{0, 20, 14}: {X: 10, Y: -10}, {28, 20, 14}: {X: -10, Y: -10}}
}

func BenchmarkSlottedBlock(b *testing.B) {
	body, loads := large()
	for b.Loop() {
		s, err := Prepare(body)
		if err != nil {
			b.Fatal(err)
		}
		if _, err := s.Solve(context.Background(), loads, 1e-4); err != nil {
			b.Fatal(err)
		}
		b.ReportMetric(float64(3*s.Nodes()), "dofs")
	}
}

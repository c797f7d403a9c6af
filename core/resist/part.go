package resist

import (
	"context"
	"errors"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/elastic"
	"obturon/core/solid"
)

// Parting is how far cusps go under a load.
type Parting struct {
	// Opening (µm) is by how much facial and lingual cusps part, on average.
	Opening float64
	// Cusps are how far (µm) each goes, outwards positive, in their order.
	Cusps []float64
}

// Compared are the sound tooth, the cavity as it is cut and the cavity with a bonded
// composite in it, under the same load.
type Compared struct {
	Borne                []Borne
	Sound, Empty, Filled Parting
	Side                 float64 // mm of the cells it is computed on
}

// Times is by how much more the cusps of the empty or filled tooth part than those of the
// sound one.
func (c Compared) Times(p Parting) float64 { return p.Opening / c.Sound.Opening }

// ErrNoCusps is of teeth whose cusps do not stand on two sides: there is nothing to part.
var ErrNoCusps = errors.New("no two cusps stand against each other: there is nothing to part")

// LeastSide and MostSide (mm) bound the cells: finer takes minutes, coarser misses cusps.
const LeastSide, MostSide = 0.2, 0.5

// Part loads a tooth whose cavities are cut. Errors: ErrNoCusps, figures that cannot be, and
// the context's.
func Part(ctx context.Context, m *anatomy.Model, cut *solid.Workpiece, bite Bite, stiffness Stiffness, side float64) (Compared, error) {
	if err := errors.Join(bite.Check(), stiffness.Check()); err != nil {
		return Compared{}, err
	}
	c := Compared{Borne: bite.on(m, cut), Side: math.Max(LeastSide, math.Min(MostSide, side))}
	facial, lingual := 0, 0
	for _, b := range c.Borne {
		if b.Cusp.At.Y > 0 {
			facial++
		} else {
			lingual++
		}
	}
	if facial == 0 || lingual == 0 {
		return Compared{}, ErrNoCusps
	}
	l := newLattice(m, c.Side)
	left := l.inside(cut)
	empty, err := elastic.Prepare(l.body(left, 0, stiffness))
	if err != nil {
		return Compared{}, err
	}
	loads, felt := l.load(empty, c.Borne)
	for _, of := range []struct {
		to      *Parting
		left    []float64
		filling float64
	}{{&c.Empty, left, 0}, {&c.Filled, left, stiffness.Composite}, {&c.Sound, l.tooth, 0}} {
		system := empty
		if of.to != &c.Empty {
			if system, err = elastic.Prepare(l.body(of.left, of.filling, stiffness)); err != nil {
				return Compared{}, err
			}
		}
		if *of.to, err = parted(ctx, system, loads, felt, c.Borne); err != nil {
			return Compared{}, err
		}
	}
	return c, nil
}

// load spreads what each cusp bears over nodes of the cut tooth, which all three share, and
// lists those by which its movement is felt: of its body, under the tip.
func (l *lattice) load(s *elastic.System, borne []Borne) (loads map[elastic.Node]r3.Vec, felt [][]weighted) {
	const over, under, about = 0.9, 1.2, 1.0 // mm: reach of the load; depth and reach of what is felt
	loads = map[elastic.Node]r3.Vec{}
	for _, b := range borne {
		for _, n := range l.about(s, b.At, over) {
			loads[n.node] = r3.Add(loads[n.node], r3.Scale(n.w, b.Force))
		}
		felt = append(felt, l.about(s, r3.Sub(b.Cusp.At, r3.Vec{Z: under}), about))
	}
	return loads, felt
}

func parted(ctx context.Context, s *elastic.System, loads map[elastic.Node]r3.Vec, felt [][]weighted, borne []Borne) (Parting, error) {
	const tolerance = 1e-4
	d, err := s.Solve(ctx, loads, tolerance)
	if err != nil {
		return Parting{}, err
	}
	var p Parting
	sums, counts := [2]float64{}, [2]float64{}
	for n, nodes := range felt {
		out := 0.0
		for _, n := range nodes {
			out += n.w * d.At(n.node).Y
		}
		side := 0
		if borne[n].Cusp.At.Y < 0 {
			side, out = 1, -out
		}
		const micrometres = 1000 // in a mm
		p.Cusps = append(p.Cusps, micrometres*out)
		sums[side], counts[side] = sums[side]+micrometres*out, counts[side]+1
	}
	p.Opening = sums[0]/counts[0] + sums[1]/counts[1]
	return p, nil
}

package resist

import (
	"context"
	"errors"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/elastic"
	"obturon/core/notation"
	"obturon/core/solid"
)

// Deflection is how far cusps go under a load.
type Deflection struct {
	// Opening (µm) is by how much facial and lingual cusps deflect apart, on average.
	Opening float64
	// Cusps are how far (µm) each goes that stands, outwards positive, in their order.
	Cusps []float64
}

// Compared are the sound tooth, the cavity as it is cut and the cavity with a bonded
// composite in it, under the same load.
type Compared struct {
	Borne                []Borne
	Missed               int             // contacts that lie on the filling, and load nothing
	Cusps                []anatomy.Named // that stand
	Sound, Empty, Filled Deflection
	Side                 float64 // mm of the cells it is computed on
}

// Times is by how much more the cusps of the empty or filled tooth part than those of the
// sound one; ok is false for a load that parts none of the sound tooth's.
func (c Compared) Times(p Deflection) (times float64, ok bool) {
	const parts = 0.05 // µm
	return p.Opening / c.Sound.Opening, c.Sound.Opening > parts && p.Opening > 0
}

// ErrNoCusps is of teeth whose cusps do not stand on two sides: there is no cuspal deflection to compare.
// ErrNothingBears is of loads that lie where the cut tooth keeps no surface.
var (
	ErrNoCusps      = errors.New("no two cusps stand against each other: there is no cuspal deflection to compare")
	ErrNothingBears = errors.New("the cut tooth keeps no surface where the load lies")
)

// Cells is the side (mm) of cells on which a tooth is loaded: while one waits, or for a job on
// finer ones. The walls of primary teeth are thinner. A step finer changes no opening by a
// twentieth (measured on twenty teeth).
func Cells(tooth notation.Tooth, fine bool) float64 {
	switch {
	case tooth.Primary() && fine:
		return 0.2
	case tooth.Primary():
		return 0.3
	case fine:
		return 0.25
	}
	return 0.4
}

// Deflect loads a tooth whose cavities are cut. progress, if given, is told which share of the
// work is done. Errors: ErrNoCusps, ErrNothingBears, figures that cannot be, and the context's.
func Deflect(
	ctx context.Context,
	m *anatomy.Model,
	cut *solid.Workpiece,
	bite Bite,
	stiffness Stiffness,
	side float64,
	progress func(share float64),
) (Compared, error) {
	if err := errors.Join(bite.Check(), stiffness.Check()); err != nil {
		return Compared{}, err
	}
	c := Compared{Cusps: standing(m, cut), Side: side}
	facial := 0
	for _, cusp := range c.Cusps {
		if cusp.At.Y > 0 {
			facial++
		}
	}
	if facial == 0 || facial == len(c.Cusps) {
		return Compared{}, ErrNoCusps
	}
	if c.Borne, c.Missed = bite.on(m, cut); len(c.Borne) == 0 {
		return Compared{}, ErrNothingBears
	}
	l := newLattice(m, c.Side)
	left := l.inside(cut)
	empty, err := elastic.Prepare(l.body(left, 0, stiffness))
	if err != nil {
		return Compared{}, err
	}
	loads, felt := l.load(empty, c.Borne), l.felt(empty, c.Cusps)
	for n, of := range []struct {
		to      *Deflection
		left    []float64
		filling float64
	}{{&c.Empty, left, 0}, {&c.Filled, left, stiffness.Composite}, {&c.Sound, l.tooth, 0}} {
		system := empty
		if of.to != &c.Empty {
			if system, err = elastic.Prepare(l.body(of.left, of.filling, stiffness)); err != nil {
				return Compared{}, err
			}
		}
		if progress != nil {
			system.Progress = func(share float64) { progress((float64(n) + share) / 3) }
		}
		moved, err := system.Solve(ctx, loads, tolerance)
		if err != nil {
			return Compared{}, err
		}
		*of.to = deflected(moved, felt, c.Cusps)
	}
	return c, nil
}

// tolerance is how far a solution may be off, of the load: a ten-thousandth shows in no figure.
const tolerance = 1e-4

// load spreads what the tooth bears over nodes of the cut one, which all three share.
func (l *lattice) load(s *elastic.System, borne []Borne) map[elastic.Node]r3.Vec {
	const over = 0.9 // mm
	loads := map[elastic.Node]r3.Vec{}
	for _, b := range borne {
		for _, n := range l.about(s, b.At, over) {
			loads[n.node] = r3.Add(loads[n.node], r3.Scale(n.w, b.Force))
		}
	}
	return loads
}

// felt lists for each cusp the nodes by which its movement is felt: of its body, under the tip.
func (l *lattice) felt(s *elastic.System, cusps []anatomy.Named) (all [][]weighted) {
	const under, about = 1.2, 1.0 // mm
	for _, cusp := range cusps {
		all = append(all, l.about(s, r3.Sub(cusp.At, r3.Vec{Z: under}), about))
	}
	return all
}

func deflected(d *elastic.Displacements, felt [][]weighted, cusps []anatomy.Named) (p Deflection) {
	const micrometres = 1000 // in a mm
	sums, counts := [2]float64{}, [2]float64{}
	for n, nodes := range felt {
		out := 0.0
		for _, n := range nodes {
			out += micrometres * n.w * d.At(n.node).Y
		}
		side := 0
		if cusps[n].At.Y < 0 {
			side, out = 1, -out
		}
		p.Cusps = append(p.Cusps, out)
		sums[side], counts[side] = sums[side]+out, counts[side]+1
	}
	p.Opening = sums[0]/counts[0] + sums[1]/counts[1]
	return p
}

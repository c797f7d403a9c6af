package prep

import (
	"fmt"
	"math"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/school"
)

// site is the occlusal surface as the preparation sees it, in the table's frame.
type site struct {
	line    []r3.Vec // fissures to be opened, mesial first
	grooves []anatomy.GrooveLine
	// Proximal surfaces at the level of the fossae, mm along U.
	mesialSurface, distalSurface float64
}

func newSite(r Request) (*site, error) {
	m := r.Model
	s := &site{}
	lesionLed := !requires(r, "outline.groove_extension")
	if lesionLed {
		for _, l := range r.Lesions {
			s.line = append(s.line, l.Path()...)
		}
	} else {
		mesial, distal := math.Inf(-1), math.Inf(1)
		for _, p := range m.Pits {
			mesial, distal = math.Max(mesial, p.At.X), math.Min(distal, p.At.X)
		}
		for _, p := range m.CentralLine() {
			if p.X <= mesial && p.X >= distal {
				s.line = append(s.line, m.Table.To(p))
			}
		}
		s.grooves = sideGrooves(m)
	}
	if len(s.line) == 0 {
		return nil, ErrNoCentralFissure
	}
	if s.crossesRidge(r) {
		return nil, ErrBeyondRidge
	}
	if len(s.line) == 1 {
		s.line = append(s.line, r3.Add(s.line[0], r3.Vec{X: -0.01}))
	}
	var err error
	if s.mesialSurface, err = proximalSurface(m, s.line[0], +1); err != nil {
		return nil, err
	}
	if s.distalSurface, err = proximalSurface(m, s.line[len(s.line)-1], -1); err != nil {
		return nil, err
	}
	return s, nil
}

// crossesRidge reports whether the fissures to be opened and the lesions lie on
// both sides of an oblique ridge, where the central line ends.
func (s *site) crossesRidge(r Request) bool {
	central := r.Model.CentralLine()
	distalPit, ok := r.Model.Pit("distal pit")
	if !ok || len(central) == 0 {
		return false
	}
	const apart = 1.0 // mm between the line's end and a pit beyond the ridge
	end := central[len(central)-1].X
	if end-distalPit.X < apart {
		return false
	}
	divide := (end + distalPit.X) / 2
	mesial, distal := false, false
	side := func(q r3.Vec) {
		if r.Model.Table.From(q).X > divide {
			mesial = true
		} else {
			distal = true
		}
	}
	for _, q := range s.line {
		side(q)
	}
	for _, l := range r.Lesions {
		for _, q := range l.Path() {
			side(q)
		}
	}
	return mesial && distal
}

func requires(r Request, id string) bool {
	c, ok := r.School.For(id, r.Model.Tooth, r.Material)
	return ok && c.Required()
}

// proximalSurface is where a line along U from an inner point leaves the tooth.
func proximalSurface(m *anatomy.Model, from r3.Vec, sense float64) (float64, error) {
	from.Z -= 0.3 // under the fissure, inside the tooth
	t, ok := m.Surface.RootAlong(m.Table.From(from), r3.Scale(sense, m.Table.U), 0.05, 8, 0.1)
	if !ok {
		return 0, fmt.Errorf("no proximal surface beside the fissure at %.1f mm", from.X)
	}
	return from.X + sense*t, nil
}

// sideGrooves are the fissured grooves that run to buccal or lingual.
func sideGrooves(m *anatomy.Model) []anatomy.GrooveLine {
	var side []anatomy.GrooveLine
	for _, g := range m.Grooves {
		if g.Fissured && !g.Supplemental && GrooveSide(g.Name) != "" && len(g.Points) > 2 {
			side = append(side, g)
		}
	}
	return side
}

// GrooveSide tells whether a groove runs to "buccal" or "lingual"; "" if neither.
func GrooveSide(name string) string {
	switch {
	case strings.Contains(name, "oblique") || strings.Contains(name, "transverse"):
		return ""
	case strings.HasSuffix(name, "buccal groove"):
		return "buccal"
	case strings.HasSuffix(name, "lingual groove"):
		return "lingual"
	default:
		return ""
	}
}

// extension is the proposed length into the grooves of a side, in mm.
func (s *site) extension(r Request, side string, isthmus float64) float64 {
	c, ok := r.School.For("outline.groove_extension", r.Model.Tooth, r.Material)
	if !ok || !c.Required() {
		return 0
	}
	shortest := math.Inf(1)
	for _, g := range s.grooves {
		if GrooveSide(g.Name) == side {
			shortest = math.Min(shortest, grooveLength(r.Model.Table, g)-isthmus/2)
		}
	}
	if math.IsInf(shortest, 1) {
		return 0
	}
	if c.Basis == school.GrooveFraction {
		return c.Aim * shortest
	}
	return math.Min(c.Aim, shortest)
}

func grooveLength(table anatomy.Frame, g anatomy.GrooveLine) float64 {
	sum := 0.0
	for n := 1; n < len(g.Points); n++ {
		a, b := table.To(g.Points[n-1]), table.To(g.Points[n])
		sum += math.Hypot(b.X-a.X, b.Y-a.Y)
	}
	return sum
}

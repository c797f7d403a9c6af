package measure

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/hold"
)

// How well composite bonds, of bevelled enamel; shares of its strength (operative dentistry
// convention: enamel 20 to 30 MPa across the ends of its rods, less along them, dentin and
// root two thirds and half of it).
const (
	bondAlongRods = 0.8
	bondDentin    = 0.65
	bondRoot      = 0.5
)

// Bond is what a filling bonds to.
type Bond struct {
	Enamel, Dentin float64 // mm²
	// Counted is all of it by how well it bonds, in mm² of bevelled enamel.
	Counted float64
	// EdgeIndex compares what the bond can hold against a load on the edge that is rebuilt
	// with what that load asks of it; 0 where no edge is. Twice the figure bears twice the
	// load before the same place of the bond is strained as much.
	EdgeIndex float64
	Lever     float64 // mm from the middle of the bond to the edge that is loaded
}

// Bond is that of one of the cavity's fillings.
func (s *Subject) Bond(bed *hold.Bed) Bond {
	var b Bond
	dentin := s.Model.Dentin()
	quality := make([]float64, len(bed.Walls))
	for n, w := range bed.Walls {
		switch {
		case dentin.Distance(w.At) >= 0 && w.Feature&cavity.BevelFlag != 0:
			quality[n] = 1
		case dentin.Distance(w.At) >= 0:
			quality[n] = bondAlongRods
		case w.At.Z < 0: // under the cervical line
			quality[n] = bondRoot
		default:
			quality[n] = bondDentin
		}
		if dentin.Distance(w.At) >= 0 {
			b.Enamel += w.Area
		} else {
			b.Dentin += w.Area
		}
		b.Counted += quality[n] * w.Area
	}
	if s.Cavity.Kind == cavity.IncisalAngle {
		b.loadEdge(s, bed, quality)
	}
	return b
}

// loadEdge sets the index of a rebuilt corner: a load on the corner as it was, from lingual,
// turns the filling about the middle of its bond. What holds are its faces, each by its
// distance from that axis and how well it bonds: the section modulus of the bond over the
// load's lever.
func (b *Bond) loadEdge(s *Subject, bed *hold.Bed, quality []float64) {
	var middle r3.Vec
	total := 0.0
	for n, w := range bed.Walls {
		middle, total = r3.Add(middle, r3.Scale(quality[n]*w.Area, w.At)), total+quality[n]*w.Area
	}
	middle = r3.Scale(1/total, middle)
	corner, ok := lostEdge(s, middle)
	if !ok {
		return
	}
	facial := r3.Vec{Y: 1}
	lever := r3.Sub(corner, middle)
	lever = r3.Sub(lever, r3.Scale(r3.Dot(lever, facial), facial))
	b.Lever = r3.Norm(lever)
	if b.Lever == 0 {
		return
	}
	along := r3.Scale(1/b.Lever, lever)
	second, furthest := 0.0, 0.0
	for n, w := range bed.Walls {
		d := r3.Dot(r3.Sub(w.At, middle), along)
		second, furthest = second+quality[n]*w.Area*d*d, math.Max(furthest, math.Abs(d))
	}
	b.EdgeIndex = second / furthest / b.Lever
}

// lostEdge is the place of the tooth as it was, within the cavity, that lies furthest from
// the middle of the bond.
func lostEdge(s *Subject, middle r3.Vec) (at r3.Vec, ok bool) {
	const inside = 0.1 // mm into the cavity
	furthest := 0.0
	for _, v := range s.Model.Screen().Uncut().Mesh().Vertices {
		if d := r3.Norm(r3.Sub(v, middle)); d > furthest && s.Cavity.Tool().Distance(v) < -inside {
			at, furthest, ok = v, d, true
		}
	}
	return at, ok
}

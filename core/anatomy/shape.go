package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// shape is a tooth as functions of position in the tooth frame: first-order
// distances, which the grids then sample where they matter. The parts stand
// upright; the lean bends them all.
type shape struct {
	c      *crown
	body   *body
	faces  axialGrooves
	parts  *furcation   // nil where there is one root
	top    *occlusal    // posterior teeth
	edge   *incisalEdge // anterior teeth
	roof   dentinRoof   // posterior teeth
	wear   float64      // mm off each contact
	facets [2]facet     // mesial, distal
	lean   lean
}

func newShape(c *crown, wear float64) *shape {
	s := &shape{c: c, wear: wear, body: newBody(c), faces: newAxialGrooves(c), parts: newFurcation(c), lean: newLean(c.Lean)}
	if c.Anterior {
		s.edge = newIncisalEdge(c, s.body)
	} else {
		x, lingual, buccal := c.Mesiodistal/2+0.7, c.Buccolingual-c.BuccalExtent+0.7, c.BuccalExtent+0.7
		s.top = newOcclusal(c, -x, -lingual, x, buccal)
		s.roof = newDentinRoof(c, s.top)
		s.raiseDentinHorns()
	}
	s.facets = s.findFacets()
	return s
}

// raiseDentinHorns lifts the junction under the cusps, which smoothing has
// flattened, until the enamel over each tip is as thick as it should be.
func (s *shape) raiseDentinHorns() {
	// settles (mm) is what the lifts of neighbouring cusps take from each other.
	const rounds, settles = 6, 0.05
	cover := enamelCover{s.c}
	for range rounds {
		var lifts []float64
		for _, k := range s.c.Cusps {
			lifts = append(lifts, s.enamelUnder(s.tip(k))-cover.over(k)-settles)
		}
		s.roof.lift(s.c, lifts)
	}
}

// tip is a cusp's tip on the upright tooth: the summit, as far as the rounding
// into the side surfaces has left it.
func (s *shape) tip(k cusp) r3.Vec {
	const above, reach = 0.2, 1.0 // mm
	p := s.top.summit(s.c.x(k.X), s.c.y(k.Y))
	surface := func(q r3.Vec) float64 { return s.untrimmed(s.lean.leaning(q)) }
	from := r3.Add(p, r3.Vec{Z: above})
	if t, ok := solid.RootAlong(surface, from, r3.Vec{Z: -1}, 0, reach, 0.1); ok {
		p.Z = from.Z - t
	}
	return p
}

// enamelUnder is the least way (mm) from a cusp tip of the upright tooth to the
// dentin, straight down or up to a quarter of a right angle aside: the dentin
// horn of a steep cusp stands nearer the middle than its tip.
func (s *shape) enamelUnder(tip r3.Vec) float64 {
	const reach, aside, ways = 4.0, math.Pi / 8, 8 // mm, radians
	least := reach
	for n := range ways + 1 {
		dir := r3.Vec{Z: -1}
		if n > 0 {
			sin, cos := math.Sincos(2 * math.Pi * float64(n) / ways)
			dir = r3.Vec{X: cos * math.Sin(aside), Y: sin * math.Sin(aside), Z: -math.Cos(aside)}
		}
		if t, ok := solid.RootAlong(s.uprightDentin, tip, dir, 0, least, 0.1); ok {
			least = t
		}
	}
	return least
}

// uprightDentin is dentin at a point of the upright tooth, whatever the
// surface outside it.
func (s *shape) uprightDentin(q r3.Vec) float64 {
	return s.dentin(s.lean.leaning(q), math.Inf(-1))
}

// bounds holds the tooth with a margin of air.
func (s *shape) bounds() solid.Box {
	const margin = 0.45 // mm
	c := s.c
	low, high := r3.Vec{Z: rootStub - margin}, r3.Vec{Z: c.Height + margin}
	grow := func(p r3.Vec) {
		low.X, low.Y = math.Min(low.X, p.X-margin), math.Min(low.Y, p.Y-margin)
		high.X, high.Y = math.Max(high.X, p.X+margin), math.Max(high.Y, p.Y+margin)
		high.Z = math.Max(high.Z, p.Z+margin)
	}
	half, lingual := c.Mesiodistal/2, c.Buccolingual-c.BuccalExtent
	for _, z := range []float64{0, 0.4 * c.Height, c.Height} {
		for _, y := range []float64{-lingual, c.BuccalExtent} {
			grow(s.lean.leaning(r3.Vec{X: -half, Y: y, Z: z}))
			grow(s.lean.leaning(r3.Vec{X: half, Y: y, Z: z}))
		}
	}
	stub := s.body.section(rootStub)
	grow(r3.Vec{X: -stub.distal, Y: -stub.lingual})
	grow(r3.Vec{X: stub.mesial, Y: stub.buccal})
	return solid.Box{Min: low, Max: high}
}

// outer is the tooth's surface: negative inside.
func (s *shape) outer(p r3.Vec) float64 {
	d := s.untrimmed(p)
	for n := range s.facets {
		d = solid.SmoothMax(d, s.facets[n].beyond(p), facetBlend)
	}
	return d
}

// untrimmed is the surface before the contacts have worn.
func (s *shape) untrimmed(p r3.Vec) float64 {
	q := s.lean.upright(p)
	lateral, u, v := s.body.distance(q)
	return s.joined(q, lateral+s.carving(q, lateral, u, v))
}

// carvingReach (mm) is how far from the lateral surface a surface groove can
// still move the outer surface or the dentin.
const carvingReach = 2.5

func (s *shape) carving(q r3.Vec, lateral, u, v float64) float64 {
	if math.Abs(lateral) > carvingReach {
		return 0
	}
	carving := s.faces.depth(q, u, v)
	if s.c.Anterior {
		carving += s.c.lingualFossa(u, v, q.Z)
	}
	return carving
}

// joined is the surface where side surfaces (a distance d at q), biting surface, roots and the end of
// the stub meet.
func (s *shape) joined(q r3.Vec, d float64) float64 {
	if s.parts != nil {
		d = s.parts.part(q, d)
	}
	if s.c.Anterior {
		d = solid.SmoothMax(d, s.aboveEdge(q), s.edgeRounding())
	} else {
		d = solid.SmoothMax(d, s.top.above(q), s.top.rounding)
	}
	return solid.SmoothMax(d, rootStub-q.Z, 0.5)
}

func (s *shape) aboveEdge(q r3.Vec) float64 {
	height, slope := s.edge.at(q.X)
	return (q.Z - height) / math.Sqrt(1+slope*slope)
}

func (s *shape) edgeRounding() float64 {
	if s.c.EdgeSlopeMesial > 0 {
		return 0.6 // canine cusps are blunter than incisal edges
	}
	return 0.35
}

// dentin is negative inside the dentin or the pulp; outer is the tooth's
// surface at p.
func (s *shape) dentin(p r3.Vec, outer float64) float64 {
	q := s.lean.upright(p)
	lateral, u, v := s.body.distance(q)
	cover := enamelCover{s.c}
	thickness := cover.lateral(u, v, q.Z)
	if s.c.Anterior {
		// Towards the edge both enamels thin, and leave a blade of dentin.
		const most = 0.75 // of the wedge
		section := s.body.section(q.Z)
		wedge := section.buccal + section.lingual - s.c.lingualFossa(u, -1, q.Z)
		thickness *= math.Min(1, most*wedge/(s.c.EnamelBuccal+s.c.EnamelLingual))
		// Only where there is enamel does the depth under the surfaces count.
		const sure = 0.3 // mm
		faces := math.Max(lateral, section.beyondFaces(q.X, q.Y))
		side := mix(lateral, faces, math.Min(thickness/sure, 1)) + 0.8*s.carving(q, lateral, u, v) + thickness
		over := s.aboveEdge(q) + cover.incisal()
		return math.Max(solid.SmoothMax(side, over, 0.4), outer)
	}
	const thinner = 0.3 // what side enamel loses towards the cusps
	thickness *= 1 - thinner*solid.Smoothstep(0.5*s.c.Height, 0.9*s.c.Height, q.Z)
	blend := 1.1
	if s.c.Primary {
		blend = 0.6 // the junction of primary teeth follows the surface closely
	}
	side := lateral + 0.5*s.carving(q, lateral, u, v) + thickness
	if s.parts != nil {
		side = s.parts.part(q, side)
	}
	return math.Max(solid.SmoothMax(side, s.roof.above(q), blend), outer)
}

package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// AdultAge (years) is the age whose pulp the models' figures describe. It stands in
// where no age is given.
const AdultAge = 35

// pulpSizeAt is the chamber's size factor by age: secondary dentin narrows it from
// 1.2 when young over 1.0 in the adult to 0.6 in old age, the order of size that
// radiographic studies of pulp and age in endodontic textbooks report.
// Primary teeth are lost before it does.
func (c *crown) pulpSizeAt(ageYears float64) float64 {
	switch {
	case c.Primary:
		return 1
	case ageYears <= 18:
		return 1.2
	case ageYears <= AdultAge:
		return mix(1.2, 1.0, (ageYears-18)/(AdultAge-18))
	case ageYears <= 70:
		return mix(1.0, 0.6, (ageYears-AdultAge)/(70-AdultAge))
	default:
		return 0.6
	}
}

// hornTip (mm) is the radius of a horn's end.
const hornTip = 0.16

// pulpChamber is the pulp: its chamber, the horns towards the cusps, and the
// canals into the root stubs.
type pulpChamber struct {
	c             *crown
	lean          lean
	halfX, halfY  float64
	centreY       float64
	roof, floor   float64
	k             float64
	horns, canals []roundCone
	names         []string
	wedge         *pulpWedge // anterior teeth: the chamber runs up into a wedge
}

func newPulp(s *shape, k float64) *pulpChamber {
	c := s.c
	if c.Anterior {
		return newAnteriorPulp(s, k)
	}
	// Dentin and enamel between the chamber and the cervix, by kind of tooth.
	wall, cuspToHorn := 2.3, 5.6
	if c.Primary {
		wall, cuspToHorn = 1.55, 3.1
	} else if !c.molar() {
		wall, cuspToHorn = 1.95, 4.9
	}
	p := &pulpChamber{
		c: c, lean: s.lean,
		halfX:   math.Max((c.CervicalMesiodistal/2-wall)*k, 0.25),
		halfY:   math.Max((c.CervicalBuccolingual/2-1.06*wall)*k, 0.25),
		centreY: s.body.section(0).centre,
		roof:    0.6 * k,
		floor:   -1.5 + 0.7*(1-k),
		k:       k,
	}
	if c.Primary {
		p.roof, p.floor = 1.1*k, -1.3
		sink := 0.0
		for _, pit := range c.Pits {
			if over := clamp(c.x(pit.X), p.halfX); over == c.x(pit.X) { // over the chamber
				sink = math.Max(sink, s.lower(r3.Vec{X: over, Y: c.y(pit.Y), Z: p.roof}, roofCover))
			}
		}
		p.roof -= sink
	}
	for _, h := range c.PulpHorns {
		tip := r3.Vec{X: c.x(h.X), Y: c.y(h.Y)}
		drop := cuspToHorn
		if c.Primary && h.X > 0 {
			drop = 2.7 // mesial horns of primary molars reach highest
		}
		tip.Z = s.cuspHeightNear(tip.X, tip.Y) - drop - 1.5*(1-k) + h.Z - hornTip
		if c.Primary {
			tip.Z -= s.lower(tip, hornTip+hornCover(h.X > 0))
		}
		base := r3.Vec{X: tip.X * 0.85, Y: mix(p.centreY, tip.Y, 0.85), Z: p.roof - 0.5}
		p.horns = append(p.horns, roundCone{base, tip, 0.62 * k, hornTip})
		p.names = append(p.names, h.Name)
	}
	p.canals = canals(s, p)
	return p
}

// hornCover is the dentin (mm) between a horn of a primary molar and the
// junction around it: the mesial horns come nearest, which is why texts of
// paediatric dentistry warn of the mesial wall.
func hornCover(mesial bool) float64 {
	if mesial {
		return 1.85
	}
	return 2.5
}

// roofCover is the dentin (mm) over the chamber of a primary molar, under its
// fissures: half of a permanent molar's, as texts of paediatric dentistry compare
// the two.
const roofCover = 2.0

// lower is how far (mm) a place must sink until so much dentin covers it on
// every side: under a groove the junction dips towards it.
func (s *shape) lower(p r3.Vec, cover float64) float64 {
	const step, most = 0.02, 2.0 // mm
	for down := 0.0; down < most; down += step {
		at := s.lean.leaning(r3.Sub(p, r3.Vec{Z: down}))
		if -s.dentin(at, s.outer(at)) >= cover {
			return down
		}
	}
	return most
}

// canals run from the chamber's floor down the middle of each root.
func canals(s *shape, p *pulpChamber) []roundCone {
	wide, narrow := 0.42, 0.26 // mm
	if s.c.Primary || !s.c.molar() {
		wide, narrow = 0.3, 0.22
	}
	const above = 0.3
	end := rootStub - 1.0 // past the cut end of the stub
	if len(s.c.Roots) == 0 {
		top := r3.Vec{Y: p.centreY, Z: p.floor + above}
		return []roundCone{{top, r3.Vec{Y: p.centreY, Z: end}, wide * 1.3 * p.k, narrow * 1.3 * p.k}}
	}
	var all []roundCone
	for _, r := range s.c.Roots {
		x, y := s.rootMiddle(r, end)
		// A canal leaves the chamber inside its corner.
		x0, y0 := s.rootMiddle(r, p.floor)
		x0, y0 = clamp(x0, 0.7*p.halfX), p.centreY+clamp(y0-p.centreY, 0.7*p.halfY)
		all = append(all, roundCone{r3.Vec{X: x0, Y: y0, Z: p.floor + above}, r3.Vec{X: x, Y: y, Z: end}, wide * p.k, narrow * p.k})
	}
	return all
}

func clamp(x, most float64) float64 { return math.Min(math.Max(x, -most), most) }

// cuspHeightNear is the height of the cusp closest to (x, y).
func (s *shape) cuspHeightNear(x, y float64) float64 {
	best, height := math.Inf(1), 0.0
	for _, cusp := range s.c.Cusps {
		cx, cy := s.c.x(cusp.X), s.c.y(cusp.Y)
		if d := math.Hypot(x-cx, y-cy); d < best {
			best, height = d, s.top.summit(cx, cy).Z
		}
	}
	return height
}

// tips are the highest points of the horns.
func (p *pulpChamber) tips() []Named {
	tips := make([]Named, len(p.horns))
	for n, h := range p.horns {
		tips[n] = Named{p.names[n], p.lean.leaning(r3.Add(h.tip, r3.Vec{Z: h.tipRadius}))}
	}
	return tips
}

// field is negative inside the pulp; a distance only near its surface.
func (p *pulpChamber) field(at r3.Vec) float64 {
	at = p.lean.upright(at)
	var d float64
	if p.wedge != nil {
		d = p.wedge.field(at)
	} else {
		d = p.chamberField(at)
	}
	for _, h := range p.horns {
		d = solid.SmoothMin(d, h.distance(at), 0.25)
	}
	for _, c := range p.canals {
		d = solid.SmoothMin(d, c.distance(at), 0.4)
	}
	return d
}

func (p *pulpChamber) chamberField(at r3.Vec) float64 {
	u, v := math.Abs(at.X)/p.halfX, math.Abs(at.Y-p.centreY)/p.halfY
	const n = 2.2
	f := math.Pow(math.Pow(u, n)+math.Pow(v, n), 1/n)
	f2 := math.Min(f*f, 1.5)
	side := (f - 1) * math.Min(p.halfX, p.halfY)
	return solid.SmoothMax(side, solid.SmoothMax(at.Z-p.roof-0.45*(f2-0.7), p.floor+0.35*(1-f2)-at.Z, 0.3), 0.5)
}

// distanceField is the signed distance to the pulp's surface (mm): negative
// inside it.
func (p *pulpChamber) distanceField(outer solid.Box) *solid.Dense {
	const meshStep, fieldStep = 0.18, 0.3 // mm
	box := outer
	box.Min.Z = rootStub - 2 // past the canals, so that the pulp's surface closes
	pulp := solid.NewBlank(solid.NewGrid(box, meshStep), p.field)
	d := solid.DistanceToPoints(solid.NewGrid(outer, fieldStep), pulp.Uncut().Mesh().Vertices)
	return solid.SampleRows(d.Grid, func(j, k int, out []float32) {
		for i := range out {
			out[i] = d.Values[d.Index(i, j, k)]
			if pulp.Distance(d.Point(i, j, k)) < 0 {
				out[i] = -out[i]
			}
		}
	})
}

// roundCone is the hull of two balls.
type roundCone struct {
	base, tip             r3.Vec
	baseRadius, tipRadius float64
}

// distance is exact where it is positive.
func (c roundCone) distance(p r3.Vec) float64 {
	axis := r3.Sub(c.tip, c.base)
	length := r3.Norm(axis)
	if length <= math.Abs(c.baseRadius-c.tipRadius) {
		return r3.Norm(r3.Sub(p, c.base)) - c.baseRadius
	}
	axis = r3.Scale(1/length, axis)
	q := r3.Sub(p, c.base)
	along := r3.Dot(q, axis)
	rho := math.Sqrt(math.Max(r3.Norm2(q)-along*along, 0))
	b := (c.baseRadius - c.tipRadius) / length
	a := math.Sqrt(1 - b*b)
	switch k := a*along - b*rho; {
	case k < 0:
		return math.Hypot(rho, along) - c.baseRadius
	case k > a*length:
		return math.Hypot(rho, along-length) - c.tipRadius
	default:
		return a*rho + b*along - c.baseRadius
	}
}

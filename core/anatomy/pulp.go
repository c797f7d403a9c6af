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

// pulpChamber is the pulp: its chamber, which rises into horns towards the cusps,
// and the canals into the root stubs.
type pulpChamber struct {
	lean   lean
	body   chamberBody
	horns  []pulpHorn
	canals []canal
	funnel float64 // mm over which the floor opens into a canal
}

// chamberBody is the chamber with its horns.
type chamberBody interface {
	// field is negative inside; a distance near the surface.
	field(at r3.Vec) float64
}

// pulpHorn is where the chamber reaches highest under a cusp, upright.
type pulpHorn struct {
	name string
	tip  r3.Vec
}

// hornRounding (mm) is what blunts the tip of a horn.
const hornRounding = 0.1

// posteriorChamber is the chamber of a molar or a premolar: sides in the form of the
// cervix, a roof that sags between the horns and rises into them as one sheet, and a
// floor that bulges towards the roof.
type posteriorChamber struct {
	halfX, halfY float64 // at mid-height, mm
	centreY      float64
	shear        float64 // of the rhomboid of upper molars, mm of x a mm of y
	taper        float64 // by which the mesial side is wider than the distal, a share
	roof, floor  float64
	summits      summits
}

func newPulp(s *shape, k float64) *pulpChamber {
	c := s.c
	if c.Anterior {
		return newAnteriorPulp(s, k)
	}
	// Dentin and enamel between the chamber and the cervix, mesiodistally and as many
	// times as much across, by kind of tooth.
	wall, across, cuspToHorn := 2.3, 1.06, 5.6
	if c.Primary {
		wall, across, cuspToHorn = 1.45, 1.2, 3.1
	} else if !c.molar() {
		wall, cuspToHorn = 1.98, 4.9
	}
	chamber := &posteriorChamber{
		halfX:   math.Max((c.CervicalMesiodistal/2-wall)*k, 0.25),
		halfY:   math.Max((c.CervicalBuccolingual/2-across*wall)*k, 0.25),
		centreY: s.body.section(0).centre,
		roof:    0.6 * k,
		floor:   -1.5 + 0.7*(1-k),
	}
	if c.molar() && !c.Primary {
		if c.Upper {
			chamber.shear = 0.22
		} else {
			chamber.taper = 0.12
		}
	}
	if c.Primary {
		chamber.roof, chamber.floor = 1.1*k, -1.2
		sink := 0.0
		for _, pit := range c.Pits {
			if over := clamp(c.x(pit.X), chamber.halfX); over == c.x(pit.X) { // over the chamber
				sink = math.Max(sink, s.lowerBetweenSides(r3.Vec{X: over, Y: c.y(pit.Y), Z: chamber.roof}, roofCover))
			}
		}
		chamber.roof -= sink
		chamber.floor = math.Min(chamber.floor, chamber.roof-leastHeight)
	}
	p := &pulpChamber{lean: s.lean, body: chamber, funnel: 0.9}
	for _, h := range c.PulpHorns {
		tip := r3.Vec{X: c.x(h.X), Y: c.y(h.Y)}
		drop := cuspToHorn
		if c.Primary && h.X > 0 {
			drop = 2.7 // mesial horns of primary molars reach highest
		}
		if c.Primary { // and all stand within their narrow necks
			const beyond = 0.35 // mm
			tip.X = clamp(tip.X, chamber.halfX+beyond)
			tip.Y = chamber.centreY + clamp(tip.Y-chamber.centreY, chamber.halfY+beyond)
		}
		tip.Z = s.cuspHeightNear(tip.X, tip.Y) - drop - 1.5*(1-k) + h.Z
		if c.Primary {
			tip.Z -= s.lower(tip, hornCover(h.X > 0)+hornRounding)
		}
		p.horns = append(p.horns, pulpHorn{h.Name, tip})
	}
	width := 0.72 * math.Min(k, 1.1)
	if c.Primary {
		width = 0.68
	}
	base := chamber.roof - roofSag
	if c.molar() && !c.Primary {
		base = settle(p.horns, chamber.roof, k)
	}
	chamber.summits = newSummits(p.horns, base, width)
	if c.Primary || !c.molar() { // narrow chambers
		p.funnel = 0.6
	}
	p.canals = canals(s, chamber, k)
	return p
}

// leastHeight (mm) is what a primary chamber keeps between roof and floor.
const leastHeight = 1.35

// roofSag (mm) is how far the roof hangs through between the horns.
const roofSag = 0.35

// settle fits horns and roof of a permanent molar to each other: even under its lowest
// cusp a horn rises over the roof, in young teeth by rise (mm), for which both give
// way. It returns the roof's height between the horns.
func settle(horns []pulpHorn, roof, k float64) float64 {
	const (
		rise           = 1.25 // mm
		flattest, most = 0.6, 1.2
		yields         = 0.35 // mm by which the roof gives way at the most
	)
	base := roof - roofSag
	least := rise * math.Max((k-flattest)/(most-flattest), 0.2)
	lowest := math.Inf(1)
	for _, h := range horns {
		lowest = math.Min(lowest, h.tip.Z)
	}
	if missing := base + least - lowest; missing > 0 {
		base -= math.Min(missing/2, yields)
	}
	for n := range horns {
		horns[n].tip.Z = math.Max(horns[n].tip.Z, base+least)
	}
	return base
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

// lower is how far (mm) a place must sink until so much dentin covers it on every
// side: under a groove the junction dips towards it.
func (s *shape) lower(p r3.Vec, cover float64) float64 {
	const step, most = 0.02, 2.0 // mm
	for down := 0.0; down < most; down += step {
		if s.covered(r3.Sub(p, r3.Vec{Z: down})) >= cover {
			return down
		}
	}
	return most
}

// lowerBetweenSides is lower, but no further than where the sides of a narrow neck
// come nearer than what lies above.
func (s *shape) lowerBetweenSides(p r3.Vec, cover float64) float64 {
	const step = 0.02 // mm
	down, last := 0.0, s.covered(p)
	for last < cover {
		next := s.covered(r3.Sub(p, r3.Vec{Z: down + step}))
		if next <= last {
			break
		}
		down, last = down+step, next
	}
	return down
}

// covered is the dentin (mm) around a place of the upright tooth.
func (s *shape) covered(p r3.Vec) float64 {
	at := s.lean.leaning(p)
	return -s.dentin(at, s.outer(at))
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
		tips[n] = Named{h.name, p.lean.leaning(h.tip)}
	}
	return tips
}

// field is negative inside the pulp; a distance only near its surface.
func (p *pulpChamber) field(at r3.Vec) float64 {
	at = p.lean.upright(at)
	d := p.body.field(at)
	for n := range p.canals {
		d = solid.SmoothMin(d, p.canals[n].distance(at), p.funnel)
	}
	return d
}

func (c *posteriorChamber) field(at r3.Vec) float64 {
	const (
		waist         = 0.16 // by which the sides open towards the roof
		hornReach     = 0.55 // mm about a horn's axis that stays inside the sides
		hornBlend     = 0.8
		roofs, floors = 0.6, 1.0 // mm: rounding of the sides towards roof and floor
		bulge         = 0.55     // mm of the floor towards the roof
		broad         = 1.2      // mm: half width from which the floor has its whole bulge
		lip           = 1.4      // as many times as much it falls towards the sides
	)
	// Rounded further than to its middle, a narrow chamber would have a crest there.
	narrow := 0.95 * math.Min(c.halfX, c.halfY)
	rim, sides := math.Min(roofs, narrow), math.Min(floors, narrow)
	reach := c.reach(at)
	middle := (c.roof + c.floor) / 2
	side := reach.outside + waist*(middle-at.Z)
	nearest := c.summits.nearest(at) - hornReach
	side = solid.SmoothMin(side, solid.SmoothMax(nearest, mix(middle, c.roof, 0.7)-at.Z, rim), hornBlend)
	floor := c.floor + bulge*math.Min(1, c.halfX/broad)*(1-lip*math.Tanh(reach.f*reach.f/lip)) - at.Z
	return solid.SmoothMax(solid.SmoothMax(side, c.summits.above(at), rim), floor, sides)
}

// reached is how far out a place lies between the chamber's axis (0) and its sides
// (1), and how far outside these it is, to first order (mm).
type reached struct{ f, outside float64 }

func (c *posteriorChamber) reach(at r3.Vec) reached {
	const n = 2.5 // of the superellipse
	y := at.Y - c.centreY
	x := at.X - c.shear*y
	halfX := c.halfX
	halfY := c.halfY * (1 + c.taper*math.Tanh(x/halfX))
	u, v := math.Abs(x)/halfX, math.Abs(y)/halfY
	f := math.Pow(math.Pow(u, n)+math.Pow(v, n), 1/n)
	about := math.Min(halfX, halfY) // the way out at the axis, where no direction counts
	if f < 0.2 {
		return reached{f, (f - 1) * about}
	}
	way := 1 / math.Max(math.Hypot(math.Pow(u/f, n-1)/halfX, math.Pow(v/f, n-1)/halfY), 0.2)
	return reached{f, (f - 1) * mix(about, way, solid.Smoothstep(0.2, 0.8, f))}
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

package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// pulpSizeAt is the chamber's size factor by age: the pulp recedes from 1.2
// when young to 1.0 in the adult and 0.6 in old age (dental anatomy convention).
func pulpSizeAt(ageYears float64) float64 {
	switch {
	case ageYears <= 18:
		return 1.2
	case ageYears <= 35:
		return mix(1.2, 1.0, (ageYears-18)/17)
	case ageYears <= 70:
		return mix(1.0, 0.6, (ageYears-35)/35)
	default:
		return 0.6
	}
}

// hornTip (mm) is the radius of a horn's end.
const hornTip = 0.16

// pulpChamber is the chamber with its horns.
type pulpChamber struct {
	halfX, halfY, centreY float64
	roof, floor           float64
	k                     float64
	horns                 []roundCone
	names                 []string
}

func newPulp(c *crown, b *body, k float64) *pulpChamber {
	// Dentin and enamel between the chamber and the neck, by kind of tooth.
	wall, cuspToHorn := 2.3, 5.2
	if c.Primary {
		wall, cuspToHorn = 1.55, 3.1
	} else if !c.molar() {
		wall, cuspToHorn = 1.95, 4.9
	}
	p := &pulpChamber{
		halfX:   math.Max((c.CervicalMesiodistal/2-wall)*k, 0.25),
		halfY:   math.Max((c.CervicalBuccolingual/2-1.06*wall)*k, 0.25),
		centreY: b.at(0).centre,
		roof:    0.6 * k,
		floor:   -1.5 + 0.7*(1-k),
		k:       k,
	}
	if c.Primary {
		p.roof, p.floor = 1.1*k, -1.3
	}
	for _, h := range c.PulpHorns {
		tip := r3.Vec{X: c.x(h.X), Y: c.y(h.Y)}
		drop := cuspToHorn
		if c.Primary && h.X > 0 {
			drop = 2.7 // mesial horns of primary molars reach highest
		}
		tip.Z = c.cuspHeightNear(tip.X, tip.Y) - drop - 1.5*(1-k) + h.Z - hornTip
		base := r3.Vec{X: tip.X * 0.85, Y: mix(p.centreY, tip.Y, 0.85), Z: p.roof - 0.5}
		p.horns = append(p.horns, roundCone{base, tip, 0.62 * k, hornTip})
		p.names = append(p.names, h.Name)
	}
	return p
}

// cuspHeightNear is the height of the cusp closest to (x, y).
func (c *crown) cuspHeightNear(x, y float64) float64 {
	best, height := math.Inf(1), c.Height
	for _, cusp := range c.Cusps {
		if d := math.Hypot(x-c.x(cusp.X), y-c.y(cusp.Y)); d < best {
			best, height = d, c.Height/c.Calibration[2]-cusp.Drop
		}
	}
	return height
}

// tips are the highest points of the horns.
func (p *pulpChamber) tips() []Named {
	tips := make([]Named, len(p.horns))
	for n, h := range p.horns {
		tips[n] = Named{p.names[n], r3.Add(h.tip, r3.Vec{Z: h.tipRadius})}
	}
	return tips
}

// field is negative inside the pulp; a distance only near its surface.
func (p *pulpChamber) field(at r3.Vec) float64 {
	u, v := math.Abs(at.X)/p.halfX, math.Abs(at.Y-p.centreY)/p.halfY
	const n = 2.2
	f := math.Pow(math.Pow(u, n)+math.Pow(v, n), 1/n)
	f2 := math.Min(f*f, 1.5)
	side := (f - 1) * math.Min(p.halfX, p.halfY)
	d := solid.SmoothMax(side, solid.SmoothMax(at.Z-p.roof-0.3*(f2-0.7), p.floor+0.35*(1-f2)-at.Z, 0.3), 0.5)
	for _, h := range p.horns {
		d = solid.SmoothMin(d, h.distance(at), 0.25)
	}
	return d
}

// distanceField is the signed distance to the pulp's surface (mm): negative
// inside it.
func (p *pulpChamber) distanceField(outer solid.Box) *solid.Dense {
	box := solid.Box{
		Min: r3.Vec{X: -p.halfX - 2, Y: p.centreY - p.halfY - 2, Z: rootStub},
		Max: r3.Vec{X: p.halfX + 2, Y: p.centreY + p.halfY + 2, Z: p.roof + 1},
	}
	for _, h := range p.horns {
		box.Max.Z = math.Max(box.Max.Z, h.tip.Z+1)
	}
	const meshStep, fieldStep = 0.15, 0.25
	surface := solid.NewBlank(solid.Sample(solid.NewGrid(box, meshStep), p.field)).Uncut().Mesh()
	d := solid.DistanceToPoints(solid.NewGrid(outer, fieldStep), surface.Vertices)
	return solid.SampleRows(d.Grid, func(j, k int, out []float32) {
		for i := range out {
			out[i] = d.Values[d.Index(i, j, k)]
			if p.field(d.Point(i, j, k)) < 0 {
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

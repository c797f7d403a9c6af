package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// Adjacent teeth wear flat where they touch: a contact is an area, not a point.
const (
	contactTrim = 0.045 // mm worn off each contact of an adult
	facetBlend  = 0.05  // mm over which the area runs out into the surface
)

// stage is a time of life with its wear between neighbours.
type stage struct {
	until float64 // years
	age   float64 // years, that stands for it
	wear  float64 // mm off each contact
}

// wearStages are the steps in which contacts grow from points to areas: some tenths of
// a millimetre along an arch over forty years (dental anatomy texts).
var wearStages = []stage{{20, 16, 0.02}, {45, AdultAge, contactTrim}, {math.Inf(1), 60, 0.085}}

func stageAt(ageYears float64) stage {
	for _, s := range wearStages {
		if ageYears < s.until {
			return s
		}
	}
	return wearStages[len(wearStages)-1]
}

// wearAt is what an age has taken off each contact (mm). Primary teeth are broad where
// they touch from early on.
func (c *crown) wearAt(ageYears float64) float64 {
	if c.Primary {
		return contactTrim
	}
	return stageAt(ageYears).wear
}

// ShapeAge is the age that stands for all at which a tooth has the same shape: only
// the wear of its contacts changes that, in steps.
func ShapeAge(ageYears float64) float64 { return stageAt(ageYears).age }

// facet is the plane of a contact area in the tooth frame.
type facet struct {
	normal r3.Vec // out of the tooth, level
	offset float64
	at     r3.Vec // where the surface reached furthest before it wore
}

func (f *facet) beyond(p r3.Vec) float64 { return r3.Dot(f.normal, p) - f.offset }

// contactYaw is by how many degrees the arch turns from the tooth before a
// position to that at it; at 1 from the other side's. The steps add up to the
// near half-circle of the front teeth and the flat catenary of the molars, the
// arch form that orthodontic textbooks draw.
var contactYaw = [10]float64{0, 12, 18, 24, 14, 8, 6, 5, 5, 5}

// findFacets lays the contact areas: square to the arch's course half-way
// between this tooth and its neighbour, a little inside the furthest point.
func (s *shape) findFacets() [2]facet {
	position := s.c.FDI[0] % 10
	var facets [2]facet
	for n, sign := range []float64{1, -1} {
		yaw := contactYaw[position+n] / 2 * math.Pi / 180
		// The arch bends lingually both ways.
		normal := r3.Vec{X: sign * math.Cos(yaw), Y: -math.Sin(yaw)}
		at := s.furthest(normal, sign)
		facets[n] = facet{normal, r3.Dot(normal, at) - s.wear, at}
	}
	return facets
}

// furthest is where the crown's side reaches furthest along a level direction:
// found on a coarse net of rays, then on finer ones about the best.
func (s *shape) furthest(normal r3.Vec, sign float64) r3.Vec {
	c := s.c
	contact := c.ContactHeightMesial
	if sign < 0 {
		contact = c.ContactHeightDistal
	}
	across := r3.Vec{X: -normal.Y, Y: normal.X}
	middle := r3.Vec{Y: s.body.section(contact * c.Height).centre, Z: contact * c.Height}
	best, most := middle, math.Inf(-1)
	for _, net := range []float64{1, 0.25, 0.06} { // half width of the net in mm, for heights; twice that across
		around := best
		if net == 1 {
			around = s.lean.leaning(middle)
		}
		const rays = 5 // to each side
		for i := -rays; i <= rays; i++ {
			for j := -rays; j <= rays; j++ {
				from := r3.Add(around, r3.Add(r3.Scale(2*net*float64(i)/rays, across), r3.Vec{Z: 1.5 * net * float64(j) / rays}))
				from = r3.Sub(from, r3.Scale(r3.Dot(from, normal)-0.3*c.Mesiodistal, normal))
				t, ok := solid.RootAlong(s.untrimmed, from, normal, 0, 0.4*c.Mesiodistal, 0.4)
				if !ok {
					continue
				}
				if p := r3.Add(from, r3.Scale(t, normal)); r3.Dot(p, normal) > most {
					best, most = p, r3.Dot(p, normal)
				}
			}
		}
	}
	return best
}

// Contact is a contact area: where a tooth touches its neighbour.
type Contact struct {
	At     r3.Vec  // its middle
	Normal r3.Vec  // out of the tooth
	Height float64 // mm, along the crown
	Width  float64 // mm, across
}

// contact measures the mesial (0) or distal (1) contact area on the sampled
// surface: all of it that lies within contactReach of the area's plane.
func (m *Model) contact(which int) Contact {
	const contactReach, step = 0.02, 0.05 // mm
	f := &m.shape.facets[which]
	c := Contact{Normal: f.normal}
	across := r3.Vec{X: -f.normal.Y, Y: f.normal.X}
	var sum r3.Vec
	count := 0.0
	lowZ, highZ, lowA, highA := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	middle := r3.Sub(f.at, r3.Scale(f.beyond(f.at)+contactReach, f.normal))
	for z := -1.6; z <= 1.6; z += step {
		for a := -2.5; a <= 2.5; a += step {
			p := r3.Add(middle, r3.Add(r3.Scale(a, across), r3.Vec{Z: z}))
			if m.Surface.Distance(p) > 0 {
				continue
			}
			sum, count = r3.Add(sum, r3.Add(p, r3.Scale(contactReach, f.normal))), count+1
			lowZ, highZ = math.Min(lowZ, z), math.Max(highZ, z)
			lowA, highA = math.Min(lowA, a), math.Max(highA, a)
		}
	}
	if count > 0 {
		c.At = r3.Scale(1/count, sum)
		c.Height, c.Width = highZ-lowZ, highA-lowA
	}
	return c
}

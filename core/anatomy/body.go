package anatomy

import (
	"math"

	"obturon/core/solid"
)

// body is the crown's lateral surface: at each height a superellipse of four
// quadrants between the mesial, distal, buccal and lingual profiles.
type body struct {
	c                               *crown
	mesial, distal, buccal, lingual profile
}

func newBody(c *crown) *body {
	b := &body{c: c}
	b.mesial = proximalProfile(c, c.ContactHeightMesial, c.MarginalRidgeMesial)
	b.distal = proximalProfile(c, c.ContactHeightDistal, c.MarginalRidgeDistal)
	bulge := 0.30
	if c.Primary {
		bulge = 0.42 // the strong cervical bulge of primary molars
	}
	var buccalTip, lingualTip, buccals, linguals float64
	for _, cusp := range c.Cusps {
		if cusp.Y > 0 {
			buccalTip += c.y(cusp.Y)
			buccals++
		} else {
			lingualTip -= c.y(cusp.Y)
			linguals++
		}
	}
	b.buccal = facialProfile(c, c.BuccalExtent, c.ContourHeightBuccal, buccalTip/math.Max(buccals, 1)+0.35, bulge)
	b.lingual = facialProfile(c, c.Buccolingual-c.BuccalExtent, c.ContourHeightLingual, lingualTip/math.Max(linguals, 1)+0.35, bulge)
	return b
}

func proximalProfile(c *crown, contact float64, marginal crest) profile {
	cm, hm := c.CervicalMesiodistal/2, c.Mesiodistal/2
	ridge := c.Height - marginal.Drop
	zc := math.Min(contact*c.Height, ridge-0.7)
	return newProfile(
		[]float64{rootStub - 1, -1, 0.3, 0.55 * zc, zc, ridge, c.Height + 0.5},
		[]float64{0.86 * cm, 0.975 * cm, cm, mix(cm, hm, 0.72), hm, hm * (math.Abs(marginal.X) + 0.085), 0.62 * hm},
	)
}

func facialProfile(c *crown, extent, contour, tip, bulge float64) profile {
	cb, h, hoc := c.CervicalBuccolingual/2, c.Height, contour*c.Height
	return newProfile(
		[]float64{rootStub - 1, -1, 0, 0.35 * hoc, hoc, mix(hoc, h, 0.55), h, h + 1},
		[]float64{0.86 * cb, 0.975 * cb, cb, mix(cb, extent, 0.62), extent, mix(extent, tip, 0.55-0.75*bulge), tip, tip - 0.9},
	)
}

// section is the crown's cross-section at one height.
type section struct {
	mesial, distal, buccal, lingual, centre float64
	exponents                               [4]float64 // MB, DB, ML, DL
	shear                                   float64
}

func (b *body) at(z float64) section {
	s := section{mesial: b.mesial.at(z), distal: b.distal.at(z), buccal: b.buccal.at(z), lingual: b.lingual.at(z)}
	s.centre = (s.buccal - s.lingual) / 2
	toCrown := solid.Smoothstep(0, 0.45*b.c.Height, z)
	crownExponents := [4]float64{b.c.ExponentMesiobuccal, b.c.ExponentDistobuccal, b.c.ExponentMesiolingual, b.c.ExponentDistolingual}
	cervical := [4]float64{2.3, 2.3, 2.15, 2.15}
	for q := range s.exponents {
		s.exponents[q] = mix(cervical[q], crownExponents[q], toCrown)
	}
	s.shear = b.c.Shear * toCrown
	return s
}

// normalised gives the position in units of the section's reach to its sides.
func (s *section) normalised(x, y float64) (u, v float64) {
	dy := y - s.centre
	x -= s.shear * dy
	if u = x / s.mesial; x < 0 {
		u = x / s.distal
	}
	if v = dy / (s.buccal - s.centre); dy < 0 {
		v = dy / (s.centre + s.lingual)
	}
	return u, v
}

// innermost and outermost bound the normalised radius where the exact shape
// of a section matters.
const innermost, outermost = 0.3, 1.7

// level is 1 on the surface and grows evenly along rays from the axis.
func (s *section) level(x, y float64) float64 {
	u, v := s.normalised(x, y)
	r := math.Hypot(u, v)
	if r < innermost || r > outermost { // far from the surface any growing value will do
		return r
	}
	cos, sin := u/r, v/r
	// Quadrants blend over a band around the axes, so no seam shows.
	m := solid.Smoothstep(-0.35, 0.35, cos)
	f := solid.Smoothstep(-0.35, 0.35, sin)
	n := mix(mix(s.exponents[3], s.exponents[2], m), mix(s.exponents[1], s.exponents[0], m), f)
	return r * math.Pow(math.Pow(math.Abs(cos), n)+math.Pow(math.Abs(sin), n), 1/n)
}

// lateralField turns levels into distances from the lateral surface (mm,
// negative inside), with the grooves and bulges of the faces carved in.
// It returns the uncarved distance and the carving separately.
func (b *body) lateralField(g solid.Grid) (distance, carving *solid.Dense) {
	sections := make([]section, g.N[2])
	for k := range sections {
		sections[k] = b.at(g.Point(0, 0, k).Z)
	}
	level := solid.SampleRows(g, func(j, k int, out []float32) {
		for i := range out {
			p := g.Point(i, j, k)
			out[i] = float32(sections[k].level(p.X, p.Y))
		}
	})
	distance = solid.SampleRows(g, func(j, k int, out []float32) {
		for i := range out {
			f := float64(level.Values[g.Index(i, j, k)])
			if f < 0.25 { // the gradient fades towards the axis
				s := &sections[k]
				out[i] = float32(-(1 - f) * math.Min(math.Min(s.mesial, s.distal), math.Min(s.buccal, s.lingual)))
				continue
			}
			out[i] = float32((f - 1) / math.Max(gradientLength(level, i, j, k), 0.05))
		}
	})
	faces := newFaceGrooves(b.c)
	carving = solid.SampleRows(g, func(j, k int, out []float32) {
		for i := range out {
			if math.Abs(float64(distance.Values[g.Index(i, j, k)])) > carvingReach {
				continue
			}
			p := g.Point(i, j, k)
			u, v := sections[k].normalised(p.X, p.Y)
			out[i] = float32(faces.depth(p, u, v))
		}
	})
	return distance, carving
}

// carvingReach (mm) is how far from the lateral surface a face groove can
// still move the outer surface or the dentin.
const carvingReach = 2.5

// gradientLength is |grad| at a lattice point by central differences.
func gradientLength(d *solid.Dense, i, j, k int) float64 {
	sum := 0.0
	for axis := range 3 {
		lo, hi := [3]int{i, j, k}, [3]int{i, j, k}
		lo[axis], hi[axis] = max(lo[axis]-1, 0), min(hi[axis]+1, d.N[axis]-1)
		a := d.Values[d.Index(lo[0], lo[1], lo[2])]
		b := d.Values[d.Index(hi[0], hi[1], hi[2])]
		slope := float64(b-a) / (float64(hi[axis]-lo[axis]) * d.H)
		sum += slope * slope
	}
	return math.Sqrt(sum)
}

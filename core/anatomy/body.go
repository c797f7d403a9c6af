package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// body is the lateral surface of crown and root: at each height a superellipse
// of four quadrants between the mesial, distal, buccal and lingual profiles.
type body struct {
	sections []section // sectionStep apart, from sectionBase up
}

const (
	sectionStep = 0.05 // mm
	// sectionBase (mm) puts the heights that grids sample midway between two
	// sections, where the same two always serve.
	sectionBase = rootStub - 1.0 - sectionStep/2
)

func newBody(c *crown) *body {
	p := posteriorProfiles(c)
	if c.Anterior {
		p = anteriorProfiles(c)
	}
	b := &body{sections: make([]section, int((c.Height+1.5-sectionBase)/sectionStep)+1)}
	curves := newQuadrantCurves(c)
	for k := range b.sections {
		z := sectionBase + float64(k)*sectionStep
		s := section{mesial: p.mesial.at(z), distal: p.distal.at(z), buccal: p.buccal.at(z), lingual: p.lingual.at(z)}
		s.centre = (s.buccal - s.lingual) / 2
		toCrown := solid.Smoothstep(0, 0.45*c.Height, z)
		s.curve = curves.at(toCrown)
		s.shear, s.taper = c.Shear*toCrown, c.LingualTaper*toCrown
		s.least = math.Min(math.Min(s.mesial, s.distal), (s.buccal+s.lingual)/2)
		b.sections[k] = s
	}
	return b
}

// profiles are how far a tooth reaches to its four sides, by height.
type profiles struct{ mesial, distal, buccal, lingual profile }

func posteriorProfiles(c *crown) profiles {
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
	return profiles{
		mesial:  proximalProfile(c, c.ContactHeightMesial, c.MarginalRidgeMesial),
		distal:  proximalProfile(c, c.ContactHeightDistal, c.MarginalRidgeDistal),
		buccal:  facialProfile(c, c.BuccalExtent, c.ContourHeightBuccal, buccalTip/math.Max(buccals, 1)+0.35, bulge),
		lingual: facialProfile(c, c.Buccolingual-c.BuccalExtent, c.ContourHeightLingual, lingualTip/math.Max(linguals, 1)+0.35, bulge),
	}
}

func proximalProfile(c *crown, contact float64, marginal crest) profile {
	cm, hm := c.CervicalMesiodistal/2, c.Mesiodistal/2+contactTrim
	ridge := c.Height - marginal.Drop
	zc := math.Min(contact*c.Height, ridge-0.7)
	heights, reaches := c.trunk(cm, c.RootSpread[0])
	return newProfile(profileBlur,
		append(heights, 0.3, 0.55*zc, zc, ridge, c.Height+0.5),
		append(reaches, cm, mix(cm, hm, 0.72), hm, hm*(math.Abs(marginal.X)+0.085), 0.62*hm),
	)
}

// trunk is how far the root reaches to one side from the end of its stub up to under
// the neck: a trunk that parts narrows towards the furcation, and its roots spread.
func (c *crown) trunk(neck, spread float64) (heights, reaches []float64) {
	const under, waist = 0.97, 0.92 // of the neck, a millimetre under it and at the furcation
	if len(c.Entrances) == 0 || c.Furcation < 1.5 {
		return []float64{sectionBase, -1}, []float64{spread * neck, 0.975 * neck}
	}
	return []float64{sectionBase, -c.Furcation, -1}, []float64{spread * neck, waist * neck, under * neck}
}

func facialProfile(c *crown, extent, contour, tip, bulge float64) profile {
	cb, h, hoc := c.CervicalBuccolingual/2, c.Height, contour*c.Height
	heights, reaches := c.trunk(cb, c.RootSpread[1])
	return newProfile(profileBlur,
		append(heights, 0, 0.35*hoc, hoc, mix(hoc, h, 0.55), h, h+1),
		append(reaches, cb, mix(cb, extent, 0.62), extent, mix(extent, tip, 0.55-0.75*bulge), tip, tip-0.9),
	)
}

// section is the cross-section at one height.
type section struct {
	mesial, distal, buccal, lingual, centre float64
	shear, taper                            float64
	least                                   float64 // the shortest reach
	curve                                   *quadrantCurve
}

// unsheared (mm) is how far from its middle a section's shear sets in: contact
// areas stay near the middle while the corners move.
const unsheared = 2.0

// normalised gives the position in units of the section's reach to its sides.
func (s *section) normalised(x, y float64) (u, v float64) {
	dy := y - s.centre
	if s.shear != 0 {
		x -= s.shear * dy * dy * dy / (dy*dy + unsheared*unsheared)
	}
	if v = dy / (s.buccal - s.centre); dy < 0 {
		v = dy / (s.centre + s.lingual)
	}
	if u = x / s.mesial; x < 0 {
		u = x / s.distal
	}
	return u / (1 + s.taper*clamp(v, 1)), v
}

// level is 1 on the surface and grows evenly along rays from the axis.
func (s *section) level(x, y float64) float64 {
	u, v := s.normalised(x, y)
	return math.Sqrt(u*u+v*v) * s.curve.at(u, v)
}

// at gives the sections below and above a height, and how far between it lies.
func (b *body) at(z float64) (below, above *section, between float64) {
	t := (z - sectionBase) / sectionStep
	k := int(math.Min(math.Max(t, 0), float64(len(b.sections)-2)))
	return &b.sections[k], &b.sections[k+1], math.Min(math.Max(t-float64(k), 0), 1)
}

// section is the one nearest below a height.
func (b *body) section(z float64) *section {
	s, _, _ := b.at(z)
	return s
}

// distance is the distance to the lateral surface to first order (mm, negative
// inside), with the position in units of the section's reach.
func (b *body) distance(p r3.Vec) (d, u, v float64) {
	below, above, t := b.at(p.Z)
	u, v = below.normalised(p.X, p.Y)
	const innermost = 0.3 // nearer the axis the gradient fades
	if r := u*u + v*v; r < innermost*innermost {
		return (math.Sqrt(r) - 1) * below.least, u, v
	}
	const e, faraway = 0.02, 1.2 // mm
	f0, f1 := below.level(p.X, p.Y), above.level(p.X, p.Y)
	if least := (f0 - 1) * below.least; least > faraway {
		return least, u, v // no one asks how far exactly
	}
	dx := (below.level(p.X+e, p.Y) - f0) / e
	dy := (below.level(p.X, p.Y+e) - f0) / e
	dz := (f1 - f0) / sectionStep
	return (mix(f0, f1, t) - 1) / math.Max(math.Sqrt(dx*dx+dy*dy+dz*dz), 0.05), u, v
}

// quadrantCurve is the radius factor of a superellipse of four exponents, by
// direction: tabulated, since every sample of a tooth asks for it.
type quadrantCurve [4*curveSteps + 1]float32

const curveSteps = 64 // a quadrant

// at reads the curve in direction (u, v), by the place on a diamond, which
// needs no arc tangent.
func (q *quadrantCurve) at(u, v float64) float64 {
	sum := math.Abs(u) + math.Abs(v)
	if sum == 0 {
		return 1
	}
	along := v / sum // from -1 to 1 and, behind, back again
	if u >= 0 {
		along++ // 0 to 2 on the mesial side
	} else {
		along = 3 - along // 2 to 4 on the distal one
	}
	at := along * curveSteps
	n := min(int(at), 4*curveSteps-1)
	t := float32(at) - float32(n)
	return float64(q[n] + t*(q[n+1]-q[n]))
}

// quadrantCurves holds a crown's curves between cervix and crown.
type quadrantCurves struct {
	exponents [2][4]float64 // at the cervical line and in the crown: MB, DB, ML, DL
	known     map[float64]*quadrantCurve
}

func newQuadrantCurves(c *crown) *quadrantCurves {
	crown := [4]float64{c.ExponentMesiobuccal, c.ExponentDistobuccal, c.ExponentMesiolingual, c.ExponentDistolingual}
	neck := [4]float64{2.3, 2.3, 2.15, 2.15}
	if c.Anterior {
		neck = [4]float64{2.1, 2.1, 1.8, 1.8}
	}
	return &quadrantCurves{exponents: [2][4]float64{neck, crown}, known: map[float64]*quadrantCurve{}}
}

// at is the curve a share of the way from the cervical line to the crown.
func (qs *quadrantCurves) at(share float64) *quadrantCurve {
	if q := qs.known[share]; q != nil {
		return q
	}
	var n [4]float64
	for i := range n {
		n[i] = mix(qs.exponents[0][i], qs.exponents[1][i], share)
	}
	q := &quadrantCurve{}
	for i := range q {
		along := float64(i) / curveSteps
		u, v := 1-math.Abs(along-1), along-1
		if along > 2 {
			u, v = math.Abs(along-3)-1, 3-along
		}
		r := math.Hypot(u, v)
		cos, sin := u/r, v/r
		// Quadrants blend over a band around the axes, so no seam shows.
		mesial := solid.Smoothstep(-0.35, 0.35, cos)
		buccal := solid.Smoothstep(-0.35, 0.35, sin)
		e := mix(mix(n[3], n[2], mesial), mix(n[1], n[0], mesial), buccal)
		q[i] = float32(math.Pow(math.Pow(math.Abs(cos), e)+math.Pow(math.Abs(sin), e), 1/e))
	}
	qs.known[share] = q
	return q
}

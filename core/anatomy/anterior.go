package anatomy

import (
	"math"

	"obturon/core/solid"
)

// anteriorProfiles shape a wedge: a convex labial surface, a lingual one that
// swells into the cingulum and hollows above it, and proximal surfaces that widen
// up to the contacts.
func anteriorProfiles(c *crown) profiles {
	half := c.EdgeThickness / 2
	lingual := c.Buccolingual - c.BuccalExtent
	edge := half - c.EdgeY
	cb, h := c.CervicalBuccolingual/2, c.Height
	return profiles{
		mesial: incisorProximal(c, c.ContactHeightMesial),
		distal: incisorProximal(c, c.ContactHeightDistal),
		buccal: newProfile(
			anteriorBlur,
			[]float64{sectionBase, -1, 0, c.ContourHeightBuccal * h, 0.45 * h, 0.75 * h, h, h + 1},
			[]float64{
				c.RootSpread[1] * cb,
				0.975 * cb,
				cb,
				c.BuccalExtent,
				mix(c.BuccalExtent, c.EdgeY+half, 0.16),
				mix(c.BuccalExtent, c.EdgeY+half, 0.52),
				c.EdgeY + half,
				c.EdgeY + half - 0.4,
			},
		),
		lingual: newProfile(
			anteriorBlur,
			[]float64{sectionBase, -1, 0, 0.7 * c.CingulumHeight * h, 1.15 * c.CingulumHeight * h, 0.31 * h, 0.43 * h, 0.58 * h, 0.8 * h, h, h + 1},
			[]float64{
				c.RootSpread[1] * cb,
				0.975 * cb,
				cb,
				mix(cb, lingual, 0.85),
				lingual,
				mix(lingual, edge, 0.20),
				mix(lingual, edge, 0.44),
				mix(lingual, edge, 0.70),
				mix(lingual, edge, 0.92),
				edge,
				edge - 0.3,
			},
		),
	}
}

func incisorProximal(c *crown, contact float64) profile {
	cm, hm, h := c.CervicalMesiodistal/2, c.Mesiodistal/2+contactTrim, c.Height
	zc := contact * h
	return newProfile(anteriorBlur,
		[]float64{sectionBase, -1, 0.3, 0.5 * zc, zc, h + 0.5},
		[]float64{c.RootSpread[0] * cm, 0.975 * cm, cm, mix(cm, hm, 0.60), hm, hm - 0.25*(h+0.5-zc)},
	)
}

// incisalEdge is the height of the incisal edge along the tooth, and how
// steeply it falls.
type incisalEdge struct {
	c              *crown
	mesial, distal float64 // where the proximal surfaces meet it
	tip            float64
}

func newIncisalEdge(c *crown, b *body) *incisalEdge {
	s := b.section(c.Height - 0.3)
	return &incisalEdge{c: c, mesial: s.mesial, distal: s.distal, tip: c.x(c.TipX)}
}

// at gives the height (mm) and slope of the edge at x.
func (e *incisalEdge) at(x float64) (height, slope float64) {
	reach, fall, radius, side := e.mesial, e.c.EdgeSlopeMesial, e.c.CornerRadiusMesial, 1.0
	if x < e.tip {
		reach, fall, radius, side = e.distal, e.c.EdgeSlopeDistal, e.c.CornerRadiusDistal, -1
	}
	along, length := side*(x-e.tip), reach-side*e.tip
	const tipRadius = 0.5 // mm; canine cusps are blunt
	height = e.c.Height
	if fall > 0 {
		r := math.Sqrt(along*along + tipRadius*tipRadius)
		height -= fall / length * (r - tipRadius)
		slope = -fall / length * along / r
	} else if e.c.Upper && side < 0 { // the edge of incisors rises a little towards the mesial angle
		const rise = 0.03
		height -= rise * along
		slope = -rise
	}
	// The angle: a quarter circle, continued as a steep straight line.
	if into := along - (length - radius); into > 0 {
		const steep = 3.0
		turn := radius * steep / math.Sqrt(1+steep*steep)
		if into < turn {
			root := math.Sqrt(radius*radius - into*into)
			height -= radius - root
			slope -= into / root
		} else {
			height -= radius - math.Sqrt(radius*radius-turn*turn) + steep*(into-turn)
			slope -= steep
		}
	}
	return height, side * slope
}

// lingualFossa is how far the lingual surface is hollowed between the
// marginal ridges and the cingulum, mm.
func (c *crown) lingualFossa(u, v, z float64) float64 {
	if v > -0.05 || c.FossaDepth == 0 {
		return 0
	}
	h := c.Height
	across := 1 - solid.Smoothstep(0.10, 0.86, math.Abs(u))
	up := solid.Smoothstep(0.24*h, 0.56*h, z) * (1 - solid.Smoothstep(0.62*h, 0.99*h, z))
	depth := 1.15 * c.FossaDepth * across * up * solid.Smoothstep(0.05, 0.35, -v)
	if c.EdgeSlopeMesial > 0 { // the lingual ridge of canines
		const width = 0.24
		depth *= 1 - 0.85*math.Exp(-u*u/(width*width))
	}
	return depth
}

// surfaces of an anterior crown at p's height: how far p lies beyond the labial
// and the lingual surface, which in a thin wedge is nearer the truth than the
// distance to its outline.
func (s *section) beyondFaces(x, y float64) float64 {
	u, _ := s.normalised(x, s.centre)
	const exponent = 2.3
	flat := math.Pow(math.Max(1-math.Pow(math.Abs(u), exponent), 0), 1/exponent)
	return math.Max(y-s.centre-(s.buccal-s.centre)*flat, -(y-s.centre)-(s.centre+s.lingual)*flat)
}

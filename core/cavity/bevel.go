package cavity

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// Bevel is the finish of an enamel margin on a smooth surface: what is cut off
// beside the cavity, less and less with the distance from it. It stays within
// enamel.
type Bevel struct {
	zones  []Zone
	dentin *solid.Dense
	outer  *anatomy.OuterSurface
}

// Edge is what a bevel runs along.
type Edge interface {
	// Over is how far (mm) along the tooth a place of the outer surface lies from
	// the edge.
	Over(foot, normal r3.Vec) float64
}

// Zone is one bevel of a cavity, with its own form: on the facial side of a lost
// incisal angle it differs from the lingual one.
type Zone struct {
	reach   float64 // mm along the surface
	tan     float64 // of its angle to the surface; 0 for a feather
	feather float64 // mm deep where it starts, thinning out along a parabola
	// share is how much of the zone there is at a place of the surface, 0 to 1.
	share func(foot, normal r3.Vec) float64
}

const (
	// LeastBevel (mm) is the width under which no bevel is cut.
	LeastBevel = 0.08
	// UsualBevelAngle (degrees) is the angle of a short bevel to the outer surface
	// (texts on bonded fillings: 45 degrees opens the rods across their ends).
	UsualBevelAngle = 45
)

const (
	EnamelUnderBevel = 0.12 // mm of enamel left under a bevel
	thinShare        = 0.28 // of the tooth's thickness that a bevel takes at the most
	thinEnamel       = 0.15 // mm of enamel on which no bevel is made; on twice as much it is whole
	FeatherDepth     = 0.45 // mm where a feather starts, if the enamel has it
	EdgeShare        = 0.12 // of a feather's mean slope that is left where it runs out
	featherShare     = 0.55 // of the enamel's thickness that it takes there
)

// Chamfer is a bevel so wide (mm) along its face, at an angle (degrees) to the
// outer surface.
func Chamfer(width, angle float64, share func(foot, normal r3.Vec) float64) Zone {
	sin, cos := math.Sincos(angle * math.Pi / 180)
	return Zone{reach: width * cos, tan: sin / cos, share: share}
}

// Feather is a bevel that thins out to nothing over its width (mm).
func Feather(width float64, share func(foot, normal r3.Vec) float64) Zone {
	return Zone{reach: width, feather: FeatherDepth, share: share}
}

// NewBevel bevels a margin by zones; nil where margins are left as the walls make
// them.
func NewBevel(m *anatomy.Model, zones ...Zone) *Bevel {
	if len(zones) == 0 {
		return nil
	}
	return &Bevel{zones, m.Dentin(), m.OuterSurface()}
}

// Reach is how far (mm) the widest zone goes.
func (b *Bevel) Reach() float64 {
	widest := 0.0
	for _, z := range b.zones {
		widest = math.Max(widest, z.reach)
	}
	return widest * mostScallop
}

// Distance is the signed distance (mm) to the bevel's face near it.
func (b *Bevel) Distance(at *Place, along Edge) float64 {
	const near = 0.5 // mm around the face where its field matters
	if at.Depth > 1.5 || at.Depth < -1 {
		return math.Inf(1)
	}
	aside := along.Over(at.Foot, at.Normal)
	if aside > b.Reach()+near {
		return math.Inf(1)
	}
	enamel := b.dentin.Distance(at.Foot)
	most := math.Min(enamel-EnamelUnderBevel, b.sparing(at))
	deep := math.Inf(-1)
	slope := 0.0
	for _, z := range b.zones {
		if cut, tan := z.cut(at, math.Max(aside, 0), enamel, most); cut > deep {
			deep, slope = cut, tan
		}
	}
	return (at.Depth - deep) / math.Hypot(1, slope)
}

// sparing is how deep (mm) a bevel may cut for a thin edge, bevelled from both
// sides, to stand; without bound where the tooth is thick.
func (b *Bevel) sparing(at *Place) float64 {
	const felt, thin, thick = 1.0, 1.6, 1.95 // mm: under the surface, and of the tooth
	// Past the middle of a thin edge the far side is nearer.
	thickness := felt + b.outer.Depth(r3.Sub(at.Foot, r3.Scale(felt, at.Normal)))
	return thinShare*thickness + felt*solid.Smoothstep(thin, thick, thickness)
}

// cut is how deep (mm) a zone cuts under a place of the surface that lies aside
// of the cavity, at the most so much, and how steeply its face falls there; far
// above the surface where it does not reach.
func (z *Zone) cut(at *Place, aside, enamel, most float64) (deep, slope float64) {
	reach := z.reach * z.share(at.Foot, at.Normal) * solid.Smoothstep(thinEnamel, 2*thinEnamel, enamel)
	if reach < LeastBevel || most <= 0 {
		return math.Inf(-1), 0
	}
	left := 1 - aside/reach
	if z.tan > 0 {
		return math.Min(reach*left*z.tan, most), z.tan
	}
	start := math.Min(math.Min(z.feather, featherShare*enamel), most)
	if left < 0 { // past its end the face runs on level, so that it meets the surface nowhere else
		return EdgeShare * left * start, EdgeShare * start / reach
	}
	return start * left * (EdgeShare + (1-EdgeShare)*left), start * (EdgeShare + 2*(1-EdgeShare)*left) / reach
}

// mostScallop is by how much a scalloped margin reaches past its mean.
const mostScallop = 1.08

// ScallopedZone waves a zone's reach along a direction, irregularly, so that no
// straight line of light betrays the margin.
func ScallopedZone(z Zone, along r3.Vec) Zone {
	const wave, second = 2.1, 1.27 // mm
	whole := z.share
	z.share = func(foot, normal r3.Vec) float64 {
		t := r3.Dot(foot, along)
		return whole(foot, normal) * (1 + 0.06*math.Sin(2*math.Pi*t/wave) + 0.02*math.Sin(2*math.Pi*t/second+1))
	}
	return z
}

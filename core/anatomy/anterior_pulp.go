package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// anteriorChamber is the chamber of an anterior tooth: an oval canal that flattens
// and fans out towards the incisal edge, half-way between the labial and lingual
// dentin, and ends in a roof that rises into the horns.
type anteriorChamber struct {
	halfX, halfY float64 // at the cervical line, mm
	roof         float64 // height of its end between the horns, mm
	fan          float64 // by which it widens towards the edge, a share
	centreY      func(z float64) float64
	summits      summits
}

func newAnteriorPulp(s *shape, k float64) *pulpChamber {
	c := s.c
	// mm from the incisal edge to the highest horn: textbooks of endodontic access
	// give 5 to 6 on upper incisors of adults, less on the smaller lower ones.
	edgeToHorn := 5.3
	if c.Primary {
		edgeToHorn = 3.3
	} else if !c.Upper {
		edgeToHorn *= 0.85
	}
	top := c.Height - edgeToHorn - 2*(1-k)
	cover := enamelCover{c}
	between := func(z float64) float64 { // the labial and the lingual junction
		at := s.body.section(z)
		labial, lingual := cover.lateral(0, 1, z), cover.lateral(0, -1, z)
		return (at.buccal - labial - at.lingual + lingual + c.lingualFossa(0, -1, z)) / 2
	}
	const apart, blur = 0.4, 0.7 // mm
	var heights, middles []float64
	for z := rootStub - 1; z < top+2; z += apart {
		heights, middles = append(heights, z), append(middles, between(z))
	}
	centre := newProfile(blur, heights, middles).at
	// Shares of the tooth's cervical width that the pulp takes up: cross-sections in
	// dental anatomy atlases show about a third mesiodistally, a quarter labiolingually.
	// Primary pulps are larger in their teeth.
	shareX, shareY := 0.30, 0.203
	if c.Primary {
		shareX, shareY = 0.34, 0.27
	}
	// mm from the horns down to the roof between them, and their width as a share of
	// the chamber's: a single horn tapers longer.
	sag, width := 0.6, 0.6
	w := &anteriorChamber{
		halfX: shareX * c.CervicalMesiodistal / 2 * k, halfY: shareY * c.CervicalBuccolingual / 2 * k,
		fan: 0.1, centreY: centre,
	}
	if len(c.PulpHorns) == 1 {
		sag, width, w.fan = 1.5, 1.1, -0.2
	}
	w.roof = top - sag
	p := &pulpChamber{lean: s.lean, body: w}
	for _, h := range c.PulpHorns {
		tip := r3.Vec{X: clamp(c.x(h.X), 0.95*w.halfX), Y: centre(top), Z: top}
		p.horns = append(p.horns, pulpHorn{h.Name, tip})
	}
	w.summits = newSummits(p.horns, w.roof, math.Max(width*w.halfX, 0.22))
	return p
}

func (w *anteriorChamber) field(at r3.Vec) float64 {
	// From the cervix up it thins labiolingually, into the root it thins all round.
	up := solid.Smoothstep(0, 0.6, at.Z/w.roof)
	down := solid.Smoothstep(0, 1, -at.Z/8)
	halfX := w.halfX * (1 + w.fan*up) * (1 - 0.4*down)
	halfY := w.halfY * (1 - 0.32*up) * (1 - 0.3*down)
	const n = 2.4 // of the superellipse: blunter at its ends than an ellipse
	u, v := math.Abs(at.X)/halfX, math.Abs(at.Y-w.centreY(at.Z))/halfY
	f := math.Pow(math.Pow(u, n)+math.Pow(v, n), 1/n)
	side := (f - 1) * math.Min(halfX, halfY)
	if f > 0.3 {
		side = (f - 1) / math.Hypot(math.Pow(u/f, n-1)/halfX, math.Pow(v/f, n-1)/halfY)
	}
	// Rounded further than to its middle, it would end in a crest.
	return solid.SmoothMax(side, w.roofAbove(at), 0.95*halfY)
}

// roofAbove is how far a place lies over the roof. Only mesiodistally does the roof
// fall away from its horns.
func (w *anteriorChamber) roofAbove(at r3.Vec) float64 {
	if len(w.summits.places) > 0 {
		at.Y = w.summits.places[0].Y
	}
	return w.summits.above(at)
}

package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/solid"
)

// pulpWedge is the chamber of an anterior tooth: an oval canal that flattens
// towards the incisal edge, half-way between the labial and lingual dentin.
type pulpWedge struct {
	halfX, halfY float64 // at the cervical line, mm
	roof         float64 // height of its end, mm
	body         *body
	centreY      func(z float64) float64
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
	centre := func(z float64) float64 {
		at := s.body.section(z)
		labial, lingual := cover.lateral(0, 1, z), cover.lateral(0, -1, z)
		return (at.buccal - labial - at.lingual + lingual + c.lingualFossa(0, -1, z)) / 2
	}
	// Shares of the tooth's cervical width that the pulp takes up: cross-sections in
	// dental anatomy atlases show about a third mesiodistally, a quarter labiolingually.
	const shareX, shareY = 0.30, 0.22
	w := &pulpWedge{
		halfX: shareX * c.CervicalMesiodistal / 2 * k, halfY: shareY * c.CervicalBuccolingual / 2 * k,
		roof: top - 0.35, body: s.body, centreY: centre,
	}
	p := &pulpChamber{c: c, lean: s.lean, halfX: w.halfX, halfY: w.halfY, centreY: centre(0), roof: w.roof, k: k, wedge: w}
	for _, h := range c.PulpHorns {
		tip := r3.Vec{X: clamp(c.x(h.X), 1.15*w.halfX), Z: top - hornTip}
		tip.Y = centre(tip.Z)
		base := r3.Vec{X: 0.7 * tip.X, Y: centre(top - 2), Z: top - 2}
		p.horns = append(p.horns, roundCone{base, tip, math.Min(0.4*k, w.halfY), hornTip})
		p.names = append(p.names, h.Name)
	}
	end := rootStub - 1.0
	p.canals = []roundCone{{r3.Vec{Y: centre(0), Z: -1}, r3.Vec{Y: centre(0), Z: end}, 0.9 * math.Min(w.halfX, w.halfY), 0.7 * math.Min(w.halfX, w.halfY)}}
	return p
}

func (w *pulpWedge) field(at r3.Vec) float64 {
	// From the cervix up it thins labiolingually, into the root it thins all round.
	up := math.Min(math.Max(at.Z/w.roof, 0), 1)
	down := math.Min(math.Max(-at.Z/8, 0), 1)
	halfX := w.halfX * (1 - 0.15*up) * (1 - 0.4*down)
	halfY := w.halfY * (1 - 0.7*up) * (1 - 0.3*down)
	u, v := at.X/halfX, (at.Y-w.centreY(at.Z))/halfY
	f := math.Sqrt(u*u + v*v)
	side := (f - 1) * math.Min(halfX, halfY)
	if f > 0.3 {
		gu, gv := u/halfX, v/halfY
		side = (f - 1) * f / math.Sqrt(gu*gu+gv*gv)
	}
	return solid.SmoothMax(side, at.Z-w.roof, 0.5)
}

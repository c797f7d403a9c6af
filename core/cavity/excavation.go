package cavity

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/solid"
)

const (
	// ExcavationMargin (mm) is cut beyond a lesion's modelled border: the least
	// that a round bur at low speed takes off before firm dentin is felt.
	ExcavationMargin = 0.1
	// Where caries is followed near to the pulp nothing is cut past its border: within
	// stopsAt (mm) of the pulp; excavation has its margin from marginFrom on.
	stopsAt, marginFrom = 0.7, 1.0
	// freshened (mm) is taken off the walls of an old filling's room, in enamel as
	// in dentin: its margins are stained and its bond is spent.
	freshened = 0.1
	// IntoEnamel (mm) is how far past the dentino-enamel junction a round bur
	// follows carious dentin; enamel beyond is for the walls themselves.
	IntoEnamel = 0.2
	// UprightCover (mm) is how far an outline with upright walls lies past a
	// lesion's spread at the junction: no more than what excavation would take there
	// anyway, so that no sound tooth is spent for it.
	UprightCover = 0.10
	// RoundedCover (mm) is the same where the outline is rounded, a saucer or the
	// corners of an anterior box: at its ends it comes inside its own width. With
	// 0.10 the corners of lesions stayed, and boxes of primary incisors undercut
	// their enamel (decision 12).
	RoundedCover = 0.15
	// LeastStep (mm) is the axial wall under a pulpal floor that makes a seat of its own
	// (operative dentistry convention).
	LeastStep = 0.7
	// PulpAllowance (mm) of dentin is left over what is asked, for the cut's own
	// error on the grid.
	PulpAllowance = 0.03
	// LeastDentin (mm) between a lesion and the pulp is less than anyone can leave
	// on purpose: the lesion counts as having reached it.
	LeastDentin = 0.15
)

// Place is a place in or close around the tooth, with what lies over it.
type Place struct {
	P            r3.Vec
	Foot, Normal r3.Vec  // of the outer surface over it
	Depth        float64 // mm under that surface
}

// PlaceOf finds what lies over a place. Close to the surface its own field
// counts: where a bevel thins out, a hundredth of a millimetre moves the margin
// far.
func PlaceOf(p r3.Vec, outer *anatomy.OuterSurface, surface *solid.Blank) Place {
	at := Place{P: p}
	at.Foot, at.Normal, at.Depth = outer.Over(p)
	const near, far = 0.05, 0.14 // mm: within the band in which that field is stored
	if aside := math.Abs(at.Depth); aside < far {
		own := solid.Smoothstep(near, far, aside)
		at.Depth = own*at.Depth - (1-own)*surface.Distance(p)
	}
	return at
}

// Removal is what must go of a cavity's lesions: caries, which is followed,
// and old fillings, which leave the whole of their room.
type Removal struct {
	caries, fillings []bounded
	end              Endpoint
}

// bounded is a lesion with the room around it in which it is looked at.
type bounded struct {
	lesion.Lesion
	room solid.Box
}

// NewRemoval tells caries from old fillings. What has broken off is none of
// either: the form that rebuilds it takes it in.
func NewRemoval(end Endpoint, all []lesion.Lesion) Removal {
	const around = 0.6 // mm, more than a surface's field must reach
	room := r3.Vec{X: around, Y: around, Z: around}
	e := Removal{end: end}
	for _, l := range all {
		b := l.Bounds()
		kept := bounded{l, solid.Box{Min: r3.Sub(b.Min, room), Max: r3.Add(b.Max, room)}}
		switch lesion.ContentOf(l) {
		case lesion.Filling:
			e.fillings = append(e.fillings, kept)
		case lesion.Gone:
		default:
			e.caries = append(e.caries, kept)
		}
	}
	return e
}

// distance is that of a lesion; what lies over a place on a smooth surface is
// found once for all.
func (b *bounded) distance(p r3.Vec, over *Place) float64 {
	if over != nil {
		if l, onSurface := b.Lesion.(*lesion.SmoothSurface); onSurface {
			return l.DistanceUnder(over.Foot, over.Normal, over.Depth)
		}
	}
	return b.Distance(p)
}

// Caries is the distance (mm) to what is cut for caries: a little past its border where the
// pulp is not near, and without what stays over it; infinite where none is near. over may be
// nil.
func (e *Removal) Caries(p r3.Vec, over *Place) float64 {
	const near = 0.6 // mm outside the border where its field matters
	least := math.Inf(1)
	for n := range e.caries {
		l := &e.caries[n]
		if !l.room.Contains(p) {
			continue
		}
		d := l.distance(p, over)
		if d > near {
			least = min(least, d-ExcavationMargin)
			continue
		}
		d -= ExcavationMargin * solid.Smoothstep(stopsAt, marginFrom, e.end.model.Pulp().Distance(p))
		least = min(least, max(d, -e.end.Keeps(l.Found(), p)))
	}
	return least
}

// Fillings is the distance (mm) to the freshened room of old fillings; infinite
// where none is near. over may be nil.
func (e *Removal) Fillings(p r3.Vec, over *Place) float64 {
	d := math.Inf(1)
	for n := range e.fillings {
		if e.fillings[n].room.Contains(p) {
			d = min(d, e.fillings[n].distance(p, over))
		}
	}
	return d - freshened
}

// Boxes are the bounds of everything that is followed.
func (e *Removal) Boxes() []solid.Box {
	var boxes []solid.Box
	for _, among := range [][]bounded{e.caries, e.fillings} {
		for n := range among {
			boxes = append(boxes, among[n].Bounds())
		}
	}
	return boxes
}

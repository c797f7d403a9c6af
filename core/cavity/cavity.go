// Package cavity holds what every cavity shares, whatever surface it opens on:
// the request it is proposed from, the named features of its surface, its
// dimensions, the excavation of caries and old fillings, the bevel of its margin
// and the errors that keep it from being cut. The forms lie beside it: package
// occlusal for fissures and posterior boxes, package smooth for everything that
// opens on a smooth surface or an incisal edge. Neither knows how its result is
// judged.
package cavity

import (
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

// Kind tells cavities apart by where they open: it decides which gauges, views
// and steps a cavity has.
type Kind string

// The kinds of cavities.
const (
	Occlusal     Kind = "occlusal"      // Class I of the occlusal surface, and II
	Pit          Kind = "pit"           // Class I of a facial or lingual pit
	Proximal     Kind = "proximal"      // Class III
	IncisalAngle Kind = "incisal_angle" // Class IV
	Cervical     Kind = "cervical"      // Class V
)

// Proposal is a cavity that its form has laid out and that can still be changed
// by hand. It is safe for concurrent use.
type Proposal interface {
	// Cut builds the cavity with the dentist's own values; those that name no
	// dimension of it change nothing. It fails with one of the errors of this
	// package where the figures leave the tooth.
	Cut(overrides map[string]float64) (*Cavity, error)
	// With is the same proposal with other figures.
	With(figures map[string]float64) Proposal
}

// Cavity is one cavity of a tooth as designed.
type Cavity struct {
	Request
	Kind  Kind
	Class lesion.Class
	// Name tells it from the others of its tooth, "facial cervical"; "" of the
	// occlusal one.
	Name string
	// Prefix starts the ids of its dimensions and views; "" of the occlusal one.
	Prefix string
	// Design is the form's own: occlusal.Design or smooth.Design.
	Design     any
	Dimensions []Dimension
	Solid      solid.Tool    // what the bur takes away
	Cover      solid.Tool    // the bevel round covered cusps, nil where there is none
	Frame      anatomy.Frame // W is the bur's axis out of the tooth, V towards the biting side or facial
	Boxes      []notation.Side
	// Opened tells that fissures are opened, Dovetail that their ends are widened.
	Opened, Dovetail bool
	// CoversCusps tells that cusps are covered or have broken off.
	CoversCusps bool
	// Narrow tells that no head gets down to one of its pulpal floors.
	Narrow bool
	// Fissures are those that the outline is to take in, Sealed those whose part
	// outside the outline is sealed; both in the tooth frame.
	Fissures, Sealed [][]r3.Vec
}

// Figure is the id of the cavity's own dimension of that name, the box's where a
// side is given; "" where it has none.
func (c *Cavity) Figure(figure, side string) string {
	candidates := []string{c.Prefix + figure}
	if side != "" {
		candidates = []string{side + "_" + figure, figure}
	}
	for _, id := range candidates {
		if slices.ContainsFunc(c.Dimensions, func(d Dimension) bool { return d.ID == id }) {
			return id
		}
	}
	return ""
}

// Value is what the cavity's own dimension of that name is set to; ok is false where it has
// none.
func (c *Cavity) Value(figure string) (value float64, ok bool) {
	id := c.Figure(figure, "")
	for _, d := range c.Dimensions {
		if d.ID == id {
			return d.Value, true
		}
	}
	return 0, false
}

// Asks is what the school asks of this cavity under an id, fractions as they are; ok is
// false where it is silent.
func (c *Cavity) Asks(id school.CriterionID) (asked school.Criterion, ok bool) {
	asked, ok = c.School.For(id, c.Model.Tooth, c.Material)
	entry, _ := school.Find(id)
	switch {
	case !ok || c.Bonded():
	case entry.Cusps != nil && c.CoversCusps && len(c.Boxes) > 0:
		return entry.As(*entry.Cusps), true
	case entry.Slot != nil && !c.Opened && len(c.Boxes) > 0 && !c.LesionLed():
		return entry.As(*entry.Slot), true
	}
	return c.there(asked), ok
}

// Layout is that of a Class II; AnyLayout of other cavities.
func (c *Cavity) Layout() Layout {
	switch {
	case c.Class != lesion.ClassII:
		return AnyLayout
	case c.Opened:
		return Conventional
	}
	return SlotOnly
}

// Tool is everything that is cut for the cavity.
func (c *Cavity) Tool() solid.Tool {
	if c.Cover == nil {
		return c.Solid
	}
	return solid.Union([]solid.Tool{c.Solid, c.Cover})
}

// EnteredFacially reports a cavity whose bur comes from the facial side.
func (c *Cavity) EnteredFacially() bool { return c.Frame.W.Y > 0 }

// Fillings are the old fillings among the cavity's lesions; Caries is all else.
func (c *Cavity) Fillings() []solid.Tool { return toolsOf(c.Lesions, true) }

// Caries is what must go of the tooth itself, and what has broken off.
func (c *Cavity) Caries() []solid.Tool { return toolsOf(c.Lesions, false) }

func toolsOf(lesions []lesion.Lesion, fillings bool) []solid.Tool {
	var tools []solid.Tool
	for _, l := range lesions {
		if (lesion.ContentOf(l) == lesion.Filling) == fillings {
			tools = append(tools, l)
		}
	}
	return tools
}

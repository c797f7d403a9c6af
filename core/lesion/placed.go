package lesion

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
)

// PlacedSite is a site on a modelled tooth, where a finding can be tapped.
type PlacedSite struct {
	Site  Site
	At    r3.Vec // on the surface, in the tooth frame
	Kinds []Kind // what can be found there, the likeliest first
}

// PlacedSites lists the sites of a tooth on its surface.
func PlacedSites(m *anatomy.Model) []PlacedSite {
	kindsAt := map[Site][]Kind{}
	var order []Site
	for _, choice := range Choices(m.Tooth) {
		for _, s := range choice.Sites {
			if len(kindsAt[s.Site]) == 0 {
				order = append(order, s.Site)
			}
			kindsAt[s.Site] = append(kindsAt[s.Site], choice.Kind)
		}
	}
	var placed []PlacedSite
	for _, s := range order {
		if at, ok := whereIs(s, m); ok {
			placed = append(placed, PlacedSite{s, at, kindsAt[s]})
		}
	}
	return placed
}

// whereIs finds a site on a model; ok is false where the model does not have it.
func whereIs(s Site, m *anatomy.Model) (at r3.Vec, ok bool) {
	switch s.place() {
	case onOcclusal:
		return occlusalSite(s, m)
	case onGroove:
		g, ok := grooveAt(m, s)
		if !ok {
			return at, false
		}
		return alongGroove(g), true
	case onCusp:
		for _, tip := range m.CuspTips {
			if tip.Name == s.Cusp() {
				return tip.At, true
			}
		}
		return at, false
	case onProximal:
		if s == Mesial {
			return m.MesialContact.At, true
		}
		return m.DistalContact.At, true
	case onSmoothPit:
		return m.FacePit(s.pitName())
	case onSmooth:
		const over = 1.0 // mm, where lesions at the cervical line usually lie
		return m.OverCervicalLine(s == Buccal, over)
	case onIncisalAngle:
		const inwards = 0.85 // of the way to the incisal angle
		sign := 1.0
		if s == DistalIncisalAngle {
			sign = -1
		}
		reach, top := m.IncisalAngle(sign)
		return r3.Vec{X: inwards * reach, Z: top}, true
	default:
		return at, false
	}
}

func occlusalSite(s Site, m *anatomy.Model) (at r3.Vec, ok bool) {
	name := s.pitName()
	if s == Central {
		name = "central pit"
	}
	if at, ok := m.Pit(name); ok {
		return at, true
	}
	return m.Table.Origin, s == Central && len(m.CentralLine()) > 0
}

// alongGroove is a place on a groove clear of the pit that it leaves.
func alongGroove(g anatomy.GrooveLine) r3.Vec {
	const clear = 1.5 // mm
	for _, p := range g.Points {
		if r3.Norm(r3.Sub(p, g.Points[0])) >= clear {
			return p
		}
	}
	return g.Points[len(g.Points)-1]
}

// Size is a lesion's extent in mm; a figure that its kind does not have is 0.
type Size struct{ Height, Width, Length float64 }

// KindSize is the size a kind of finding takes at a depth where none is given.
type KindSize struct {
	Kind  Kind
	Depth Depth
	Size
}

// DefaultSizes lists the sizes of every kind that a tooth can have, by depth.
func DefaultSizes(m *anatomy.Model) []KindSize {
	var all []KindSize
	for _, choice := range Choices(m.Tooth) {
		for _, depth := range Depths {
			if s, ok := DefaultSize(m, choice.Kind, depth); ok {
				all = append(all, KindSize{choice.Kind, depth, s})
			}
		}
	}
	return all
}

// DefaultSize is the size that a depth calls for on a tooth; ok is false where
// the kind has none.
func DefaultSize(m *anatomy.Model, kind Kind, depth Depth) (s Size, ok bool) {
	switch kind {
	case CervicalCaries:
		e, known := cervicalExtents[depth]
		size := cervicalSize(m)
		return Size{Height: e.height * size, Width: cervicalWidth(m, e.width*size)}, known
	case Fracture:
		if !m.Tooth.Anterior() {
			height, known := LostHeight(Finding{Depth: depth})
			return Size{Height: height}, known
		}
		e, known := incisalAngleExtents[depth]
		return Size{Height: e.height * m.Sizes.Height, Width: e.width * m.Sizes.Mesiodistal}, known
	case ProximalCaries:
		e, known := proximalExtents[depth]
		e = e.on(m)
		return Size{Height: e.height, Width: e.width}, known
	case FissureCaries, PitCaries:
		e, known := defaultExtents[depth]
		e = e.on(m)
		s = Size{Width: e.width}
		if kind == FissureCaries {
			s.Length = e.length
		}
		return s, known
	case OldRestoration:
		e, known := defaultExtents[depth]
		return Size{
				Width:  fillingWidth * m.Sizes.Buccolingual / widestMolar,
				Length: fillingLength * m.Sizes.Mesiodistal / widestMolar,
			}, known &&
				e.intoDentin > 0
	default:
		return s, false
	}
}

package lesion

import (
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
)

// PlacedSite is a place on a tooth where a finding can lie.
type PlacedSite struct {
	Site  Site
	At    r3.Vec // on the surface, in the tooth frame
	Kinds []Kind // what can be found there
}

// Sites lists the places on a tooth where a finding can lie.
func Sites(m *anatomy.Model) []PlacedSite {
	var sites []PlacedSite
	central := false
	for _, p := range m.Pits {
		site := Site(strings.ReplaceAll(p.Name, " ", "_"))
		switch site {
		case "central_pit":
			site, central = Central, true
			fallthrough
		case MesialPit, DistalPit:
			sites = append(sites, PlacedSite{site, p.At, []Kind{FissureCaries, PitCaries, OldRestoration}})
		}
	}
	if !central && len(m.CentralLine()) > 0 {
		sites = append(sites, PlacedSite{Central, m.Table.Origin, []Kind{FissureCaries, PitCaries, OldRestoration}})
	}
	for _, s := range GrooveSites(m.Tooth) {
		if g, ok := grooveAt(m, s); ok {
			sites = append(sites, PlacedSite{s, alongGroove(g), []Kind{FissureCaries}})
		}
	}
	for _, s := range CuspSites(m.Tooth) {
		for _, tip := range m.CuspTips {
			if tip.Name == s.Cusp() {
				sites = append(sites, PlacedSite{s, tip.At, []Kind{UnderminedCusp, Fracture}})
			}
		}
	}
	return append(append(sites,
		PlacedSite{Mesial, m.MesialContact.At, []Kind{ProximalCaries, OldRestoration, Crack}},
		PlacedSite{Distal, m.DistalContact.At, []Kind{ProximalCaries, OldRestoration, Crack}},
	), faceSites(m)...)
}

// faceSites lists the places on the facial and lingual faces, and the corners
// of an incisal edge.
func faceSites(m *anatomy.Model) []PlacedSite {
	var sites []PlacedSite
	for _, pit := range []Site{BuccalPit, LingualPit} {
		if at, ok := m.FacePit(strings.ReplaceAll(string(pit), "_", " ")); ok {
			sites = append(sites, PlacedSite{pit, at, []Kind{PitCaries, OldRestoration}})
		}
	}
	const over = 1.0 // mm, where lesions at the neck usually lie
	for _, face := range []Site{Buccal, Lingual} {
		if at, ok := m.OverNeck(face == Buccal, over); ok {
			sites = append(sites, PlacedSite{face, at, []Kind{CervicalCaries, OldRestoration, Crack}})
		}
	}
	if m.Tooth.Anterior() {
		for _, end := range []struct {
			site  Site
			sense float64
		}{{MesialCorner, 1}, {DistalCorner, -1}} {
			reach, top := m.Corner(end.sense)
			sites = append(sites, PlacedSite{end.site, r3.Vec{X: 0.85 * reach, Z: top}, []Kind{Fracture}})
		}
	}
	return sites
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

// DefaultSize is the size that a depth calls for on a tooth; ok is false where
// the kind has none.
func DefaultSize(m *anatomy.Model, kind Kind, depth Depth) (s Size, ok bool) {
	switch kind {
	case CervicalCaries:
		e, known := neckExtents[depth]
		size := neckSize(m)
		return Size{Height: e.height * size, Width: neckWidth(m, e.width*size)}, known
	case Fracture:
		if !m.Tooth.Anterior() {
			height, known := LostHeight(Finding{Depth: depth})
			return Size{Height: height}, known
		}
		e, known := cornerExtents[depth]
		return Size{Height: e.height * m.Sizes.Height, Width: e.width * m.Sizes.Mesiodistal}, known
	case ProximalCaries:
		e, known := proximalExtents[depth]
		e = e.on(m)
		return Size{Height: e.height, Width: e.width}, known
	case FissureCaries, PitCaries:
		e, known := defaultExtents[depth]
		s = Size{Width: e.width}
		if kind == FissureCaries {
			s.Length = e.length * m.Sizes.Mesiodistal / widestMolar
		}
		return s, known
	case OldRestoration:
		e, known := defaultExtents[depth]
		return Size{Width: fillingWidth * m.Sizes.Buccolingual / widestMolar, Length: fillingLength * m.Sizes.Mesiodistal / widestMolar}, known && e.intoDentin > 0
	default:
		return s, false
	}
}

package anatomy

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Landmark is a place of a tooth with its full name and its sort: cusp, pit, lingual, ridge,
// contact, contour or horn.
type Landmark struct {
	Kind, Name string
	At         r3.Vec
}

// CuspName spells out the letters that cusps go by.
func CuspName(short string) string {
	names := map[string]string{
		"MB": "mesiobuccal", "DB": "distobuccal", "ML": "mesiolingual", "DL": "distolingual", "B": "buccal", "L": "lingual", "D": "distal",
	}
	if name, ok := names[short]; ok {
		return name + " cusp"
	}
	return short
}

// NamedLandmarks lists those that are shown on a tooth.
func (m *Model) NamedLandmarks() []Landmark {
	var list []Landmark
	add := func(kind, name string, at r3.Vec) { list = append(list, Landmark{kind, name, at}) }
	for _, tip := range m.CuspTips {
		add("cusp", CuspName(tip.Name), tip.At)
	}
	for _, p := range m.Pits {
		add("pit", p.Name, p.At)
	}
	if m.Tooth.Anterior() {
		add("lingual", "cingulum", m.Cingulum)
		add("lingual", "lingual fossa", m.LingualFossa)
	} else {
		add("ridge", "mesial marginal ridge", m.MesialRidge)
		add("ridge", "distal marginal ridge", m.DistalRidge)
	}
	add("contact", "mesial contact", m.MesialContact.At)
	add("contact", "distal contact", m.DistalContact.At)
	add("contour", "facial height of contour", m.FacialContour)
	add("contour", "lingual height of contour", m.LingualContour)
	for _, h := range m.Horns {
		add("horn", h.Name+" pulp horn", h.At)
	}
	return list
}

// Figure is a measured size of a tooth, mm or deg.
type Figure struct {
	Label string
	Value float64
	Unit  string
}

// Figures are the sizes that matter before a tooth is cut.
func (m *Model) Figures() []Figure {
	list := []Figure{
		{"Crown height", m.Sizes.Height, "mm"},
		{"Mesiodistal size", m.Sizes.Mesiodistal, "mm"},
		{"Buccolingual size", m.Sizes.Buccolingual, "mm"},
	}
	if m.Intercuspal > 0 {
		list = append(list, Figure{"Between cusp tips, across", m.Intercuspal, "mm"})
	}
	list = append(list,
		Figure{"Lingual lean of the crown", m.LingualLean, "deg"},
		Figure{"Mesial contact above the CEJ", m.MesialContact.At.Z, "mm"},
		Figure{"Distal contact above the CEJ", m.DistalContact.At.Z, "mm"},
	)
	if mm, ok := m.PitToPulp(); ok {
		list = append(list, Figure{"Least from a pit to the pulp", mm, "mm"})
	}
	horn := m.HighestHorn()
	return append(list, Figure{"Highest horn above the CEJ (" + horn.Name + ")", horn.At.Z, "mm"})
}

// PitToPulp is the least distance (mm) from an occlusal pit to the pulp; ok is
// false on teeth without one.
func (m *Model) PitToPulp() (mm float64, ok bool) {
	mm = math.Inf(1)
	for _, p := range m.Pits {
		mm = math.Min(mm, m.Pulp().Distance(p.At))
	}
	return mm, len(m.Pits) > 0
}

// HighestHorn is the pulp horn that reaches furthest towards the biting side.
func (m *Model) HighestHorn() Named {
	highest := m.Horns[0]
	for _, h := range m.Horns {
		if h.At.Z > highest.At.Z {
			highest = h
		}
	}
	return highest
}

package measure

import (
	"cmp"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/school"
)

// occlusalGauges are taken at cavities of the occlusal surface.
var occlusalGauges = []Gauge{
	{
		Criterion: school.OutlineIsthmusWidth,
		Of:        ofOcclusal,
		opened:    true,
		read:      prepared((*Prepared).IsthmusWidth),
		walls:     []uint16{cavity.WallBuccal, cavity.WallLingual},
	},
	{Criterion: school.OutlineDovetailRatio, Of: ofOcclusal, opened: true, read: dovetailRatio},
	{Criterion: school.OutlineGrooveExtension, Of: ofOcclusal, opened: true, read: grooveExtensions, walls: []uint16{cavity.WallExtension}},
	{
		Criterion: school.OutlineMarginalRidge,
		Of:        ofOcclusal,
		opened:    true,
		read:      ofWalls((*Prepared).RidgeKept, +1, cavity.WallMesial, cavity.WallDistal),
		walls:     []uint16{cavity.WallMesial, cavity.WallDistal},
		kept:      true,
	},
	{Criterion: school.OutlineSmoothness, Of: ofOcclusal, read: prepared((*Prepared).Smoothness)},
	{
		Criterion: school.OutlineFissuresIncluded,
		Of:        ofOcclusal,
		opened:    true,
		read:      func(s *Subject) []Reading { return listed(s.FissuresLeft(s.Cavity.Fissures)) },
	},
	{
		Criterion: school.OutlineContactStress,
		Of:        ofOcclusal,
		read:      func(s *Subject) []Reading { return listed(s.OffContacts(s.Cavity.Contacts)) },
	},
	{Criterion: school.OutlineRidgePreserved, Of: ofOcclusal, read: prepared((*Prepared).Bridge)},
	{Criterion: school.ResistPulpalDepth, Of: ofOcclusal, opened: true, read: prepared((*Prepared).PulpalDepth)},
	{Criterion: school.ResistFloorFlatness, Of: ofOcclusal, opened: true, read: prepared((*Prepared).FloorFlatness)},
	{Criterion: school.ResistFloorTilt, Of: ofOcclusal, opened: true, read: prepared((*Prepared).FloorTilt)},
	{Criterion: school.ResistLineAngleRadius, Of: ofOcclusal, opened: true, read: prepared((*Prepared).LineAngleRadius)},
	{
		Criterion: school.ResistCuspThickness,
		Of:        ofOcclusal,
		opened:    true,
		read:      (*Subject).CuspBases,
		walls:     []uint16{cavity.WallBuccal, cavity.WallLingual},
		kept:      true,
	},
	{Criterion: school.ResistCuspClearance, Of: ofOcclusal, read: prepared((*Prepared).CuspRoom)},
	{
		Criterion: school.RetainConvergence,
		Of:        ofOcclusal,
		opened:    true,
		read:      ofWalls((*Prepared).WallLean, +1, cavity.WallBuccal, cavity.WallLingual),
	},
	{
		Criterion: school.RetainRidgeWall,
		Of:        ofOcclusal,
		opened:    true,
		read:      ofWalls((*Prepared).WallLean, -1, cavity.WallMesial, cavity.WallDistal),
	},
	{Criterion: school.RetainCuspBevel, Of: ofOcclusal, opened: true, read: prepared((*Prepared).CuspBevel)},
	{Criterion: school.RetainBevelWidth, Of: ofOcclusal, read: occlusalBevelWidth},
	{Criterion: school.RetainBevelAngle, Of: ofOcclusal, read: func(s *Subject) []Reading {
		_, angle, ok := s.Bevel()
		return listed(angle, ok)
	}},
	{Criterion: school.ResistCavosurfaceAngle, Of: ofOcclusal, read: marginAngles},
}

// ofWalls reads walls that exist; with sign -1 leaning out counts as positive.
func ofWalls(gauge func(*Prepared, uint16) (Reading, bool), sign float64, walls ...uint16) func(*Subject) []Reading {
	return func(s *Subject) []Reading {
		var readings []Reading
		for _, wall := range walls {
			if r, ok := gauge(s.Prepared, wall); ok {
				r.Value *= sign
				readings = append(readings, r)
			}
		}
		return readings
	}
}

// dovetailRatio is the width of the narrower end as a share of the isthmus; none
// where the design draws no dovetail.
func dovetailRatio(s *Subject) []Reading {
	isthmus, ok := s.IsthmusWidth()
	if !ok || isthmus.Value <= 0 || !s.Cavity.Dovetail {
		return nil
	}
	narrower, known := Reading{}, false
	for _, end := range []float64{+1, -1} {
		if r, ok := s.EndWidth(end); ok && (!known || r.Value < narrower.Value) {
			narrower, known = r, true
		}
	}
	narrower.Value /= isthmus.Value
	narrower.Uncertainty = 2 * narrower.Uncertainty / isthmus.Value
	return listed(narrower, known)
}

// grooveExtensions reads every side groove that the outline enters.
func grooveExtensions(s *Subject) []Reading {
	isthmus, ok := s.IsthmusWidth()
	if !ok {
		return nil
	}
	var readings []Reading
	for _, g := range s.Model.Grooves {
		if !g.Extends() {
			continue
		}
		if r, length, inside := s.GrooveReach(g, isthmus.Value); inside && !s.inBox(r.Where.At) {
			r.Whole = length
			readings = append(readings, r)
		}
	}
	return readings
}

// inBox reports a place of the margin that a box opens: a groove that ends there was not
// followed.
func (p *Prepared) inBox(at r3.Vec) bool {
	nearest := slices.MinFunc(p.Margin.Points, func(a, b MarginPoint) int {
		return cmp.Compare(r3.Norm2(r3.Sub(a.At, at)), r3.Norm2(r3.Sub(b.At, at)))
	})
	switch nearest.Feature {
	case cavity.BoxBuccal, cavity.BoxLingual, cavity.GingivalFloor:
		return true
	}
	return false
}

// occlusalBevelWidth reads an absent bevel as one without width.
func occlusalBevelWidth(s *Subject) []Reading {
	width, _, ok := s.Bevel()
	if !ok {
		width.Where = s.OcclusalMargin()
	}
	return []Reading{width}
}

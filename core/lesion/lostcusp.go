package lesion

// lostHeights is how much of a cusp's height (mm) is lost where it breaks off, by
// how deep the break runs. Texts on cracked teeth tell oblique fractures of a cusp
// by where they end: in the cusp's slope, at the level of the fissure, or near the
// cervical line; the heights are those places on a molar 7 mm high.
var lostHeights = map[Depth]float64{
	"outer_enamel": 0.8, "inner_enamel": 1.2, "outer_dentin": 2.5, "middle_dentin": 3.2, "inner_dentin": 4.0,
}

// LostHeight is how much of its height (mm) a broken cusp has lost: as given, or
// what its depth calls for; ok is false for an unknown depth.
func LostHeight(f Finding) (mm float64, ok bool) {
	if f.Height > 0 {
		return f.Height, true
	}
	mm, ok = lostHeights[f.Depth]
	return mm, ok
}

// undermined is how much of a cusp's base (mm) caries under it takes from within, by how
// deep it is said to run: thirds of some 2 mm of dentin, as cariology names them.
var undermined = map[Depth]float64{InnerEnamel: 0.2, OuterDentin: 0.5, MiddleDentin: 1.0, InnerDentin: 1.6}

// UnderminedBy is how much thinner (mm) than it measures from outside an undermined cusp
// is at its base; 0 for other findings.
func UnderminedBy(f Finding) float64 {
	if f.Kind != UnderminedCusp {
		return 0
	}
	return undermined[f.Depth]
}

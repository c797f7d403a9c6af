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

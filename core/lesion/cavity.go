package lesion

import (
	"slices"

	"obturon/core/notation"
)

// CavitySite is the site of the cavity on a smooth surface or an incisal edge that
// a finding belongs to; "" where it is prepared from the occlusal surface.
func CavitySite(f Finding, all []Finding, t notation.Tooth) Site {
	switch {
	case f.OnIncisalAngle(), f.OnSmoothSurface():
		return f.Site
	case f.Proximal() && t.Anterior():
		angle := MesialIncisalAngle
		if f.Site == Distal {
			angle = DistalIncisalAngle
		}
		// Where the incisal angle is gone, the lesion is reached through what is lost.
		if slices.ContainsFunc(all, func(o Finding) bool { return o.OnIncisalAngle() && o.Site == angle }) {
			return angle
		}
		return f.Site
	default:
		return ""
	}
}

// OpensOcclusally reports a finding that a cavity is cut for from the occlusal
// surface.
func OpensOcclusally(f Finding, t notation.Tooth) bool {
	return !f.Recorded() && CavitySite(f, nil, t) == ""
}

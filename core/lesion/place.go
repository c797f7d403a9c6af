package lesion

import "obturon/core/anatomy"

// New places a finding on a tooth as the volume that must go. Cracks and
// undermined cusps have none.
func New(m *anatomy.Model, f Finding) (Lesion, error) {
	switch {
	case f.OnCorner():
		return NewCorner(m, f)
	case f.OnFace():
		return NewFace(m, f)
	case f.Proximal():
		return NewProximal(m, f)
	default:
		return NewOcclusal(m, f)
	}
}

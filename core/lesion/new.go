package lesion

import "obturon/core/anatomy"

// New places a finding on a tooth as the volume that must go. Cracks and
// undermined cusps have none. It fails with ErrOffTooth for sizes past the
// tooth, and for sites the tooth does not have.
func New(m *anatomy.Model, f Finding) (Lesion, error) {
	switch {
	case f.OnIncisalAngle():
		return NewIncisalAngle(m, f)
	case f.OnSmoothSurface():
		return NewSmoothSurface(m, f)
	case f.Proximal():
		return NewProximal(m, f)
	default:
		return NewOcclusal(m, f)
	}
}

package smooth

import (
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/school"
)

// proposeIncisalAngle finishes a broken incisal angle.
func (r request) proposeIncisalAngle(d *Design) error {
	lost, ok := lesionOf[*lesion.IncisalAngle](r)
	if !ok {
		return cavity.ErrOffSmoothSurface
	}
	const reduced, lock = 0.1, 0.4 // mm: no edge stays sharp; half a bur's head
	d.FractureReduction = reduced
	if lost.TakesGroove() {
		d.GrooveDepth = r.Aim(school.CornerGroove)
	}
	if r.Lock {
		d.LockDepth = lock
	}
	if !r.Bonded() {
		return nil
	}
	d.LingualBevel = r.Aim(school.CornerLingualBevel)
	d.BevelWidth, d.BevelAngle = facialFinish(d.Style, r.Translucent)
	return nil
}

// facialFinish is the width (mm) and the angle (degrees) of the facial bevel of a
// broken incisal angle: never the sharp 45 degree line, which shows. The adhesive
// school blends it over 2 mm and more; texts of aesthetic dentistry scallop it.
func facialFinish(style cavity.Style, translucent bool) (width, angle float64) {
	switch {
	case style == cavity.Long || style == cavity.Scalloped:
		return 2.5, 0
	case style == cavity.Translucency && translucent:
		return 2.5, 18
	case style == cavity.Translucency:
		return 1.0, 20
	default:
		return 1.0, 30
	}
}

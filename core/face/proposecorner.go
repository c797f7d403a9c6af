package face

import "obturon/core/lesion"

// proposeCorner finishes a broken corner.
func (r Request) proposeCorner(d *Design) error {
	lost, ok := lesionOf[*lesion.Corner](r)
	if !ok {
		return ErrOffFace
	}
	const planed, lock = 0.1, 0.4 // mm: no edge stays sharp; half a bur's head
	d.Planed = planed
	if GrooveFits(lost) {
		d.GrooveDepth = r.aim("corner.groove")
	}
	if r.Lock {
		d.LockDepth = lock
	}
	if !r.bonded() {
		return nil
	}
	d.LingualBevel = r.aim("corner.lingual_bevel")
	d.BevelWidth, d.BevelAngle = facialFinish(d.Style, r.Translucent)
	return nil
}

// GrooveFits reports a broken corner that lays so much dentin open that a
// retention groove lies inside the junction all along.
func GrooveFits(lost *lesion.Corner) bool {
	const room = 0.6 // mm
	return lost.IntoDentin() > room
}

// facialFinish is the width (mm) and the angle (degrees) of the facial bevel of a
// broken corner: never the sharp 45 degree line, which shows (operative
// dentistry convention).
func facialFinish(style Style, translucent bool) (width, angle float64) {
	switch {
	case style == Long || style == Scalloped:
		return 2.5, 0
	case style == Translucency && translucent:
		return 2.5, 18
	case style == Translucency:
		return 1.0, 20
	default:
		return 1.0, 30
	}
}

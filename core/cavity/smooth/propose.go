package smooth

import (
	"math"

	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/school"
)

// propose derives the dimensions from the school's aims, the lesion and the
// tooth.
func propose(r request) (Design, error) {
	d := at(r.Site).specs().Aimed(Design{Site: r.Site, Style: r.style()}, r.Aim)
	var err error
	switch ClassOf(r.Site) {
	case lesion.ClassIII:
		if err = r.proposeBox(&d); err == nil {
			d = r.keepTooth(d)
		}
	case lesion.ClassIV:
		err = r.proposeIncisalAngle(&d)
	case lesion.ClassV:
		err = r.proposeCervical(&d)
	default:
		err = r.proposePit(&d)
	}
	if err != nil {
		return d, err
	}
	if d, err = r.spareThePulp(d); err != nil {
		return d, err
	}
	return r.clearCaries(d)
}

// style is the finish in force: the one asked for, else a short bevel; none under
// amalgam.
func (r request) style() cavity.Style {
	if !r.Bonded() {
		return cavity.AnyStyle
	}
	for _, s := range cavity.StylesOf(ClassOf(r.Site)) {
		if s == r.Style {
			return s
		}
	}
	if len(cavity.StylesOf(ClassOf(r.Site))) == 0 {
		return cavity.AnyStyle
	}
	return cavity.Short
}

// spareThePulp draws the wall over the pulp back while too little dentin is left
// there: to what the school accepts as met, and then, before the pulp is laid
// open, to what it still accepts.
func (r request) spareThePulp(d Design) (Design, error) {
	if d.Class() == lesion.ClassIV {
		return d, nil // what has broken off decides
	}
	figure := func(d *Design) *float64 { return &d.Depth }
	own, least := r.Criterion(school.NeckDepth), leastDepth
	switch d.Class() {
	case lesion.ClassIII:
		figure = func(d *Design) *float64 { return &d.Width }
		own, least = r.Criterion(school.AnteriorBoxWidth), leastWide
	case lesion.ClassI:
		own = r.Criterion(school.PitDepth)
	default:
		if into := r.Criterion(school.NeckIntoDentin).Target.Min; into > 0 {
			l, _ := lesionOf[*lesion.SmoothSurface](r)
			least = r.thickestEnamel(l.Frame, d) + into
		}
	}
	pulp := r.Criterion(school.ResistPulpDistance)
	d, err := r.drawBack(d, figure, pulp.Target.Min, math.Max(own.Target.Min+gaugeRoom, least))
	if err != nil {
		return d, err
	}
	if d, err = r.drawBack(d, figure, pulp.Limits.Min, math.Max(own.Limits.Min, leastDepth)); err != nil {
		return d, err
	}
	return r.drawBack(d, func(d *Design) *float64 { return &d.GrooveDepth }, pulp.Limits.Min, 0)
}

// drawBack lowers a figure, to no less than ground, until so much dentin (mm) is
// left over the pulp.
func (r request) drawBack(d Design, figure func(*Design) *float64, want, least float64) (Design, error) {
	const step = 0.05 // mm
	for {
		c, err := build(r, d)
		if err != nil {
			return d, err
		}
		at, lacking := figure(&d), want+cavity.PulpAllowance-c.ToPulp(r.Model)
		if *at-step < least-1e-9 || lacking <= 0 {
			return d, nil
		}
		// What is drawn back comes to the pulp's good, or nearly.
		const share = 0.8
		*at = math.Max(nearest(*at-math.Max(step, share*lacking)), nearest(least))
	}
}

const (
	// leastDepth (mm) is that of any cavity: the adhesive school's least bulk of
	// composite where nothing bites on it.
	leastDepth = 0.5
	leastWide  = 0.9 // mm, a pear and a little: no box is narrower
)

package prep

import (
	"math"

	"obturon/core/school"
)

// Propose derives the dimensions from the school's aims and the tooth.
func Propose(r Request) (ClassI, error) {
	aim := func(id string) float64 {
		c, ok := r.School.For(id, r.Model.Tooth, r.Material)
		if !ok || !c.Required() {
			return 0
		}
		if c.Basis == school.IntercuspalFraction {
			return c.Aim * r.Model.Intercuspal
		}
		return c.Aim
	}
	site, err := newSite(r)
	if err != nil {
		return ClassI{}, err
	}
	d := ClassI{
		PulpalDepth:     aim("resist.pulpal_depth"),
		IsthmusWidth:    math.Max(aim("outline.isthmus_width"), 2*burRadius),
		WallConvergence: aim("retain.convergence"),
		RidgeDivergence: aim("retain.ridge_wall"),
		LineAngleRadius: aim("resist.line_angle_radius"),
		FloorTilt:       aim("resist.floor_tilt"),
	}
	d.DovetailWidth = aim("outline.dovetail_ratio") * d.IsthmusWidth
	d.BuccalExtension = site.extension(r, "buccal", d.IsthmusWidth)
	d.LingualExtension = site.extension(r, "lingual", d.IsthmusWidth)
	end := math.Max(math.Max(d.DovetailWidth, d.IsthmusWidth)/2, pitCover)
	keep := aim("outline.marginal_ridge")
	d.MesialRidge = math.Max(keep, site.mesialSurface-(site.line[0].X+end))
	d.DistalRidge = math.Max(keep, site.line[len(site.line)-1].X-end-site.distalSurface)
	for _, l := range r.Lesions { // clearing the lesion goes before keeping the ridge
		half, path := math.Max(l.Width()/2, 0)+lesionCover, l.Path()
		d.MesialRidge = math.Min(d.MesialRidge, site.mesialSurface-(path[0].X+half))
		d.DistalRidge = math.Min(d.DistalRidge, path[len(path)-1].X-half-site.distalSurface)
	}
	// A dovetail shows only where an isthmus at least as long as it is wide is
	// left between its ends.
	if between := site.mesialSurface - d.MesialRidge - (site.distalSurface + d.DistalRidge) - 2*d.DovetailWidth; between < d.IsthmusWidth {
		d.DovetailWidth = 0
	}
	round(&d)
	return spareThePulp(r, d)
}

// spareThePulp draws groove extensions, then the depth, back towards the low
// end of what the school accepts while less dentin is left over the pulp than
// it asks for.
func spareThePulp(r Request, d ClassI) (ClassI, error) {
	want, _ := r.School.For("resist.pulp_distance", r.Model.Tooth, r.Material)
	extension, _ := r.School.For("outline.groove_extension", r.Model.Tooth, r.Material)
	depth, _ := r.School.For("resist.pulpal_depth", r.Model.Tooth, r.Material)
	const step = 0.05 // mm
	for {
		c, err := Build(r, d)
		if err != nil {
			return d, err
		}
		if c.floorToPulp(r.Model) >= want.Target.Min+pulpAllowance {
			return d, nil
		}
		shortest := extension.Target.Min + step // leaves room for the cut's own error
		switch {
		case extension.Basis == school.Absolute && math.Max(d.BuccalExtension, d.LingualExtension) > shortest+1e-9:
			d.BuccalExtension = math.Min(d.BuccalExtension, math.Max(d.BuccalExtension-step, shortest))
			d.LingualExtension = math.Min(d.LingualExtension, math.Max(d.LingualExtension-step, shortest))
		case d.PulpalDepth > depth.Target.Min+step+1e-9:
			d.PulpalDepth -= step
		default:
			return d, nil
		}
	}
}

// round keeps proposals to figures that a dentist can set and read.
func round(d *ClassI) {
	for _, s := range classISpecs {
		v := s.field(d)
		*v = math.Round(*v*20) / 20
	}
}

package occlusal

import (
	"maps"
	"math"
	"slices"
	"strings"

	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/school"
)

// propose derives the dimensions from the school's aims and the tooth.
func propose(r request) (Design, error) {
	stretches, err := layOut(r)
	if err != nil {
		return Design{}, err
	}
	d := specs.Aimed(Design{Bonded: r.Bonded()}, r.Aim)
	if d.BevelAngle == 0 {
		d.BevelAngle = cavity.UsualBevelAngle
	}
	for _, s := range stretches {
		d.Occlusal = d.Occlusal || len(s.line) > 0
	}
	if d.Occlusal {
		if err := d.proposeOcclusal(r, stretches); err != nil {
			return d, err
		}
	}
	for _, s := range stretches {
		for _, side := range s.boxes {
			d.Boxes[side] = proposeBox(r, side, d, math.Inf(1))
		}
		if len(s.boxes) > 0 {
			d.GrooveDepth = math.Max(d.GrooveDepth, grooveAim(r, s, d.DovetailWidth > d.IsthmusWidth))
		}
	}
	if d.Occlusal && d.AnyBox() {
		if d, err = belowTheFloor(r, d); err != nil {
			return d, err
		}
	}
	round(&d)
	// What caries takes is known first: the walls are drawn back for the pulp as it
	// leaves them, and what that uncovers is cleared again.
	for _, settle := range []func(request, Design) (Design, error){clearCaries, giveTheFloorAHead, spareThePulp, clearCaries} {
		if d, err = settle(r, d); err != nil {
			return d, err
		}
	}
	return coverWeakCusps(r, d)
}

// coverWeakCusps reduces the cusps that have broken off and those that are left too
// thin, and keeps the others. Where none is covered, the figure is at 0, and reduces the
// undermined ones by hand. A cusp that is gone as far as a cover needs is not reduced
// again.
func coverWeakCusps(r request, d Design) (Design, error) {
	c, err := build(r, d)
	if err != nil {
		return d, err
	}
	d.Reduced = weakCusps(r, c, d)
	for _, cusp := range r.Model.CuspTips {
		if r.Lost[cusp.Name] > 0 && !slices.Contains(d.Reduced, cusp.Name) {
			d.Reduced = append(d.Reduced, cusp.Name)
		}
	}
	if len(d.Reduced) == 0 {
		d.Reduced = slices.Sorted(maps.Keys(r.Undermined))
		return d, nil
	}
	if d.Bonded {
		d.CuspBevel = r.Aim(school.RetainCuspBevel)
	}
	room := r.Aim(school.ResistCuspClearance)
	d.Gone = slices.DeleteFunc(slices.Clone(d.Reduced), func(name string) bool { return r.Lost[name] < room })
	if len(d.Gone) == len(d.Reduced) {
		return d, nil
	}
	d.CuspReduction = room
	return d, nil
}

// belowTheFloor lowers the seats of boxes until each is a step of its own under
// the pulpal floor beside it.
func belowTheFloor(r request, d Design) (Design, error) {
	c, err := build(r, d)
	if err != nil {
		return d, err
	}
	for _, part := range c.parts {
		if part.outline == nil {
			continue
		}
		for _, b := range part.boxes {
			lingual, buccal := b.across(b.seat.level)
			middle := (lingual + buccal) / 2
			highest := part.floorLevel(b.sign*b.axial.plan.at(middle), middle) - cavity.LeastStep
			if b.seat.level > highest {
				d.Boxes[b.side] = proposeBox(r, b.side, d, highest)
			}
		}
	}
	return d, nil
}

// grooveAim is how deep retention grooves are: what the school asks for, and as deep as a
// slot's where no dovetail holds an amalgam. Boxes on either side hold each other.
func grooveAim(r request, s stretch, dovetail bool) float64 {
	aim := r.Aim(school.RetainGrooves)
	entry, _ := school.Find(school.RetainGrooves)
	wanting := r.Requires(school.OutlineDovetailRatio) && !dovetail && len(s.boxes) == 1
	if r.Material == school.Amalgam && (len(s.line) == 0 || wanting) {
		return math.Max(aim, entry.Slot.Aim)
	}
	return aim
}

func (d *Design) proposeOcclusal(r request, stretches []stretch) error {
	d.PulpalDepth = r.Aim(school.ResistPulpalDepth)
	d.IsthmusWidth = math.Max(r.Aim(school.OutlineIsthmusWidth), 2*burRadius)
	d.WallConvergence = r.Aim(school.RetainConvergence)
	d.RidgeDivergence = r.Aim(school.RetainRidgeWall)
	d.FloorTilt = r.Aim(school.ResistFloorTilt)
	d.DovetailWidth = r.Aim(school.OutlineDovetailRatio) * d.IsthmusWidth
	d.BuccalExtension = extension(r, stretches, "buccal", d.IsthmusWidth)
	d.LingualExtension = extension(r, stretches, "lingual", d.IsthmusWidth)
	var opened []stretch
	for _, s := range stretches {
		if len(s.line) > 0 {
			opened = append(opened, s)
		}
	}
	end := math.Max(math.Max(d.DovetailWidth, d.IsthmusWidth)/2, pitCover)
	keep := r.Aim(school.OutlineMarginalRidge)
	first, last := opened[0].line[0], opened[len(opened)-1].line
	mesial, err := proximalSurface(r.Model, first, +1)
	if err != nil {
		return err
	}
	distal, err := proximalSurface(r.Model, last[len(last)-1], -1)
	if err != nil {
		return err
	}
	d.MesialRidge = math.Max(keep, mesial-(first.X+end))
	d.DistalRidge = math.Max(keep, last[len(last)-1].X-end-distal)
	for _, l := range r.fissures { // clearing the lesion goes before keeping the ridge
		if l.Branches() { // leads to facial or lingual
			continue
		}
		half, path := r.cover.half(l), l.Path()
		d.MesialRidge = math.Min(d.MesialRidge, mesial-(path[0].X+half))
		d.DistalRidge = math.Min(d.DistalRidge, path[len(path)-1].X-half-distal)
	}
	// A dovetail shows only where an isthmus at least as long as it is wide is
	// left between the ends.
	mesialEnd, distalEnd, dovetails := mesial-d.MesialRidge, distal+d.DistalRidge, 2.0
	for _, s := range opened {
		if s.has(notation.Mesial) {
			dovetails--
		}
		if s.has(notation.Distal) {
			dovetails--
		}
	}
	if len(opened) == 1 && mesialEnd-distalEnd-dovetails*d.DovetailWidth < d.IsthmusWidth || dovetails <= 0 {
		d.DovetailWidth = 0
	}
	return nil
}

// spareThePulp draws axial walls, groove extensions, then the floor back while less
// dentin is left over the pulp than the school asks for: to the low end of what
// meets its targets, and then, before the pulp is laid open, of what it accepts.
func spareThePulp(r request, d Design) (Design, error) {
	d, err := drawBack(r, d, func(c school.Criterion) school.Range { return c.Target })
	if err != nil {
		return d, err
	}
	return drawBack(r, d, func(c school.Criterion) school.Range { return c.Limits })
}

// drawBack is spareThePulp within one of a criterion's ranges.
func drawBack(r request, d Design, within func(school.Criterion) school.Range) (Design, error) {
	least := func(id school.CriterionID) (mm float64, c school.Criterion) {
		c, _ = r.School.For(id, r.Model.Tooth, r.Material)
		return within(c).Min, c
	}
	want, _ := least(school.ResistPulpDistance)
	shortest, extension := least(school.OutlineGrooveExtension)
	depth, _ := least(school.ResistPulpalDepth)
	axial, _ := least(school.BoxAxialDepth)
	const step = 0.05 // mm
	shortest += step  // leaves room for the cut's own error
	for {
		c, err := build(r, d)
		if err != nil {
			return d, err
		}
		left, atBox := c.toPulp(r.Model)
		if left >= want+cavity.PulpAllowance {
			return d, nil
		}
		switch {
		case atBox != nil:
			own := &d.Boxes[atBox.side]
			if own.AxialDepth <= axial+step/2 {
				return d, nil
			}
			own.AxialDepth -= step
		case extension.Basis == school.Absolute && math.Max(d.BuccalExtension, d.LingualExtension) > shortest+1e-9:
			d.BuccalExtension = math.Min(d.BuccalExtension, math.Max(d.BuccalExtension-step, shortest))
			d.LingualExtension = math.Min(d.LingualExtension, math.Max(d.LingualExtension-step, shortest))
		case d.PulpalDepth > depth+step+1e-9:
			d.PulpalDepth -= step
		default:
			return d, nil
		}
	}
}

// round keeps proposals to figures that a dentist can set and read. Figures of
// boxes are rounded up: they are least ones.
func round(d *Design) {
	for _, s := range specs {
		v := s.Field(d)
		if strings.Contains(s.ID, "_box_") || strings.HasSuffix(s.ID, "_axial_depth") {
			*v = math.Ceil(*v*20-1e-9) / 20
		} else {
			*v = math.Round(*v*20) / 20
		}
	}
}

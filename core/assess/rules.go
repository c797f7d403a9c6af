package assess

import (
	"fmt"

	"obturon/core/measure"
	"obturon/core/prep"
	"obturon/core/school"
)

// rules lists the criteria that every preparation has, in the order of the
// work. The fixes name the instrument that risks least.
var rules = []rule{
	{
		id: "outline.isthmus_width", occlusal: true, label: "Isthmus width", form: "outline", dimension: "isthmus_width",
		gauge: func(s Subject, c school.Criterion) (measure.Reading, school.Range, school.Range, bool) {
			r, ok := s.Prepared.IsthmusWidth()
			target, limits := c.Target, c.Limits
			if c.Basis == school.IntercuspalFraction {
				target, limits = target.Scale(s.Prepared.Model.Intercuspal), limits.Scale(s.Prepared.Model.Intercuspal)
			}
			return r, target, limits, ok
		},
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Isthmus %s too narrow: plane both walls with the 330 pear held upright, half the amount a side, and measure after each pass.", mm(by))
			}
			return fmt.Sprintf("Isthmus %s too wide: enamel is gone; keep the walls as they are and look at cusp strength before going on.", mm(by))
		},
	},
	{
		id: "outline.dovetail_ratio", occlusal: true, label: "Dovetail to isthmus", form: "outline", dimension: "dovetail_width",
		gauge: func(s Subject, c school.Criterion) (measure.Reading, school.Range, school.Range, bool) {
			isthmus, ok := s.Prepared.IsthmusWidth()
			if !ok || isthmus.Value <= 0 || !s.Dovetail {
				return measure.Reading{}, c.Target, c.Limits, false
			}
			narrower, found := measure.Reading{}, false
			for _, end := range []float64{+1, -1} {
				if r, ok := s.Prepared.EndWidth(end); ok && (!found || r.Value < narrower.Value) {
					narrower, found = r, true
				}
			}
			narrower.Value /= isthmus.Value
			narrower.Uncertainty = 2 * narrower.Uncertainty / isthmus.Value
			return narrower, c.Target, c.Limits, found
		},
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Dovetail %.2f of an isthmus short: widen the pit ends buccally and lingually with the 330 pear, away from the ridge.", by)
			}
			return fmt.Sprintf("Dovetail %.2f of an isthmus too wide: it cannot be made smaller; leave the isthmus and check the ridge beside it.", by)
		},
	},
	{
		id: "outline.groove_extension", occlusal: true, label: "Groove extension", form: "outline", dimension: "buccal_extension",
		gauge: grooveExtension,
		fix: func(short bool, by float64, where string) string {
			if short {
				return fmt.Sprintf("%s %s short: follow it with the slim 169L or the 0.6 pear, then clean and look.", capital(where), mm(by))
			}
			return fmt.Sprintf("%s %s past the target: stop there, and check the cusp beside it.", capital(where), mm(by))
		},
	},
	{
		id: "outline.marginal_ridge", occlusal: true, label: "Marginal ridge kept", form: "outline", dimension: "mesial_ridge",
		gauge: func(s Subject, c school.Criterion) (measure.Reading, school.Range, school.Range, bool) {
			var readings []measure.Reading
			for _, f := range ridgeWalls {
				if r, ok := s.Prepared.RidgeKept(f); ok {
					readings = append(readings, r)
				}
			}
			r, ok := worst(c.Target, readings...)
			return r, c.Target, c.Limits, ok
		},
		fix: func(short bool, by float64, where string) string {
			if !short {
				return "More ridge is kept than asked for: nothing to do."
			}
			return fmt.Sprintf("Ridge beside the %s %s too thin: do not cut there again; lean the wall out with the 330 pear so that enamel rests on dentin, and consider including the ridge.", where, mm(by))
		},
	},
	{
		id: "outline.smoothness", label: "Smallest outline radius", form: "outline",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.Smoothness() }),
		fix: func(_ bool, by float64, _ string) string {
			return fmt.Sprintf("A corner of the outline is %s too tight for the finishing bur: round it with the flat-ended refining pear at a tenth of full speed.", mm(by))
		},
	},
	{
		id: "outline.fissures_included", occlusal: true, label: "Fissures left out", form: "outline",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.FissuresLeft(s.Fissures) }),
		fix: func(_ bool, by float64, _ string) string {
			return fmt.Sprintf("%s of fissure runs on past the outline: follow it with the slim 169L or the 0.6 pear, or seal it.", mm(by))
		},
	},
	{
		id: "outline.contact_stress", label: "Margin off the contacts", form: "outline",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.OffContacts(s.Contacts) }),
		fix: func(_ bool, by float64, _ string) string {
			return fmt.Sprintf("Margin %s too near an occlusal contact: take it past the contact, or keep it short of it; no bevel there.", mm(by))
		},
	},
	{
		id: "outline.ridge_preserved", label: "Tooth between two cuts", form: "outline",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.Bridge() }),
		fix: func(_ bool, by float64, where string) string {
			return fmt.Sprintf("The %s is %s too thin to stand: cut it away and join, or draw the outlines back if nothing has been cut yet.", where, mm(by))
		},
	},
	{
		id: "resist.pulpal_depth", occlusal: true, label: "Pulpal depth, shallowest", form: "resistance", dimension: "pulpal_depth",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.PulpalDepth() }),
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Floor %s too shallow: lower it evenly with the flat-ended refining pear; sunk flush, a 1.5 head shows the depth.", mm(by))
			}
			return fmt.Sprintf("Floor %s deeper than asked: leave it, measure what dentin is left over the pulp and decide on a liner.", mm(by))
		},
	},
	{
		id: "resist.floor_flatness", occlusal: true, label: "Floor flatness", form: "resistance",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.FloorFlatness() }),
		fix: func(_ bool, by float64, _ string) string {
			return fmt.Sprintf("Floor uneven by %s more than allowed: level it with the 34 inverted cone pressed down, not sideways.", mm(by))
		},
	},
	{
		id: "resist.floor_tilt", occlusal: true, label: "Floor tilt to the occlusal table", form: "resistance", dimension: "floor_tilt",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.FloorTilt() }),
		fix: func(_ bool, by float64, _ string) string {
			return fmt.Sprintf("Floor tips %.1f degrees too much: hold the bur square to the plane of the cusp tips and level the high side.", by)
		},
	},
	{
		id: "resist.line_angle_radius", occlusal: true, label: "Line angle radius", form: "resistance", dimension: "line_angle_radius",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.LineAngleRadius() }),
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Line angles %s too sharp: round them with the 330 pear's tip, barely touching.", mm(by))
			}
			return fmt.Sprintf("Line angles %s too round: define them with the flat-ended refining pear or a sharp 10-7-14 hatchet.", mm(by))
		},
	},
	{
		id: "resist.pulp_distance", label: "Dentin over the pulp", form: "resistance", dimension: "pulpal_depth",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.PulpDistance() }),
		fix: func(_ bool, by float64, where string) string {
			return fmt.Sprintf("Dentin %s thinner than asked at the %s: stop there, do not extend; decide on a liner, and on review, before filling.", mm(by), where)
		},
	},
	{
		id: "resist.enamel_support", label: "Enamel without support", form: "resistance",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.UnsupportedEnamel() }),
		fix: func(_ bool, by float64, where string) string {
			return fmt.Sprintf("A strip of %s hangs over the cavity: undermine no further; cleave the %s with a sharp 10-7-14 hatchet until it rests on dentin.", mm(by), where)
		},
	},
	{
		id: "resist.cusp_thickness", occlusal: true, label: "Thinnest cusp at its base", form: "resistance",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.ThinnestCusp() }),
		fix: func(_ bool, by float64, where string) string {
			return fmt.Sprintf("Tooth at the %s is %s thinner than asked: take nothing more off there, and consider reducing the cusp for coverage.", where, mm(by))
		},
	},
	{
		id: "resist.cusp_clearance", label: "Room over reduced cusps", form: "resistance", dimension: "cusp_reduction",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.CuspRoom() }),
		fix: func(short bool, by float64, where string) string {
			if short {
				return fmt.Sprintf("Room over the %s %s short: sink the 1.0 cylinder diamond along its slopes once more, roll over the edges, and check in closure.", where, mm(by))
			}
			return fmt.Sprintf("More room than asked over the %s by %s: leave it, and build the filling up in layers.", where, mm(by))
		},
	},
	{
		id: "retain.convergence", occlusal: true, label: "Buccal and lingual walls lean in", form: "retention", dimension: "wall_convergence",
		gauge: func(s Subject, c school.Criterion) (measure.Reading, school.Range, school.Range, bool) {
			r, ok := worst(c.Target, wallReadings(s, +1, sideWalls...)...)
			return r, c.Target, c.Limits, ok
		},
		fix: func(short bool, by float64, where string) string {
			if short {
				return fmt.Sprintf("%s leans in %.1f degrees too little: pass the 330 pear, whose sides taper, along it held upright.", capital(where), by)
			}
			return fmt.Sprintf("%s leans in %.1f degrees too much: its enamel may be undermined; plane the margin with a 10-7-14 hatchet.", capital(where), by)
		},
	},
	{
		id: "retain.ridge_wall", occlusal: true, label: "Walls beside the ridges lean out", form: "retention", dimension: "ridge_divergence",
		gauge: func(s Subject, c school.Criterion) (measure.Reading, school.Range, school.Range, bool) {
			r, ok := worst(c.Target, wallReadings(s, -1, ridgeWalls...)...)
			return r, c.Target, c.Limits, ok
		},
		fix: func(short bool, by float64, where string) string {
			if short {
				return fmt.Sprintf("%s leans out %.1f degrees too little: the ridge's enamel is undercut; tip the 330 pear towards the ridge for one light pass.", capital(where), by)
			}
			return fmt.Sprintf("%s leans out %.1f degrees too much: leave it; further passes cost ridge.", capital(where), by)
		},
	},
	{
		id: "retain.cusp_bevel", occlusal: true, label: "Bevel round covered cusps", form: "retention", dimension: "cusp_bevel",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.CuspBevel() }),
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Bevel round the cover %s too narrow: widen it with the flame, in waves on the facial side, and roll the bur over every edge.", mm(by))
			}
			return fmt.Sprintf("Bevel round the cover %s wider than asked: leave it.", mm(by))
		},
	},
	{
		id: "retain.bevel_width", label: "Bevel width", form: "retention", dimension: "bevel_width",
		gauge: simple(func(s Subject) (measure.Reading, bool) {
			width, _, ok := s.Prepared.Bevel()
			if !ok { // an absent bevel is one without width
				width.Where = s.Prepared.OcclusalMargin()
			}
			return width, true
		}),
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Bevel %s too narrow: one light pass of the fine flame along the occlusal margin, none at contacts or proximally.", mm(by))
			}
			return fmt.Sprintf("Bevel %s too wide: leave it, and keep the composite at full bulk over it.", mm(by))
		},
	},
	{
		id: "retain.bevel_angle", label: "Bevel to the outer surface", form: "retention", dimension: "bevel_angle",
		gauge: simple(func(s Subject) (measure.Reading, bool) {
			_, angle, ok := s.Prepared.Bevel()
			return angle, ok
		}),
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Bevel %.0f degrees too flat: composite runs out thin there; hold the fine flame steeper for the next pass.", by)
			}
			return fmt.Sprintf("Bevel %.0f degrees too steep to cut the rods across: lay the fine flame flatter.", by)
		},
	},
	{
		id: "lesion.cleared", label: "Lesion or old filling left", form: "convenience",
		gauge: simple(func(s Subject) (measure.Reading, bool) {
			return s.Prepared.LesionLeft(s.Lesions), len(s.Lesions) > 0
		}),
		fix: func(_ bool, by float64, _ string) string {
			return fmt.Sprintf("About %.2f mm³ of lesion or old filling is left: follow it at low speed with the round 4 or a spoon, junction first.", by)
		},
	},
	{
		id: "resist.cavosurface_angle", label: "Cavosurface angle, median", form: "finish",
		gauge: simple(func(s Subject) (measure.Reading, bool) { return s.Prepared.CavosurfaceAngle() }),
		fix: func(short bool, by float64, where string) string {
			if short {
				return fmt.Sprintf("Margin %.0f degrees too acute: the enamel edge is thin; plane it with a 10-7-14 hatchet (%s).", by, where)
			}
			return fmt.Sprintf("Margin opens %.0f degrees past the target, steepest at the %s: on a cusp slope this is the slope itself; do not bevel, carve the filling to full bulk there.", by, where)
		},
	},
}

// grooveExtension gauges every side groove the outline enters and reports the
// one furthest from the target.
func grooveExtension(s Subject, c school.Criterion) (measure.Reading, school.Range, school.Range, bool) {
	isthmus, ok := s.Prepared.IsthmusWidth()
	if !ok {
		return measure.Reading{}, c.Target, c.Limits, false
	}
	var found measure.Reading
	var target, limits school.Range
	worstOff, any := 0.0, false
	for _, g := range s.Prepared.Model.Grooves {
		if !g.Fissured || g.Supplemental || prep.GrooveSide(g.Name) == "" {
			continue
		}
		r, length, inside := s.Prepared.GrooveReach(g, isthmus.Value)
		if !inside {
			continue
		}
		t, l := c.Target, c.Limits
		if c.Basis == school.GrooveFraction {
			t, l = t.Scale(length), l.Scale(length)
		}
		off := max(t.Min-r.Value, r.Value-t.Max)
		if !any || off > worstOff {
			found, target, limits, worstOff, any = r, t, l, off, true
		}
	}
	if !any {
		return found, c.Target, c.Limits, false
	}
	return found, target, limits, true
}

func capital(s string) string {
	if s == "" {
		return s
	}
	return string(s[0]-'a'+'A') + s[1:]
}

// Label is a criterion's name in the dentist's words, "" for one unknown.
func Label(id string) string {
	for _, r := range rules {
		if r.id == id {
			return r.label
		}
	}
	for _, r := range boxRules {
		if r.id == id {
			return r.label
		}
	}
	for _, r := range faceRules {
		if r.id == id {
			return r.label
		}
	}
	return ""
}

package assess

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/school"
)

// Cautions lists what must be said once a tooth is cut and measured: whole has all
// its cavities, each subject one of them.
func Cautions(c *intake.Case, whole *measure.Prepared, subjects []*measure.Subject) []string {
	var list []string
	for _, s := range subjects {
		list = append(list, nearThePulp(s)...)
		if s.Cavity.Kind == cavity.Occlusal {
			list = append(list, ofWeakCusps(c, s)...)
			list = append(list, narrowing(s.Cavity)...)
		}
	}
	if bridge, ok := whole.Bridge(); len(subjects) > 1 && ok && bridge.Value < occlusal.LeastBridge {
		said := fmt.Sprintf("Only %.1f mm of tooth is left between two of the cavities: join them, or draw them apart.", bridge.Value)
		if bridge.Value < 0.05 {
			said = "Two of the cavities meet: make them one, with one filling, or draw them apart."
		}
		list = append(list, said)
	}
	list = once(list)
	for _, id := range slices.Sorted(maps.Keys(c.Overrides)) {
		if !slices.ContainsFunc(subjects, func(s *measure.Subject) bool {
			return slices.ContainsFunc(s.Cavity.Dimensions, func(d cavity.Dimension) bool { return d.ID == id })
		}) {
			list = append(
				list,
				fmt.Sprintf("Your value for %s is kept but plays no part: this preparation has no such dimension.", strings.ReplaceAll(id, "_", " ")),
			)
		}
	}
	return list
}

// once leaves out what has been said before.
func once(list []string) []string {
	var said []string
	for _, s := range list {
		if !slices.Contains(said, s) {
			said = append(said, s)
		}
	}
	return said
}

// manyCusps is how many a direct filling covers before an indirect cover is named first (operative
// dentistry convention).
const manyCusps = 2

// ofWeakCusps says of each cusp found undermined how thick it is left at its
// base, against what the school wants there.
func ofWeakCusps(c *intake.Case, p *measure.Subject) []string {
	keep := p.Cavity.Criterion(school.ResistCuspThickness).Target.Min
	var list []string
	covered := 0
	for _, tip := range p.Model.CuspTips {
		if p.Reduced(tip) {
			covered++
		}
	}
	if covered > manyCusps {
		list = append(list, fmt.Sprintf("%d cusps are covered: an indirect cover, onlay or crown, lasts longer. Weigh it first; a direct one may be interim.", covered))
	}
	if covered > 0 && !p.Cavity.Bonded() {
		list = append(list, amalgamOverCusps(p.Cavity))
	}
	for _, f := range c.Findings {
		tip := slices.IndexFunc(p.Model.CuspTips, func(n anatomy.Named) bool { return n.Name == f.Site.Cusp() })
		if f.OnCusp() {
			list = append(
				list,
				fmt.Sprintf(
					"%s cusp lost: find out why it broke (hard food, grinding, no support), look for cracks beside it, and tell the patient that a direct rebuild may be an interim solution.",
					f.Site.Cusp(),
				),
			)
			continue
		}
		if f.Kind != lesion.UnderminedCusp || tip < 0 {
			continue
		}
		left, ok := p.CuspThickness(p.Model.CuspTips[tip])
		left.Value -= lesion.UnderminedBy(f)
		switch {
		case p.Reduced(p.Model.CuspTips[tip]):
			list = append(
				list,
				fmt.Sprintf(
					"%s cusp covered: find out why it weakened, and tell the patient that a direct cover may be an interim solution.",
					f.Site.Cusp(),
				),
			)
		case !ok:
			list = append(
				list,
				fmt.Sprintf("%s cusp found undermined: this cavity does not reach it; look under it before deciding.", f.Site.Cusp()),
			)
		case left.Value < keep:
			list = append(
				list,
				fmt.Sprintf(
					"%s cusp found undermined: %.1f mm is left at its base, under %.1f. Extend until its enamel rests on dentin, then consider reducing it.",
					f.Site.Cusp(),
					left.Value,
					keep,
				),
			)
		default:
			list = append(
				list,
				fmt.Sprintf(
					"%s cusp found undermined: %.1f mm is left at its base on this cavity. Keep it if its enamel rests on dentin.",
					f.Site.Cusp(),
					left.Value,
				),
			)
		}
	}
	return list
}

// amalgamOverCusps says what holds an amalgam where cusps are gone (operative dentistry texts on
// complex amalgams).
func amalgamOverCusps(c *cavity.Cavity) string {
	const slot = "a slot 0.5 to 1.0 deep and 2 to 4 long in the flat dentin, just inside the junction"
	if len(c.Boxes) == 0 {
		return "Amalgam over cusps, and there is no box to hold grooves: cut " + slot + ". It is not drawn here. Bonded composite holds without it."
	}
	return "Amalgam over cusps is held by grooves in the walls of the box. Where a wall is too short for one, cut " + slot + ". Pins are the last resort: they may crack the dentin or reach the pulp."
}

// narrowing says how the cervical constriction narrows each seat of a primary
// molar as it is taken deeper.
func narrowing(c *cavity.Cavity) []string {
	if !c.Model.Tooth.Primary() {
		return nil
	}
	var list []string
	for _, side := range c.Boxes {
		widths := occlusal.SeatWidths(c, side)
		if len(widths) == 0 {
			continue
		}
		var deeper []string
		for _, w := range widths[1:] {
			if w.Width == 0 {
				deeper = append(deeper, fmt.Sprintf("none at %.1f mm deeper", w.Deeper))
			} else {
				deeper = append(deeper, fmt.Sprintf("%.2f at %.1f mm deeper", w.Width, w.Deeper))
			}
		}
		list = append(
			list,
			fmt.Sprintf(
				"The tooth narrows towards the cervical line, and the %s seat with it: %.2f mm wide here, %s. Go deeper only for caries.",
				side,
				widths[0].Width,
				strings.Join(deeper, ", "),
			),
		)
	}
	return list
}

package pipeline

import (
	"slices"

	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/design"
	"obturon/core/lesion"
)

// Choice is something about its cavities that a dentist may decide, beyond material and school.
type Choice struct {
	Field, Label string   // of the case document's choice
	Options      []Option // the first holds while nothing is chosen; none where it is yes or no
}

// Option is one way to decide.
type Option struct{ Value, Label string } // "" leaves it undecided

// Choices lists what there is to decide about the cavities of a case.
func (d *Designed) Choices() []Choice {
	var all []Choice
	if d.Decision.Class == lesion.ClassII {
		all = append(all, Choice{"form", "Form", []Option{
			{
				"",
				"As the school has it",
			}, {string(cavity.Conventional), "Box with an occlusal step"}, {string(cavity.SlotOnly), "Slot: the box alone"},
		}})
	}
	if d.Decision.Choice.Material.Bonds() {
		if styles := design.Styles(d.Case); len(styles) > 0 {
			finish := Choice{Field: "finish", Label: "Finish of the enamel margin"}
			for _, s := range styles {
				finish.Options = append(finish.Options, Option{string(s), s.Name()})
			}
			all = append(all, finish)
		}
	}
	if slices.ContainsFunc(d.Cut.Cavities, func(c *cavity.Cavity) bool { return c.Kind == cavity.Cervical }) {
		if d.Decision.Choice.Material.Bonds() {
			all = append(all, Choice{Field: "hide_margin", Label: "Hide the margin under the gingiva"})
		}
		all = append(all, Choice{"upper_edge", "Incisal or occlusal edge", []Option{
			{string(cavity.PastLesion), "Just past the lesion"}, {string(cavity.HeightOfContour), "Along the height of contour"},
		}})
	}
	if d.Case.Choice.Removal != "" || slices.ContainsFunc(d.Cut.Cavities, (*cavity.Cavity).LeavesOverPulp) {
		all = append(all, Choice{"caries_removal", "Caries over the pulp", []Option{
			{string(cavity.Selective), "Leave it soft, in one visit"}, {string(cavity.Stepwise), "Stepwise: again after 6 to 12 months"},
			{string(cavity.ToFirm), "To firm dentin everywhere"},
		}})
	}
	if d.Case.Choice.KeepsCusps || slices.ContainsFunc(d.Cut.Cavities, coversStanding) {
		all = append(all, Choice{Field: "keep_cusps", Label: "Keep the weak cusps, against the advice"})
	}
	if d.Decision.Class == lesion.ClassIV {
		all = append(all, Choice{Field: "lock", Label: "Lingual lock, of the old school"})
	}
	return all
}

// coversStanding reports a cavity that lowers cusps which still stand.
func coversStanding(c *cavity.Cavity) bool {
	d, ok := c.Design.(occlusal.Design)
	return ok && d.CuspReduction > 0 && len(d.Lowered()) > 0
}

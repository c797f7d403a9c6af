package pipeline

import (
	"slices"

	"obturon/core/advice"
	"obturon/core/cavity"
	"obturon/core/design"
	"obturon/core/intake"
	"obturon/core/measure"
)

// NamedFinish is a finish with the cavity it belongs to.
type NamedFinish struct {
	Cavity *cavity.Cavity
	measure.Finish
}

// InEachStyle is a case under each style of finish that its cavities offer, bevels set by hand left
// out; none where no cavity has a choice.
func InEachStyle(c *intake.Case) (all []*intake.Case) {
	decided := advice.Decide(c)
	if !decided.Choice.Material.Bonds() {
		return nil
	}
	for _, style := range design.Styles(c) {
		own := *c
		own.Choice = decided.Choice
		own.Choice.Style = style
		own.Overrides = design.WithoutBevels(c.Overrides)
		all = append(all, &own)
	}
	return all
}

// FinishesAs measures the cavities that have a choice of finish and are cut in this style.
func (d *Designed) FinishesAs(style cavity.Style) (all []NamedFinish) {
	for _, one := range d.Cut.Cavities {
		if one.Style == style && style != cavity.AnyStyle && slices.Contains(cavity.StylesOf(one.Class), style) {
			s := measure.NewSubject(Carve(d.Model, one.Tool()), one)
			all = append(all, NamedFinish{one, s.Finish(d.Neighbours)})
		}
	}
	return all
}

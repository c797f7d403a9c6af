package plan

import (
	"obturon/core/anatomy"
	"obturon/core/drawing"
	"obturon/core/lesion"
	"obturon/core/notation"
)

// Chart is a tooth that findings are placed on.
type Chart struct {
	View  drawing.View
	Sites []lesion.PlacedSite
	Sizes []DefaultSize
}

// DefaultSize is the size a kind of lesion takes at a depth, mm.
type DefaultSize struct {
	Kind  lesion.Kind
	Depth lesion.Depth
	lesion.Size
}

// Chart draws a posterior tooth for intake; other teeth have an outline only.
func (p *Planner) Chart(t notation.Tooth, ageYears float64) (Chart, error) {
	m, err := p.teeth.get(t, anatomy.Own{}, ageYears, DefaultGrid)
	if err != nil {
		return Chart{}, err
	}
	c := Chart{View: drawing.Chart(m)}
	if t.Anterior() {
		return c, nil
	}
	c.Sites = lesion.Sites(m)
	for _, kind := range []lesion.Kind{lesion.FissureCaries, lesion.PitCaries, lesion.ProximalCaries, lesion.OldRestoration} {
		for _, depth := range lesion.Depths {
			if s, ok := lesion.DefaultSize(m, kind, depth); ok {
				c.Sizes = append(c.Sizes, DefaultSize{kind, depth, s})
			}
		}
	}
	return c, nil
}

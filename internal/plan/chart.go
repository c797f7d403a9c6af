package plan

import (
	"obturon/core/anatomy"
	"obturon/core/drawing"
	"obturon/core/lesion"
	"obturon/core/notation"
)

// Chart is a tooth that findings are placed on.
type Chart struct {
	Views []ChartView
	Sizes []lesion.KindSize
}

// ChartView is one side of it, with the places that show there.
type ChartView struct {
	drawing.View
	Sites []lesion.PlacedSite
}

// Chart draws a tooth for intake. It fails for an age that no tooth is modelled
// at.
func (p *Planner) Chart(t notation.Tooth, ageYears float64) (Chart, error) {
	m, err := p.teeth.get(t, anatomy.MeasuredSizes{}, ageYears, DefaultGrid)
	if err != nil {
		return Chart{}, err
	}
	return Chart{Views: chartViews(m), Sizes: lesion.DefaultSizes(m)}, nil
}

// chartViews are the sides that a tooth is looked at from: cheek teeth from the
// biting side, front teeth from facial and lingual.
func chartViews(m *anatomy.Model) []ChartView {
	sites := lesion.PlacedSites(m)
	if !m.Tooth.Anterior() {
		return []ChartView{{drawing.Chart(m), sites}}
	}
	var views []ChartView
	for _, facial := range []bool{true, false} {
		v := ChartView{View: drawing.SurfaceChart(m, facial)}
		for _, s := range sites {
			lingual := s.Site == lesion.Lingual || s.Site == lesion.LingualPit
			if lingual != facial {
				v.Sites = append(v.Sites, s)
			}
		}
		views = append(views, v)
	}
	return views
}

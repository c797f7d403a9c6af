package pipeline

import (
	"obturon/core/anatomy"
	"obturon/core/drawing"
	"obturon/core/lesion"
)

// ChartView is one side of a tooth that findings are placed on, with the places that show there.
type ChartView struct {
	drawing.View
	Sites []lesion.PlacedSite
}

// ChartViews are the sides that a tooth is looked at from: cheek teeth from the
// biting side, front teeth from facial and lingual.
func ChartViews(m *anatomy.Model) []ChartView {
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

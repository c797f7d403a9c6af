package lesion

import (
	"math"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

// grooveSite is the site of a groove that leaves the central fissure towards
// facial or lingual, "" where the groove is none of these: "disto-buccal groove"
// is distobuccal_groove.
func grooveSite(name string, t notation.Tooth) Site {
	switch {
	case strings.Contains(name, "oblique (disto-lingual)"):
		return "distolingual_groove"
	case name == "disto-lingual triangular groove" && t.Molar() && !t.Upper():
		return "distolingual_groove"
	case name == "mesio-lingual groove": // of lower first premolars, over the mesiolingual surface
		return ""
	case strings.Contains(name, "triangular") || strings.Contains(name, "marginal") || strings.Contains(name, "transverse"):
		return ""
	case strings.HasSuffix(name, "buccal groove") || strings.HasSuffix(name, "lingual groove"):
		return Site(strings.ReplaceAll(strings.ReplaceAll(name, "-", ""), " ", "_"))
	default:
		return ""
	}
}

// GrooveSites lists the sites of a tooth's side grooves.
func GrooveSites(t notation.Tooth) []Site {
	var sites []Site
	for _, name := range anatomy.Describe(t).Grooves {
		if s := grooveSite(name, t); s != "" {
			sites = append(sites, s)
		}
	}
	return sites
}

// grooveAt finds the groove of a site.
func grooveAt(m *anatomy.Model, s Site) (anatomy.GrooveLine, bool) {
	for _, g := range m.Grooves {
		if s.OnGroove() && grooveSite(g.Name, m.Tooth) == s && len(g.Points) > 1 {
			return g, true
		}
	}
	return anatomy.GrooveLine{}, false
}

// grooveShare is how much of a side groove lies on the occlusal table: what runs
// on over its edge is no fissure any more.
const grooveShare = 0.55

// trackFrom follows a groove from its start for a length (mm) along the
// occlusal table, in whose frame the points are.
func trackFrom(m *anatomy.Model, g anatomy.GrooveLine, length float64) []r3.Vec {
	whole := 0.0
	for n := 1; n < len(g.Points); n++ {
		a, b := m.Table.To(g.Points[n-1]), m.Table.To(g.Points[n])
		whole += math.Hypot(b.X-a.X, b.Y-a.Y)
	}
	length = math.Min(length, grooveShare*whole)
	track := []r3.Vec{m.Table.To(g.Points[0])}
	for _, p := range g.Points[1:] {
		q, last := m.Table.To(p), track[len(track)-1]
		step := math.Hypot(q.X-last.X, q.Y-last.Y)
		if step >= length {
			return append(track, r3.Add(last, r3.Scale(length/step, r3.Sub(q, last))))
		}
		track, length = append(track, q), length-step
	}
	return track
}

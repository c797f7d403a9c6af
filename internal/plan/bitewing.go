package plan

import (
	"fmt"
	"math/rand/v2"

	"obturon/core/anatomy"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/internal/device"
)

// BenchFilm takes a simulated bitewing of a tooth with a proximal lesion whose
// depth the seed decides and nobody is told: it is there to be measured. Errors
// are intake.Faults where the tooth has no such film.
func (p *Planner) BenchFilm(t notation.Tooth, ageYears float64, site lesion.Site, seed uint64) (device.Film, error) {
	m, err := p.proximalTooth(t, ageYears, site)
	if err != nil {
		return device.Film{}, err
	}
	random := rand.New(rand.NewPCG(seed, 17))
	f := lesion.Finding{Kind: lesion.ProximalCaries, Site: site, Depth: lesion.Depths[random.IntN(len(lesion.Depths))]}
	usual, _ := lesion.DefaultSize(m, f.Kind, f.Depth)
	f.Height, f.Width = usual.Height*(0.85+0.3*random.Float64()), usual.Width*(0.85+0.3*random.Float64())
	l, err := lesion.NewProximal(m, f)
	if err != nil {
		return device.Film{}, err
	}
	var beside []device.Beside
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		n, err := p.neighbour(m, side, ageYears, DefaultGrid)
		if err != nil {
			return device.Film{}, err
		}
		if n != nil {
			b := device.Beside{Neighbour: n}
			if random.IntN(2) == 0 { // one in two carries an old filling
				if old, err := lesion.New(n.Model, lesion.Finding{Kind: lesion.OldRestoration, Site: lesion.Central, Depth: lesion.OuterDentin}); err == nil {
					b.Lesions = append(b.Lesions, old)
				}
			}
			beside = append(beside, b)
		}
	}
	const pixelsPerMM, noise = 12, 0.02
	return device.Bitewing(m, beside, []lesion.Lesion{l}, device.Exposure{PixelsPerMM: pixelsPerMM, Seed: seed, Noise: noise}), nil
}

// FilmReading is what a depth measured on a film means.
type FilmReading struct {
	Depth lesion.Depth
	lesion.Layers
}

// ReadFilm names the depth of a proximal lesion measured on a film, mm from the
// surface inwards. Errors are intake.Faults where the tooth has no such film.
func (p *Planner) ReadFilm(t notation.Tooth, ageYears float64, site lesion.Site, mm float64) (FilmReading, error) {
	const deepest = 8 // mm, past any pulp
	if !(mm > 0 && mm <= deepest) {
		return FilmReading{}, intake.Faults{{Path: "mm", Message: fmt.Sprintf("%v mm is no depth of a lesion: measure from the surface to its deepest point, up to %d mm", mm, deepest)}}
	}
	m, err := p.proximalTooth(t, ageYears, site)
	if err != nil {
		return FilmReading{}, err
	}
	layers, err := lesion.LayersAt(m, site)
	if err != nil {
		return FilmReading{}, err
	}
	return FilmReading{layers.DepthOf(mm), layers}, nil
}

func (p *Planner) proximalTooth(t notation.Tooth, ageYears float64, site lesion.Site) (*anatomy.Model, error) {
	if t.Anterior() {
		return nil, intake.Faults{{Path: "tooth", Message: "bitewings show premolars and molars: choose one of them"}}
	}
	if site != lesion.Mesial && site != lesion.Distal {
		return nil, intake.Faults{{Path: "site", Message: fmt.Sprintf("%q shows on no bitewing: choose mesial or distal", site)}}
	}
	return p.teeth.get(t, anatomy.MeasuredSizes{}, ageYears, DefaultGrid)
}

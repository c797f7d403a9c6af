package device

import (
	"fmt"
	"math/rand/v2"

	"obturon/core/anatomy"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
)

// BenchFilm is a bitewing of a tooth with a proximal lesion whose depth the seed decides and
// nobody is told: it is there to be measured. One in two of the teeth beside it carries an old
// filling. The error is that of a lesion which the tooth cannot have.
func BenchFilm(m *anatomy.Model, neighbours []*anatomy.Neighbour, site lesion.Site, seed uint64) (Film, error) {
	random := rand.New(rand.NewPCG(seed, 17))
	f := lesion.Finding{Kind: lesion.ProximalCaries, Site: site, Depth: lesion.Depths[random.IntN(len(lesion.Depths))]}
	usual, _ := lesion.DefaultSize(m, f.Kind, f.Depth)
	f.Height, f.Width = usual.Height*(0.85+0.3*random.Float64()), usual.Width*(0.85+0.3*random.Float64())
	l, err := lesion.NewProximal(m, f)
	if err != nil {
		return Film{}, err
	}
	var beside []Beside
	for _, n := range neighbours {
		b := Beside{Neighbour: n}
		if random.IntN(2) == 0 {
			if old, err := lesion.New(n.Model, lesion.Finding{Kind: lesion.OldRestoration, Site: lesion.Central, Depth: lesion.OuterDentin}); err == nil {
				b.Lesions = append(b.Lesions, old)
			}
		}
		beside = append(beside, b)
	}
	const pixelsPerMM, noise = 12, 0.02
	return Bitewing(m, beside, []lesion.Lesion{l}, Exposure{PixelsPerMM: pixelsPerMM, Seed: seed, Noise: noise}), nil
}

// FilmReading is what a depth measured on a film means.
type FilmReading struct {
	Depth lesion.Depth
	lesion.Layers
}

// ReadFilm names the depth of a proximal lesion measured on a film, mm from the
// surface inwards. Errors are intake.Faults where that is no depth.
func ReadFilm(m *anatomy.Model, site lesion.Site, mm float64) (FilmReading, error) {
	const deepest = 8 // mm, past any pulp
	if !(mm > 0 && mm <= deepest) {
		return FilmReading{}, intake.Faults{
			{
				Path:    "mm",
				Message: fmt.Sprintf("%v mm is no depth of a lesion: measure from the surface to its deepest point, up to %d mm", mm, deepest),
			},
		}
	}
	layers, err := lesion.LayersAt(m, site)
	if err != nil {
		return FilmReading{}, err
	}
	return FilmReading{layers.DepthOf(mm), layers}, nil
}

// CanBeFilmed tells why a tooth's surface shows on no bitewing, as intake.Faults; nil where it does.
func CanBeFilmed(t notation.Tooth, site lesion.Site) error {
	if t.Anterior() {
		return intake.Faults{{Path: "tooth", Message: "bitewings show premolars and molars: choose one of them"}}
	}
	if site != lesion.Mesial && site != lesion.Distal {
		return intake.Faults{{Path: "site", Message: fmt.Sprintf("%q shows on no bitewing: choose mesial or distal", site)}}
	}
	return nil
}

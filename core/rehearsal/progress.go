package rehearsal

import (
	"math"
	"slices"

	"obturon/core/parallel"
	"obturon/core/solid"
)

// progress is how far a cavity is cut: a field of distances (mm) to what the instruments
// have swept, negative within, known close to it.
type progress struct {
	survey *Survey
	swept  []float32
}

// unswept (mm) stands where no instrument has come near.
const unswept = 5.0

// begin starts with the uncut tooth.
func (s *Survey) begin() *progress {
	p := &progress{survey: s, swept: make([]float32, len(s.ToGo))}
	for n := range p.swept {
		p.swept[n] = unswept
	}
	return p
}

// clone is the same progress to go on from.
func (p *progress) clone() *progress { return &progress{p.survey, slices.Clone(p.swept)} }

// Nearness is how near (mm) a running bur came to the adjacent tooth, to the pulp, and to the
// skin that faces the adjacent tooth; +Inf where that is far off.
type Nearness struct{ Beside, Pulp, Skin float64 }

func (n Nearness) and(m Nearness) Nearness {
	return Nearness{math.Min(n.Beside, m.Beside), math.Min(n.Pulp, m.Pulp), math.Min(n.Skin, m.Skin)}
}

var far = Nearness{math.Inf(1), math.Inf(1), math.Inf(1)}

// cut sweeps a cutting's ways, and tells how near its head came to what stands beside.
func (p *progress) cut(c Cutting) Nearness {
	s := p.survey
	g := &s.Kept.Grid
	motions := c.motions(func(p solid.Pose) solid.Pose { return p })
	bounds := make([]solid.Box, len(motions))
	for n, m := range motions {
		bounds[n] = m.Bounds()
	}
	about := 1.5 * g.H // to which distances outside the head are read
	layers := make([]Nearness, g.N[2])
	parallel.Each(g.N[2], func(k int) {
		layers[k] = far
		z := g.Origin.Z + float64(k)*g.H
		for n, m := range motions {
			b := &bounds[n]
			if z < b.Min.Z-about || z > b.Max.Z+about {
				continue
			}
			i0, i1 := span(b.Min.X-about, b.Max.X+about, g.Origin.X, g.H, g.N[0])
			j0, j1 := span(b.Min.Y-about, b.Max.Y+about, g.Origin.Y, g.H, g.N[1])
			for j := j0; j <= j1; j++ {
				for i := i0; i <= i1; i++ {
					at := g.Index(i, j, k)
					known := float64(p.swept[at])
					if known < -2*g.H {
						continue // deep within already
					}
					d := m.DistanceUnder(g.Point(i, j, k), about)
					if d >= about {
						continue
					}
					if d < known {
						p.swept[at] = float32(d)
					}
					if d >= 0 {
						layers[k] = layers[k].and(s.nearness(at, d))
					}
				}
			}
		}
	})
	nearest := far
	for _, l := range layers {
		nearest = nearest.and(l)
	}
	return nearest
}

// nearness is that of a surface which passes a sample at a distance.
func (s *Survey) nearness(n int, d float64) Nearness {
	near := far
	near.Pulp = float64(s.Pulp.Values[n]) + d
	if s.Beside != nil {
		near.Beside = float64(s.Beside.Values[n]) + d
	}
	if s.Skin != nil {
		near.Skin = float64(s.Skin.Values[n]) + d
	}
	return near
}

// span is the range of samples between two places along an axis.
func span(from, to, origin, h float64, n int) (first, last int) {
	return max(int(math.Ceil((from-origin)/h)), 0), min(int(math.Floor((to-origin)/h)), n-1)
}

// standing is the share of each sample's cell that still has to go.
func (p *progress) standing() []float32 {
	standing := make([]float32, len(p.swept))
	h := p.survey.Kept.H
	for n, share := range p.survey.ToGo {
		if share > 0 {
			standing[n] = max(share-float32(solid.Occupied(float64(p.swept[n]), h)), 0)
		}
	}
	return standing
}

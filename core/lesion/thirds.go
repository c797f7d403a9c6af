package lesion

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
)

// thirdsOfDentin is where the front of a lesion of a named depth lies at the deepest, as a
// share of the dentin between junction and pulp. A film names depths by thirds
// (cariology's convention), and a small tooth's third is a thin one: outer caries stays in
// its own, middle caries is taken to reach a little short of the middle of the dentin, since
// a bur takes a little more, and what has reached the inner third may lie anywhere in it.
var thirdsOfDentin = map[Depth]float64{OuterDentin: 1. / 3, MiddleDentin: 0.45}

// frontInDentin is how far (mm) a lesion of a named depth, usually reaching so far into
// dentin, does so under places of the junction.
func frontInDentin(m *anatomy.Model, depth Depth, usual float64, junction ...r3.Vec) float64 {
	share, bounded := thirdsOfDentin[depth]
	if !bounded {
		return usual
	}
	for _, at := range junction {
		usual = math.Min(usual, share*math.Max(m.Pulp().Distance(at), 0))
	}
	return usual
}

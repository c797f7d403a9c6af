package lesion

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
)

// shares bound where the front of a lesion of a named depth lies at the deepest, as shares of the
// dentin between junction and pulp. A film names depths by thirds (cariology's convention), and a
// small tooth's third is a thin one: outer caries stays in its own; middle caries is taken to
// reach a little short of the middle of the dentin, since a bur takes a little more; inner caries
// has reached the inner third, and leaves some of it.
var shares = map[Depth]struct{ least, most float64 }{OuterDentin: {0, 1. / 3}, MiddleDentin: {0, 0.45}, InnerDentin: {0.7, 0.8}}

// frontInDentin is how far (mm) a lesion of a named depth, usually reaching so far into
// dentin, does so under places of the junction.
func frontInDentin(m *anatomy.Model, depth Depth, usual float64, junction ...r3.Vec) float64 {
	share, bounded := shares[depth]
	if !bounded {
		return usual
	}
	thinnest := math.Inf(1)
	for _, at := range junction {
		thinnest = math.Min(thinnest, math.Max(m.Pulp().Distance(at), 0))
	}
	if math.IsInf(thinnest, 1) {
		return usual
	}
	return math.Min(math.Max(usual, share.least*thinnest), share.most*thinnest)
}

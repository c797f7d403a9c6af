package cavity

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/school"
	"obturon/core/solid"
)

// CariesRemoval is how far caries is followed towards the pulp.
type CariesRemoval string

// The ways of removing caries over the pulp of a vital tooth (consensus of cariology on deep
// lesions). Selective, which the zero CariesRemoval stands for, leaves soft dentin there in one
// visit; Stepwise leaves more and opens again after 6 to 12 months; ToFirm follows it to firm
// dentin, whatever is left.
const (
	Selective CariesRemoval = "selective"
	Stepwise  CariesRemoval = "stepwise"
	ToFirm    CariesRemoval = "firm"
)

// CariesRemovals lists what may be asked for.
var CariesRemovals = []CariesRemoval{Selective, Stepwise, ToFirm}

const (
	// stepwiseMore (mm) is how much further from the pulp the first visit of a stepwise removal
	// stops (cariology: the pulp is given room, and the floor is taken later).
	stepwiseMore = 0.5
	// innerMore (mm) is the same for caries that was found in the inner third of the dentin: it
	// is deep by what was found, wherever the model has the pulp.
	innerMore = 0.5
)

// Endpoint is where the removal of caries ends on a tooth: within a distance of the pulp soft
// dentin stays, and none of it within the seal round the edge.
type Endpoint struct {
	Over  float64 // mm from the pulp; 0 where caries is followed to firm dentin everywhere
	Seal  float64 // mm of clean dentin under the junction, or under the root's surface
	model *anatomy.Model
}

// Endpoint is where the removal of caries ends under the request's school: as far from the pulp
// as it wants dentin there, with as wide a seal as it asks for.
func (r Request) Endpoint() Endpoint {
	e := Endpoint{Seal: r.aimOrShipped(school.LesionOverPulp), model: r.Model}
	if e.Seal == 0 || r.CariesRemoval == ToFirm {
		return e
	}
	e.Over = r.aimOrShipped(school.ResistPulpDistance) + PulpAllowance
	if r.CariesRemoval == Stepwise {
		e.Over += stepwiseMore
	}
	return e
}

// aimOrShipped is what the school tries for under an id. Rules written before it was asked take what
// the shipped schools do, so that they go no nearer to the pulp.
func (r Request) aimOrShipped(id school.CriterionID) float64 {
	if _, speaks := r.School.For(id, r.Model.Tooth, r.Material); speaks {
		return r.Aim(id)
	}
	shipped := school.IDs[0]
	if r.Model.Tooth.Primary() {
		shipped = "primary"
	}
	r.School, _ = school.Get(shipped)
	return r.Aim(id)
}

// Keeps is the distance (mm) of a place to what stays of a lesion's caries, if it is carious
// there: negative within. What is arrested is hard, and stays in dentin wherever the seal ends.
func (e Endpoint) Keeps(f lesion.Finding, p r3.Vec) float64 {
	arrested := f.Activity == lesion.Arrested
	if f.Kind.Content() != lesion.Caries || e.Over == 0 && !arrested {
		return math.Inf(1)
	}
	const far = 0.6 // mm past the floor, where none of it is near
	toPulp, over := e.model.Pulp().Distance(p), e.Over
	if f.Depth == lesion.InnerDentin {
		over += innerMore
	}
	if past := toPulp - over; past > far && !arrested {
		return past
	}
	// Where the dentin is thinner than seal and floor together, as over a horn, each takes half.
	into := e.model.IntoDentin(p)
	round := e.Seal - into
	if toPulp < e.Seal {
		round = min(round, (toPulp-into)/2)
	}
	if arrested {
		return round
	}
	return max(round, toPulp-over)
}

// kept is what stays of a lesion on purpose.
type kept struct {
	lesion.Lesion
	end Endpoint
}

// Distance is the signed distance (mm) to what stays.
func (k kept) Distance(p r3.Vec) float64 {
	d := k.Lesion.Distance(p)
	return max(d, k.end.Keeps(k.Found(), p))
}

// Kept are what stays of the cavity's lesions on purpose, each as a solid within the tooth; of
// most lesions it is empty.
func (c *Cavity) Kept() []solid.Tool {
	end := c.Endpoint()
	var tools []solid.Tool
	for _, l := range c.Lesions {
		if lesion.ContentOf(l) == lesion.Caries {
			tools = append(tools, kept{l, end})
		}
	}
	return tools
}

// LeastKept (mm³) is what counts as left over the pulp: less is a film under a bur's next turn.
const LeastKept = 0.05

// LeavesOverPulp reports that something of its caries is to stay over the pulp.
func (c *Cavity) LeavesOverPulp() bool {
	const h = 0.1 // mm between samples
	end, cut, kept := c.Endpoint(), c.Tool(), 0.0
	for _, l := range c.Lesions {
		if lesion.ContentOf(l) != lesion.Caries {
			continue
		}
		for p := range solid.Places(l.Bounds(), h) {
			share := solid.Occupied(l.Distance(p), h)
			if share == 0 || end.Keeps(l.Found(), p) >= h/2 {
				continue
			}
			if kept += share * solid.Occupied(-cut.Distance(p), h) * h * h * h; kept > LeastKept {
				return true
			}
		}
	}
	return false
}

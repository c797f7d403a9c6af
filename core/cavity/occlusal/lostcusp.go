package occlusal

import (
	"math"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/solid"
)

// lostCusp is a cusp that has broken off: all of it down to a roof that falls
// away as the cusp did.
type lostCusp struct {
	cusp   string // by the model's name
	roof   reduction
	model  *anatomy.Model
	box    solid.Box
	volume func() float64
}

func newLostCusp(r request, cusp anatomy.Named) *lostCusp {
	l := &lostCusp{cusp: cusp.Name, roof: newRoof(r, Design{}, cusp, r.Lost[cusp.Name]), model: r.Model}
	l.box = inTooth(r.Model.Table, l.roof.bounds(r.Model))
	l.volume = sync.OnceValue(func() float64 {
		return lesion.VolumeWithin(l, func(r3.Vec) float64 { return math.Inf(-1) })
	})
	return l
}

// inTooth is the box of the tooth's frame about one of the table's.
func inTooth(table anatomy.Frame, b solid.Box) solid.Box {
	first := table.From(b.Min)
	out := solid.Box{Min: first, Max: first}
	for _, corner := range solid.Corners(b) {
		p := table.From(corner)
		out.Min = r3.Vec{X: min(out.Min.X, p.X), Y: min(out.Min.Y, p.Y), Z: min(out.Min.Z, p.Z)}
		out.Max = r3.Vec{X: max(out.Max.X, p.X), Y: max(out.Max.Y, p.Y), Z: max(out.Max.Z, p.Z)}
	}
	return out
}

// Distance is negative in what has broken off.
func (l *lostCusp) Distance(p r3.Vec) float64 {
	return max(l.roof.distance(l.model.Table.To(p)), l.model.Surface.Distance(p))
}

func (l *lostCusp) Feature(r3.Vec) uint16 { return 1 }
func (l *lostCusp) Bounds() solid.Box     { return l.box }
func (l *lostCusp) Volume() float64       { return l.volume() }
func (l *lostCusp) Middle() r3.Vec        { return l.model.Table.From(l.roof.tip) }

// Found is the finding that it stands for.
func (l *lostCusp) Found() lesion.Finding {
	return lesion.Finding{Kind: lesion.Fracture, Site: lesion.SiteOfCusp(l.cusp)}
}

// IntoDentin is how far the break runs under the junction, along the bur.
func (l *lostCusp) IntoDentin() float64 {
	q := l.roof.tip
	return l.model.DentinHeights().At(q.X, q.Y) - l.roof.roof(q)
}

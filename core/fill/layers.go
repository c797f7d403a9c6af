package fill

import (
	"fmt"

	"obturon/core/solid"
)

// Horizontal lays a part in layers square to the light.
func (p *Part) Horizontal(l Layering) []Portion {
	levels := l.Levels(p.Bottom, p.Top, p.steps())
	var all []Portion
	for n, height := range levels[1:] {
		layer := Portion{Name: fmt.Sprintf("Layer %d", n+1), Kind: Packable, Borders: []*solid.Border{solid.PlaneBorder(p.filling.Axis, height)}}
		if n == 0 {
			layer.Most = l.First
		}
		all = append(all, layer)
	}
	return all
}

// steps are the heights (mm) that a border may rest at to end on a floor: a hair under it, so
// that the floor belongs to what is laid on it and the border does not lie in it.
func (p *Part) steps() []float64 {
	const hair = 0.02 // mm
	steps := make([]float64, len(p.Floors))
	for n, floor := range p.Floors {
		steps[n] = floor - hair
	}
	return steps
}

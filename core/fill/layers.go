package fill

import "fmt"

// Horizontal lays a part in layers square to the light.
func (p *Part) Horizontal(l Layering) []Portion {
	levels := l.Levels(p.Bottom, p.Top, p.Floors)
	var all []Portion
	for n, height := range levels[1:] {
		layer := Portion{Name: fmt.Sprintf("Layer %d", n+1), Kind: Packable, Inside: below(p.filling.Axis, height)}
		if n == 0 {
			layer.Most = l.First
		}
		all = append(all, layer)
	}
	return all
}

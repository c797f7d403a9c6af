package drawing

import (
	"math"
	"slices"

	"obturon/core/solid"
)

// Emblem is a tooth with its cavity as an entry of a list shows it: outlines alone, in
// the first view that the cavity is drawn in.
type Emblem struct {
	Crown, Root, Cavity []solid.Polyline // mm, X right and Y up
	Bounds              Bounds
}

// EmblemOf takes the outlines from a view: the crown as far as the view shows it, and
// what is cut.
func EmblemOf(v View) Emblem {
	e := Emblem{Bounds: Bounds{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}}
	for _, layer := range v.Layers {
		switch layer.Kind {
		case Crown:
			e.Crown = append(e.Crown, layer.Lines...)
		case Root:
			e.Root = append(e.Root, layer.Lines...)
		case Cavity:
			e.Cavity = append(e.Cavity, layer.Lines...)
		}
	}
	for _, line := range slices.Concat(e.Crown, e.Root) {
		for _, p := range line.Points {
			e.Bounds.MinX, e.Bounds.MinY = min(e.Bounds.MinX, p.X), min(e.Bounds.MinY, p.Y)
			e.Bounds.MaxX, e.Bounds.MaxY = max(e.Bounds.MaxX, p.X), max(e.Bounds.MaxY, p.Y)
		}
	}
	return e
}

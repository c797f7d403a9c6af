package fill

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// Oblique lays a part in wedges: what lies over the first layer of a box is cut by planes
// that rise from the lingual wall's foot to the facial wall's top, so that no increment
// joins the two. The frame's V looks facially.
func (p *Part) Oblique(l Layering, frame anatomy.Frame) []Portion {
	levels := l.Levels(p.Bottom, p.Top, p.steps())
	var all []Portion
	for n, high := range levels[1:] {
		low := levels[n]
		layer := solid.PlaneBorder(p.filling.Axis, high)
		name := fmt.Sprintf("Layer %d", n+1)
		if n == 0 && l.First > 0 { // thin already, and its wall towards the matrix is free
			all = append(all, Portion{Name: name, Kind: Packable, Most: l.First, Borders: []*solid.Border{layer}})
			continue
		}
		all = append(all,
			Portion{Name: name + ", lingual", Kind: Packable, Borders: []*solid.Border{layer, p.slant(frame, low, high)}},
			Portion{Name: name + ", facial", Kind: Packable, Borders: []*solid.Border{layer}})
	}
	return all
}

// slant is the border that rises through a layer from lingual to facial: within lies what is
// lingual of it. It is laid out as it is seen from facial.
func (p *Part) slant(frame anatomy.Frame, low, high float64) *solid.Border {
	w := p.widths(frame, low, high)
	return &solid.Border{
		Field: func(q r3.Vec) float64 { return w.over(frame.To(q), r3.Dot(q, p.filling.Axis)) },
		Flat:  func(q r3.Vec) solid.Point2 { return solid.Point2{X: r3.Dot(q, p.filling.Axis), Y: frame.To(q).X} },
	}
}

// widths are how wide a layer is from lingual to facial, by place along the tooth.
type widths struct {
	low, high, from float64
	lingual, facial []float64
}

const widthStep = 0.25 // mm along the tooth

func (p *Part) widths(frame anatomy.Frame, low, high float64) widths {
	w := widths{low: low, high: high, from: math.Inf(1)}
	to := math.Inf(-1)
	var inside []r3.Vec
	for _, t := range p.Mesh.Triangles {
		for _, v := range t {
			at := p.Mesh.Vertices[v]
			if h := r3.Dot(at, p.filling.Axis); h < low || h > high {
				continue
			}
			q := frame.To(at)
			inside = append(inside, q)
			w.from, to = math.Min(w.from, q.X), math.Max(to, q.X)
		}
	}
	if len(inside) == 0 {
		return w
	}
	w.lingual = make([]float64, int((to-w.from)/widthStep)+1)
	w.facial = make([]float64, len(w.lingual))
	for n := range w.lingual {
		w.lingual[n], w.facial[n] = math.Inf(1), math.Inf(-1)
	}
	for _, q := range inside {
		n := int((q.X - w.from) / widthStep)
		w.lingual[n], w.facial[n] = math.Min(w.lingual[n], q.Y), math.Max(w.facial[n], q.Y)
	}
	for n := 1; n < len(w.lingual); n++ { // a gap is as wide as what lies before it
		if w.facial[n] < w.lingual[n] {
			w.lingual[n], w.facial[n] = w.lingual[n-1], w.facial[n-1]
		}
	}
	return w
}

// over is how far (mm, at most) a place of the frame at a height lies over the slanting
// border; negative where it belongs to the lingual wedge.
func (w widths) over(q r3.Vec, height float64) float64 {
	if len(w.lingual) == 0 {
		return 1
	}
	const narrowest = 0.2 // mm
	// The border ends on the floor and on the top face, not in the corners, where noise of the
	// walls would tear off crumbs.
	const foot, crest = 0.9, 1.1
	along := math.Min(math.Max((q.X-w.from)/widthStep-0.5, 0), float64(len(w.lingual)-1))
	n := min(int(along), max(len(w.lingual)-2, 0))
	next, t := min(n+1, len(w.lingual)-1), along-float64(n)
	lingual := w.lingual[n] + t*(w.lingual[next]-w.lingual[n])
	facial := w.facial[n] + t*(w.facial[next]-w.facial[n])
	width, thick := math.Max(facial-lingual, narrowest), math.Max(w.high-w.low, narrowest)
	share := (q.Y-lingual)/(foot*width) + (height-w.low)/(crest*thick) - 1
	return share * math.Min(width, thick) / 2
}

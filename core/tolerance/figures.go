package tolerance

import "fmt"

// Figure is one of the numbers of a hand, as documents and screens have it.
type Figure struct {
	ID, Label, Unit string
	Least, Most     float64 // past which nobody cuts a tooth (operative dentistry convention)
	of              func(h Hand) float64
}

// Figures lists those of a hand.
var Figures = []Figure{
	{"depth_bias_mm", "Every cut goes deeper by", "mm", -0.5, 0.5, func(h Hand) float64 { return h.DepthBias }},
	{"depth_scatter_mm", "Depth differs from cut to cut by", "mm", 0, 0.5, func(h Hand) float64 { return h.DepthScatter }},
	{"tilt_degrees", "The bur leans off by", "degrees", 0, 15, func(h Hand) float64 { return h.Tilt }},
	{"wander_mm", "The tip strays sideways by", "mm", 0, 0.5, func(h Hand) float64 { return h.Wander }},
	{"extension_mm", "Walls end up further out by", "mm", -0.2, 0.3, func(h Hand) float64 { return h.Extension }},
}

// The cuts of a run: fewer say nothing, more say nothing new.
const (
	LeastRuns = 10
	MostRuns  = 2000
)

// Check names the first figure of a hand that is out of its bounds, with the reason; "" where none
// is.
func (h Hand) Check() (figure, why string) {
	for _, f := range Figures {
		if v := f.of(h); !(v >= f.Least && v <= f.Most) {
			return f.ID, fmt.Sprintf("%s %g %s: give %g to %g", f.Label, v, f.Unit, f.Least, f.Most)
		}
	}
	return "", ""
}

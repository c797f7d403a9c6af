package instrument

import "math"

// Head is that of a bur or diamond, mm.
type Head struct {
	Shape    Shape
	Diameter float64 // widest
	Length   float64
	Tip      float64 // diameter at the free end; 0 means it follows from the shape
}

// Shape of a rotary head.
type Shape string

// The shapes of the kit.
const (
	Round             Shape = "round"
	PearShape         Shape = "pear"
	FlatPear          Shape = "flat_pear" // refining pear with a flat end
	InvertedConeShape Shape = "inverted_cone"
	Taper             Shape = "taper"
	Flame             Shape = "flame"
	FootballShape     Shape = "football"
	RoundCylinder     Shape = "cylinder" // round end
)

// Radius is half the widest diameter.
func (h *Head) Radius() float64 { return h.Diameter / 2 }

// Profile draws half the head from the tip to the shank: pairs of radius and
// height over the tip, mm.
func (h *Head) Profile() [][2]float64 {
	const steps = 10
	arc := func(points [][2]float64, radius, centre, from, to float64) [][2]float64 {
		for n := range steps + 1 {
			a := from + (to-from)*float64(n)/steps
			points = append(points, [2]float64{radius * math.Cos(a), centre + radius*math.Sin(a)})
		}
		return points
	}
	half := h.Diameter / 2
	switch h.Shape {
	case Round:
		return arc(nil, half, half, -math.Pi/2, math.Pi/2*0.75)
	case PearShape:
		return append(arc(nil, half, half, -math.Pi/2, math.Pi*0.08), [2]float64{half * 0.6, h.Length})
	case FlatPear:
		const corner = 0.15
		points := [][2]float64{{0, 0}, {half - corner, 0}}
		for n := range steps + 1 {
			a := -math.Pi/2 + math.Pi/2*float64(n)/steps
			points = append(points, [2]float64{half - corner + corner*math.Cos(a), corner + corner*math.Sin(a)})
		}
		return append(points, [2]float64{half * 0.7, h.Length})
	case Flame:
		return [][2]float64{{0.02, 0}, {half * 0.45, h.Length * 0.25}, {half * 0.85, h.Length * 0.5}, {half, h.Length * 0.72}, {half * 0.8, h.Length * 0.92}, {half * 0.6, h.Length}}
	case FootballShape:
		var points [][2]float64
		for n := range steps + 1 {
			a := -math.Pi/2 + 0.86*math.Pi*float64(n)/steps
			points = append(points, [2]float64{half * math.Cos(a), h.Length / 2 * (1 + math.Sin(a))})
		}
		return points
	case RoundCylinder:
		return append(arc(nil, half, half, -math.Pi/2, 0), [2]float64{half, h.Length})
	case InvertedConeShape:
		return [][2]float64{{0, 0}, {half, 0}, {half * 0.7, h.Length}}
	case Taper:
		return [][2]float64{{0, 0}, {h.Tip / 2, 0}, {half, h.Length}}
	default:
		return [][2]float64{{0, 0}, {half, 0}, {half, h.Length}}
	}
}

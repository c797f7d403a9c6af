// Package instrument holds the burs of the kit, by their generic number or
// shape, with the profile each one cuts.
package instrument

import "math"

// Rotary is a bur or diamond. Lengths are millimetres (ISO 1797 and 6360
// give the sizes; heads as listed in operative dentistry texts).
type Rotary struct {
	ID       string
	Name     string
	Shape    Shape
	Diameter float64 // widest, of the head
	Length   float64 // of the head
	Tip      float64 // diameter at the free end; 0 means it follows from the shape
	Use      string
}

// Shape of a rotary head.
type Shape string

// The shapes of the kit.
const (
	Round        Shape = "round"
	Pear         Shape = "pear"
	FlatPear     Shape = "flat_pear" // refining pear with a flat end
	InvertedCone Shape = "inverted_cone"
	Taper        Shape = "taper"
	Straight     Shape = "straight"
	Flame        Shape = "flame"
	Football     Shape = "football"
	Cylinder     Shape = "cylinder" // round end
)

// Rotaries lists the burs that a preparation may need.
var Rotaries = []Rotary{
	{"329", "small pear", Pear, 0.6, 1.2, 0, "narrow first cut in fissures; leaves room to correct"},
	{"330", "pear", Pear, 0.8, 1.5, 0, "outline and depth; flush with the surface it stands 1.5 deep"},
	{"245", "long pear", Pear, 0.8, 3.0, 0, "boxes and deep walls"},
	{"refining pear", "flat-ended refining pear", FlatPear, 0.8, 2.0, 0, "levels floors and defines line angles"},
	{"34", "inverted cone", InvertedCone, 0.8, 0.8, 0.8, "floors only: press down, never sideways"},
	{"169L", "slim taper", Taper, 0.9, 4.4, 0.55, "extends grooves without widening"},
	{"4", "round", Round, 1.4, 1.4, 0, "caries at low speed"},
	{"2", "round, small", Round, 1.0, 1.0, 0, "caries in narrow places at low speed"},
	{"1/4", "round, smallest", Round, 0.5, 0.5, 0, "retention grooves, in dentin only"},
	{"micro-diamond", "small pear diamond", Pear, 0.8, 1.2, 0, "opens saucers at the neck"},
	{"fine flame", "finishing flame", Flame, 1.0, 3.0, 0, "bevels, in one light pass"},
	{"football diamond", "football diamond", Football, 1.6, 3.2, 0, "hollow lingual faces and long bevels"},
	{"long tapered diamond", "long tapered diamond", Taper, 1.2, 6.0, 0.4, "draws a long bevel out to nothing"},
	{"1.0 cylinder diamond", "round-end cylinder diamond", Cylinder, 1.0, 4.0, 0, "reduces cusps; its width tells the depth"},
}

// RotaryByID finds a bur.
func RotaryByID(id string) (Rotary, bool) {
	for _, r := range Rotaries {
		if r.ID == id {
			return r, true
		}
	}
	return Rotary{}, false
}

// Profile draws half the head from the tip to the shank: pairs of radius and
// height over the tip, mm.
func (r Rotary) Profile() [][2]float64 {
	const steps = 10
	arc := func(points [][2]float64, radius, centre, from, to float64) [][2]float64 {
		for n := range steps + 1 {
			a := from + (to-from)*float64(n)/steps
			points = append(points, [2]float64{radius * math.Cos(a), centre + radius*math.Sin(a)})
		}
		return points
	}
	half := r.Diameter / 2
	switch r.Shape {
	case Round:
		return arc(nil, half, half, -math.Pi/2, math.Pi/2*0.75)
	case Pear:
		return append(arc(nil, half, half, -math.Pi/2, math.Pi*0.08), [2]float64{half * 0.6, r.Length})
	case FlatPear:
		const corner = 0.15
		points := [][2]float64{{0, 0}, {half - corner, 0}}
		for n := range steps + 1 {
			a := -math.Pi/2 + math.Pi/2*float64(n)/steps
			points = append(points, [2]float64{half - corner + corner*math.Cos(a), corner + corner*math.Sin(a)})
		}
		return append(points, [2]float64{half * 0.7, r.Length})
	case Flame:
		return [][2]float64{{0.02, 0}, {half * 0.45, r.Length * 0.25}, {half * 0.85, r.Length * 0.5}, {half, r.Length * 0.72}, {half * 0.8, r.Length * 0.92}, {half * 0.6, r.Length}}
	case Football:
		var points [][2]float64
		for n := range steps + 1 {
			a := -math.Pi/2 + 0.86*math.Pi*float64(n)/steps
			points = append(points, [2]float64{half * math.Cos(a), r.Length / 2 * (1 + math.Sin(a))})
		}
		return points
	case Cylinder:
		return append(arc(nil, half, half, -math.Pi/2, 0), [2]float64{half, r.Length})
	case InvertedCone:
		return [][2]float64{{0, 0}, {half, 0}, {half * 0.7, r.Length}}
	case Taper:
		return [][2]float64{{0, 0}, {r.Tip / 2, 0}, {half, r.Length}}
	default:
		return [][2]float64{{0, 0}, {half, 0}, {half, r.Length}}
	}
}

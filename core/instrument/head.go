package instrument

import (
	"math"

	"obturon/core/solid"
)

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
	LongPearShape     Shape = "long_pear" // sides almost parallel, end almost flat
	FlatPear          Shape = "flat_pear" // refining pear with a flat end
	InvertedConeShape Shape = "inverted_cone"
	Straight          Shape = "straight" // square end
	Taper             Shape = "taper"
	Flame             Shape = "flame"
	FootballShape     Shape = "football"
	RoundCylinder     Shape = "cylinder" // round end
)

// Radius is half the widest diameter.
func (h *Head) Radius() float64 { return h.Diameter / 2 }

// Extent of a head about its axis: the furthest off it, and how far up, mm.
func (h *Head) Extent() (radius, length float64) { return h.Radius(), h.Length }

// What the shapes share, read off the drawings of heads in ISO 6360: the upper end of
// a pear beside its widest part, the edge of an end.
const (
	pearUpper     = 0.8  // of the radius: sides lean about 6 degrees on an 0.8 x 1.5
	longPearUpper = 0.75 // 2 to 3 degrees on an 0.8 x 3.0
	longPearEdge  = 0.2  // mm: the end is flat in its middle third
	refiningEdge  = 0.12 // mm: makes line angles of the boards' 0.1 to 0.3
	refiningUpper = 0.8
	coneUpper     = 0.7
	squareEdge    = 0.02 // mm: as sharp as carbide is ground
	taperEdge     = 0.06
)

// Solid is the head as it cuts.
func (h *Head) Solid() solid.Revolution {
	half := h.Radius()
	switch h.Shape {
	case Round:
		return solid.Ball{R: half}
	case PearShape:
		return solid.NewPear(half, half*pearUpper, h.Length)
	case LongPearShape:
		return solid.NewFrustum(half, half*longPearUpper, h.Length, longPearEdge)
	case FlatPear:
		return solid.NewFrustum(half, half*refiningUpper, h.Length, refiningEdge)
	case InvertedConeShape:
		return solid.NewFrustum(half, half*coneUpper, h.Length, squareEdge)
	case Taper:
		return solid.NewFrustum(h.Tip/2, half, h.Length, taperEdge)
	case RoundCylinder:
		return solid.NewPear(half, half, h.Length)
	case Flame:
		return solid.NewTurned(
			[][2]float64{
				{0.02, 0},
				{half * 0.45, h.Length * 0.25},
				{half * 0.85, h.Length * 0.5},
				{half, h.Length * 0.72},
				{half * 0.8, h.Length * 0.92},
				{half * 0.6, h.Length},
			},
		)
	case FootballShape:
		const sides = 16
		outline := make([][2]float64, sides+1)
		for n := range outline {
			sin, cos := math.Sincos(math.Pi * (float64(n)/sides - 0.5))
			outline[n] = [2]float64{half * cos, h.Length / 2 * (1 + sin)}
		}
		return solid.NewTurned(outline)
	default:
		return solid.NewFrustum(half, half, h.Length, squareEdge)
	}
}

// A friction grip shank is 1.6 mm thick (ISO 1797, type 3); from there down to the head
// runs the neck.
const (
	ShankRadius = 0.8
	ShankFrom   = 9.5 // mm over the tip
)

// Neck is the radius (mm) of what joins head and shank: slimmer than the head's upper
// end, so that only the head cuts.
func (h *Head) Neck() float64 {
	const ofRound, ofUpperEnd, thickest = 0.6, 0.87, 0.5
	switch h.Shape {
	case Round, FootballShape:
		return math.Min(h.Radius()*ofRound, thickest)
	case PearShape:
		return h.Radius() * pearUpper * ofUpperEnd
	case LongPearShape:
		return h.Radius() * longPearUpper * ofUpperEnd
	case FlatPear, InvertedConeShape:
		return h.Radius() * coneUpper * ofUpperEnd
	case Flame:
		return h.Radius() * 0.6 * ofUpperEnd
	default:
		return math.Min(h.Radius()*ofUpperEnd, thickest)
	}
}

// Profile draws half the head from the tip to the neck: pairs of radius and height over
// the tip, mm.
func (h *Head) Profile() [][2]float64 {
	const rows = 40
	head, neck := h.Solid(), h.Neck()
	profile := [][2]float64{{0, 0}}
	for n := range rows + 1 {
		// Closer at the ends, where outlines bend.
		z := h.Length * (1 - math.Cos(math.Pi*float64(n)/rows)) / 2
		rho := across(head, z)
		if last := profile[len(profile)-1][0]; rho < neck && rho < last {
			return append(profile, [2]float64{neck, z})
		}
		profile = append(profile, [2]float64{rho, z})
	}
	return profile
}

// across is the head's radius at a height over its tip, mm.
func across(head solid.Revolution, z float64) float64 {
	const enough = 1e-5 // mm
	low, high := 0.0, head.Radius()+enough
	for high-low > enough {
		middle := (low + high) / 2
		if d, _, _ := head.Profile(middle, z); d <= 1e-9 {
			low = middle
		} else {
			high = middle
		}
	}
	return low
}

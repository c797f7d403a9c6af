package instrument

import "math"

// Blade is the cutting end of a hand instrument, mm.
type Blade struct {
	Width, Length float64
	Thick         float64
	Centigrades   float64 // hundredths of a full turn between blade and shaft
	Rounded       bool    // its end is half a disc, as wide as the blade
}

// Turned is a blade brought to a tooth with its width turned so far (radians) about its
// own length.
type Turned struct {
	*Blade
	Turn float64
}

// deepest (mm) is as far as a blade is followed into a tooth.
const deepest = 5.0

// Extent of a blade about its length: the furthest off it, and how far up, mm.
func (b *Blade) Extent() (radius, length float64) {
	return math.Hypot(b.Width, b.Thick) / 2, math.Min(b.Length, deepest)
}

// Neck is the radius (mm) of what joins a blade to its shaft.
func (b *Blade) Neck() float64 { return b.Thick / 2 }

// Balls are balls within the blade, side by side over its width and up its length, that
// leave no more than about a tenth of its thickness between them.
func (t Turned) Balls(float64) []Ball {
	radius := t.Thick / 2
	_, length := t.Extent()
	var balls []Ball
	for z := radius; z < length; z += radius {
		side := t.halfWidth(z) - radius
		rows := int(math.Ceil(math.Max(side, 0) / radius))
		balls = append(balls, Ball{Turn: t.Turn, Height: z, Radius: radius})
		for n := 1; n <= rows; n++ {
			off := side * float64(n) / float64(rows)
			balls = append(balls, Ball{off, t.Turn, z, radius}, Ball{off, t.Turn + math.Pi, z, radius})
		}
	}
	return balls
}

// halfWidth is half of how wide a blade is at a height over its edge, mm.
func (b *Blade) halfWidth(z float64) float64 {
	half := b.Width / 2
	if b.Rounded && z < half {
		return math.Sqrt(half*half - (half-z)*(half-z))
	}
	return half
}

// Outline draws half of a blade seen on its width, from its edge to where it joins the
// shaft: pairs of half width and height over the edge, mm.
func (b *Blade) Outline() [][2]float64 {
	const rows = 12
	outline := [][2]float64{{0, 0}}
	if b.Rounded {
		for n := 1; n <= rows; n++ {
			z := b.Width / 2 * (1 - math.Cos(math.Pi/2*float64(n)/rows))
			outline = append(outline, [2]float64{b.halfWidth(z), z})
		}
	} else {
		outline = append(outline, [2]float64{b.Width / 2, 0})
	}
	return append(outline, [2]float64{b.Width / 2, b.Length})
}

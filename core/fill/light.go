package fill

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Lamp cures composite.
type Lamp struct {
	Name string
	// Output is what a radiometer read at the tip last, mW/cm².
	Output float64
	// Spread is how fast the light thins out with distance, per mm: 0.03 of a collimated
	// tip to 0.12 of a wide one.
	Spread float64
	// Fallen says that its output has fallen, "" where it has not.
	Fallen string
}

// Reaching is the share of a lamp's light that arrives so many mm off its tip.
func (l Lamp) Reaching(mm float64) float64 {
	thinned := 1 + l.Spread*mm
	return 1 / (thinned * thinned)
}

// Dose is the radiant exposure that cures a product, J/cm²: what its maker asks at the
// least and at the most.
type Dose struct{ Least, Most float64 }

// Exposure is how long a lamp takes to give a dose, seconds.
type Exposure struct{ Least, Most float64 }

// Exposure of a surface so many mm off the tip and turned away from the light by so many
// degrees.
func (l Lamp) Exposure(dose Dose, mm, tilt float64) Exposure {
	const milli = 1e-3
	arriving := milli * l.Output * l.Reaching(mm) * math.Cos(tilt*math.Pi/180)
	return Exposure{dose.Least / arriving, dose.Most / arriving}
}

// Light is how an increment is reached by the lamp.
type Light struct {
	// MM is from the tip to the deepest place of the increment, Tilt (degrees) how far its
	// floor is turned from the light.
	MM, Tilt float64
	Exposure
}

// reach is a lamp that is held along an axis against a tooth, whose surface is known by
// places of it.
type reach struct {
	lamp  Lamp
	axis  r3.Vec
	tooth []r3.Vec
}

// light looks from the tip, which rests on what of the tooth stands highest about an
// increment.
func (r reach) light(i Increment, dose Dose) Light {
	const tip = 4.0     // mm, radius of a lamp's tip
	const floor = 0.707 // cosine of what is no floor any more, but a wall
	var middle, floors r3.Vec
	area := 0.0
	for n := range i.Mesh.Triangles {
		a, out := i.Mesh.Area(n), i.Mesh.AreaVector(n)
		middle, area = r3.Add(middle, r3.Scale(a, i.Mesh.Centroid(n))), area+a
		if -r3.Dot(out, r.axis) > 2*floor*a {
			floors = r3.Sub(floors, out)
		}
	}
	middle = r3.Scale(1/area, middle)
	rests := i.Top
	for _, v := range r.tooth {
		d := r3.Sub(v, middle)
		if h := r3.Dot(d, r.axis); r3.Norm2(d)-h*h < tip*tip {
			rests = math.Max(rests, r3.Dot(v, r.axis))
		}
	}
	l := Light{MM: rests - i.Bottom}
	if size := r3.Norm(floors); size > 0 {
		l.Tilt = math.Acos(math.Min(1, r3.Dot(floors, r.axis)/size)) * 180 / math.Pi
	}
	l.Exposure = r.lamp.Exposure(dose, l.MM, l.Tilt)
	return l
}

// LinearShrinkage is that of a composite along one line (a share) by its shrinkage in
// volume.
func LinearShrinkage(volumetric float64) float64 { return 1 - math.Cbrt(1-volumetric) }

// CFactor compares the bonded with the free surface of an increment: an index of how
// little it can give way as it shrinks, not a stress. It is infinite without a free face.
func CFactor(bonded, free float64) float64 { return bonded / free }

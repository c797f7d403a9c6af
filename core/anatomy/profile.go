package anatomy

import (
	"math"

	"gonum.org/v1/gonum/interp"
)

const (
	rootStub    = -4.0 // mm, where the modelled root is cut off
	profileStep = 0.05 // mm between samples of a profile
	profileBlur = 0.3  // mm; removes the bands of light a bare spline shows
)

// profile is a smooth function of height: how far the crown reaches to one side.
type profile struct {
	z0     float64
	values []float64
}

// newProfile draws a monotone cubic through the knots, sampled and blurred.
func newProfile(zs, extents []float64) profile {
	var spline interp.FritschButland
	if err := spline.Fit(zs, extents); err != nil {
		panic("anatomy: profile knots out of order: " + err.Error())
	}
	first, last := zs[0], zs[len(zs)-1]
	count := int((last-first)/profileStep) + 1
	raw := make([]float64, count)
	for n := range raw {
		raw[n] = spline.Predict(first + float64(n)*profileStep)
	}
	p := profile{z0: first, values: make([]float64, count)}
	reach := int(3 * profileBlur / profileStep)
	for n := range raw {
		sum, weight := 0.0, 0.0
		for d := -reach; d <= reach; d++ {
			w := math.Exp(-math.Pow(float64(d)*profileStep/profileBlur, 2) / 2)
			sum += w * raw[min(max(n+d, 0), count-1)]
			weight += w
		}
		p.values[n] = sum / weight
	}
	return p
}

func (p profile) at(z float64) float64 {
	t := (z - p.z0) / profileStep
	if t <= 0 {
		return p.values[0]
	}
	n := int(t)
	if n >= len(p.values)-1 {
		return p.values[len(p.values)-1]
	}
	f := t - float64(n)
	return p.values[n]*(1-f) + p.values[n+1]*f
}

// mix is linear interpolation from a to b.
func mix(a, b, t float64) float64 { return a + (b-a)*t }

package anatomy

import (
	"math"

	"gonum.org/v1/gonum/interp"
)

const (
	rootStub     = -6.0 // mm, where the modelled root is cut off
	profileStep  = 0.05 // mm between samples of a profile
	profileBlur  = 0.3  // mm; removes the bands of light a bare spline shows
	anteriorBlur = 0.5  // mm; longer surfaces, broader curves
)

// profile is a smooth function of height: how far the crown reaches to one side.
type profile struct {
	z0     float64
	values []float64
}

// newProfile draws a monotone cubic through the knots, sampled and blurred.
func newProfile(blur float64, zs, extents []float64) profile {
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
	reach := int(3 * blur / profileStep)
	weights := make([]float64, 2*reach+1)
	for n := range weights {
		weights[n] = math.Exp(-math.Pow(float64(n-reach)*profileStep/blur, 2) / 2)
	}
	p := profile{z0: first, values: make([]float64, count)}
	for n := range raw {
		sum, weight := 0.0, 0.0
		for d, w := range weights {
			sum += w * raw[min(max(n+d-reach, 0), count-1)]
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

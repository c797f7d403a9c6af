package device

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strconv"
)

// RadiometerAddress is where a radiometer that speaks WebSocket listens, on the computer whose
// browser shows the materials.
const RadiometerAddress = "127.0.0.1:8088"

// Radiometer reads the light of a lamp held to it. Each reading is sent as a text message: a
// whole number of mW/cm².
type Radiometer struct {
	Speaker
	// Output of the lamp, mW/cm².
	Output float64
	noise  *rand.Rand
}

// NewRadiometer holds a lamp to a radiometer. Readings of the same seed are the same.
func NewRadiometer(output float64, seed uint64) *Radiometer {
	return &Radiometer{Output: output, noise: rand.New(rand.NewPCG(seed, seed))}
}

// spread is how far readings of one lamp lie apart, as a share: a tip is never held alike.
const spread = 0.015

// Read reads the lamp once and tells all that listen.
func (r *Radiometer) Read() int {
	reading := int(math.Round(r.Output * (1 + spread*math.Max(-2, math.Min(2, r.noise.NormFloat64())))))
	r.Say(strconv.Itoa(reading))
	return reading
}

// Hold holds another lamp to it, of so many mW/cm² in words. It fails for what is no output.
func (r *Radiometer) Hold(output string) error {
	const most = 10_000 // that such a meter shows
	v, err := strconv.ParseFloat(output, 64)
	if err != nil || !(v >= 0 && v <= most) {
		return fmt.Errorf("%q is no output: give 0 to %d mW/cm²", output, most)
	}
	r.Output = v
	return nil
}

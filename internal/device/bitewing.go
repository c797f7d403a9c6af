// Package device holds simulated stand-ins for the apparatus around the chair,
// so that everything can be tried without it.
package device

import (
	"image"
	"image/color"
	"math"
	"math/rand/v2"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/parallel"
)

// Attenuation of the tissues at the voltages of dental films, 1/mm: relative
// to each other they look as on a film (radiology convention). Caries has lost
// mineral and shows dark.
const (
	muEnamel = 0.155
	muDentin = 0.085
	muPulp   = 0.022
	// Alveolar bone, spongy and in its dense layer along the roots.
	muBone       = 0.030
	muLaminaDura = 0.095
	// Amalgam lets next to nothing through.
	muFilling = 1.2
	// Share of the attenuation that is left in caries.
	leftInEnamel = 0.30
	leftInDentin = 0.55
)

// Exposure is how a bitewing is taken.
type Exposure struct {
	PixelsPerMM float64
	Seed        uint64  // of the noise
	Noise       float64 // standard deviation as a share of full scale, 0 for none
}

// Film is a bitewing: the brighter, the more was absorbed.
type Film struct {
	*image.Gray
	PixelsPerMM float64
	// Left and Top are where the first pixel lies, mm in the tooth's frame:
	// towards mesial and occlusal, or mirrored as the mouth is seen.
	Left, Top     float64
	MesialToRight bool
	OcclusalUp    bool
}

// Beside is a tooth adjacent to the one that is filmed, with what is in it.
type Beside struct {
	*anatomy.Neighbour
	Lesions []lesion.Lesion // caries and old fillings, in its own frame
}

// Bitewing exposes a tooth with the adjacent teeth and the bone that holds them,
// straight from buccal to lingual. Lesions are the tooth's caries and old fillings.
func Bitewing(m *anatomy.Model, beside []Beside, lesions []lesion.Lesion, e Exposure) Film {
	const around, below, above = 5.0, 4.0, 1.5 // mm shown beside the crown, under the cervical line and over the cusps
	width := m.Sizes.Mesiodistal + 2*around
	high := m.Sizes.Height + below + above
	f := Film{
		Gray:        image.NewGray(image.Rect(0, 0, int(width*e.PixelsPerMM), int(high*e.PixelsPerMM))),
		PixelsPerMM: e.PixelsPerMM, Left: -width / 2, Top: m.Sizes.Height + above,
		MesialToRight: m.Tooth.Right(), OcclusalUp: !m.Tooth.Upper(),
	}
	rows := f.Rect.Dy()
	bone := newBone(m, beside, e.Seed)
	parallel.Each(rows, func(row int) {
		noise := rand.New(rand.NewPCG(e.Seed, uint64(row)))
		for column := range f.Rect.Dx() {
			x, z := f.Place(column, row)
			grey := exposed(absorbed(m, beside, lesions, bone, x, z)) + e.Noise*noise.NormFloat64()
			f.SetGray(column, row, color.Gray{Y: uint8(math.Round(255 * math.Min(math.Max(grey, 0), 1)))})
		}
	})
	return f
}

// Place is where a pixel lies, mm towards mesial and occlusal.
func (f *Film) Place(column, row int) (x, z float64) {
	x = f.Left + (float64(column)+0.5)/f.PixelsPerMM
	if !f.MesialToRight {
		x = -x
	}
	if f.OcclusalUp {
		return x, f.Top - (float64(row)+0.5)/f.PixelsPerMM
	}
	return x, f.Top - (float64(f.Rect.Dy()-row)-0.5)/f.PixelsPerMM
}

// Pixel is the place of a point on the film, in pixels from its upper left.
func (f *Film) Pixel(x, z float64) (column, row float64) {
	if !f.MesialToRight {
		x = -x
	}
	column = (x - f.Left) * f.PixelsPerMM
	row = (f.Top - z) * f.PixelsPerMM
	if !f.OcclusalUp {
		row = float64(f.Rect.Dy()) - row
	}
	return column, row
}

// absorbed is the attenuation along the ray at (x, z): the sum over tissues of
// coefficient times length.
func absorbed(m *anatomy.Model, beside []Beside, lesions []lesion.Lesion, bone *bone, x, z float64) float64 {
	const half, step = 7.0, 0.2 // mm
	sum := 0.0
	for y := -half; y <= half; y += step {
		p := r3.Vec{X: x, Y: y, Z: z}
		if m.Surface.Distance(p) < 0 {
			sum += step * tissue(m, lesions, p)
			continue
		}
		inside := false
		for _, n := range beside {
			if inside = n.Distance(p) < 0; inside {
				sum += step * tissue(n.Model, n.Lesions, n.From(p))
				break
			}
		}
		if !inside {
			sum += step * bone.at(p)
		}
	}
	return sum
}

// tissue is the attenuation at a point inside a tooth, 1/mm.
func tissue(m *anatomy.Model, lesions []lesion.Lesion, p r3.Vec) float64 {
	carious := false
	for _, l := range lesions {
		if l.Distance(p) >= 0 {
			continue
		}
		if lesion.ContentOf(l) == lesion.Filling {
			return muFilling
		}
		carious = true
	}
	switch {
	case m.Dentin().Distance(p) > 0:
		if carious {
			return muEnamel * leftInEnamel
		}
		return muEnamel
	case m.Pulp().Distance(p) < 0:
		return muPulp
	case carious:
		return muDentin * leftInDentin
	default:
		return muDentin
	}
}

// exposed turns attenuation into grey: a film's curve, black where nothing
// absorbs.
func exposed(attenuation float64) float64 { return 1 - math.Exp(-1.15*attenuation) }

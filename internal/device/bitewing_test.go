package device

import (
	"bytes"
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/notation"
)

func molar(t *testing.T, id string) *anatomy.Model {
	t.Helper()
	m, err := anatomy.Build(notation.MustParse(id), anatomy.MeasuredSizes{}, 34, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	return m
}

func TestTheFilmIsTheSumOfTissues(t *testing.T) {
	m := molar(t, "46")
	f := Bitewing(m, nil, nil, Exposure{PixelsPerMM: 6})
	for _, at := range []struct{ x, z float64 }{{0, 4}, {3, 3}, {0, -1.2}, {4.6, 4.5}} {
		column, row := f.Pixel(at.x, at.z)
		x, z := f.Place(int(column), int(row))
		// Walked along the ray in steps of its own.
		sum := 0.0
		const step = 0.05
		for y := -7.0; y < 7; y += step {
			p := r3.Vec{X: x, Y: y, Z: z}
			if m.Surface.Distance(p) >= 0 {
				continue
			}
			switch {
			case m.Dentin().Distance(p) > 0:
				sum += muEnamel * step
			case m.Pulp().Distance(p) < 0:
				sum += muPulp * step
			default:
				sum += muDentin * step
			}
		}
		want := 255 * exposed(sum)
		if got := float64(f.GrayAt(int(column), int(row)).Y); math.Abs(got-want) > 6 {
			t.Errorf("at %.1f %.1f the film shows %.0f, the ray sums to %.0f", at.x, at.z, got, want)
		}
	}
	if air := f.GrayAt(2, 2).Y; air != 0 {
		t.Errorf("air shows %d", air)
	}
}

// A lesion must be seen where it is and measure what it is: darker than the
// same place without it, from the surface to its depth.
func TestALesionShowsToItsDepth(t *testing.T) {
	m := molar(t, "36")
	for _, depth := range []lesion.Depth{"inner_enamel", "outer_dentin", "middle_dentin"} {
		l, err := lesion.NewProximal(m, lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Mesial, Depth: depth})
		if err != nil {
			t.Fatal(err)
		}
		e := Exposure{PixelsPerMM: 12}
		sound, carious := Bitewing(m, nil, nil, e), Bitewing(m, nil, []lesion.Lesion{l}, e)
		surface := l.Middle()
		deepest := 0.0
		for d := 0.05; d < 5; d += 0.05 {
			c, r := sound.Pixel(surface.X-d, surface.Z)
			if int(sound.GrayAt(int(c), int(r)).Y)-int(carious.GrayAt(int(c), int(r)).Y) >= 2 {
				deepest = d
			}
		}
		if want := r3.Norm(r3.Sub(surface, l.Deepest())); math.Abs(deepest-want) > 0.25 {
			t.Errorf("%s: dark to %.2f mm, it is %.2f deep", depth, deepest, want)
		}
	}
}

func TestNoiseComesFromTheSeed(t *testing.T) {
	m := molar(t, "24")
	take := func(seed uint64) []byte {
		f := Bitewing(m, nil, nil, Exposure{PixelsPerMM: 3, Seed: seed, Noise: 0.02})
		return f.Pix
	}
	if !bytes.Equal(take(5), take(5)) {
		t.Error("one seed gives two films")
	}
	if bytes.Equal(take(5), take(6)) {
		t.Error("two seeds give one film")
	}
}

func TestUpperTeethHangDown(t *testing.T) {
	f := Bitewing(molar(t, "16"), nil, nil, Exposure{PixelsPerMM: 3})
	_, crown := f.Pixel(0, 6)
	_, root := f.Pixel(0, -2)
	if crown <= root {
		t.Errorf("crown at row %.0f, root at %.0f", crown, root)
	}
	for _, p := range [][2]int{{4, 9}, {20, 31}} {
		x, z := f.Place(p[0], p[1])
		if c, r := f.Pixel(x, z); int(c) != p[0] || int(r) != p[1] {
			t.Errorf("pixel %v lies at %.2f %.2f, which is pixel %.1f %.1f", p, x, z, c, r)
		}
	}
}

// Beside a root stand, from the tooth out: the dark ligament, the bright lamina dura
// and the spongy bone; over the crest there is none.
func TestBoneHoldsTheRoots(t *testing.T) {
	m := molar(t, "46")
	f := Bitewing(m, nil, nil, Exposure{PixelsPerMM: 20, Seed: 3})
	grey := func(x, z float64) int {
		c, r := f.Pixel(x, z)
		return int(f.GrayAt(int(c), int(r)).Y)
	}
	const z = -3.0
	edge := 2.5
	for m.Surface.Distance(r3.Vec{X: edge, Z: z}) < 0 {
		edge += 0.02
	}
	space, lamina, spongy := grey(edge+0.12, z), grey(edge+ligament+0.14, z), grey(edge+1.2, z)
	if space >= lamina || lamina <= spongy {
		t.Errorf("ligament %d, lamina dura %d, spongy bone %d", space, lamina, spongy)
	}
	if over := grey(edge+1.5, 1.5); over != 0 {
		t.Errorf("over the crest the film shows %d", over)
	}
}

func TestAnOldFillingIsWhite(t *testing.T) {
	m := molar(t, "36")
	old, err := lesion.New(m, lesion.Finding{Kind: lesion.OldRestoration, Site: lesion.Central, Depth: lesion.OuterDentin})
	if err != nil {
		t.Fatal(err)
	}
	sound, filled := Bitewing(m, nil, nil, Exposure{PixelsPerMM: 8}), Bitewing(m, nil, []lesion.Lesion{old}, Exposure{PixelsPerMM: 8})
	deepest := r3.Vec{Z: 10}
	for _, x := range []float64{-1, 0, 1} {
		for z := 2.0; z < 8; z += 0.1 {
			if p := (r3.Vec{X: x, Z: z}); old.Distance(p) < old.Distance(deepest) {
				deepest = p
			}
		}
	}
	c, r := sound.Pixel(deepest.X, deepest.Z)
	if was, is := sound.GrayAt(int(c), int(r)).Y, filled.GrayAt(int(c), int(r)).Y; is < 220 || is <= was {
		t.Errorf("the filling shows %d where the tooth showed %d", is, was)
	}
}

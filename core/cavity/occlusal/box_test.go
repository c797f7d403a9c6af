package occlusal

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
)

func boxRequest(t testing.TB, tooth, schoolID string, material school.Material, h float64, sides ...lesion.Site) request {
	t.Helper()
	const age = 34
	model := func(x notation.Tooth) *anatomy.Model {
		m, err := anatomy.Build(x, anatomy.MeasuredSizes{}, age, h)
		if err != nil {
			t.Fatal(err)
		}
		return m
	}
	own := notation.MustParse(tooth)
	s, err := school.Get(schoolID)
	if err != nil {
		t.Fatal(err)
	}
	r := request{Request: cavity.Request{Model: model(own), School: s, Choice: cavity.Choice{Material: material}, Adjacent: map[notation.Side]*anatomy.AdjacentSurface{}}}
	for _, site := range sides {
		side := notation.Mesial
		if site == lesion.Distal {
			side = notation.Distal
		}
		l, err := lesion.NewProximal(r.Model, lesion.Finding{Kind: lesion.ProximalCaries, Site: site, Depth: "outer_dentin"})
		if err != nil {
			t.Fatal(err)
		}
		r.proximal = append(r.proximal, l)
		if beside, ok := own.Neighbour(side, age); ok {
			r.Adjacent[side] = anatomy.Place(r.Model, side, model(beside)).AdjacentSurface(r.Model.Contact(side), 2)
		}
	}
	return r
}

func TestABoxIsProposedByToothAndNeighbour(t *testing.T) {
	for _, c := range []struct {
		tooth, school string
		material      school.Material
		grooves       bool
	}{{"36", "board", "amalgam", false}, {"25", "board", "amalgam", false}, {"17", "traditional", "amalgam", true}, {"14", "adhesive", "composite", false}} {
		r := boxRequest(t, c.tooth, c.school, c.material, 0.2, lesion.Mesial, lesion.Distal)
		d, err := propose(r)
		if err != nil {
			t.Fatal(err)
		}
		if !slices.Equal(d.Sides(), []notation.Side{notation.Mesial, notation.Distal}) || (d.GrooveDepth > 0) != c.grooves {
			t.Errorf("%s %s: boxes %v, grooves %.2f", c.tooth, c.school, d.Sides(), d.GrooveDepth)
		}
		if lesionLed := c.school == "adhesive"; d.Occlusal == lesionLed {
			t.Errorf("%s %s: fissures opened %v", c.tooth, c.school, d.Occlusal)
		}
		made, err := build(r, d)
		if err != nil {
			t.Fatal(err)
		}
		for _, l := range r.proximal {
			for _, q := range append(l.Rim(), l.Deepest()) {
				if made.Distance(q) > 0 {
					t.Errorf("%s %s: %s caries is left %.2f from the cavity", c.tooth, c.school, l.Finding.Site, made.Distance(q))
					break
				}
			}
		}
	}
}

func TestALargerLesionMakesALargerBox(t *testing.T) {
	size := func(depth lesion.Depth) BoxDesign {
		r := boxRequest(t, "37", "board", "amalgam", 0.2, lesion.Mesial)
		l, err := lesion.NewProximal(r.Model, lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Mesial, Depth: depth})
		if err != nil {
			t.Fatal(err)
		}
		r.proximal = []*lesion.Proximal{l}
		d, err := propose(r)
		if err != nil {
			t.Fatal(err)
		}
		return d.Boxes[notation.Mesial]
	}
	small, large := size("outer_dentin"), size("inner_dentin")
	if large.BuccalReach+large.LingualReach <= small.BuccalReach+small.LingualReach || large.Depth < small.Depth {
		t.Errorf("outer dentin %+v, inner dentin %+v", small, large)
	}
}

func TestWithoutANeighbourTheContactAreaDecides(t *testing.T) {
	r := boxRequest(t, "36", "board", "amalgam", 0.2, lesion.Distal)
	r.Adjacent = nil
	d, err := propose(r)
	if err != nil {
		t.Fatal(err)
	}
	own := d.Boxes[notation.Distal]
	if least := r.Model.DistalContact.Width / 2; own.BuccalReach <= least || own.LingualReach <= least {
		t.Errorf("%+v leaves the contact area, %.2f to either side", own, least)
	}
}

func TestTheSlotIsChosenByFormOrSchool(t *testing.T) {
	for _, c := range []struct {
		school string
		form   cavity.Layout
		slot   bool
	}{{"board", cavity.AnyLayout, false}, {"board", cavity.SlotOnly, true}, {"adhesive", cavity.AnyLayout, true}, {"traditional", cavity.Conventional, false}} {
		r := boxRequest(t, "15", c.school, "amalgam", 0.2, lesion.Distal)
		r.Layout = c.form
		d, err := propose(r)
		if err != nil {
			t.Fatal(err)
		}
		if d.Occlusal == c.slot {
			t.Errorf("%s %q: fissures opened %v", c.school, c.form, d.Occlusal)
		}
		if c.slot && d.GrooveDepth == 0 {
			t.Errorf("%s %q: an amalgam slot without grooves", c.school, c.form)
		}
	}
}

// Whatever figures are set by hand, a box is a closed solid or an error.
func TestAnyBuildableBoxStaysClosed(t *testing.T) {
	r := boxRequest(t, "46", "board", "amalgam", 0.2, lesion.Mesial, lesion.Distal)
	proposal, err := propose(r)
	if err != nil {
		t.Fatal(err)
	}
	random := rand.New(rand.NewPCG(3, 9))
	built := 0
	for range 25 {
		d := proposal
		for _, s := range specs {
			if random.IntN(3) == 0 {
				*s.Field(&d) = s.Min + random.Float64()*(s.Max-s.Min)
			}
		}
		c, err := build(r, d)
		if err != nil {
			continue
		}
		built++
		mesh := r.Model.Surface.Uncut().Carve(c).Mesh()
		if !mesh.Closed() {
			t.Errorf("%+v: open mesh", d)
		}
		for _, v := range mesh.Vertices {
			if math.IsNaN(v.X + v.Y + v.Z) {
				t.Fatalf("%+v: a vertex is not a number", d)
			}
		}
	}
	if built < 12 {
		t.Errorf("only %d of 25 designs could be built", built)
	}
}

package occlusal

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/school"
	"obturon/core/solid"
)

// bevelFaces are the middles of the bevel's facets on the cut tooth.
func bevelFaces(t *testing.T, r request, d Design) []r3.Vec {
	t.Helper()
	c, err := build(r, d)
	if err != nil {
		t.Fatal(err)
	}
	mesh := r.Model.Surface.Uncut().Carve(c).Mesh()
	if !mesh.Closed() {
		t.Fatal("open mesh")
	}
	var at []r3.Vec
	for n, label := range mesh.Labels {
		if label&cavity.BevelFlag != 0 {
			at = append(at, mesh.Centroid(n))
		}
	}
	return at
}

func bonded(t *testing.T, r request) request {
	t.Helper()
	r.Material = "composite"
	return r
}

func mustPropose(t *testing.T, r request) Design {
	t.Helper()
	d, err := propose(r)
	if err != nil {
		t.Fatal(err)
	}
	return d
}

func TestBevelsAreForBondedFillingsOfSchoolsThatHaveThem(t *testing.T) {
	// Posterior composite in permanent teeth has no occlusal bevel; primary enamel a light one.
	for _, c := range []struct {
		tooth, school string
		material      school.Material
		want          float64
	}{
		{"85", "primary", "composite", 0.3}, {"46", "adhesive", "composite", 0}, {"46", "board", "composite", 0},
		{"46", "traditional", "composite", 0}, {"46", "adhesive", "amalgam", 0},
	} {
		r := fissureRequest(t, c.tooth, c.school)
		r.Material = c.material
		if d := mustPropose(t, r); d.BevelWidth != c.want {
			t.Errorf("%s, %s: bevel %.2f, want %.2f", c.material, c.school, d.BevelWidth, c.want)
		} else if facets := bevelFaces(t, r, d); (len(facets) > 0) != (c.want > 0) {
			t.Errorf("%s, %s: %d bevelled facets", c.material, c.school, len(facets))
		}
	}
	if d := specs.Apply(mustPropose(t, fissureRequest(t, "46", "board")), map[string]float64{"bevel_width": 0.5}); d.BevelWidth != 0 {
		t.Error("an amalgam took a bevel")
	}
	r := bonded(t, fissureRequest(t, "46", "board"))
	if d := specs.Apply(mustPropose(t, r), map[string]float64{"bevel_width": 0.4}); len(bevelFaces(t, r, d)) == 0 {
		t.Error("a bevel asked for against the school is not cut")
	}
}

func TestBevelsKeepOffContacts(t *testing.T) {
	r := bonded(t, fissureRequest(t, "46", "adhesive"))
	d := specs.Apply(mustPropose(t, r), map[string]float64{"bevel_width": 0.5})
	all := bevelFaces(t, r, d)
	contact := r.Model.Table.To(all[0])
	r.Contacts = []solid.Point2{{X: contact.X, Y: contact.Y}}
	left := bevelFaces(t, r, d)
	if len(left) == 0 || len(left) >= len(all) {
		t.Fatalf("%d facets of %d are left beside a contact", len(left), len(all))
	}
	for _, at := range left {
		if q := r.Model.Table.To(at); math.Hypot(q.X-contact.X, q.Y-contact.Y) < 0.5 {
			t.Fatalf("bevelled %.2f mm from a contact", math.Hypot(q.X-contact.X, q.Y-contact.Y))
		}
	}
}

func TestBevelsStayInOcclusalEnamel(t *testing.T) {
	r := boxRequest(t, "47", "adhesive", "composite", 0.15, lesion.Mesial)
	r.Layout = cavity.Conventional
	facets := bevelFaces(t, r, specs.Apply(mustPropose(t, r), map[string]float64{"bevel_width": 0.5}))
	if len(facets) == 0 {
		t.Fatal("no bevel")
	}
	for _, at := range facets {
		if left := r.Model.Dentin().Distance(at); left < bevelEnamel-0.1 {
			t.Errorf("%.2f mm of enamel under a bevel", left)
		}
		if outward := r3.Unit(r.Model.Surface.Gradient(at)); r3.Dot(outward, r.Model.Table.W) < 0.1 && onSurface(r.Model, at) {
			t.Errorf("bevelled at %v, where the surface faces the adjacent tooth", at)
		}
	}
}

func onSurface(m *anatomy.Model, at r3.Vec) bool { return m.Surface.Distance(at) > -0.1 }

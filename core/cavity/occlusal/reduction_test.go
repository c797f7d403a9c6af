package occlusal

import (
	"slices"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
)

func TestOnlyTheWeakCuspIsReduced(t *testing.T) {
	for _, tooth := range []string{"46", "17", "25"} {
		r := fissureRequest(t, tooth, "adhesive")
		r.Material = "composite"
		for _, weak := range r.Model.CuspTips {
			r.Undermined = map[string]float64{weak.Name: 0}
			d := specs.Apply(mustPropose(t, r), map[string]float64{"cusp_reduction": 2})
			c, err := build(r, d)
			if err != nil {
				t.Fatal(err)
			}
			if mesh := r.Model.Surface.Uncut().Carve(c).Mesh(); !mesh.Closed() || !slices.Contains(mesh.Labels, cavity.CuspReduction) {
				t.Errorf("%s %s: closed %v, or nothing reduced", tooth, weak.Name, mesh.Closed())
			}
			for _, cusp := range r.Model.CuspTips {
				under := func(mm float64) float64 { return c.Distance(r3.Sub(cusp.At, r3.Scale(mm, r.Model.Table.W))) }
				if cusp.Name == weak.Name && (under(1.9) > 0 || under(3.2) < 0) {
					t.Errorf("%s: not about 2 mm are taken off the %s cusp", tooth, cusp.Name)
				}
				if cusp.Name != weak.Name && under(0.1) < 0 {
					t.Errorf("%s: reducing the %s cusp cuts the %s", tooth, weak.Name, cusp.Name)
				}
			}
		}
	}
}

func TestAWeakCuspIsCoveredAndAStrongOneKept(t *testing.T) {
	r := fissureRequest(t, "46", "adhesive")
	r.Material = "composite"
	if d := mustPropose(t, r); d.CuspReduction != 0 {
		t.Errorf("a sound cusp is reduced by %.1f", d.CuspReduction)
	}
	r.Undermined = map[string]float64{"MB": 0}
	if d := mustPropose(t, r); d.CuspReduction < 2 {
		t.Errorf("a cusp that was found undermined is reduced by %.1f", d.CuspReduction)
	}
	r.KeepsCusps = true
	if d := mustPropose(t, r); d.CuspReduction != 0 {
		t.Errorf("a cusp that the dentist keeps is reduced by %.1f", d.CuspReduction)
	}
	r.KeepsCusps = false
	wide, err := lesion.NewOcclusal(r.Model, lesion.Finding{Kind: lesion.OldRestoration, Site: lesion.Central, Depth: "outer_dentin", Width: 5})
	if err != nil {
		t.Fatal(err)
	}
	r.fissures = []*lesion.Occlusal{wide}
	if d := mustPropose(t, r); d.CuspReduction < 2 {
		t.Errorf("a cusp beside a filling 5 mm wide is reduced by %.1f", d.CuspReduction)
	}
	if d := specs.Apply(mustPropose(t, fissureRequest(t, "46", "board")), map[string]float64{"cusp_reduction": 2}); d.CuspReduction != 0 {
		t.Error("a cusp not found undermined was reduced")
	}
}

// What has broken off as far as a cover needs is not reduced again.
func TestWhatIsGoneIsNotReducedAgain(t *testing.T) {
	r := fissureRequest(t, "46", "adhesive")
	r.Material = "composite"
	for lost, lowered := range map[float64]bool{1: true, 3.5: false} {
		r.Lost = map[string]float64{"MB": lost}
		d := mustPropose(t, r)
		has := slices.ContainsFunc(specs.Dimensions(d, d), func(d cavity.Dimension) bool { return d.ID == "cusp_reduction" })
		if (len(d.Lowered()) > 0) != lowered || has != lowered || len(d.Covered()) == 0 {
			t.Errorf("%.1f mm lost: lowered %v, covered %v, a figure for it: %v", lost, d.Lowered(), d.Covered(), has)
		}
	}
}

// Half a millimetre more is wanted at a cusp's base for each reason that loads or weakens it.
func TestWhatACuspNeeds(t *testing.T) {
	r := fissureRequest(t, "46", "adhesive")
	upper := fissureRequest(t, "16", "adhesive")
	primary := fissureRequest(t, "85", "primary")
	cusp := func(r request, facial bool) anatomy.Named {
		for _, tip := range r.Model.CuspTips {
			if (r.Model.Table.To(tip.At).Y > 0) == facial {
				return tip
			}
		}
		t.Fatal("no such cusp")
		return anatomy.Named{}
	}
	grinds := r
	grinds.Grinds = true
	for _, c := range []struct {
		name    string
		r       request
		facial  bool
		isthmus float64
		boxes   int
		want    float64
	}{
		{"lingual below", r, false, 1, 0, 0}, {"buccal below", r, true, 1, 0, 0.5}, {"buccal above", upper, true, 1, 1, 0}, {"lingual above", upper, false, 1, 0, 0.5},
		{"of a grinder", grinds, true, 1, 0, 1}, {"beside a wide isthmus", r, false, 4.5, 0, 0.5}, {"both ridges gone", r, true, 1, 2, 1},
		{"all of it", grinds, true, 4.5, 2, 2}, {"of a primary molar", primary, true, 4.5, 2, 0},
	} {
		if got, _ := c.r.CuspNeed(cusp(c.r, c.facial), c.isthmus, c.boxes); got != c.want {
			t.Errorf("%s: %.1f mm more, want %.1f", c.name, got, c.want)
		}
	}
}

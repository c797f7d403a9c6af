package occlusal

import (
	"slices"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

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
	r.Undermined = map[string]float64{"MB": 0}
	if d := mustPropose(t, r); d.CuspReduction != 0 {
		t.Errorf("a cusp with a sound base is reduced by %.1f", d.CuspReduction)
	}
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

// A cusp undermined deep under its base is thinner than it measures, and what has broken off
// as far as a cover needs is not reduced again.
func TestUnderminingCountsAndWhatIsGoneIsGone(t *testing.T) {
	r := fissureRequest(t, "46", "adhesive")
	r.Material = "composite"
	for gone, covered := range map[float64]bool{lesion.UnderminedBy(lesion.Finding{Kind: lesion.UnderminedCusp, Depth: lesion.OuterEnamel}): false, 3: true} {
		r.Undermined = map[string]float64{"MB": gone}
		if d := mustPropose(t, r); (d.CuspReduction > 0) != covered {
			t.Errorf("%.1f mm gone from within: reduced by %.1f", gone, d.CuspReduction)
		}
	}
	r.Undermined = nil
	for lost, lowered := range map[float64]bool{1: true, 3.5: false} {
		r.Lost = map[string]float64{"MB": lost}
		d := mustPropose(t, r)
		has := slices.ContainsFunc(specs.Dimensions(d, d), func(d cavity.Dimension) bool { return d.ID == "cusp_reduction" })
		if (len(d.Lowered()) > 0) != lowered || has != lowered || len(d.Covered()) == 0 {
			t.Errorf("%.1f mm lost: lowered %v, covered %v, a figure for it: %v", lost, d.Lowered(), d.Covered(), has)
		}
	}
}

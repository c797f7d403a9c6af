package occlusal

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

func fissureRequest(t testing.TB, tooth, schoolID string) request {
	t.Helper()
	m, err := anatomy.Build(notation.MustParse(tooth), anatomy.MeasuredSizes{}, 34, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	s, err := school.Get(schoolID)
	if err != nil {
		t.Fatal(err)
	}
	l, err := lesion.NewOcclusal(m, lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: "outer_dentin"})
	if err != nil {
		t.Fatal(err)
	}
	return newRequest(cavity.Request{Model: m, Lesions: []lesion.Lesion{l}, School: s, Choice: cavity.Choice{Material: school.Amalgam}})
}

func TestProposalsFollowTheSchool(t *testing.T) {
	board, err := propose(fissureRequest(t, "46", "board"))
	if err != nil {
		t.Fatal(err)
	}
	r := fissureRequest(t, "46", "traditional")
	traditional, err := propose(r)
	if err != nil {
		t.Fatal(err)
	}
	if want := 0.30 * r.Model.Intercuspal; math.Abs(traditional.IsthmusWidth-want) > 0.03 {
		t.Errorf("traditional isthmus %.2f, want %.2f of the cusps' distance", traditional.IsthmusWidth, want)
	}
	if board.IsthmusWidth >= traditional.IsthmusWidth || board.LineAngleRadius <= traditional.LineAngleRadius {
		t.Errorf("board %+v, traditional %+v", board, traditional)
	}
	adhesive, err := propose(fissureRequest(t, "46", "adhesive"))
	if err != nil {
		t.Fatal(err)
	}
	if adhesive.BuccalExtension != 0 || adhesive.DovetailWidth != 0 {
		t.Errorf("a lesion-led outline extends nowhere: %+v", adhesive)
	}
}

func TestACrossingRidgeIsNotCut(t *testing.T) {
	for _, c := range []struct {
		tooth     string
		here      lesion.Site
		untouched string
	}{{"44", lesion.DistalPit, "mesial pit"}, {"16", lesion.Central, "distal pit"}, {"26", lesion.DistalPit, "central pit"}} {
		r := fissureRequest(t, c.tooth, "board")
		l, err := lesion.NewOcclusal(r.Model, lesion.Finding{Kind: lesion.PitCaries, Site: c.here, Depth: "outer_dentin"})
		if err != nil {
			t.Fatal(err)
		}
		r.fissures = []*lesion.Occlusal{l}
		made := proposed(t, r)
		if beyond, _ := r.Model.Pit(c.untouched); made.Distance(beyond) < 0 {
			t.Errorf("%s: the outline crosses the ridge to the %s", c.tooth, c.untouched)
		}
		if made.Distance(l.Middle()) >= 0 {
			t.Errorf("%s: the lesion is not opened", c.tooth)
		}
		// With a lesion on either side, two cavities leave the ridge between.
		other, err := lesion.NewOcclusal(r.Model, lesion.Finding{Kind: lesion.PitCaries, Site: siteOf(c.untouched), Depth: "outer_dentin"})
		if err != nil {
			t.Fatal(err)
		}
		r.fissures = append(r.fissures, other)
		made = proposed(t, r)
		middle := r3.Scale(0.5, r3.Add(r.Model.Table.To(l.Middle()), r.Model.Table.To(other.Middle())))
		if len(made.parts) != 2 || made.Distance(other.Middle()) >= 0 || made.Distance(r.Model.Table.From(middle)) < 0 {
			t.Errorf("%s: %d cavities; the ridge between them is %.2f from being cut", c.tooth, len(made.parts), made.Distance(r.Model.Table.From(middle)))
		}
	}
}

func siteOf(pit string) lesion.Site {
	return map[string]lesion.Site{"mesial pit": lesion.MesialPit, "distal pit": lesion.DistalPit, "central pit": lesion.Central}[pit]
}

func proposed(t testing.TB, r request) *Solid {
	t.Helper()
	d, err := propose(r)
	if err != nil {
		t.Fatal(err)
	}
	c, err := build(r, d)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func TestExcavationFollowsDeepCaries(t *testing.T) {
	r := fissureRequest(t, "46", "board")
	deep, err := lesion.NewOcclusal(r.Model, lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: "inner_dentin"})
	if err != nil {
		t.Fatal(err)
	}
	r.CariesRemoval = cavity.ToFirm
	r.fissures = []*lesion.Occlusal{deep}
	c := proposed(t, r)
	middle := deep.Path()[len(deep.Path())/2]
	below := r.Model.Table.From(r3.Vec{X: middle.X, Y: middle.Y, Z: c.Floors(middle.X, middle.Y)[0] - 0.3})
	if c.Distance(below) >= 0 {
		t.Error("caries below the floor is left")
	}
	if got := c.Feature(below); got != cavity.Excavation {
		t.Errorf("it is called %q", cavity.FeatureName(got))
	}
}

func TestOverridesAreChecked(t *testing.T) {
	for _, c := range []struct {
		id    string
		value float64
		want  string
	}{
		{"pulpal_depth", 1.8, ""},
		{"pulpal_depth", 9, "not buildable"},
		{"pulpal_depth", math.NaN(), "not buildable"},
		{"depth", 1, "no dimension"},
	} {
		if got := cavity.CheckOverride(Limits(), c.id, c.value); (got == "") != (c.want == "") || !strings.Contains(got, c.want) {
			t.Errorf("%s %v: %q", c.id, c.value, got)
		}
	}
}

// Whatever figures are set by hand, the result is a closed solid or an error.
func TestAnyBuildableDesignStaysClosed(t *testing.T) {
	r := fissureRequest(t, "46", "board")
	random := rand.New(rand.NewPCG(7, 11))
	for range 25 {
		d := Design{Occlusal: true}
		for _, s := range specs {
			*s.Field(&d) = s.Min + random.Float64()*(s.Max-s.Min)
		}
		c, err := build(r, d)
		if err != nil {
			continue
		}
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
}

func TestTheOutlineIsMeasuredExactly(t *testing.T) {
	// A straight stroke 1.2 wide: across its middle the field is the distance
	// to its two sides.
	form := newForm([]stroke{{points: []solid.Point2{{X: -2}, {X: 2}}, half: 0.6}}, 0)
	o := newOutline(form.flow(0.6), solid.NewSheet(-3, -3, 3, 3, 0.1), func(_, _ solid.Point2) float64 { return 4 })
	for y := -1.0; y <= 1; y += 0.13 {
		if got, want := o.distance.Smooth(0.02, y), math.Abs(y)-0.6; math.Abs(got-want) > 0.02 {
			t.Errorf("at %.2f: %.3f, want %.3f", y, got, want)
		}
	}
	if lean := o.lean.At(0, 0.5); lean != 4 {
		t.Errorf("lean %v", lean)
	}
}

func BenchmarkBuildCavity(b *testing.B) {
	r := fissureRequest(b, "46", "board")
	d, err := propose(r)
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		if _, err := build(r, d); err != nil {
			b.Fatal(err)
		}
	}
}

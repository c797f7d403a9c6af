package plan

import (
	"fmt"
	"math"
	"os"
	"slices"
	"strings"
	"testing"

	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/pipeline"
	"obturon/core/procedure"
	"obturon/core/school"
	"obturon/core/sitting"
)

// Over the class tables increments tile their filling, keep to their limit and hold on to
// something; loads of amalgam fill it; what is filled towards an adjacent tooth touches it again.
// Some each time, all with the class tables.
func TestFillingsOfTheClassTables(t *testing.T) {
	every := 29
	if os.Getenv("OBTURON_TABLES") != "" {
		every = 1
	}
	products := fill.Usual()
	p := planner
	for n, c := range classTable() {
		if n%every != 0 {
			continue
		}
		t.Run(fmt.Sprintf("%s %s %s %s", c.Tooth, c.Findings[0].Site, c.Choice.Material, c.Choice.School), func(t *testing.T) {
			r, err := p.Judged(t.Context(), c, DefaultGrid)
			if err != nil {
				t.Fatal(err)
			}
			if r.Refused() != "" {
				return
			}
			filled := r.Fill(products)
			courseHolds(t, sitting.Together([]sitting.Visit{{Steps: filled.Course(r.Steps)}}), filled.LaidOut())
			for _, f := range filled.Fillings {
				if len(f.Plans) == 0 {
					t.Error("nothing is filled")
				}
				for _, plan := range f.Plans {
					if f.Cavity.Material == school.Amalgam {
						loaded(t, plan, products.Amalgams[0])
					} else {
						tiled(t, plan)
					}
				}
				for _, b := range f.Matrix.Bands {
					restored := b.Restored
					if restored == nil {
						continue
					}
					// The models' ridges are level, but for the small first premolars.
					if !(restored.Contact <= 0.05) || math.Abs(restored.RidgeOver) > 0.5 || restored.Below < 0.5 || restored.Below > 3 {
						t.Errorf("%s the filling restores %+v", b.Side, *restored)
					}
				}
				for _, side := range f.Cavity.Boxes {
					beside := f.Cavity.Adjacent[side]
					if beside == nil {
						continue
					}
					nearest := math.Inf(1)
					for _, plan := range f.Plans {
						if mm, _, ok := plan.Contact(beside); ok {
							nearest = math.Min(nearest, mm)
						}
					}
					if nearest > 0.05 {
						t.Errorf("%s of the adjacent tooth, the filling stays %.2f mm off", side, nearest)
					}
				}
			}
		})
	}
}

// courseHolds checks that all that is done of a tooth can be done in its order, with what lies
// ready.
func courseHolds(t *testing.T, course []procedure.Step, filled []sitting.Filled) {
	t.Helper()
	first := len(sitting.Before(course))
	if numb, confirmed := procedure.First(course, procedure.Anaesthetise), procedure.First(course, procedure.ConfirmAnaesthesia); numb < 1 || confirmed <= numb || confirmed >= first {
		t.Errorf("it is marked, then numbed as step %d and confirmed as %d, and cut from %d on", numb+1, confirmed+1, first+1)
	}
	if broken := procedure.OutOfOrder(course); len(broken) > 0 || procedure.First(course, procedure.CheckOcclusion) < 0 {
		t.Errorf("out of order %v", broken)
	}
	ids := map[string]bool{}
	for n, s := range course {
		if ids[s.ID] {
			t.Errorf("two steps are %q", s.ID)
		}
		ids[s.ID] = true
		if s.Name == "" || s.Action == "" || s.Seconds <= 0 {
			t.Errorf("step %d is %q in %d s: %q", n+1, s.Name, s.Seconds, s.Action)
		}
		if c := s.Clock; c != nil && (c.After != "" && !ids[c.After] || c.Most < c.Least || c.Most <= 0) {
			t.Errorf("the clock of step %d, %s, is %+v", n+1, s.Name, *c)
		}
	}
	for _, i := range sitting.Tray(course, filled, nil) {
		if i.Name == "" || i.Count < 1 || i.Count > 20 || !slices.Contains(sitting.Groups, i.Group) {
			t.Errorf("on the tray lies %+v", i)
		}
	}
}

func tiled(t *testing.T, plan fill.Plan) {
	t.Helper()
	sum := 0.0
	for _, i := range plan.Increments {
		sum += i.Volume
		if i.Thickest > i.Most+0.01 {
			t.Errorf("%s is %.2f mm thick, at most %.2f", i.Name, i.Thickest, i.Most)
		}
		if loose := i.Floating(); len(loose) > 0 {
			t.Errorf("%s floats with %.3f mm³ of %.2f", i.Name, loose, i.Volume)
		}
		if !i.Mesh.Closed() {
			t.Errorf("%s is not closed", i.Name)
		}
		if !(i.Light.Exposure.Least > 0 && i.Light.Exposure.Most < 180) || math.IsNaN(i.Light.Tilt) {
			t.Errorf("%s: light %+v", i.Name, i.Light)
		}
	}
	if math.Abs(sum/plan.Volume-1) > 0.005 {
		t.Errorf("increments come to %.3f mm³ of %.3f", sum, plan.Volume)
	}
}

func loaded(t *testing.T, plan fill.Plan, a fill.Amalgam) {
	t.Helper()
	sum := 0.0
	for _, l := range plan.Loads {
		sum += l.Volume
	}
	if math.Abs(sum-plan.Volume) > 0.01*plan.Volume {
		t.Errorf("loads come to %.2f mm³ of %.2f", sum, plan.Volume)
	}
	carried := float64(len(plan.Loads)) * a.Carrier.Holds() * a.Density
	if carried < plan.Charge.Mass || carried > plan.Charge.Mass+a.Carrier.Holds()*a.Density {
		t.Errorf("%d loads carry %.0f mg of %.0f", len(plan.Loads), carried, plan.Charge.Mass)
	}
}

// A filling's steps stand in the order of the work; every load and every increment is in them
// once, and no mix is condensed past its time.
func TestStepsOfAFilling(t *testing.T) {
	names := func(steps []procedure.Step) string {
		all := make([]string, len(steps))
		for n, s := range steps {
			all[n] = s.Name
			if c := s.Clock; c != nil && (c.Most < c.Least || c.Most <= 0 || c.After != "" && !strings.HasPrefix(c.After, string(procedure.Triturate))) {
				t.Errorf("the clock of %s is %+v", s.Name, *c)
			}
		}
		return strings.Join(all, "; ")
	}
	filling := func(c *intake.Case) pipeline.Filling {
		r, err := planner.Judged(t.Context(), c, tableGrid)
		if err != nil {
			t.Fatal(err)
		}
		return r.Fill(fill.Usual()).Fillings[0]
	}
	amalgam := filling(forms[3].on("47", school.Amalgam, "board"))
	if got, want := names(amalgam.Steps), "Protect the pulp; Band round the tooth, in a retainer; Triturate; Condense; Triturate again; Condense; Burnish; Matrix off; Carve; Check occlusion; Floss; Smooth; Tell the patient"; got != want {
		t.Errorf("amalgam: %s, want %s", got, want)
	}
	loads := 0
	for _, m := range amalgam.Plans[0].Charge.Mixes {
		loads += m.Loads
	}
	if loads != len(amalgam.Plans[0].Loads) {
		t.Errorf("%d loads are mixed of %d", loads, len(amalgam.Plans[0].Loads))
	}
	composite := filling(forms[0].on("36", school.Composite, "board"))
	if got, want := names(composite.Steps), "Etch enamel; Etch dentin; Rinse; Dry; Bond; Air-thin; Cure the bond; Lay layer 1; Cure layer 1; Lay layer 2; Cure layer 2; Remove excess; Check occlusion; Finish; Etch the margins again; Seal; Tell the patient"; got != want {
		t.Errorf("composite: %s, want %s", got, want)
	}
	short := fill.With([]fill.Product{{Kind: fill.Packable, Name: "Quick", Figures: map[string]float64{"working_seconds": 20}}})
	for _, s := range fill.Steps(composite.Subject, nil, fill.Plans(composite.Subject, nil, short), composite.Matrix, short) {
		if s.Kind == procedure.LayIncrement && !strings.Contains(s.Caution, "stays soft for 20 s") {
			t.Errorf("%s with a quick composite cautions %q", s.Name, s.Caution)
		}
	}
}

// A product that cures through little is laid in many increments, the first of a box with them.
func TestThinIncrementsKeepToTheirProduct(t *testing.T) {
	thin := fill.With([]fill.Product{{Kind: fill.Packable, Name: "Thin", Figures: map[string]float64{"cure_depth_mm": 0.6}}})
	for id, f := range map[string]form{"traditional": forms[2], "adhesive": forms[0]} { // layers in a box, wedges
		r, err := planner.Judged(t.Context(), f.on("26", school.Composite, id), DefaultGrid)
		if err != nil {
			t.Fatal(err)
		}
		for _, p := range fill.Plans(r.Subjects[0], nil, thin) {
			tiled(t, p)
			if len(p.Increments) < 5 || p.Increments[0].Most > 0.6 {
				t.Errorf("%s: %d increments, the first of at most %.1f mm", id, len(p.Increments), p.Increments[0].Most)
			}
		}
	}
}

// A cusp that is gone leaves no wall to pack against: there is a band although no box is open.
func TestALostCuspTakesABand(t *testing.T) {
	c := molarCase()
	c.Tooth = notation.MustParse("36")
	c.Findings = []lesion.Finding{{Kind: "fissure_caries", Site: "central", Depth: "outer_dentin"}, {Kind: "fracture", Site: "mesiolingual"}}
	c.Choice = intake.Choice{Material: school.Amalgam, School: "board"}
	r, err := planner.Judged(t.Context(), c, tableGrid)
	if err != nil || r.Refused() != "" {
		t.Fatal(err, r.Refused())
	}
	f := r.Fill(fill.Usual()).Fillings[0]
	if f.Matrix.Kind != fill.Circumferential || procedure.First(f.Steps, procedure.PlaceMatrix) < 0 || procedure.First(f.Steps, procedure.RemoveMatrix) < 0 {
		t.Errorf("%+v, %+v", f.Matrix, f.Steps)
	}
}

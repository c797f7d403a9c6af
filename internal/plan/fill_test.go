package plan

import (
	"fmt"
	"math"
	"os"
	"testing"

	"obturon/core/fill"
	"obturon/core/school"
)

// Over the class tables increments tile their filling, keep to their limit and hold on to
// something; loads of amalgam fill it; what is filled towards a tooth beside touches it again.
// Some each time, all with the class tables.
func TestFillingsOfTheClassTables(t *testing.T) {
	every := 29
	if os.Getenv("OBTURON_TABLES") != "" {
		every = 1
	}
	products := fill.Usual()
	p := NewPlanner()
	for n, c := range classTable() {
		if n%every != 0 {
			continue
		}
		t.Run(fmt.Sprintf("%s %s %s %s", c.Tooth, c.Findings[0].Site, c.Choice.Material, c.Choice.School), func(t *testing.T) {
			r, err := p.Judged(t.Context(), c, DefaultGrid)
			if err != nil {
				t.Fatal(err)
			}
			for _, f := range r.Filled(products) {
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
						t.Errorf("%s of the tooth beside, the filling stays %.2f mm off", side, nearest)
					}
				}
			}
		})
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

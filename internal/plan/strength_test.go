package plan

import (
	"math"
	"strings"
	"testing"

	"obturon/core/forces"
	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/core/resist"
	"obturon/core/school"
)

// onTwenty runs a test on the teeth of heldTeeth side by side, each with an amalgam MOD,
// or a DO.
func onTwenty(t *testing.T, test func(t *testing.T, p *Planner, c *intake.Case)) {
	for _, tooth := range heldTeeth() {
		t.Run(tooth, func(t *testing.T) {
			t.Parallel()
			f := forms[3]
			if notation.MustParse(tooth).Primary() { // there an MOD is advised against
				f = forms[2]
			}
			c := f.on(tooth, school.Amalgam, "")
			c.Choice.School = schoolFor(c)
			test(t, planner, c)
		})
	}
}

// drawn are the figures of a case's first cavity.
func drawn(t *testing.T, p *Planner, c *intake.Case, grid float64) map[string]float64 {
	t.Helper()
	r, err := p.Judged(t.Context(), c, grid)
	if err != nil {
		t.Fatal(err)
	}
	figures := map[string]float64{}
	for _, d := range r.Dimensions() {
		figures[d.ID] = d.Value
	}
	return figures
}

// A deeper floor and a wider isthmus cost stiffness, depth more; a rounder line angle is
// pulled less; finer cells change little.
func TestWhatWeakensATooth(t *testing.T) {
	onTwenty(t, func(t *testing.T, p *Planner, c *intake.Case) {
		with := forces.UsualLoading(c, resist.Usual())
		parts := func(figure string, by float64, fine bool) float64 {
			t.Helper()
			own := *c
			own.Overrides = map[string]float64{}
			if figure != "" {
				own.Overrides[figure] = drawn(t, p, c, tableGrid)[figure] + by
			}
			deflected, without, err := p.DeflectionOf(t.Context(), &own, with, tableGrid, fine, nil)
			if err != nil || without != "" {
				t.Fatalf("%s by %.1f: %v %s", figure, by, err, without)
			}
			return deflected.Empty.Opening
		}
		own, deeper, narrower := parts("", 0, false), parts("pulpal_depth", 0.4, false), parts("isthmus_width", -0.2, false)
		least := 1.02
		if c.Tooth.Primary() { // a short isthmus beside one box
			least = 0.995
		}
		if deeper < least*own || narrower > 1.005*own {
			t.Errorf("cusps deflect by %.2f µm, 0.4 deeper by %.2f, 0.2 narrower by %.2f", own, deeper, narrower)
		}
		if fine := parts("", 0, true); math.Abs(fine/own-1) > 0.05 {
			t.Errorf("cusps deflect by %.2f µm, on finer cells by %.2f", own, fine)
		}
		s, without, err := p.StrainOf(t.Context(), c, 0, forces.AsCut, with, tableGrid)
		if err != nil || without != "" {
			t.Fatal(err, without)
		}
		if pulled := s.RadiusTimes > 0; !pulled && !strings.Contains(s.RadiusText, "pressed") || pulled && (s.OtherRadius > s.Radius == (s.RadiusTimes > 1)) {
			t.Errorf("line angles of %.2f instead of %.2f mm take the tension to %.2f: %s", s.OtherRadius, s.Radius, s.RadiusTimes, s.RadiusText)
		}
	})
}

// The freest way out hangs on the lattice by half a degree at most, and what stands against
// a pull by some hundredths, of walls alone as of boxes with their grooves.
func TestHoldDoesNotHangOnTheGrid(t *testing.T) {
	onTwenty(t, func(t *testing.T, p *Planner, c *intake.Case) {
		for name, f := range map[string]form{"with boxes": {findings: c.Findings}, "O": forms[0]} {
			own := f.on(c.Tooth.String(), school.Amalgam, c.Choice.School)
			own.Overrides = drawn(t, p, own, DefaultGrid) // else each lattice has its own solved
			degrees, pulls := heldOn(t, p, own, DefaultGrid)
			fineDegrees, finePulls := heldOn(t, p, own, 0.7*DefaultGrid)
			if math.Abs(degrees-fineDegrees) > 0.5 {
				t.Errorf("%s: walls lean by %.2f degrees, on a finer lattice by %.2f", name, degrees, fineDegrees)
			}
			other := *own
			other.Tooth = mirrored(own.Tooth)
			_, otherPulls := heldOn(t, p, &other, DefaultGrid)
			for check, mm := range pulls {
				if math.Abs(mm-otherPulls[check]) > 0.03 {
					t.Errorf("%s: %s holds by %.3f mm, on %s by %.3f", name, check, mm, other.Tooth, otherPulls[check])
				}
				allowed := 0.03
				if strings.HasPrefix(check, string(school.RetainTipping)) {
					allowed = 0.04 // a turn reads the walls' normals, of which a groove has few
				}
				if math.Abs(mm-finePulls[check]) > allowed {
					t.Errorf("%s: %s holds by %.3f mm, on a finer lattice by %.3f", name, check, mm, finePulls[check])
				}
			}
		}
	})
}

// mirrored is the same tooth on the other side.
func mirrored(tooth notation.Tooth) notation.Tooth {
	opposite := map[byte]string{'1': "2", '2': "1", '3': "4", '4': "3", '5': "6", '6': "5", '7': "8", '8': "7"}
	iso := tooth.String()
	return notation.MustParse(opposite[iso[0]] + iso[1:])
}

// heldOn is by how much the walls of a case's first filling lean out, degrees, and what
// stands against its pulls, mm, by check and place.
func heldOn(t *testing.T, p *Planner, c *intake.Case, grid float64) (degrees float64, pulls map[string]float64) {
	t.Helper()
	r, err := p.Judged(t.Context(), c, grid)
	if err != nil {
		t.Fatal(err)
	}
	pulls = map[string]float64{}
	for _, check := range r.Checks {
		switch check.ID {
		case school.RetainPullOcclusal, school.RetainPullProximal, school.RetainTipping:
			pulls[string(check.ID)+" "+check.Side] = check.Value
		}
	}
	return r.Subjects[0].Beds()[0].Release().Degrees, pulls
}

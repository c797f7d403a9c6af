package tolerance

import (
	"context"
	"errors"
	"math"
	"math/rand/v2"
	"slices"
	"sync"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/assess"
	"obturon/core/cavity/cavitytest"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/procedure"
	"obturon/core/rehearsal"
	"obturon/core/school"
)

// rehearsed is the Class I of an upper second premolar by the board, and its checks as
// drawn; made once.
var rehearsed = sync.OnceValues(func() (*rehearsal.Rehearsal, []assess.Check) {
	var t testing.T
	finding := lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin}
	subject := cavitytest.Cut(&t, cavitytest.Propose(&t, cavitytest.Request(&t, "15", "board", school.Amalgam, 0.1, finding)), nil)
	r, err := rehearsal.Of(context.Background(), nil, subject.Cavity, subject.Workpiece, nil)
	if err != nil {
		panic(err)
	}
	drawn, err := assess.Cavity(context.Background(), subject)
	if err != nil {
		panic(err)
	}
	return r, drawn
})

func depthOf(t *testing.T, checks []assess.Check) assess.Check {
	t.Helper()
	n := slices.IndexFunc(checks, func(c assess.Check) bool { return c.ID == school.ResistPulpalDepth })
	if n < 0 || !checks[n].Measured() {
		t.Fatal("no depth is measured")
	}
	return checks[n]
}

func once(t *testing.T, r *rehearsal.Rehearsal, h Hand, seed uint64) Outcome {
	t.Helper()
	o, err := Once(t.Context(), r, h, seed)
	if err != nil {
		t.Fatal(err)
	}
	return o
}

// A perfect hand makes what the rehearsal made; one that goes deeper by some bias makes a
// floor deeper by just that, and walls further out are measured so.
func TestKnownErrorsAreMeasured(t *testing.T) {
	r, _ := rehearsed()
	cut, err := assess.Cavity(t.Context(), measure.NewSubject(measure.NewPrepared(r.Cavity.Model, r.Cut()), r.Cavity))
	if err != nil {
		t.Fatal(err)
	}
	perfect := once(t, r, Hand{}, 1)
	for n, c := range perfect.Checks {
		if c.Verdict != cut[n].Verdict || math.Abs(c.Value-cut[n].Value) > 0.05 {
			t.Errorf("%s: %.3f %s by a perfect hand, %.3f %s rehearsed", c.ID, c.Value, c.Verdict, cut[n].Value, cut[n].Verdict)
		}
	}
	d0 := depthOf(t, perfect.Checks).Value
	for _, bias := range []float64{-0.1, 0.1, 0.2} {
		if got := depthOf(t, once(t, r, Hand{DepthBias: bias}, 1).Checks).Value - d0; math.Abs(got-bias) > 0.02 {
			t.Errorf("a bias of %.2f moves the depth by %.3f", bias, got)
		}
	}
	wider := once(t, r, Hand{Extension: 0.1}, 1)
	for n, c := range wider.Checks {
		if c.ID == school.OutlineIsthmusWidth {
			if got := c.Value - perfect.Checks[n].Value; got < 0.15 || got > 0.25 {
				t.Errorf("walls 0.1 further out widen the isthmus by %.3f", got)
			}
		}
	}
	if wider.Taken <= perfect.Taken {
		t.Errorf("%.2f mm³ with wider walls, %.2f without", wider.Taken, perfect.Taken)
	}
}

// With one cut that alone makes the floor, the depth of every run can be worked out by hand:
// the chances agree with that, and with the normal distribution.
func TestChancesAgreeWithWhatIsWorkedOutByHand(t *testing.T) {
	whole, drawn := rehearsed()
	alone := *whole
	n := slices.IndexFunc(whole.Steps, func(s rehearsal.Step) bool { return s.Kind == procedure.Ridges })
	alone.Steps = whole.Steps[n : n+1]
	const runs = 60
	h := Hand{DepthScatter: 0.2}
	seeds := Seeds(1, runs)
	told := 0
	outcomes, err := Run(t.Context(), &alone, h, seeds, func(done int) { told = max(told, done) })
	if err != nil || told != runs {
		t.Fatalf("%d of %d runs are told of: %v", told, runs, err)
	}
	d0 := depthOf(t, once(t, &alone, Hand{}, 1).Checks)
	met, near := 0, 0
	for k, o := range outcomes {
		want := d0.Value + h.Draw(1, seeds[k])[0].Depth
		at := slices.IndexFunc(o.Checks, func(c assess.Check) bool { return c.ID == school.ResistPulpalDepth })
		got := o.Checks[at]
		if !got.Measured() && want < 1.4 {
			continue // hardly a floor is left
		}
		if math.Abs(got.Value-want) > 0.035 {
			t.Errorf("seed %d: a depth of %.3f, %.3f by hand", seeds[k], got.Value, want)
		}
		if assess.Judge(want, got.Target, got.Limits) == assess.Met {
			met++
		}
		if low, high := got.Target.Ends(); math.Abs(want-*low) < 0.035 || high != nil && math.Abs(want-*high) < 0.035 {
			near++ // so near to an end that either is right
		}
	}
	chances := Chances(drawn, outcomes)
	k := slices.IndexFunc(chances, func(c Chance) bool { return c.Check.ID == school.ResistPulpalDepth })
	c := chances[k]
	if off := math.Abs(c.Met*runs - float64(met)); off > float64(near) {
		t.Errorf("met in %.0f of %d runs, %d by hand", c.Met*runs, runs, met)
	}
	phi := func(x float64) float64 { return 0.5 * math.Erfc(-x/math.Sqrt2) }
	low, high := d0.Target.Ends()
	expected := 1 - phi((*low-d0.Value)/h.DepthScatter)
	if high != nil {
		expected -= 1 - phi((*high-d0.Value)/h.DepthScatter)
	}
	if expected < c.Low-0.03 || expected > c.High+0.03 {
		t.Errorf("met in %.2f (%.2f to %.2f), expected in %.2f", c.Met, c.Low, c.High, expected)
	}
	if math.Abs(c.Mean-d0.Value) > 0.06 || math.Abs(c.Deviates-h.DepthScatter) > 0.05 {
		t.Errorf("depths of %.3f ± %.3f about %.3f", c.Mean, c.Deviates, d0.Value)
	}
	// Going deeper costs tooth.
	for _, a := range Aims {
		if a.Words != "Aim 0.1 mm deeper." {
			continue
		}
		with, err := Run(t.Context(), &alone, a.Of(h), seeds[:10], nil)
		if err != nil {
			t.Fatal(err)
		}
		if g := Compare(drawn, outcomes[:10], with); g.Tooth < 0.2 {
			t.Errorf("0.1 mm deeper costs %.2f mm³", g.Tooth)
		}
	}
}

func TestARunStopsWithItsContext(t *testing.T) {
	r, _ := rehearsed()
	ctx, cancel := context.WithCancel(t.Context())
	_, err := Run(ctx, r, Usual, Seeds(1, 50), func(done int) {
		if done == 2 {
			cancel()
		}
	})
	if !errors.Is(err, context.Canceled) {
		t.Errorf("a run that was given up: %v", err)
	}
}

func TestErrorsAreDrawnAsTheyAreAskedFor(t *testing.T) {
	h := Hand{DepthBias: 0.1, DepthScatter: 0.08, Tilt: 3, Wander: 0.06}
	var depth, tilt, wander []float64
	for seed := range uint64(400) {
		for _, e := range h.Draw(5, seed) {
			depth = append(depth, e.Depth)
			tilt = append(tilt, math.Atan(r3.Norm(e.Tilt))*180/math.Pi)
			for s := range 5 {
				wander = append(wander, e.wander[0].at(float64(s)*1.7))
			}
		}
	}
	mean, deviation := spread(depth)
	if math.Abs(mean-0.1) > 0.01 || math.Abs(deviation-0.08) > 0.01 {
		t.Errorf("depths %.3f ± %.3f", mean, deviation)
	}
	square := 0.0
	for _, v := range tilt {
		square += v * v / float64(len(tilt))
	}
	if math.Abs(math.Sqrt(square)-3) > 0.2 {
		t.Errorf("tilts of %.2f degrees", math.Sqrt(square))
	}
	if mean, deviation := spread(wander); math.Abs(mean) > 0.01 || math.Abs(deviation-0.06) > 0.01 {
		t.Errorf("strays %.3f ± %.3f", mean, deviation)
	}
	a, b := h.Draw(3, 7), h.Draw(3, 7)
	if !slices.Equal(a, b) {
		t.Error("one seed draws two hands")
	}
}

func TestInterval(t *testing.T) {
	for _, c := range []struct {
		met, n    int
		low, high float64
	}{{0, 10, 0, 0.278}, {5, 10, 0.237, 0.763}, {200, 200, 0.981, 1}, {0, 0, 0, 1}} {
		if low, high := interval(c.met, c.n); math.Abs(low-c.low) > 0.001 || math.Abs(high-c.high) > 0.001 {
			t.Errorf("%d of %d lies between %.3f and %.3f, want %.3f and %.3f", c.met, c.n, low, high, c.low, c.high)
		}
	}
}

func TestTheWeakestComesFirst(t *testing.T) {
	chance := func(id school.CriterionID, severity school.Severity, met, missed float64) Chance {
		return Chance{Check: assess.Check{ID: id, Severity: severity}, Met: met, Missed: missed}
	}
	all := []Chance{
		chance("minor", school.Minor, 0.5, 0.5), chance("safe", school.Critical, 1, 0), chance("critical", school.Critical, 0.9, 0.1), chance("near", school.Major, 0.2, 0),
	}
	rand.Shuffle(len(all), func(a, b int) { all[a], all[b] = all[b], all[a] })
	var order []school.CriterionID
	for _, c := range Weakest(all, 5) {
		order = append(order, c.Check.ID)
	}
	if !slices.Equal(order, []school.CriterionID{"critical", "near", "minor"}) {
		t.Errorf("the weakest are %v", order)
	}
}

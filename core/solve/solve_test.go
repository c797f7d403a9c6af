package solve

import (
	"context"
	"errors"
	"maps"
	"math"
	"reflect"
	"strings"
	"testing"

	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/school"
)

// bench is a made-up cavity whose readings are known functions of its figures.
type bench struct {
	figures []cavity.Dimension
	checks  func(at func(id string) float64) []assess.Check
}

func mm(id string, value, least, most float64) cavity.Dimension {
	return cavity.Dimension{ID: id, Label: id, Unit: "mm", Value: value, Proposed: value, Min: least, Max: most}
}

// wants is a check of a reading, moved by figures with slope 1.
func wants(id school.CriterionID, value float64, target, limits school.Range, severity school.Severity, moves ...string) assess.Check {
	c := assess.Check{
		ID: id, Label: string(id), Unit: "mm", Value: value, Target: target, Limits: limits, Severity: severity, Verdict: assess.Judge(value, target, limits),
	}
	for _, m := range moves {
		c.Moves = append(c.Moves, assess.Move{Dimension: m, Slope: 1})
	}
	return c
}

func (b *bench) solve(ctx context.Context) (Solution, error) {
	return Solve(ctx, b.figures, Effort{20, 6}, b.judge)
}

func (b *bench) judge(_ context.Context, values map[string]float64) (Judged, error) {
	return Judged{Checks: b.checks(func(id string) float64 {
		if v, moved := values[id]; moved {
			return v
		}
		for _, f := range b.figures {
			if f.ID == id {
				return f.Value
			}
		}
		panic(id)
	})}, nil
}

func verdicts(checks []assess.Check) map[school.CriterionID]assess.Verdict {
	all := map[school.CriterionID]assess.Verdict{}
	for _, c := range checks {
		all[c.ID] = c.Verdict
	}
	return all
}

var (
	within = school.Range{Min: 1, Max: 1.2}
	around = school.Range{Min: 0.8, Max: 1.4}
)

// Each figure alone spoils one check as it mends the other: only both together meet both.
func TestFiguresThatPullOnEachOtherAreSolvedTogether(t *testing.T) {
	b := bench{figures: []cavity.Dimension{mm("a", 1, 0, 3), mm("b", 1, 0, 3)}}
	b.checks = func(at func(string) float64) []assess.Check {
		a, b := at("a"), at("b")
		return []assess.Check{
			wants("sum", 1.1+(a-1.6)+0.8*(b-0.4), within, around, school.Major, "a", "b"),
			wants("difference", 1.1+0.7*(a-1.6)-(b-0.4), within, around, school.Major, "a", "b"),
		}
	}
	found, err := b.solve(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	for id, v := range verdicts(found.After) {
		if v != assess.Met {
			t.Errorf("%s is %s with %v", id, v, found.Values)
		}
	}
	if len(found.Conflicts) > 0 || found.Cuts > 12 {
		t.Errorf("%d cuts, conflicts %v", found.Cuts, found.Conflicts)
	}
	if got := found.Gained(); len(got) == 0 || got[0].After != assess.Met {
		t.Errorf("gained %v", got)
	}
}

// A reading that bends is followed by correcting the columns.
func TestABentReadingIsFollowed(t *testing.T) {
	b := bench{figures: []cavity.Dimension{mm("a", 0.3, 0, 3)}}
	b.checks = func(at func(string) float64) []assess.Check {
		return []assess.Check{wants("bent", math.Sqrt(at("a")), within, around, school.Minor, "a")}
	}
	found, err := b.solve(context.Background())
	if err != nil || found.After[0].Verdict != assess.Met {
		t.Errorf("%v with %v: %v", found.After, found.Values, err)
	}
}

// narrowing is a box that opens less than its seat is wide: one depth for two wishes.
func narrowing() *bench {
	b := &bench{figures: []cavity.Dimension{mm("depth", 1.1, 0, 3)}}
	b.checks = func(at func(string) float64) []assess.Check {
		return []assess.Check{
			wants("opening", at("depth")-0.2, within, school.Range{Min: 0.5, Max: 1.4}, school.Minor, "depth"),
			wants("seat", at("depth"), school.Range{Min: 1, Max: 1.15}, school.Range{Min: 1, Max: 1.15}, school.Major, "depth"),
		}
	}
	return b
}

func TestWhatCannotBeMetTogetherIsNamed(t *testing.T) {
	b := narrowing()
	found, err := b.solve(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	if got := verdicts(found.After); got["seat"] != assess.Met || got["opening"] != assess.Near {
		t.Errorf("%v", got)
	}
	if len(found.Conflicts) != 1 || found.Conflicts[0].ID != "opening" || found.Conflicts[0].Against != "seat" {
		t.Fatalf("%+v", found.Conflicts)
	}
	again := append([]assess.Check{}, found.After...)
	found.Explain(again)
	if c := again[0]; c.Against != "seat" || !strings.Contains(c.Fix, "cannot both be met here") {
		t.Errorf("%q against %q", c.Fix, c.Against)
	}
}

// What was cut on the way names a conflict where nothing is left to force it with.
func TestAConflictIsReadFromWhatWasCut(t *testing.T) {
	b := narrowing()
	found, err := Solve(context.Background(), b.figures, Effort{Moves: 20}, b.judge)
	if err != nil {
		t.Fatal(err)
	}
	if len(found.Conflicts) != 1 || found.Conflicts[0].Against != "seat" {
		t.Errorf("%+v", found.Conflicts)
	}
}

func TestWhatNoFigureMovesIsSaidSo(t *testing.T) {
	b := bench{figures: []cavity.Dimension{mm("a", 1, 0, 3)}}
	b.checks = func(func(string) float64) []assess.Check {
		return []assess.Check{wants("stiff", 0.9, within, around, school.Major, "a")}
	}
	found, err := b.solve(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	if len(found.Values) > 0 || len(found.Conflicts) != 1 || found.Conflicts[0].Against != "" || found.Conflicts[0].Says == "" {
		t.Errorf("%+v", found)
	}
}

// A figure at its end is named, and so is what a step further would do away with.
func TestWhatHoldsACheckIsNamed(t *testing.T) {
	short := school.Range{Min: 2, Max: 2.2}
	for _, k := range []struct {
		name    string
		most    float64
		against school.CriterionID
		says    string
	}{
		{"its figure's end", 1.5, "", "with width at the most that can be cut"},
		{"another check's end", 3, "wall", "nothing is left of the second"},
	} {
		b := bench{figures: []cavity.Dimension{mm("width", 1.5, 0, k.most)}}
		b.checks = func(at func(string) float64) []assess.Check {
			wall := wants("wall", 1.1, within, around, school.Critical)
			if at("width") > 1.6 {
				wall = assess.Check{ID: "wall", Verdict: assess.NotMeasurable}
			}
			return []assess.Check{wants("opening", at("width"), short, school.Range{Min: 1, Max: 3}, school.Minor, "width"), wall}
		}
		found, err := b.solve(context.Background())
		if err != nil || len(found.Conflicts) != 1 {
			t.Fatalf("%s: %+v, %v", k.name, found.Conflicts, err)
		}
		if c := found.Conflicts[0]; c.Against != k.against || !strings.Contains(c.Says, k.says) {
			t.Errorf("%s: against %q: %q", k.name, c.Against, c.Says)
		}
	}
}

// Leaving a check out of reach of its gauge is no way to meet it.
func TestACheckThatVanishesIsNotMet(t *testing.T) {
	b := bench{figures: []cavity.Dimension{mm("bevel", 0.7, 0, 0.8)}}
	b.checks = func(at func(string) float64) []assess.Check {
		c := wants("width", at("bevel"), school.Range{Min: 0.3, Max: 0.4}, school.Range{Min: 0.2, Max: 0.5}, school.Minor, "bevel")
		if at("bevel") < 0.65 {
			c = assess.Check{ID: "width", Verdict: assess.NotMeasurable}
		}
		return []assess.Check{c}
	}
	found, err := b.solve(context.Background())
	if err != nil || !found.After[0].Measured() {
		t.Errorf("%+v, %v", found, err)
	}
}

// What cannot be built is no solution, and does not end the solving.
func TestFiguresThatLeaveTheToothAreLeftAlone(t *testing.T) {
	figures := []cavity.Dimension{mm("reach", 1, 0, 9), mm("depth", 1, 0, 9)}
	judge := func(_ context.Context, values map[string]float64) (Judged, error) {
		reach, depth := 1.0, 1.0
		if v, moved := values["reach"]; moved {
			reach = v
		}
		if v, moved := values["depth"]; moved {
			depth = v
		}
		if reach > 1.1 {
			return Judged{}, cavity.ErrBoxOffTooth
		}
		return Judged{Checks: []assess.Check{wants("clearance", reach+depth, school.Range{Min: 2.4, Max: 2.6}, school.Range{Min: 2, Max: 3}, school.Major, "reach", "depth")}}, nil
	}
	found, err := Solve(context.Background(), figures, Effort{20, 6}, judge)
	if err != nil || found.After[0].Verdict != assess.Met || found.Values["reach"] > 1.1 {
		t.Errorf("%+v, %v", found, err)
	}
}

func TestSolvingIsRepeatable(t *testing.T) {
	b := bench{figures: []cavity.Dimension{mm("a", 0.5, 0, 3), mm("b", 0.5, 0, 3), mm("c", 0.5, 0, 3)}}
	b.checks = func(at func(string) float64) []assess.Check {
		return []assess.Check{
			wants("one", at("a")*at("b"), within, around, school.Major, "a", "b"),
			wants("two", at("b")+math.Sin(at("c")), within, around, school.Minor, "b", "c"),
			wants("three", at("a")+at("c"), within, around, school.Minor, "c", "a"),
		}
	}
	first, err := b.solve(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	for range 5 {
		if again, err := b.solve(context.Background()); err != nil || !maps.Equal(again.Values, first.Values) || !reflect.DeepEqual(again.Conflicts, first.Conflicts) {
			t.Fatalf("%v and %v: %v", first.Values, again.Values, err)
		}
	}
}

func TestSolvingEndsWithTheContextAndWithErrors(t *testing.T) {
	ended, end := context.WithCancel(context.Background())
	end()
	b := bench{figures: []cavity.Dimension{mm("a", 1, 0, 3)}, checks: func(func(string) float64) []assess.Check { return nil }}
	if _, err := b.solve(ended); !errors.Is(err, context.Canceled) {
		t.Errorf("%v", err)
	}
	broken := errors.New("a defect")
	if _, err := Solve(context.Background(), b.figures, Effort{20, 6}, func(context.Context, map[string]float64) (Judged, error) { return Judged{}, broken }); !errors.Is(err, broken) {
		t.Errorf("%v", err)
	}
}

// A miss outweighs every near of its weight, and half a way counts.
func TestTheCostOfAReading(t *testing.T) {
	c := wants("any", 1, within, around, school.Major)
	p := priceOf(c, 0)
	inside, near, nearer, missed := p.at(1.1), p.at(1.35), p.at(1.25), p.at(1.5)
	if inside != 0 || !(nearer > 0 && nearer < near && near < missed/5) {
		t.Errorf("met %g, near %g and %g, missed %g", inside, nearer, near, missed)
	}
	if narrow := priceOf(c, reserve(c)*3); narrow.at(1.19) == 0 {
		t.Error("a reading inside the reserve costs nothing")
	}
}

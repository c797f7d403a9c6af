// Package assess judges the readings of a cavity by a school's criteria. It
// collects every check with its place, reason, what to change in the plan and what to do on
// a tooth that is cut so, and never stops at the first.
package assess

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/parallel"
	"obturon/core/resist"
	"obturon/core/school"
)

// Verdict of a check.
type Verdict string

// Met lies in the target, near within the limits, missed outside. What the school asks
// for and the cavity has nothing of is not measurable; what it does not ask for is not
// applicable.
const (
	Met           Verdict = "met"
	Near          Verdict = "near"
	Missed        Verdict = "missed"
	NotMeasurable Verdict = "not_measurable"
	NotApplicable Verdict = "not_applicable"
)

// Verdicts lists them.
var Verdicts = []Verdict{Met, Near, Missed, NotMeasurable, NotApplicable}

// Judge places a measured value: Met inside target, Near inside limits, Missed
// outside. Ends count as inside, to a ten-thousandth.
func Judge(value float64, target, limits school.Range) Verdict {
	const slack = 1e-4
	switch {
	case target.Within(slack).Contains(value):
		return Met
	case limits.Within(slack).Contains(value):
		return Near
	default:
		return Missed
	}
}

// Check is one judged criterion.
type Check struct {
	ID          school.CriterionID
	Label       string
	Form        school.Form
	Value       float64
	Uncertainty float64
	Unit        string
	Target      school.Range
	Limits      school.Range // of the school, as Target is, with what a finding needs
	Verdict     Verdict
	Severity    school.Severity
	Where       measure.Place
	Side        string // the box or the cavity it is about: mesial, distal, facial cervical; "" of the only one
	Why         string
	// Fix says what to change in the plan, or what keeps the check from being met; Chair
	// what to do on a tooth that is cut so.
	Fix, Chair string
	// Cause is the finding that keeps a check from being met, nil where the design could
	// meet it.
	Cause *lesion.Finding
	// Followed tells that a finding is followed to where the value was read.
	Followed bool
	// Against is the criterion that keeps a check from being met, "" where none does.
	Against school.CriterionID
	// Moves are the figures of the design that move this value, best first.
	Moves []Move
}

// Measured reports a check with a value.
func (c Check) Measured() bool { return c.Verdict != NotMeasurable && c.Verdict != NotApplicable }

// Cavity judges a cavity by every criterion that it has, in the order of the work.
// It stops between gauges with the context's error.
func Cavity(ctx context.Context, s *measure.Subject) ([]Check, error) {
	turns := measure.Turns(s)
	// Gauges only read the solid: all processors take them.
	judged := make([]*Check, len(turns))
	err := parallel.EachUntil(ctx, len(turns), func(n int) {
		if c, holds := judge(s, turns[n]); holds {
			judged[n] = &c
		}
	})
	if err != nil {
		return nil, err
	}
	var checks []Check
	for _, c := range judged {
		if c != nil {
			checks = append(checks, *c)
		}
	}
	slices.SortStableFunc(checks, func(a, b Check) int { return order(a) - order(b) })
	nameConflicts(s.Cavity.Kind, checks)
	return checks, nil
}

// order is the place of a check in the work: its form, then its criterion.
func order(c Check) int {
	at := slices.IndexFunc(school.Catalogue, func(e school.Entry) bool { return e.ID == c.ID })
	return slices.Index(school.Forms, c.Form)*len(school.Catalogue) + at
}

// judge takes one gauge's readings and judges them; holds is false where the
// school is silent.
func judge(s *measure.Subject, t measure.Turn) (c Check, holds bool) {
	criterion, known := s.Cavity.Asks(t.Criterion)
	if !known {
		return c, false
	}
	entry, _ := school.Find(t.Criterion)
	entry = entry.For(string(s.Cavity.Kind))
	c = Check{
		ID: entry.ID, Label: entry.Label, Form: entry.Form, Side: s.Cavity.Name, Moves: moves(s.Cavity, entry, string(t.Side), ""),
		Unit: entry.Unit, Severity: criterion.Severity, Why: criterion.Why, Verdict: NotApplicable,
	}
	if t.Side != "" {
		c.Side, c.Label = string(t.Side), entry.Label+", "+string(t.Side)
	}
	if !criterion.Required() || !t.Asked(s) {
		return c, true
	}
	criterion = criterion.On(s.Model.Intercuspal)
	reading, target, limits, ok := worst(criterion, t.Read(s))
	byHand := slices.ContainsFunc(s.Cavity.Dimensions, func(d cavity.Dimension) bool { return d.ID == c.Dimension() && d.Overridden() })
	if ok && reading.Need > target.Max && !byHand {
		// What caries needs is no fault of the proposal: only what goes beyond it is judged.
		limits.Max += reading.Need - target.Max
		target.Max = reading.Need
		c.Why += " " + entry.Needed()
	}
	c.Target, c.Limits = target, limits
	if !ok {
		c.Verdict, c.Fix = NotMeasurable, entry.Missing()
		return c, true
	}
	c.Value, c.Uncertainty, c.Where = reading.Value, reading.Uncertainty, reading.Where
	if reading.MoreFor != "" {
		c.Why += " More is wanted here: " + reading.MoreFor + "."
	}
	c.Moves = moves(s.Cavity, entry, string(t.Side), reading.Where.Name)
	c.Followed = followed(s, reading)
	c.Verdict = Judge(reading.Value, target, limits)
	if c.Verdict == Missed && entry.FailsUnder > 0 && reading.Value < entry.FailsUnder && limits.Min > 0 {
		c.Severity = school.Critical
	}
	if entry.Bars(reading.Value) {
		c.Verdict, c.Severity, c.Fix = Missed, school.Major, entry.BarredSays
		return c, true
	}
	if c.Verdict == Met {
		return c, true
	}
	off := target.Off(reading.Value)
	if c.Verdict == Near && c.WithinError() {
		c.Verdict, c.Fix = Met, entry.WithinError(off)
		return c, true
	}
	if c.ID == school.ResistCuspThickness && reading.Value < target.Min && reading.Over > 0 {
		c.Why += fmt.Sprintf(
			" Standing %s over its base, this one gives way %.1f times as far under a load across it as one %s thick would (an unfilled plane section).",
			school.InUnit(
				reading.Over,
				c.Unit,
			),
			resist.CuspGive(reading.Over, reading.Value)/resist.CuspGive(reading.Over, target.Min),
			school.InUnit(target.Min, c.Unit),
		)
	}
	found, said := c.cause(s, reading, target)
	c.Cause, c.Chair = found, entry.Fix(reading.Value < target.Min, off, reading.Where.Name)
	c.Fix = strings.TrimSpace(said)
	if c.Fix == "" {
		c.Fix = cmp.Or(c.planned(s.Cavity, target), c.Chair)
	}
	return c, true
}

// Of judges another value by the same check: of a wall that is not the one which decided.
func (c Check) Of(value float64) Verdict {
	const same = 1e-6
	if !c.Measured() || math.Abs(value-c.Value) < same {
		return c.Verdict
	}
	other := c
	if other.Value, other.Verdict = value, Judge(value, c.Target, c.Limits); other.Verdict == Near && other.WithinError() {
		return Met
	}
	return other.Verdict
}

// WithinError reports a value that nobody could tell from one that meets its target.
func (c Check) WithinError() bool {
	return c.Target.Off(c.Value) <= min(c.Uncertainty, grace(c.Unit))
}

// grace is the most, by unit, by which a reading may lie past its target and count as met
// for its measuring error: what a probe, or an eye, tells at the chair.
func grace(unit string) float64 {
	switch unit {
	case "deg":
		return 2
	case "mm3":
		return 0 // caries is left or it is not
	}
	return 0.05
}

// worst picks the reading furthest from the target, with the target and limits in
// its own figures; ok is false where there is none.
func worst(c school.Criterion, readings []measure.Reading) (r measure.Reading, target, limits school.Range, ok bool) {
	target, limits = c.Target, c.Limits
	furthest := math.Inf(-1)
	for _, candidate := range readings {
		own := c.OfGroove(candidate.Whole)
		own.Target.Min += candidate.More
		own.Limits.Min += candidate.More
		needed := own.Target
		needed.Max = math.Max(needed.Max, candidate.Need)
		if off := needed.Off(candidate.Value); !ok || off > furthest {
			r, target, limits, furthest, ok = candidate, own.Target, own.Limits, off, true
		}
	}
	return r, target, limits, ok
}

// Worst is the worst verdict among checks; met where there is none.
func Worst(checks []Check) Verdict {
	worst := Met
	for _, c := range checks {
		switch c.Verdict {
		case Missed:
			return Missed
		case Near:
			worst = Near
		}
	}
	return worst
}

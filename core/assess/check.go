// Package assess judges a measured preparation by a school's criteria. It
// collects every check with its place, reason and the least risky fix, and
// never stops at the first.
package assess

import (
	"fmt"
	"math"
	"slices"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/prep"
	"obturon/core/school"
	"obturon/core/solid"
)

// Verdict of a check.
type Verdict string

// Met lies in the target, near within the limits, missed outside.
const (
	Met           Verdict = "met"
	Near          Verdict = "near"
	Missed        Verdict = "missed"
	NotApplicable Verdict = "not_applicable"
)

// Judge places a measured value: Met inside target, Near inside limits, Missed
// outside. Ends count as inside, to a ten-thousandth.
func Judge(value float64, target, limits school.Range) Verdict {
	const slack = 1e-4
	wide := func(r school.Range) school.Range { return school.Range{Min: r.Min - slack, Max: r.Max + slack} }
	switch {
	case wide(target).Contains(value):
		return Met
	case wide(limits).Contains(value):
		return Near
	default:
		return Missed
	}
}

// Check is one judged criterion.
type Check struct {
	ID          string
	Label       string
	Form        string // outline, resistance, retention, convenience or finish
	Value       float64
	Uncertainty float64
	Unit        string
	Target      school.Range
	Verdict     Verdict
	Severity    school.Severity
	Where       measure.Place
	Side        string // mesial or distal, of a box; else ""
	Why         string
	Fix         string
	// Dimension is the design figure that moves this value, "" if none.
	Dimension string
}

// Subject is what a preparation is judged from.
type Subject struct {
	Prepared *measure.Prepared
	Lesions  []lesion.Lesion
	Facing   map[notation.Side]*anatomy.Facing // the teeth beside, where there are any
	Fissures [][]r3.Vec                        // those the outline is to take in
	Contacts []solid.Point2                    // occlusal, on the table: mm mesial and facial
	Boxes    []notation.Side
	School   *school.School
	Material string
	// Occlusal tells that fissures are opened, Dovetail that the design draws
	// one; without them there is nothing of the kind to judge.
	Occlusal, Dovetail bool
}

// Preparation runs every criterion that a Class I or II preparation has, in
// the order of the work.
func Preparation(s Subject) []Check {
	var all []asked
	for _, r := range rules {
		if !r.occlusal || s.Occlusal {
			all = append(all, asked{r, ""})
		}
	}
	for _, side := range s.Boxes {
		for _, r := range boxRules {
			all = append(all, asked{r.at(s, side), side.String()})
		}
	}
	return s.judge(all)
}

// asked is a rule with the side or the site that it is about, "" for the whole.
type asked struct {
	rule
	side string
}

// judge runs rules and lists their checks in the order of the work.
func (s Subject) judge(all []asked) []Check {
	// Gauges only read the solid: all processors take them.
	answers := make([]*Check, len(all))
	var judged sync.WaitGroup
	for n, a := range all {
		judged.Go(func() {
			if c, ok := s.check(a.rule); ok {
				c.Side = a.side
				answers[n] = &c
			}
		})
	}
	judged.Wait()
	var checks []Check
	for _, c := range answers {
		if c != nil {
			checks = append(checks, *c)
		}
	}
	slices.SortStableFunc(checks, func(a, b Check) int { return slices.Index(forms, a.Form) - slices.Index(forms, b.Form) })
	return checks
}

// forms are the forms of a preparation in their working order.
var forms = []string{"outline", "resistance", "retention", "convenience", "finish"}

// rule ties a criterion to its gauge and to the words that go with it.
type rule struct {
	id, label, form, dimension string
	occlusal                   bool // of opened fissures only
	gauge                      func(s Subject, c school.Criterion) (r measure.Reading, target, limits school.Range, ok bool)
	// fix says what to do about a value that is low or high by an amount.
	fix func(short bool, by float64, where string) string
	// fatal reports a value whose miss fails the preparation, whatever the
	// criterion's own severity; it may be nil.
	fatal func(value float64, c school.Criterion) bool
}

// check measures and judges one rule; ok is false where the school is silent.
func (s Subject) check(r rule) (Check, bool) {
	criterion, known := s.School.For(r.id, s.Prepared.Model.Tooth, s.Material)
	if !known {
		return Check{}, false
	}
	c := Check{
		ID: r.id, Label: r.label, Form: r.form, Dimension: r.dimension,
		Unit: school.Units[r.id], Severity: criterion.Severity, Why: criterion.Why, Verdict: NotApplicable,
	}
	if !criterion.Required() {
		return c, true
	}
	reading, target, limits, ok := r.gauge(s, criterion)
	c.Target = target
	if !ok {
		return c, true
	}
	c.Value, c.Uncertainty, c.Where = reading.Value, reading.Uncertainty, reading.Where
	c.Verdict = Judge(reading.Value, target, limits)
	if c.Verdict == Missed && r.fatal != nil && r.fatal(reading.Value, criterion) {
		c.Severity = school.Critical
	}
	if c.Verdict != Met {
		short := reading.Value < target.Min
		by := reading.Value - target.Max
		if short {
			by = target.Min - reading.Value
		}
		c.Fix = r.fix(short, by, reading.Where.Name)
	}
	return c, true
}

// simple adapts a gauge whose criterion stands in absolute figures.
func simple(gauge func(Subject) (measure.Reading, bool)) func(Subject, school.Criterion) (measure.Reading, school.Range, school.Range, bool) {
	return func(s Subject, c school.Criterion) (measure.Reading, school.Range, school.Range, bool) {
		r, ok := gauge(s)
		return r, c.Target, c.Limits, ok
	}
}

// worst picks, among readings of like kind, the one furthest from the target.
func worst(target school.Range, readings ...measure.Reading) (measure.Reading, bool) {
	var found measure.Reading
	far, ok := math.Inf(-1), false
	for _, r := range readings {
		off := math.Max(target.Min-r.Value, r.Value-target.Max)
		if off > far {
			far, found, ok = off, r, true
		}
	}
	return found, ok
}

// wallReadings measures the lean of walls that exist; sign +1 counts leaning
// in as positive, -1 leaning out.
func wallReadings(s Subject, sign float64, features ...uint16) []measure.Reading {
	var readings []measure.Reading
	for _, f := range features {
		if r, ok := s.Prepared.WallLean(f); ok {
			r.Value *= sign
			readings = append(readings, r)
		}
	}
	return readings
}

func mm(v float64) string { return fmt.Sprintf("%.2f mm", v) }

// features of the walls, by the rule they fall under.
var (
	sideWalls  = []uint16{prep.WallBuccal, prep.WallLingual}
	ridgeWalls = []uint16{prep.WallMesial, prep.WallDistal}
)

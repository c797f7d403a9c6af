// Package pipeline takes a case through the core, one stage after the other:
//
//	Decided -> Proposed -> Designed -> Measured -> Drawn
//	                                      |-> Proven
//	                                      |-> Filled
//
// Each stage holds the one before, and none is half filled: a case that is refused, or that
// cannot be built, has no next stage. Nothing is remembered here; who asks again for the same
// keeps a stage.
package pipeline

import (
	"obturon/core/advice"
	"obturon/core/assess"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/school"
	"strings"
)

// Decided is a case with what is done about it, by which school.
type Decided struct {
	Case     *intake.Case
	Decision advice.Decision
	School   *school.School // nil where nothing is cut
}

// Decide decides about a case. The error is of a school that the case names and nobody knows.
func Decide(c *intake.Case) (*Decided, error) {
	d := &Decided{Case: c, Decision: advice.Decide(c)}
	if d.Refused() != "" {
		return d, nil
	}
	rules, err := c.SchoolOf(d.Decision.Choice)
	if err != nil {
		return nil, err
	}
	d.School = rules
	return d, nil
}

// Refused says why nothing is cut, "" where something is.
func (d *Decided) Refused() string { return d.Decision.Refused }

// refuse is the case decided otherwise: nothing is cut, for this reason.
func (d *Decided) refuse(reason string) *Decided {
	other := *d
	other.Decision.Refused = reason
	return &other
}

// By is a case as a school proposes it: what was decided for another one stays, what was set by
// hand does not, for it would level the schools.
func By(c *intake.Case, decided intake.Choice, s *school.School) *intake.Case {
	own := *c
	own.Choice, own.Overrides = decided, nil
	own.Under(s)
	return &own
}

// WorstOf is the worst verdict of a case's checks, or "refused".
func WorstOf(d *Decided, checks []assess.Check) string {
	if d.Refused() != "" {
		return assess.Refused
	}
	return string(assess.Worst(checks))
}

// SearchWords are what a list finds a case by, in small letters.
func (d *Decided) SearchWords(opened []string, worst string) string {
	return strings.ToLower(strings.Join([]string{
		"class", string(d.Decision.Class), strings.Join(opened, " "), lesion.Letters(opened, d.Case.Tooth),
		string(d.Decision.Choice.Material), d.Decision.Choice.School, worst,
	}, " "))
}

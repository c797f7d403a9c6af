package plan

import (
	"context"
	"log/slog"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"

	"obturon/core/anatomy"
	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/core/pipeline"
)

// Planner runs the core for cases and remembers teeth and proposals. It is
// safe for concurrent use.
type Planner struct {
	teeth    *toothCache
	proposed *lru.Cache[string, *pipeline.Proposed] // as the forms propose
	solved   *lru.Cache[string, *pipeline.Proposed] // as their gauges had them moved

	judgements *lru.Cache[string, *Judged]
	evaluated  *lru.Cache[string, *Result]
	rehearsed  *lru.Cache[string, *Rehearsed]
	rehearsing singleflight.Group
}

// A rehearsal holds 10 to 50 MB a cavity, by its size.
const rehearsalsKept = 12

// A result holds about as much, a judgement a part of it.
const (
	resultsKept    = 4
	judgementsKept = 8
)

// NewPlanner makes a planner with empty caches.
func NewPlanner() *Planner {
	return &Planner{
		teeth: newToothCache(), proposed: newCache[*pipeline.Proposed](proposalsKept), solved: newCache[*pipeline.Proposed](proposalsKept),
		judgements: newCache[*Judged](judgementsKept), evaluated: newCache[*Result](resultsKept), rehearsed: newCache[*Rehearsed](rehearsalsKept),
	}
}

// Tooth returns the modelled tooth of a case. It fails for sizes and ages that
// anatomy.Build refuses.
func (p *Planner) Tooth(c *intake.Case, grid float64) (*anatomy.Model, error) {
	return p.teeth.get(c.Tooth, anatomy.MeasuredSizes{}, c.Patient.AgeYears, grid)
}

// Prepare models the shapes of all teeth, so that the first view of each comes
// at once: posterior permanent ones first. It stops when the context ends.
func (p *Planner) Prepare(ctx context.Context, grid float64) {
	var teeth, later []notation.Tooth
	for _, t := range notation.All() {
		switch {
		case !t.Right():
		case t.Anterior() || t.Primary():
			later = append(later, t)
		default:
			teeth = append(teeth, t)
		}
	}
	for _, t := range append(teeth, later...) {
		if ctx.Err() != nil {
			return
		}
		if _, err := p.teeth.get(t, anatomy.MeasuredSizes{}, anatomy.AdultAge, grid); err != nil {
			slog.Warn("modelling a tooth ahead of time", "tooth", t.String(), "error", err)
		}
	}
}

package solve

import (
	"math"
	"slices"

	"obturon/core/assess"
)

// point is a set of figures, in steps from what was proposed.
type point []int

func (p point) moved(figure, to int) point {
	q := append(point(nil), p...)
	q[figure] = to
	return q
}

func (p point) equals(q point) bool { return slices.Equal(p, q) }

// away counts the steps from the proposal.
func (p point) away() float64 {
	sum := 0.0
	for _, steps := range p {
		sum += math.Abs(float64(steps))
	}
	return sum
}

// model says what checks would read at figures near a trial: linear, with one column for
// each figure that was moved.
type model struct {
	base    *trial
	columns map[int][]float64 // by figure: by how much each value of the base changes a step
	tooth   map[int]float64   // mm³ that a step takes
}

// newModel is one that knows no figure yet.
func newModel(base *trial) *model {
	return &model{base, map[int][]float64{}, map[int]float64{}}
}

// learn takes the column of a figure from a trial that differs from the base in it alone.
func (m *model) learn(figure int, t *trial) {
	steps := float64(t.at[figure] - m.base.at[figure])
	column := make([]float64, len(m.base.checks))
	for n, c := range m.base.checks {
		if other := t.of(c); c.Measured() && other != nil && other.Measured() {
			column[n] = (other.Value - c.Value) / steps
		}
	}
	m.columns[figure], m.tooth[figure] = column, (t.tooth-m.base.tooth)/steps
}

// rebase counts from another trial, with the columns as they are known.
func (m *model) rebase(t *trial) {
	was := m.base
	for figure, column := range m.columns {
		own := make([]float64, len(t.checks))
		for n, c := range t.checks {
			if old := slices.IndexFunc(was.checks, func(o assess.Check) bool { return same(o, c) }); old >= 0 {
				own[n] = column[old]
			}
		}
		m.columns[figure] = own
	}
	m.base = t
}

// correct spreads what a trial read otherwise than foretold over the figures it moved, in
// proportion to their steps (Broyden's rank-one update).
func (m *model) correct(t *trial) {
	norm := 0.0
	for figure := range m.columns {
		d := float64(t.at[figure] - m.base.at[figure])
		norm += d * d
	}
	if norm == 0 {
		return
	}
	for n, c := range m.base.checks {
		other := t.of(c)
		if other == nil || !other.Measured() || !c.Measured() {
			continue
		}
		missed := other.Value - m.value(n, t.at)
		for figure, column := range m.columns {
			column[n] += missed * float64(t.at[figure]-m.base.at[figure]) / norm
		}
	}
}

// value foretells what the base's check n reads at figures.
func (m *model) value(n int, at point) float64 {
	v := m.base.checks[n].Value
	for figure, column := range m.columns {
		v += column[n] * float64(at[figure]-m.base.at[figure])
	}
	return v
}

// loss foretells what figures cost, but for the tooth that the base takes.
func (m *model) loss(at point, weigh func(assess.Check) float64) float64 {
	sum := pull * at.away()
	for figure, tooth := range m.tooth {
		sum += toothCost * tooth * float64(at[figure]-m.base.at[figure])
	}
	for n, c := range m.base.checks {
		if c.Measured() {
			sum += weigh(c) * cost(c, m.value(n, at), reserve(c))
		}
	}
	return sum
}

// best searches for the cheapest figures within a reach (steps) of the base: each figure
// by itself, then every two together, until nothing gains any more.
func (m *model) best(figures []figure, order []int, reach int, weigh func(assess.Check) float64) (at point, loss float64) {
	at = m.base.at
	loss = m.loss(at, weigh)
	try := func(q point) bool {
		const least = 1e-6
		if l := m.loss(q, weigh); l < loss-least {
			at, loss = q, l
			return true
		}
		return false
	}
	for again := true; again; {
		again = false
		for _, a := range order {
			for _, to := range figures[a].within(m.base.at[a], reach) {
				again = try(at.moved(a, to)) || again
			}
		}
		if again {
			continue
		}
		for i, a := range order {
			for _, b := range order[i+1:] {
				for _, first := range figures[a].within(m.base.at[a], reach) {
					for _, second := range figures[b].within(m.base.at[b], reach) {
						again = try(at.moved(a, first).moved(b, second)) || again
					}
				}
			}
		}
	}
	return at, loss
}

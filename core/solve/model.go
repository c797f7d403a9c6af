package solve

import (
	"math"
	"slices"

	"obturon/core/assess"
	"obturon/core/school"
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
	columns []column
}

// column is what a step of a figure changes.
type column struct {
	figure int
	checks []float64 // of each check of the base, in its unit
	tooth  float64   // mm³ taken
}

func (m *model) knows(figure int) bool {
	return slices.ContainsFunc(m.columns, func(c column) bool { return c.figure == figure })
}

// learn takes the column of a figure from a trial that differs from the base in it alone.
func (m *model) learn(figure int, t *trial) {
	steps := float64(t.at[figure] - m.base.at[figure])
	own := column{figure: figure, checks: make([]float64, len(m.base.checks)), tooth: (t.tooth - m.base.tooth) / steps}
	for n, c := range m.base.checks {
		if other := t.of(c); c.Measured() && other != nil && other.Measured() {
			own.checks[n] = (other.Value - c.Value) / steps
		}
	}
	m.columns = append(m.columns, own)
}

// adopt takes the columns that it does not know itself from a model of another base.
func (m *model) adopt(older *model) {
	older.rebase(m.base)
	for _, c := range older.columns {
		if !m.knows(c.figure) {
			m.columns = append(m.columns, c)
		}
	}
}

// rebase counts from another trial, with the columns as they are known.
func (m *model) rebase(t *trial) {
	was := m.base
	for k := range m.columns {
		own := make([]float64, len(t.checks))
		for n, c := range t.checks {
			if old := slices.IndexFunc(was.checks, func(o assess.Check) bool { return same(o, c) }); old >= 0 {
				own[n] = m.columns[k].checks[old]
			}
		}
		m.columns[k].checks = own
	}
	m.base = t
}

// correct spreads what a trial read otherwise than foretold over the figures it moved, in
// proportion to their steps (Broyden's rank-one update).
func (m *model) correct(t *trial) {
	norm := 0.0
	for _, c := range m.columns {
		d := float64(t.at[c.figure] - m.base.at[c.figure])
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
		for k := range m.columns {
			figure := m.columns[k].figure
			m.columns[k].checks[n] += missed * float64(t.at[figure]-m.base.at[figure]) / norm
		}
	}
}

// value foretells what the base's check n reads at figures.
func (m *model) value(n int, at point) float64 {
	v := m.base.checks[n].Value
	for k := range m.columns {
		v += m.columns[k].checks[n] * float64(at[m.columns[k].figure]-m.base.at[m.columns[k].figure])
	}
	return v
}

// foretold is what a cut at figures would come to.
func (m *model) foretold(at point) *trial {
	t := &trial{at: at, checks: slices.Clone(m.base.checks), loss: math.Inf(1)}
	for n := range t.checks {
		if c := &t.checks[n]; c.Measured() {
			c.Value = m.value(n, at)
			c.Verdict = assess.Judge(c.Value, c.Target, c.Limits)
			if c.Verdict == assess.Near && c.WithinError() {
				c.Verdict = assess.Met
			}
		}
	}
	return t
}

// pricing is what the checks of a model's base cost; weigh multiplies one.
func (m *model) pricing(weigh func(assess.Check) float64) []price {
	prices := make([]price, len(m.base.checks))
	for n, c := range m.base.checks {
		if !c.Measured() {
			continue // costs nothing whatever it reads
		}
		prices[n] = priceOf(c, reserve(c))
		if c.Verdict == assess.Met && prices[n].at(c.Value) > 0 { // within its measuring error, or its reserve
			prices[n] = priceOf(c, 0)
			prices[n].target = widened(prices[n].target, c.Value)
		}
		prices[n].miss *= weigh(c)
		prices[n].near *= weigh(c)
	}
	return prices
}

// widened is a range with a value inside.
func widened(r school.Range, value float64) school.Range {
	return school.Range{Min: math.Min(r.Min, value), Max: math.Max(r.Max, value)}
}

// loss foretells what figures cost, but for the tooth that the base takes.
func (m *model) loss(at point, prices []price) float64 {
	sum := pull * at.away()
	for k := range m.columns {
		sum += toothCost * m.columns[k].tooth * float64(at[m.columns[k].figure]-m.base.at[m.columns[k].figure])
	}
	for n := range prices {
		if prices[n].miss > 0 {
			sum += prices[n].at(m.value(n, at))
		}
	}
	return sum
}

// best searches for the cheapest figures within a reach (steps) of the base: each figure
// by itself, then every two together, until nothing gains any more.
func (m *model) best(figures []figure, order []int, reach int, prices []price) (at point, loss float64) {
	const least = 1e-6
	at = slices.Clone(m.base.at)
	loss = m.loss(at, prices)
	again := true
	try := func() bool {
		l := m.loss(at, prices)
		if l >= loss-least {
			return false
		}
		loss, again = l, true
		return true
	}
	for again {
		again = false
		for _, a := range order {
			kept := at[a]
			for _, to := range figures[a].within(m.base.at[a], reach) {
				if at[a] = to; try() {
					kept = to
				}
			}
			at[a] = kept
		}
		if again {
			continue
		}
		for i, a := range order {
			for _, b := range order[i+1:] {
				keptA, keptB := at[a], at[b]
				for _, at[a] = range figures[a].within(m.base.at[a], reach) {
					for _, at[b] = range figures[b].within(m.base.at[b], reach) {
						if try() {
							keptA, keptB = at[a], at[b]
						}
					}
				}
				at[a], at[b] = keptA, keptB
			}
		}
	}
	return at, loss
}

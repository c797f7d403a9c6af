package assess

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"obturon/core/cavity"
	"obturon/core/school"
)

// planned says before anything is cut which figure of the cavity to set, and to what, for
// a reading to come to its target; "" where none moves it straight enough for a figure to
// be named.
func (c *Check) planned(own *cavity.Cavity, target school.Range) string {
	const straight = 0.5 // of the check's unit for each mm, or degree, of the figure
	off, allowed := target.Min-c.Value, "at least "+school.InUnit(target.Min, c.Unit)
	if c.Value > target.Max {
		off, allowed = target.Max-c.Value, "at most "+school.InUnit(target.Max, c.Unit)
	}
	for _, m := range c.Moves {
		d := own.Dimensions[slices.IndexFunc(own.Dimensions, func(d cavity.Dimension) bool { return d.ID == m.Dimension })]
		to := d.Stepped(off / m.Slope)
		if d.Unit != c.Unit || math.Abs(m.Slope) < straight || to == d.Value { // the last is as far as it can be built
			continue
		}
		return fmt.Sprintf("%s here, %s is wanted: set %s from %s to %s.",
			school.InUnit(c.Value, c.Unit), allowed, strings.ToLower(d.Label), school.InUnit(d.Value, d.Unit), school.InUnit(to, d.Unit))
	}
	return ""
}

// Named is the check's label within a sentence.
func (c Check) Named() string { return strings.ToLower(c.Label[:1]) + c.Label[1:] }

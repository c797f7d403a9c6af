package assess

import (
	"fmt"
	"slices"
	"strings"

	"obturon/core/cavity"
	"obturon/core/school"
)

// planned says before anything is cut which figure of the cavity to set, and to what, for
// a reading to come to its target; "" where no figure moves it. A reading that is short,
// or over, by so much of the check's unit.
func (c *Check) planned(own *cavity.Cavity, target school.Range) string {
	off, allowed := target.Min-c.Value, "at least "+c.amount(target.Min)
	if c.Value > target.Max {
		off, allowed = target.Max-c.Value, "at most "+c.amount(target.Max)
	}
	for _, m := range c.Moves {
		n := slices.IndexFunc(own.Dimensions, func(d cavity.Dimension) bool { return d.ID == m.Dimension })
		d := own.Dimensions[n]
		to := d.Stepped(off / m.Slope)
		if to == d.Value {
			continue // as far as it can be built
		}
		return fmt.Sprintf("%s here, %s is wanted: set %s from %s to %s.", c.amount(c.Value), allowed, lowered(d.Label), figure(d, d.Value), figure(d, to))
	}
	return ""
}

func (c *Check) amount(v float64) string { return withUnit(v, c.Unit) }

func figure(d cavity.Dimension, v float64) string { return withUnit(v, d.Unit) }

func withUnit(v float64, unit string) string {
	switch unit {
	case "deg":
		return fmt.Sprintf("%.0f°", v)
	case "mm3":
		return fmt.Sprintf("%.2f mm³", v)
	case "ratio":
		return fmt.Sprintf("%.2f", v)
	default:
		return fmt.Sprintf("%.2f %s", v, unit)
	}
}

func lowered(label string) string { return strings.ToLower(label[:1]) + label[1:] }

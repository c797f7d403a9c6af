package pipeline

import (
	"slices"

	"obturon/core/assess"
	"obturon/core/cavity"
)

// Moved is a figure that was moved from what its form proposed.
type Moved struct {
	cavity.Dimension
	To float64
}

// VerdictChange is a check whose verdict differs.
type VerdictChange struct {
	Label         string
	Before, After assess.Verdict
}

// Solution tells which figures solving moved, and what that gained; nothing where the
// proposals were not solved.
func (d *Designed) Solution() (moved []Moved, gained []VerdictChange) {
	for n, found := range d.Solutions {
		named := ""
		if one := d.Cut.Cavities[n]; len(d.Solutions) > 1 && one.Name != "" {
			named = ", " + one.Name
		}
		for _, figure := range found.Proposed {
			if to, ok := found.Values[figure.ID]; ok {
				figure.Label += named
				moved = append(moved, Moved{figure, to})
			}
		}
		for _, g := range found.Gained() {
			gained = append(gained, VerdictChange{g.Label + named, g.Before, g.After})
		}
	}
	return moved, gained
}

// explain tells of the checks of an untouched cavity that stay off their targets what would
// be lost for them.
func (d *Designed) explain(n int, checks []assess.Check) {
	if d.Solutions == nil || slices.ContainsFunc(d.Cut.Cavities[n].Dimensions, cavity.Dimension.Overridden) {
		return
	}
	d.Solutions[n].Explain(checks)
}

package pipeline

import (
	"fmt"
	"slices"

	"obturon/core/intake"
	"obturon/core/school"
)

// CanBeCompared tells why some schools cannot be laid side by side, as intake.Faults; nil where they
// can.
func CanBeCompared(schools []*school.School) error {
	const fewest, most = 2, 4
	if len(schools) < fewest || len(schools) > most {
		return intake.Faults{
			{Path: "schools", Message: fmt.Sprintf("%d schools cannot be laid side by side: name %d to %d", len(schools), fewest, most)},
		}
	}
	for n, s := range schools {
		if slices.ContainsFunc(schools[:n], func(o *school.School) bool { return o.ID == s.ID }) {
			return intake.Faults{{Path: fmt.Sprintf("schools[%d]", n), Message: fmt.Sprintf("%s is named twice: name each school once", s.ID)}}
		}
	}
	return nil
}

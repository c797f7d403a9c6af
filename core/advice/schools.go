package advice

import (
	"obturon/core/notation"
	"obturon/core/school"
)

// SchoolsFor lists the shipped schools that are meant for a tooth, in the order in
// which they are laid side by side. Primary molars have one of their own, beside
// which the traditional forms, that were made for them too, say most.
func SchoolsFor(t notation.Tooth) []string {
	if t.Primary() {
		return []string{"primary", "traditional"}
	}
	var ids []string
	for _, id := range school.IDs {
		if id != "primary" {
			ids = append(ids, id)
		}
	}
	return ids
}

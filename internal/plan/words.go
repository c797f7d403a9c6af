package plan

import (
	"strings"

	"obturon/core/lesion"
)

// SearchWords are what a list finds a plan by, in small letters.
func (r *Result) SearchWords() string {
	return strings.ToLower(strings.Join([]string{
		"class", string(r.Decision.Class), strings.Join(r.Surfaces, " "), lesion.Letters(r.Surfaces, r.Case.Tooth),
		string(r.Decision.Choice.Material), r.Decision.Choice.School, r.Worst(),
	}, " "))
}

package assess

import (
	"fmt"

	"obturon/core/measure"
	"obturon/core/school"
)

// exposureRisk (mm) is the dentin over the pulp under which it may be laid open by what
// a model and a radiograph do not show (operative dentistry convention).
const exposureRisk = 0.5

// nearThePulp lists the way with a cavity that comes nearer to the pulp than the school
// wants, whatever its depth is called: what to know before cutting, where to stop, what
// an exposure would mean, and what comes after.
func nearThePulp(s *measure.Subject) []string {
	want := s.Cavity.Criterion(school.ResistPulpDistance).Target.Min
	left, ok := s.PulpDistance()
	if !ok || left.Value >= want {
		return nil
	}
	where := ""
	if s.Cavity.Name != "" {
		where = ", " + s.Cavity.Name
	}
	before := fmt.Sprintf(
		"Deep%s: %.1f mm of dentin is left over the pulp at its %s, under %.1f. Before cutting: symptoms, vitality test and radiograph.",
		where,
		left.Value,
		left.Where.Name,
		want,
	)
	if left.Value < exposureRisk {
		before += " Expect that it may be laid open, and say so beforehand."
	}
	if s.Model.Tooth.Primary() {
		return []string{
			before,
			"A primary tooth so near its pulp rather needs pulp therapy than a base: look for pain at night, a sinus, mobility and bone loss at the furcation, and decide before filling.",
		}
	}
	return []string{
		before,
		"Deep caries: clean walls and junction to hard dentin first, and over the pulp stop at firm or leathery dentin rather than lay it open; or seal it and go on after months. An exposure means capping or root canal treatment: dam on, and stop the bleeding before deciding.",
		"After deep caries: a liner on the deepest part only, nothing thick under the filling; test again at the review, and tell the patient what pain would mean.",
	}
}

package assess

import (
	"fmt"

	"obturon/core/intake"
	"obturon/core/measure"
	"obturon/core/school"
)

// exposureRisk (mm) is the dentin over the pulp under which it may be laid open by what
// a model and a film do not show (operative dentistry convention).
const exposureRisk = 0.5

// nearThePulp lists the way with a cavity that leaves soft dentin over the pulp, and with one that
// comes nearer to it than the school wants: what to know before cutting, what stays, what an
// exposure would mean, and what comes after.
func nearThePulp(s *measure.Subject) []string {
	if s.Leaves() {
		return leaving(s)
	}
	want := s.Cavity.Criterion(school.ResistPulpDistance).Target.Min
	left, ok := s.PulpDistance()
	if !ok || left.Value >= want {
		return nil
	}
	before := fmt.Sprintf(
		"Deep%s: %.1f mm of dentin is left over the pulp at its %s. Before cutting: %s.",
		named(s), left.Value, left.Where.Name, intake.PulpTests(s.Model.Tooth),
	)
	if left.Value < exposureRisk {
		before += " Expect that it may be laid open, and say so beforehand."
	}
	return append([]string{before}, afterDeep(s)...)
}

// leaving is what is said of a cavity that leaves soft dentin over the pulp.
func leaving(s *measure.Subject) []string {
	left := s.Left()
	return append([]string{
		fmt.Sprintf("Deep%s. Before cutting: %s; with a pulp that is dead or irreversibly inflamed this plan does not hold.", named(s), intake.PulpTests(s.Model.Tooth)),
		fmt.Sprintf(
			"Selective removal%s: walls, junction and %.1f mm of dentin inside it are cleaned to hard dentin; over the pulp soft dentin stays, %.1f mm² of floor, %.1f mm from the pulp. Opening the pulp to get it all out would cost more than it brings.",
			named(s), s.Cavity.Endpoint().Seal, left.Area, left.OverPulp,
		),
	}, afterDeep(s)...)
}

// afterDeep is what an exposure means, and what follows deep caries.
func afterDeep(s *measure.Subject) []string {
	exposed := "If the pulp is laid open: dam on, stop the bleeding with a moist pellet; a small clean exposure of a vital pulp is capped with calcium silicate, else pulp treatment."
	if s.Model.Tooth.Primary() {
		exposed = "If the pulp is laid open: dam on, stop the bleeding; pulpotomy where it stops, else pulp treatment or extraction."
	}
	return []string{exposed, "Afterwards: look at the pulp and at what was left on the next film, and tell the patient what pain would mean."}
}

func named(s *measure.Subject) string {
	if s.Cavity.Name == "" {
		return ""
	}
	return ", " + s.Cavity.Name
}

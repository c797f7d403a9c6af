package advice

import (
	"fmt"

	"obturon/core/intake"
	"obturon/core/lesion"
)

// Assumption is what was not entered and would count, with what is taken for it.
type Assumption struct {
	Field   string // of the document that would tell: "surface", "pulp", "isolation"
	Finding int    // the finding it is about; -1 of the tooth or the patient
	Says    string
}

// cavitated is how often surfaces over lesions are open to dentin that a film shows so deep
// (clinical studies of separated teeth, rounded into words).
var cavitated = map[lesion.Depth]string{
	lesion.OuterEnamel:  "rarely cavitated",
	lesion.InnerEnamel:  "seldom cavitated",
	lesion.OuterDentin:  "cavitated in about half",
	lesion.MiddleDentin: "nearly always cavitated",
	lesion.InnerDentin:  "nearly always cavitated",
}

// assumed lists what a decision rests on without having been entered.
func assumed(c *intake.Case, d Decision) []Assumption {
	var all []Assumption
	deep := false
	for n, f := range c.Findings {
		deep = deep || deepens(f)
		if f.Kind.Content() == lesion.Caries && f.Surface == "" && f.Activity != lesion.Arrested {
			all = append(all, Assumption{"surface", n, fmt.Sprintf("Surface over the %s not entered: at this depth %s.", f.Name(), cavitated[f.Depth])})
		}
		if f.Sound() {
			all = append(all, Assumption{"fault", n, fmt.Sprintf("Fault of the %s not entered: it is taken for sound, and stays.", f.Name())})
		}
		if f.Kind == lesion.Crack && f.Complaint == "" {
			all = append(all, Assumption{"complaint", n, fmt.Sprintf("Complaint about the %s not entered: it is taken for a line without one.", f.Name())})
		}
	}
	if deep && c.Pulp == "" {
		all = append(all, Assumption{"pulp", -1, "Pulp not tested: the plan holds for a vital one without irreversible signs. " + fmt.Sprintf("Judge it before cutting: %s.", intake.PulpTests(c.Tooth))})
	}
	if c.Patient.Isolation == "" && d.Followed.Cuts() && d.Choice.Material.Bonds() {
		all = append(all, Assumption{"isolation", -1, "Isolation not entered: the plan holds for a field that can be kept dry."})
	}
	return all
}

// deepens reports a finding deep enough for the pulp to be tested before it is opened.
func deepens(f lesion.Finding) bool {
	return f.Depth == lesion.MiddleDentin || f.Depth == lesion.InnerDentin
}

// How early (years) before a tooth comes, and how late after it goes, tooth and age are asked back.
const (
	youngSlack = 0.5
	lateSlack  = 2.0
)

// questions asks back what does not go together.
func questions(c *intake.Case) []string {
	age := c.Patient.AgeYears
	from := c.Tooth.EruptsAt()
	until, primary := c.Tooth.ShedAt()
	switch {
	case age < from-youngSlack:
		return []string{fmt.Sprintf("The %s at %v? It comes through at about %v as a rule. Check tooth and age before going on.", c.Tooth.Name(), age, from)}
	case primary && age > until+lateSlack:
		return []string{fmt.Sprintf("The %s at %v? It is lost at about %v as a rule. Check tooth and age; if it was retained, look on a film for its successor and at its root.", c.Tooth.Name(), age, until)}
	}
	return nil
}

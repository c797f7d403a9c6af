package advice

import (
	"fmt"
	"strings"

	"obturon/core/anatomy"
	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/core/school"
)

// youngestForAmalgam: under this age, and in pregnancy or nursing, amalgam is
// commonly barred by law (the age that rules following the international
// agreement on mercury use; local codes first).
const youngestForAmalgam = 15

// UsualAge is the age (years) that a proposal is made for while the patient's is not
// known: a grown patient's, or where primary molars are filled most, between their
// eruption and their loss.
func UsualAge(t notation.Tooth) float64 {
	const child = 7
	if t.Primary() {
		return child
	}
	return anatomy.AdultAge
}

// choose takes the dentist's choice and fills what was left open, with the reason.
func choose(c *intake.Case) (intake.Choice, string) {
	choice := c.Choice
	reason := ""
	if choice.Material == "" {
		choice.Material, reason = material(c)
	}
	if choice.School == "" {
		switch {
		case c.Tooth.Primary():
			choice.School = "primary"
		case choice.Material.Bonds():
			choice.School = "adhesive"
		default:
			choice.School = "board"
		}
	}
	return choice, reason
}

// material proposes one, with the reason. Isolation that was not entered speaks for neither: it
// is said among what is assumed.
func material(c *intake.Case) (school.Material, string) {
	barred := amalgamBar(c)
	switch {
	case c.Tooth.Anterior():
		return school.Composite, "Composite proposed: amalgam shows on a front tooth, and rebuilds no incisal angle."
	case barred != "":
		return school.Composite, "Composite proposed: " + barred + "."
	case c.Patient.Isolation.Wet():
		return school.Amalgam, "Amalgam proposed: " + isolated(c.Patient.Isolation) + ", and amalgam tolerates moisture better."
	case c.Patient.Isolation == intake.Secure:
		return school.Composite, "Composite proposed: isolation is secure, and bonding spares tooth."
	}
	return school.Composite, "Composite proposed: bonding spares tooth. Isolation was not entered: where the field cannot be kept dry, choose amalgam."
}

// amalgamBar says why law or health commonly forbid amalgam, all reasons of it; "" where
// nothing does.
func amalgamBar(c *intake.Case) string {
	p := c.Patient
	var bars []string
	for _, bar := range []struct {
		holds bool
		says  string
	}{
		{p.AgeYears < youngestForAmalgam, fmt.Sprintf("commonly barred under %d", youngestForAmalgam)},
		{p.PregnantOrNursing, "commonly barred in pregnancy and nursing"},
		{p.KidneyDisease, "commonly avoided in kidney disease"},
		{p.MercurySensitivity, "barred by mercury sensitivity"},
	} {
		if bar.holds {
			bars = append(bars, bar.says)
		}
	}
	if len(bars) == 0 {
		return ""
	}
	return "amalgam is " + strings.Join(bars, ", ")
}

func amalgamAdvice(c *intake.Case) MaterialAdvice {
	a := MaterialAdvice{
		Material: school.Amalgam, Barred: amalgamBar(c),
		For: []string{"Costs less and lasts longer under load."},
		Against: []string{
			"Needs form to hold it and bulk to carry it: more sound tooth goes.",
			"Restricted or banned in many places: local law decides.",
		},
	}
	if c.Patient.Isolation.Wet() {
		a.For = append(a.For, "Tolerates moisture: "+isolated(c.Patient.Isolation)+".")
	}
	if c.Patient.CariesRisk == intake.HighRisk {
		a.For = append(a.For, "Caries risk is high: fewer new lesions at its margins.")
	}
	if c.Patient.Parafunction {
		a.For = append(a.For, "The patient grinds or clenches: it wears less.")
	}
	if c.Patient.VisibleZone {
		a.Against = append(a.Against, "The tooth shows, and amalgam is dark.")
	}
	return a
}

func compositeAdvice(c *intake.Case) MaterialAdvice {
	a := MaterialAdvice{
		Material: school.Composite,
		For:      []string{"Bonds, so that only diseased tooth need go."},
		Against:  []string{"Takes longer, and needs a dry field."},
	}
	switch {
	case c.Patient.Isolation == intake.Secure:
		a.For = append(a.For, "Isolation is secure.")
	case c.Patient.Isolation.Wet():
		a.Against = append(a.Against, "Needs a dry field: "+isolated(c.Patient.Isolation)+".")
	}
	if c.Patient.VisibleZone {
		a.For = append(a.For, "The tooth shows: it matches the tooth.")
	}
	if c.Patient.CariesRisk == intake.HighRisk {
		a.Against = append(a.Against, "At high caries risk it fails sooner: at its margins.")
	}
	if c.Patient.Parafunction {
		a.Against = append(a.Against, "The patient grinds or clenches: it wears and chips.")
	}
	return a
}

// isolated is how dry the field can be kept, in words.
func isolated(i intake.Isolation) string {
	if i == intake.None {
		return "no isolation possible"
	}
	return "isolation is " + string(i)
}

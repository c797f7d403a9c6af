package advice

import (
	"fmt"
	"slices"

	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/school"
)

// cautions lists what must be said for this case.
func cautions(c *intake.Case, choice intake.Choice) []string {
	list := []string{
		"Planning aid for licensed practitioners; local codes come first. No figure is a measurement of the patient's tooth until it is measured there.",
		"Water spray, rubber dam, eye protection for all.",
	}
	if choice.Material == school.Amalgam {
		if bar := amalgamBar(c); bar != "" {
			list = append(list, "Amalgam chosen although "+bar+": check local law and record the reason.")
		}
		list = append(list, "Amalgam is restricted or banned in many places: check local law. Mercury hygiene; collect the waste.")
	} else {
		list = append(list, "Curing light: filter and eye protection.")
		if c.Patient.Isolation.Wet() {
			list = append(list, "Composite needs a dry field: "+isolated(c.Patient.Isolation)+".")
		}
	}
	for _, f := range c.Findings {
		switch {
		case f.Kind == lesion.Crack:
			list = append(
				list,
				"A crack runs 25 to 50 % deeper than it is seen: do not chase it; restore, and tell the patient that a full crown may follow.",
			)
		case f.Kind == lesion.UnderminedCusp, f.OnCusp():
			continue // said once its thickness has been measured
		case f.Stays:
			list = append(
				list,
				"An old filling stays: seal its margin with the new one, and look at both at recall. Where the cavity meets it, roughen it and bond to it.",
			)
		case f.Kind == lesion.OldRestoration:
			list = append(
				list,
				"Old filling: replace it only where it is broken, leaks or has caries beside it; a sound one with an open margin may be sealed. Composite is told from tooth by a dark scratch of a sharp explorer.",
			)
		case !f.Depth.InDentin():
			list = append(list, "A lesion within enamel is not drilled by default: consider sealing or watching.")
		}
	}
	if c.Patient.Parafunction {
		list = append(list, "Grinding or clenching: look for wear and cracks first, keep heavy contacts off the margins, and consider a guard.")
	}
	list = append(list, forInjured(c)...)
	list = append(list, forChildren(c, choice)...)
	if (choice.School == "primary") != c.Tooth.Primary() {
		if s, err := c.SchoolOf(choice); err == nil && !school.IsHouse(choice.School) {
			list = append(list, fmt.Sprintf("The %s school is not meant for this tooth.", s.Name))
		}
	}
	return once(list)
}

// once leaves out what has been said before, as of two findings of a kind.
func once(list []string) []string {
	said := map[string]bool{}
	return slices.DeleteFunc(list, func(text string) bool {
		again := said[text]
		said[text] = true
		return again
	})
}

// injuredUnder is the age under which a broken front tooth is taken for an injury.
const injuredUnder = 18

// forInjured lists what a young patient's broken front tooth needs before it is filled
// (the usual caution of guides on dental trauma).
func forInjured(c *intake.Case) []string {
	if c.Patient.AgeYears >= injuredUnder || !c.Tooth.Anterior() {
		return nil
	}
	for _, f := range c.Findings {
		if f.Kind == lesion.Fracture {
			return []string{
				"Broken in a young patient: take a radiograph, test vitality now and again at 6 weeks and a year, and look at the adjacent teeth. A loose or displaced tooth may need a splint first; refer where the root may be hurt.",
			}
		}
	}
	return nil
}

// childUnder is the age (years) under which a patient is treated as a child, whatever the
// tooth.
const childUnder = 12

// forChildren lists what must be said of a child's plan, and of a primary tooth's.
func forChildren(c *intake.Case, choice intake.Choice) []string {
	var list []string
	if c.Patient.AgeYears < childUnder {
		list = append(list, "Child: dam or bite block, head steadied, a finger rest at every pass; stop when the child asks.")
	}
	if !c.Tooth.Primary() {
		return list
	}
	list = append(list,
		"Primary pulps are large and their horns long: if a base seems needed, the tooth probably needs pulp therapy. Test before filling.",
	)
	if choice.Material.Bonds() {
		list = append(list, "A shallow primary cavity may be filled in a single increment within the material's depth of cure.")
	}
	return list
}

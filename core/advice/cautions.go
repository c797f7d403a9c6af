package advice

import (
	"fmt"
	"slices"

	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/school"
)

// cautions lists what must be said for this case.
func cautions(c *intake.Case, d Decision) []string {
	choice, cuts := d.Choice, d.Refused == ""
	list := []string{
		"Planning aid for licensed practitioners; local codes come first. No figure is a measurement of the patient's tooth until it is measured there.",
	}
	if cuts {
		list = append(list, ofCutting(c, choice)...)
	}
	for _, f := range c.Findings {
		switch {
		case f.Kind == lesion.Crack:
			list = append(
				list,
				"Crack: its depth is unknown. Bite test, transillumination, probing and a pulp test tell more than a film; tell the patient that a crown may follow.",
			)
		case f.Kind == lesion.UnderminedCusp, f.OnCusp():
			continue // said once its thickness has been measured
		case f.Fault == lesion.OpenMargin && cuts:
			list = append(
				list,
				"An old filling stays: seal its margin with the new one, and look at both at recall. Where the cavity meets it, roughen it and bond to it.",
			)
		case f.Sound() && cuts:
			list = append(list, "A sound old filling stays. Where the cavity meets it, roughen it and bond to it, or part the two with sound tooth.")
		case f.Stays():
			continue
		case f.Kind == lesion.OldRestoration:
			list = append(
				list,
				"Old filling: composite is told from tooth by the dark scratch of a sharp explorer.",
			)
		case !f.Depth.InDentin() && cuts:
			list = append(list, "A lesion within enamel is not drilled by default: consider sealing or arresting it.")
		}
	}
	if c.Patient.Parafunction {
		list = append(list, "Grinding or clenching: look for wear and cracks first, keep heavy contacts off the margins, and consider a guard.")
	}
	list = append(list, forInjured(c)...)
	list = append(list, forChildren(c, choice)...)
	if cuts && (choice.School == "primary") != c.Tooth.Primary() {
		if s, err := c.SchoolOf(choice); err == nil && !school.IsHouse(choice.School) {
			list = append(list, fmt.Sprintf("The %s school is not meant for this tooth.", s.Name))
		}
	}
	return once(list)
}

// ofCutting lists what holds for whatever is drilled and filled.
func ofCutting(c *intake.Case, choice intake.Choice) []string {
	list := []string{"Water spray, rubber dam, eye protection for all."}
	if choice.Material == school.Amalgam {
		if bar := amalgamBar(c); bar != "" {
			list = append(list, "Amalgam chosen although "+bar+": check local law and record the reason.")
		}
		return append(list, "Amalgam is restricted or banned in many places: check local law. Mercury hygiene; collect the waste.")
	}
	list = append(list, "Curing light: filter and eye protection.")
	if c.Patient.Isolation.Wet() {
		list = append(list, "Composite needs a dry field: "+isolated(c.Patient.Isolation)+".")
	}
	return list
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
		if f.Kind == lesion.Fracture && c.Tooth.Primary() {
			return []string{
				"Broken primary tooth: take a film, and look at colour, mobility and gingiva now and again at 6 weeks; sensibility tests tell little. Smooth the edge or cover the dentin as far as the child copes; refer where it was displaced, for the successor lies behind it.",
			}
		}
		if f.Kind == lesion.Fracture {
			return []string{
				"Broken in a young patient: take a film, test the pulp now and again at 6 weeks and a year, and look at the adjacent teeth. A loose or displaced tooth may need a splint first; refer where the root may be hurt.",
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
		"Primary pulps are large and their horns long. Diagnose the pulp first, by history, sinus, mobility and a film of the furcation: if it is vital, selective removal leaves soft dentin over it.",
	)
	if choice.Material.Bonds() {
		list = append(list, "A shallow primary cavity may be filled in a single increment within the material's depth of cure.")
	}
	return list
}

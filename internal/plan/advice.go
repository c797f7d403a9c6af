package plan

import (
	"fmt"
	"slices"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/school"
)

// youngestForAmalgam: under this age, and in pregnancy or nursing, amalgam is
// commonly barred by law (operative dentistry convention; local codes first).
const youngestForAmalgam = 15

// choose takes the dentist's choice and fills what was left open, with the reason.
func choose(c *Case) (Choice, string) {
	choice := Choice{}
	if c.Choice != nil {
		choice = *c.Choice
	}
	reason := ""
	if choice.Material == "" {
		switch {
		case amalgamBar(c) != "":
			choice.Material, reason = "composite", "Composite proposed: "+amalgamBar(c)+"."
		case c.Tooth.Anterior():
			choice.Material, reason = "composite", "Composite proposed: amalgam shows on a front tooth, and rebuilds no corner."
		case c.Patient.Isolation == "secure":
			choice.Material, reason = "composite", "Composite proposed: isolation is secure, and bonding spares tooth."
		default:
			choice.Material, reason = "amalgam", "Amalgam proposed: isolation is not secure, and amalgam bears moisture better."
		}
	}
	if choice.School == "" {
		switch {
		case c.Tooth.Primary():
			choice.School = "primary"
		case choice.Material == "composite":
			choice.School = "adhesive"
		default:
			choice.School = "board"
		}
	}
	return choice, reason
}

func amalgamBar(c *Case) string {
	p := c.Patient
	switch {
	case p.AgeYears < youngestForAmalgam:
		return fmt.Sprintf("amalgam is commonly barred under %d", youngestForAmalgam)
	case p.PregnantOrNursing:
		return "amalgam is commonly barred in pregnancy and nursing"
	case p.KidneyDisease:
		return "amalgam is commonly avoided in kidney disease"
	case p.MercurySensitivity:
		return "amalgam is barred by mercury sensitivity"
	default:
		return ""
	}
}

// refusal says why no plan is made, or "".
func refusal(c *Case, class lesion.Class, material string) string {
	if lesion.HornInTheWay(c.coreFindings(), c.Tooth) {
		return "A mesial box is not made in a primary first molar: its mesial horn reaches where the axial wall would stand. Consider a full-coverage crown, or review with fluoride where the lesion is small."
	}
	if class == "" && len(c.staying()) > 0 {
		_, reason := treatment(c)
		return "Nothing is replaced: the margin is sealed. " + reason
	}
	if class == "" {
		return "A crack alone is recorded, not cut: cracks are never chased. Tell the patient that a full crown may follow."
	}
	if class == lesion.Rebuild && !slices.ContainsFunc(c.Findings, func(f Finding) bool { return opensOcclusally(f.core(), c.Tooth) }) {
		return "A cusp alone, lost or undermined, says nothing of what lies beside it: enter the caries or the old filling that weakened it, and its rebuild is planned in the cavity that this opens."
	}
	if class == lesion.ClassIV && material == "amalgam" {
		return "Amalgam does not rebuild an incisal corner: it would show and not hold. Choose composite."
	}
	return ""
}

// opensOcclusally reports a finding that a cavity is cut for from the occlusal
// surface.
func opensOcclusally(f lesion.Finding, t notation.Tooth) bool {
	switch f.Kind {
	case lesion.FissureCaries, lesion.PitCaries, lesion.ProximalCaries, lesion.OldRestoration:
		return faceSite(f, nil, t) == ""
	default:
		return false
	}
}

// cautions lists what must be said for this case.
func cautions(c *Case, choice Choice) []string {
	list := []string{
		"Planning aid for licensed practitioners; local codes come first. No figure is a measurement of the patient's tooth until it is measured there.",
		"Water spray, rubber dam, eye protection for all.",
	}
	if choice.Material == "amalgam" {
		if bar := amalgamBar(c); bar != "" {
			list = append(list, "Amalgam chosen although "+bar+": check local law and record the reason.")
		}
		list = append(list, "Amalgam is restricted or banned in many places: check local law. Mercury hygiene; collect the waste.")
	} else {
		list = append(list, "Curing light: filter and eye protection.")
		if c.Patient.Isolation == "doubtful" || c.Patient.Isolation == "none" {
			list = append(list, "Composite needs a dry field: isolation is "+c.Patient.Isolation+".")
		}
	}
	for _, f := range c.Findings {
		switch {
		case f.Kind == lesion.Crack:
			list = append(list, "A crack runs 25 to 50 % deeper than it is seen: do not chase it; restore, and tell the patient that a full crown may follow.")
		case f.Kind == lesion.UnderminedCusp, f.core().OnCusp():
			continue // said once its thickness has been measured
		case f.Stays:
			list = append(list, "An old filling stays: seal its margin with the new one, and look at both at recall. Where the cavity meets it, roughen it and bond to it.")
		case f.Kind == lesion.OldRestoration:
			list = append(list, "Old filling: replace it only where it is broken, leaks or has caries beside it; a sound one with an open margin may be sealed. Composite is told from tooth by a dark scratch of a sharp explorer.")
		case !f.Depth.InDentin():
			list = append(list, "A lesion within enamel is not drilled by default: consider sealing or watching.")
		case f.Depth == "inner_dentin":
			list = append(list, "Deep lesion: test vitality first; stop at firm dentin and decide on a liner.")
		}
	}
	if c.Patient.Parafunction {
		list = append(list, "Grinding or clenching: find out why the tooth was lost, protect the contacts, and consider a guard.")
	}
	list = append(list, forChildren(c, choice)...)
	if (choice.School == "primary") != c.Tooth.Primary() {
		if s, err := c.schoolOf(choice); err == nil && !school.IsHouse(choice.School) {
			list = append(list, fmt.Sprintf("The %s school is not meant for this tooth.", s.Name))
		}
	}
	return list
}

// ofWeakCusps says of each cusp found undermined how thick it is left at its
// base; keep (mm) is what the school wants there.
func ofWeakCusps(c *Case, p *measure.Prepared, keep float64) []string {
	var list []string
	for _, f := range c.Findings {
		tip := slices.IndexFunc(p.Model.CuspTips, func(n anatomy.Named) bool { return n.Name == f.Site.Cusp() })
		if f.core().OnCusp() {
			list = append(list, fmt.Sprintf("%s cusp lost: find out why it broke (hard food, grinding, no support), look for cracks beside it, and tell the patient that a direct rebuild may be an interim solution.", f.Site.Cusp()))
			continue
		}
		if f.Kind != lesion.UnderminedCusp || tip < 0 {
			continue
		}
		left, ok := p.CuspThickness(p.Model.CuspTips[tip])
		switch {
		case p.Reduced(p.Model.CuspTips[tip]):
			list = append(list, fmt.Sprintf("%s cusp covered: find out why it weakened, and tell the patient that a direct cover may be an interim solution.", f.Site.Cusp()))
		case !ok:
			list = append(list, fmt.Sprintf("%s cusp found undermined: this cavity does not reach it; look under it before deciding.", f.Site.Cusp()))
		case left.Value < keep:
			list = append(list, fmt.Sprintf("%s cusp found undermined: %.1f mm is left at its base, under %.1f. Extend until its enamel rests on dentin, then consider reducing it.", f.Site.Cusp(), left.Value, keep))
		default:
			list = append(list, fmt.Sprintf("%s cusp found undermined: %.1f mm is left at its base on this cavity. Keep it if its enamel rests on dentin.", f.Site.Cusp(), left.Value))
		}
	}
	return list
}

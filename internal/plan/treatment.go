package plan

import (
	"fmt"

	"obturon/core/lesion"
)

// Advice is what the findings and the patient speak for; the dentist decides.
type Advice struct {
	Treatment string           `json:"treatment"` // restore, seal or watch
	Reason    string           `json:"reason"`
	Materials []MaterialAdvice `json:"materials"`
}

// MaterialAdvice is what speaks for and against a material in this case.
type MaterialAdvice struct {
	Material string   `json:"material"`
	Barred   string   `json:"barred,omitempty"` // why law or health commonly forbid it
	For      []string `json:"for"`
	Against  []string `json:"against"`
}

// The treatments that can be advised.
const (
	Restore = "restore"
	Seal    = "seal"
	Watch   = "watch"
)

func advise(c *Case) Advice {
	a := Advice{Materials: []MaterialAdvice{amalgamAdvice(c), compositeAdvice(c)}}
	a.Treatment, a.Reason = treatment(c)
	return a
}

// treatment follows the deepest finding: lesions within enamel are not drilled
// by default (operative dentistry convention).
func treatment(c *Case) (treatment, reason string) {
	fissure, proximal, neck := false, false, false
	stays := false
	for _, f := range c.Findings {
		if f.Stays {
			stays = true
			continue
		}
		switch f.Kind {
		case lesion.FissureCaries, lesion.PitCaries:
			fissure = true
		case lesion.ProximalCaries:
			proximal = true
		case lesion.CervicalCaries:
			neck = true
		case lesion.Crack:
			continue
		case lesion.OldRestoration:
			return Restore, "An old filling is replaced where it is broken, leaks or has caries beside it; one that is sound but for an open margin is better sealed there."
		default:
			return Restore, "The tooth's form is lost or undermined."
		}
		if f.Depth.InDentin() {
			return Restore, "Caries has reached dentin, where it goes on under an enamel that hides it."
		}
	}
	risk := ""
	if c.Patient.CariesRisk == "high" {
		risk = " At high caries risk look again in three months."
	}
	switch {
	case stays && !fissure && !proximal && !neck:
		return Seal, "The old filling is sound but for its margin: roughen the margin, etch 15 seconds, bond, flow a thin resin over it and cure. Nothing is cut; look at it again at recall." + risk
	case neck:
		return Watch, "The lesion lies within enamel at the neck, where it can be arrested: brush it clean, fluoride, and look again before drilling." + risk
	case fissure && !proximal:
		return Seal, "The lesion lies within enamel: a sealed fissure starves it, and no tooth is spent." + risk
	case proximal:
		return Watch, "The lesion lies within enamel, where it can be arrested: clean, fluoride, and compare the next bitewing before drilling." + risk
	default:
		return Watch, "Nothing here calls for a cut." + risk
	}
}

func amalgamAdvice(c *Case) MaterialAdvice {
	a := MaterialAdvice{
		Material: "amalgam", Barred: amalgamBar(c),
		For:     []string{"Costs less and lasts longer under load."},
		Against: []string{"Needs form to hold it and bulk to carry it: more sound tooth goes.", "Restricted or banned in many places: local law decides."},
	}
	if dry := c.Patient.Isolation; dry == "doubtful" || dry == "none" {
		a.For = append(a.For, "Bears moisture: isolation is "+dry+".")
	}
	if c.Patient.CariesRisk == "high" {
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

func compositeAdvice(c *Case) MaterialAdvice {
	a := MaterialAdvice{
		Material: "composite",
		For:      []string{"Bonds, so that only diseased tooth need go."},
		Against:  []string{"Costs more, takes longer and lasts less long."},
	}
	switch c.Patient.Isolation {
	case "secure":
		a.For = append(a.For, "Isolation is secure.")
	case "doubtful", "none":
		a.Against = append(a.Against, "Needs a dry field: isolation is "+c.Patient.Isolation+".")
	}
	if c.Patient.VisibleZone {
		a.For = append(a.For, "The tooth shows: it matches the tooth.")
	}
	if c.Patient.CariesRisk == "high" {
		a.Against = append(a.Against, "Caries risk is high: margins are where it comes back.")
	}
	if c.Patient.Parafunction {
		a.Against = append(a.Against, "The patient grinds or clenches: it wears and chips.")
	}
	return a
}

// notDrilled refuses what is better sealed or watched, unless the dentist has
// decided otherwise; "" where the plan goes on.
func notDrilled(c *Case, a Advice) string {
	if a.Treatment == Restore || (c.Choice != nil && c.Choice.Treatment == Restore) {
		return ""
	}
	return fmt.Sprintf("Not drilled by default: %s is advised. %s To plan a cavity all the same, choose to restore and keep your reason.", a.Treatment, a.Reason)
}

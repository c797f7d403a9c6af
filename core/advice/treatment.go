package advice

import (
	"fmt"

	"obturon/core/intake"
	"obturon/core/lesion"
)

// treatment follows the deepest finding: lesions within enamel are not drilled by
// default. Minimal intervention, as all four schools teach it, restores where
// dentin is reached or the surface is broken, and seals or arrests before that.
func treatment(c *intake.Case) (advised intake.Treatment, reason string) {
	fissure, proximal, cervical := false, false, false
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
			cervical = true
		case lesion.Crack:
			continue
		case lesion.OldRestoration:
			return intake.Restore, "An old filling is replaced where it is broken, leaks or has caries beside it; one that is sound but for an open margin is better sealed there."
		default:
			return intake.Restore, "The tooth's form is lost or undermined."
		}
		if f.Depth.InDentin() {
			return intake.Restore, "Caries has reached dentin, where it goes on under an enamel that hides it."
		}
	}
	risk := ""
	if c.Patient.CariesRisk == intake.HighRisk {
		risk = " At high caries risk look again in three months."
	}
	switch {
	case stays && !fissure && !proximal && !cervical:
		return intake.Seal, "The old filling is sound but for its margin: roughen the margin, etch 15 seconds, bond, flow a thin resin over it and cure. Nothing is cut; look at it again at recall." + risk
	case cervical:
		return intake.Watch, "The lesion lies within cervical enamel, where it can be arrested: brush it clean, fluoride, and look again before drilling." + risk
	case fissure && !proximal:
		return intake.Seal, "The lesion lies within enamel: sealing arrests the lesion, and no tooth is spent." + risk
	case proximal:
		return intake.Watch, "The lesion lies within enamel, where it can be arrested: clean, fluoride, and compare the next bitewing before drilling." + risk
	default:
		return intake.Watch, "Nothing here calls for a cut." + risk
	}
}

// notDrilled refuses what is better sealed or watched, unless the dentist has
// decided otherwise; "" where the plan goes on.
func notDrilled(c *intake.Case, d Decision) string {
	if d.Treatment == intake.Restore || c.Choice.Treatment == intake.Restore {
		return ""
	}
	return fmt.Sprintf(
		"Not drilled by default: %s is advised. %s To plan a cavity all the same, choose to restore and keep your reason.",
		d.Treatment,
		d.Because,
	)
}

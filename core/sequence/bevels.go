package sequence

import (
	"fmt"
	"strings"

	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
	"obturon/core/lesion"
	"obturon/core/notation"
)

// towardsBite is the direction of a tooth's biting side, in words.
func towardsBite(t notation.Tooth) string {
	if t.Anterior() {
		return "incisal"
	}
	return "occlusal"
}

// drawnBevel is one bevel of a design, in words.
type drawnBevel struct{ action, gauge, caution string }

// bevel is what the form draws its enamel margin out to.
func bevel(c *cavity.Cavity) (action, gauge, caution string) {
	var drawn []drawnBevel
	switch d := c.Design.(type) {
	case smooth.Design:
		drawn = smoothBevels(d, c.Model.Tooth)
	case occlusal.Design:
		drawn = occlusalBevels(d)
	}
	for _, b := range drawn {
		action, caution, gauge = strings.TrimSpace(action+" "+b.action), strings.TrimSpace(caution+" "+b.caution), b.gauge
	}
	return action, gauge, caution
}

func occlusalBevels(d occlusal.Design) []drawnBevel {
	var all []drawnBevel
	if d.CuspBevel > 0 && len(d.Covered()) > 0 {
		all = append(
			all,
			drawnBevel{
				fmt.Sprintf(
					"%.1f mm wide, in irregular waves on the facial side, straight and as heavy on the lingual; roll the bur over every edge, so that no transition is sharp.",
					d.CuspBevel,
				),
				"probe beside it",
				"In enamel only: none at a gingival wall.",
			},
		)
	}
	if d.Bonded && d.BevelWidth > 0 {
		proximally := ""
		if d.AnyBox() {
			proximally = ", not down the proximal or gingival margin"
		}
		all = append(
			all,
			drawnBevel{
				fmt.Sprintf(
					"One light pass along the occlusal margin at %.0f degrees to the surface, %.1f mm wide; leave the enamel rough for bonding.",
					d.BevelAngle,
					d.BevelWidth,
				),
				"probe beside it",
				"Not under a contact" + proximally + ".",
			},
		)
	}
	return all
}

func smoothBevels(d smooth.Design, t notation.Tooth) []drawnBevel {
	var all []drawnBevel
	switch {
	case d.BevelWidth > 0 && d.Feathered():
		action := fmt.Sprintf("Draw the enamel out over %.1f mm, thinning to nothing, no sharp edge anywhere.", d.BevelWidth)
		if d.Style == cavity.Scalloped {
			action = fmt.Sprintf(
				"Draw the enamel out over about %.1f mm in irregular waves, thinning to nothing: no straight line for the light.",
				d.BevelWidth,
			)
		}
		all = append(all, drawnBevel{action, "explorer slides over the edge", "Sound enamel is spent: no further than the bond needs."})
	case d.BevelWidth > 0 && smooth.ClassOf(d.Site) == lesion.ClassV:
		all = append(
			all,
			drawnBevel{
				fmt.Sprintf("Bevel the %s enamel %.1f mm wide at about %.0f degrees; none at the root.", towardsBite(t), d.BevelWidth, d.BevelAngle),
				"probe beside it",
				"Keep off the gingiva and off the root.",
			},
		)
	case d.BevelWidth > 0:
		where := "the enamel margin"
		if smooth.ClassOf(d.Site) == lesion.ClassIV {
			where = "the facial margin as a slant, never a sharp 45 degree line"
		}
		all = append(
			all,
			drawnBevel{
				fmt.Sprintf(
					"Bevel %s, %.1f mm wide at %.0f degrees to the surface; leave the enamel rough for bonding.",
					where,
					d.BevelWidth,
					d.BevelAngle,
				),
				"probe beside it",
				"",
			},
		)
	}
	if d.LingualBevel > 0 {
		all = append(
			all,
			drawnBevel{
				fmt.Sprintf("A functional bevel of 45 degrees, %.1f mm wide; roll the bur over every edge.", d.LingualBevel),
				"",
				"Keep it clear of the marked contacts.",
			},
		)
	}
	return all
}

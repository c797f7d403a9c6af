package lesion

import (
	"slices"
	"strings"

	"obturon/core/notation"
)

// Class of a cavity: "I" to "V", or "rebuild" for lost cusps.
type Class string

// The classes of cavities.
const (
	ClassI   Class = "I"
	ClassII  Class = "II"
	ClassIII Class = "III"
	ClassIV  Class = "IV"
	ClassV   Class = "V"
	Rebuild  Class = "rebuild"
)

// weakened stands for a cusp found undermined: it is judged in the cavity that
// other findings open, and a rebuild where there are none.
const weakened Class = "weakened"

// Classify derives the class and the surfaces from the findings. The deepest
// change of the tooth's form decides: a lost cusp or corner, then a proximal
// lesion, then pits and fissures, then the neck. Old fillings count like caries
// in their place.
func Classify(findings []Finding, t notation.Tooth) (Class, []string) {
	surfaces := map[string]bool{}
	has := map[Class]bool{}
	for _, f := range findings {
		if f.Proximal() {
			surfaces[string(f.Site)] = true
			if t.Anterior() {
				has[ClassIII] = true
			} else {
				has[ClassII] = true
				surfaces["occlusal"] = true
			}
			continue
		}
		switch f.Kind {
		case UnderminedCusp:
			has[weakened] = true
			surfaces["occlusal"] = true
		case Fracture:
			if f.Site == MesialCorner || f.Site == DistalCorner {
				has[ClassIV] = true
				surfaces["incisal"] = true
				surfaces[strings.TrimSuffix(string(f.Site), "_incisal")] = true
			} else {
				has[Rebuild] = true
				surfaces["occlusal"] = true
			}
		case CervicalCaries:
			has[ClassV] = true
			surfaces[string(f.Site)] = true
		case FissureCaries, PitCaries, OldRestoration:
			if f.Site == Buccal || f.Site == Lingual { // a filling at the neck
				has[ClassV] = true
				surfaces[string(f.Site)] = true
				continue
			}
			has[ClassI] = true
			switch f.Site {
			case BuccalPit:
				surfaces["buccal"] = true
			case LingualPit:
				surfaces["lingual"] = true
			default:
				surfaces["occlusal"] = true
			}
		}
	}
	class := Class("")
	for _, c := range []Class{Rebuild, ClassIV, ClassII, ClassIII, ClassI, ClassV, weakened} {
		if has[c] {
			class = c
			break
		}
	}
	if class == weakened {
		class = Rebuild
	}
	var ordered []string
	for _, s := range []string{"mesial", "occlusal", "distal", "buccal", "lingual", "incisal"} {
		if surfaces[s] {
			ordered = append(ordered, s)
		}
	}
	return class, slices.Clip(ordered)
}

// HornInTheWay reports findings that call for a mesial box of a primary first
// molar, whose mesial horn lies where the axial wall would (paediatric
// dentistry convention).
func HornInTheWay(findings []Finding, t notation.Tooth) bool {
	const first = 4
	return t.Primary() && t.Position() == first &&
		slices.ContainsFunc(findings, func(f Finding) bool { return f.Proximal() && f.Site == Mesial })
}

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

// Classes lists them.
var Classes = []Class{ClassI, ClassII, ClassIII, ClassIV, ClassV, Rebuild}

// weakened stands for a cusp found undermined: it is judged in the cavity that
// other findings open, and a rebuild where there are none.
const weakened Class = "weakened"

// Classify derives the class and the surfaces from the findings. The deepest
// change of the tooth's form decides: a lost cusp or incisal angle, then a proximal
// lesion, then pits and fissures, then the cervical third. Old fillings count like caries
// in their place. The class is "" where nothing is cut.
func Classify(findings []Finding, t notation.Tooth) (Class, []string) {
	surfaces := map[string]bool{}
	has := map[Class]bool{}
	for _, f := range findings {
		class, opened := f.callsFor(t)
		has[class] = true
		for _, s := range opened {
			surfaces[s] = true
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
	return class, slices.Clip(InOrder(func(s string) bool { return surfaces[s] }))
}

// callsFor is the class of the cavity that a finding calls for by itself, and the
// surfaces that it opens; "" for a crack.
func (f Finding) callsFor(t notation.Tooth) (Class, []string) {
	side := string(f.Site)
	switch place := f.Site.place(); {
	case f.Kind == Crack:
		return "", nil
	case f.Kind == UnderminedCusp:
		return weakened, []string{"occlusal"}
	case f.OnIncisalAngle():
		return ClassIV, []string{"incisal", strings.TrimSuffix(side, "_incisal")}
	case f.OnCusp():
		return Rebuild, []string{"occlusal"}
	case place == onProximal && t.Anterior():
		return ClassIII, []string{side}
	case place == onProximal:
		return ClassII, []string{side, "occlusal"}
	case place == onSmooth:
		return ClassV, []string{side}
	case place == onSmoothPit:
		return ClassI, []string{strings.TrimSuffix(side, "_pit")}
	default:
		return ClassI, []string{"occlusal"}
	}
}

// InOrder lists the surfaces that are meant, in the order in which a charge or a
// record names them.
func InOrder(meant func(surface string) bool) []string {
	var ordered []string
	for _, s := range []string{"mesial", "occlusal", "distal", "buccal", "lingual", "incisal"} {
		if meant(s) {
			ordered = append(ordered, s)
		}
	}
	return ordered
}

// Letters is the short name of ordered surfaces, as charts have it: MOD; the facial
// surface is B on posterior teeth and F on anterior ones.
func Letters(surfaces []string, t notation.Tooth) string {
	var letters strings.Builder
	for _, s := range surfaces {
		switch {
		case s == string(Buccal) && t.Anterior():
			letters.WriteByte('F')
		case s != "":
			letters.WriteByte(s[0] - 'a' + 'A')
		}
	}
	if letters.String() == "OD" { // the one pair that is not said in its order
		return "DO"
	}
	return letters.String()
}

// HornInTheWay reports findings that call for a mesial box of a primary first
// molar, whose mesial horn lies where the axial wall would: texts of paediatric
// dentistry restore that side with a crown.
func HornInTheWay(findings []Finding, t notation.Tooth) bool {
	const first = 4
	return t.Primary() && t.Position() == first &&
		slices.ContainsFunc(findings, func(f Finding) bool { return f.Proximal() && f.Site == Mesial })
}

// Package lesion turns findings on a tooth into volumes inside it, and into
// the class and surfaces of the restoration they call for.
package lesion

import (
	"fmt"
	"slices"
	"strings"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

// Kind of finding.
type Kind string

// Site on the tooth.
type Site string

// Depth a lesion has reached.
type Depth string

// The kinds of findings a case may hold.
const (
	FissureCaries  Kind = "fissure_caries"
	PitCaries      Kind = "pit_caries"
	ProximalCaries Kind = "proximal_caries"
	CervicalCaries Kind = "cervical_caries"
	Fracture       Kind = "fracture"
	OldRestoration Kind = "old_restoration"
	UnderminedCusp Kind = "undermined_cusp"
	Crack          Kind = "crack"
)

// Kinds lists every kind.
var Kinds = []Kind{FissureCaries, PitCaries, ProximalCaries, CervicalCaries, Fracture, OldRestoration, UnderminedCusp, Crack}

// Sites that are not cusps.
const (
	Mesial       Site = "mesial"
	Distal       Site = "distal"
	Buccal       Site = "buccal"
	Lingual      Site = "lingual"
	Central      Site = "central"
	MesialPit    Site = "mesial_pit"
	DistalPit    Site = "distal_pit"
	BuccalPit    Site = "buccal_pit"
	LingualPit   Site = "lingual_pit"
	MesialCorner Site = "mesial_incisal"
	DistalCorner Site = "distal_incisal"
)

var cuspSites = map[Site][]string{
	"buccal_cusp":  {"B"},
	"lingual_cusp": {"L"},
	"mesiobuccal":  {"MB"},
	"distobuccal":  {"DB"},
	"mesiolingual": {"ML"},
	"distolingual": {"DL"},
	"distal_cusp":  {"D"},
}

// CuspSites lists the sites of a tooth's cusps.
func CuspSites(t notation.Tooth) []Site {
	var sites []Site
	for _, cusp := range anatomy.Describe(t).Cusps {
		for site, names := range cuspSites {
			if names[0] == cusp {
				sites = append(sites, site)
			}
		}
	}
	return sites
}

// Cusp is the name of a site's cusp on the model, "" for other sites.
func (s Site) Cusp() string {
	if names := cuspSites[s]; len(names) > 0 {
		return names[0]
	}
	return ""
}

// Depths lists the depths from shallow to deep.
var Depths = []Depth{"outer_enamel", "inner_enamel", "outer_dentin", "middle_dentin", "inner_dentin"}

// Finding is one thing seen on the tooth. Sizes of 0 take the depth's default.
type Finding struct {
	Kind  Kind
	Site  Site
	Depth Depth
	// Height (mm) is the extent along the crown's axis.
	Height float64
	// Width (mm) is the spread across, at the dentino-enamel junction.
	Width float64
	// Length (mm) is the extent along a fissure.
	Length float64
	// OverNeck (mm) is how far the middle of a cervical lesion lies over the
	// cervical line, negative on the root; nil takes the usual place.
	OverNeck *float64
	// Opens is the face through which a proximal lesion of an anterior tooth
	// shows: Buccal or Lingual, "" for neither.
	Opens Site
}

// Proximal reports a finding that opens a mesial or distal face.
func (f Finding) Proximal() bool {
	return f.Kind == ProximalCaries || f.Kind == OldRestoration && (f.Site == Mesial || f.Site == Distal)
}

// InDentin reports a lesion past the dentino-enamel junction.
func (d Depth) InDentin() bool { return strings.HasSuffix(string(d), "_dentin") }

// Fault is something wrong with a finding.
type Fault struct {
	Field   string // "kind", "site", "depth", "height_mm", "width_mm", "length_mm", "over_neck_mm", "opens"
	Message string
}

// Validate checks a finding against a tooth and returns every fault.
func Validate(f Finding, t notation.Tooth) []Fault {
	var faults []Fault
	add := func(field, format string, args ...any) {
		faults = append(faults, Fault{field, fmt.Sprintf(format, args...)})
	}
	if !slices.Contains(Kinds, f.Kind) {
		add("kind", "%q is no kind of finding: use one of %s", f.Kind, join(Kinds))
	}
	if !slices.Contains(Depths, f.Depth) {
		add("depth", "%q is no depth: use one of %s", f.Depth, join(Depths))
	}
	if problem := siteProblem(f, t); problem != "" {
		add("site", "%s", problem)
	}
	outline := anatomy.Describe(t)
	if f.OverNeck != nil {
		const root = 4.0 // mm of root that is modelled and may show
		switch {
		case f.Kind != CervicalCaries && (f.Kind != OldRestoration || f.Site != Buccal && f.Site != Lingual):
			add("over_neck_mm", "only lesions and fillings at the neck have a height over the cervical line: leave it out here")
		case !(*f.OverNeck >= -root && *f.OverNeck <= outline.Height):
			add("over_neck_mm", "%v mm over the cervical line is off the tooth: give %v (root) to %.1f (crown)", *f.OverNeck, -root, outline.Height)
		}
	}
	if f.Opens != "" {
		switch {
		case !t.Anterior() || !f.Proximal():
			add("opens", "only proximal lesions of anterior teeth open to a face: leave it out here")
		case f.Opens != Buccal && f.Opens != Lingual:
			add("opens", "%q is no face that a proximal lesion opens to: use buccal or lingual", f.Opens)
		}
	}
	for _, size := range []struct {
		field      string
		value, max float64
		across     string
	}{
		{"height_mm", f.Height, outline.Height, "crown is high"},
		{"width_mm", f.Width, outline.Buccolingual, "crown is wide buccolingually"},
		{"length_mm", f.Length, outline.Mesiodistal, "crown is long mesiodistally"},
	} {
		switch {
		case size.value < 0 || size.value != size.value:
			add(size.field, "%v mm is no size: leave it out for the default, or give a positive number", size.value)
		case size.max > 0 && size.value > size.max:
			add(size.field, "%.1f mm is larger than the tooth: this %s %.1f mm", size.value, size.across, size.max)
		}
	}
	return faults
}

// siteProblem says why a site cannot be on the tooth, or "".
func siteProblem(f Finding, t notation.Tooth) string {
	outline := anatomy.Describe(t)
	hasPit := func(name string) bool { return slices.Contains(outline.Pits, name) }
	switch f.Site {
	case Mesial, Distal, Buccal, Lingual:
	case Central:
		if t.Anterior() {
			return "an anterior tooth has no central fissure"
		}
	case MesialPit, DistalPit:
		name := strings.ReplaceAll(string(f.Site), "_", " ")
		if t.Anterior() || !hasPit(name) {
			return fmt.Sprintf("the %s has no %s", t.Name(), name)
		}
	case BuccalPit, LingualPit:
		name := strings.ReplaceAll(string(f.Site), "_", " ")
		if !slices.Contains(outline.FacePits, name) {
			return fmt.Sprintf("the %s has no %s: buccal pits lie on molars, lingual ones on upper molars and upper incisors", t.Name(), name)
		}
	case MesialCorner, DistalCorner:
		if !t.Anterior() {
			return "only anterior teeth have incisal corners"
		}
	default:
		if f.Site.OnGroove() {
			if problem := grooveProblem(f.Site, t); problem != "" {
				return problem
			}
			break
		}
		cusps, known := cuspSites[f.Site]
		if !known {
			return fmt.Sprintf("%q is no site: use mesial, distal, buccal, lingual, central, mesial_pit, distal_pit, buccal_pit, lingual_pit, mesial_incisal, distal_incisal or a cusp such as mesiobuccal", f.Site)
		}
		if len(outline.Cusps) == 0 {
			return fmt.Sprintf("the %s has an incisal edge, not cusps", t.Name())
		}
		if !slices.Contains(outline.Cusps, cusps[0]) {
			return fmt.Sprintf("the %s has no %s cusp: its cusps are %s", t.Name(), f.Site, strings.Join(outline.Cusps, ", "))
		}
	}
	if f.Kind == FissureCaries && f.Site != Central && f.Site != MesialPit && f.Site != DistalPit && !f.Site.OnGroove() {
		return fmt.Sprintf("fissure caries lies in the occlusal grooves: its site is central, mesial_pit, distal_pit or a groove such as buccal_groove, not %s", f.Site)
	}
	if f.Kind == PitCaries && f.Site != Central && !strings.HasSuffix(string(f.Site), "_pit") {
		return fmt.Sprintf("pit caries lies in a pit: its site is central, mesial_pit, distal_pit, buccal_pit or lingual_pit, not %s", f.Site)
	}
	if f.Kind == UnderminedCusp && f.Site.Cusp() == "" {
		return fmt.Sprintf("an undermined cusp is named by its cusp: on the %s one of %s, not %s", t.Name(), join(CuspSites(t)), f.Site)
	}
	if f.Kind == Fracture && f.Site.Cusp() == "" && f.Site != MesialCorner && f.Site != DistalCorner {
		return fmt.Sprintf("what breaks off is a cusp or an incisal corner: name one, not %s", f.Site)
	}
	if f.Kind == OldRestoration && (f.Site.Cusp() != "" || f.Site == MesialCorner || f.Site == DistalCorner) {
		return fmt.Sprintf("an old filling is named by its surface or pit, not %s", f.Site)
	}
	if f.Kind == ProximalCaries && f.Site != Mesial && f.Site != Distal {
		return fmt.Sprintf("proximal caries is mesial or distal, not %s", f.Site)
	}
	if f.Kind == CervicalCaries && f.Site != Buccal && f.Site != Lingual {
		return fmt.Sprintf("cervical caries is buccal or lingual here, not %s", f.Site)
	}
	return ""
}

// grooveProblem says why a side groove is not on a tooth, or "".
func grooveProblem(s Site, t notation.Tooth) string {
	sites := GrooveSites(t)
	switch {
	case slices.Contains(sites, s):
		return ""
	case len(sites) == 0:
		return fmt.Sprintf("the %s has no side grooves", t.Name())
	default:
		return fmt.Sprintf("the %s has no %s: its side grooves are %s", t.Name(), s, join(sites))
	}
}

func join[T ~string](values []T) string {
	words := make([]string, len(values))
	for n, v := range values {
		words[n] = string(v)
	}
	return strings.Join(words, ", ")
}

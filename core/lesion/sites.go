package lesion

import (
	"fmt"
	"slices"
	"strings"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

// Site on the tooth.
type Site string

// Sites that are neither cusps nor grooves.
const (
	Mesial             Site = "mesial"
	Distal             Site = "distal"
	Buccal             Site = "buccal" // the facial surface of any tooth
	Lingual            Site = "lingual"
	Central            Site = "central"
	MesialPit          Site = "mesial_pit"
	DistalPit          Site = "distal_pit"
	BuccalPit          Site = "buccal_pit"
	LingualPit         Site = "lingual_pit"
	MesialIncisalAngle Site = "mesial_incisal"
	DistalIncisalAngle Site = "distal_incisal"
)

// place is what sites of one sort have in common.
type place int

const (
	nowhere place = iota
	onOcclusal
	onGroove
	onProximal
	onSmooth
	onSmoothPit
	onIncisalAngle
	onCusp
)

// siteSpec names a site; a cusp has the model's name for it.
type siteSpec struct {
	site  Site
	label string
	place place
	cusp  string
}

var sites = []siteSpec{
	{Central, "Central fissure", onOcclusal, ""},
	{MesialPit, "Mesial pit", onOcclusal, ""},
	{DistalPit, "Distal pit", onOcclusal, ""},
	{"buccal_groove", "Buccal groove", onGroove, ""},
	{"lingual_groove", "Lingual groove", onGroove, ""},
	{"mesiobuccal_groove", "Mesiobuccal groove", onGroove, ""},
	{"distobuccal_groove", "Distobuccal groove", onGroove, ""},
	{"mesiolingual_groove", "Mesiolingual groove", onGroove, ""},
	{"distolingual_groove", "Distolingual groove", onGroove, ""},
	{Mesial, "Mesial", onProximal, ""},
	{Distal, "Distal", onProximal, ""},
	{Buccal, "Facial", onSmooth, ""},
	{Lingual, "Lingual", onSmooth, ""},
	{BuccalPit, "Buccal pit", onSmoothPit, ""},
	{LingualPit, "Lingual pit", onSmoothPit, ""},
	{MesialIncisalAngle, "Mesial incisal angle", onIncisalAngle, ""},
	{DistalIncisalAngle, "Distal incisal angle", onIncisalAngle, ""},
	{"buccal_cusp", "Buccal cusp", onCusp, "B"},
	{"lingual_cusp", "Lingual cusp", onCusp, "L"},
	{"mesiobuccal", "Mesiobuccal cusp", onCusp, "MB"},
	{"distobuccal", "Distobuccal cusp", onCusp, "DB"},
	{"mesiolingual", "Mesiolingual cusp", onCusp, "ML"},
	{"distolingual", "Distolingual cusp", onCusp, "DL"},
	{"distal_cusp", "Distal cusp", onCusp, "D"},
}

// Sites lists every site that a finding can have on some tooth.
var Sites = func() []Site {
	all := make([]Site, len(sites))
	for n, s := range sites {
		all[n] = s.site
	}
	return all
}()

func (s Site) spec() siteSpec {
	n := slices.IndexFunc(sites, func(o siteSpec) bool { return o.site == s })
	if n < 0 {
		return siteSpec{}
	}
	return sites[n]
}

func (s Site) place() place { return s.spec().place }

// Label is the site in the dentist's words.
func (s Site) Label() string { return s.spec().label }

// Cusp is the name of a site's cusp on the model, "" for other sites.
func (s Site) Cusp() string { return s.spec().cusp }

// SiteOfCusp is the site of a cusp by the model's name, "" for another name.
func SiteOfCusp(name string) Site {
	n := slices.IndexFunc(sites, func(s siteSpec) bool { return s.cusp == name && name != "" })
	if n < 0 {
		return ""
	}
	return sites[n].site
}

// OnGroove reports the site of a side groove, on whatever tooth.
func (s Site) OnGroove() bool { return s.place() == onGroove }

// Side is the proximal side that a site faces; ok is false for sites that face
// no neighbour.
func (s Site) Side() (side notation.Side, ok bool) {
	switch s {
	case Mesial, MesialIncisalAngle:
		return notation.Mesial, true
	case Distal, DistalIncisalAngle:
		return notation.Distal, true
	default:
		return notation.Mesial, false
	}
}

// pitName is what the model calls a pit.
func (s Site) pitName() string { return strings.ReplaceAll(string(s), "_", " ") }

// sitesAt lists the sites of a sort that a tooth has.
func sitesAt(p place, t notation.Tooth) []Site {
	var on []Site
	for _, s := range sites {
		if s.place == p && notOn(s, t) == "" {
			on = append(on, s.site)
		}
	}
	return on
}

// CuspSites lists the sites of a tooth's cusps.
func CuspSites(t notation.Tooth) []Site { return sitesAt(onCusp, t) }

// notOn says why a tooth does not have a site, or "".
func notOn(s siteSpec, t notation.Tooth) string {
	outline := anatomy.Describe(t)
	switch s.place {
	case onOcclusal:
		switch {
		case s.site == Central && t.Anterior():
			return "an anterior tooth has no central fissure"
		case s.site != Central && (t.Anterior() || !slices.Contains(outline.Pits, s.site.pitName())):
			return fmt.Sprintf("the %s has no %s", t.Name(), s.site.pitName())
		}
	case onSmoothPit:
		if !slices.Contains(outline.SmoothSurfacePits, s.site.pitName()) {
			return fmt.Sprintf(
				"the %s has no %s: buccal pits lie on molars, lingual ones on upper molars and upper incisors",
				t.Name(),
				s.site.pitName(),
			)
		}
	case onIncisalAngle:
		if !t.Anterior() {
			return "only anterior teeth have incisal angles"
		}
	case onGroove:
		switch grooves := GrooveSites(t); {
		case slices.Contains(grooves, s.site):
		case len(grooves) == 0:
			return fmt.Sprintf("the %s has no side grooves", t.Name())
		default:
			return fmt.Sprintf("the %s has no %s: its side grooves are %s", t.Name(), s.site, join(grooves))
		}
	case onCusp:
		switch {
		case len(outline.Cusps) == 0:
			return fmt.Sprintf("the %s has an incisal edge, not cusps", t.Name())
		case !slices.Contains(outline.Cusps, s.cusp):
			return fmt.Sprintf("the %s has no %s cusp: its cusps are %s", t.Name(), s.site, strings.Join(outline.Cusps, ", "))
		}
	}
	return ""
}

// siteProblem says why a finding cannot lie at its site, or "".
func siteProblem(f Finding, t notation.Tooth) string {
	spec := f.Site.spec()
	if spec.place == nowhere {
		return fmt.Sprintf(
			"%q is no site: use mesial, distal, buccal, lingual, central, mesial_pit, distal_pit, buccal_pit, lingual_pit, mesial_incisal, distal_incisal, a groove such as buccal_groove or a cusp such as mesiobuccal",
			f.Site,
		)
	}
	if problem := notOn(spec, t); problem != "" {
		return problem
	}
	kind, known := f.Kind.spec()
	if known && !slices.Contains(kind.places, spec.place) {
		return fmt.Sprintf("%s, not %s", kind.elsewhere(t), f.Site)
	}
	return ""
}

func join[T ~string](values []T) string {
	words := make([]string, len(values))
	for n, v := range values {
		words[n] = string(v)
	}
	return strings.Join(words, ", ")
}

package lesion

import (
	"slices"

	"obturon/core/notation"
)

// Kind of finding.
type Kind string

// The kinds of findings a case may hold.
const (
	FissureCaries  Kind = "fissure_caries"
	PitCaries      Kind = "pit_caries"
	ProximalCaries Kind = "proximal_caries"
	CervicalCaries Kind = "cervical_caries"
	OldRestoration Kind = "old_restoration"
	UnderminedCusp Kind = "undermined_cusp"
	Fracture       Kind = "fracture"
	Crack          Kind = "crack"
)

// Field is something that a finding may say beyond its kind and site.
type Field string

// The fields of findings, as documents call them.
const (
	DepthField            Field = "depth"
	OverCervicalLineField Field = "over_neck_mm"
	OpensField            Field = "opens"
	SurfaceField          Field = "surface"
	ActivityField         Field = "activity"
	FaultField            Field = "fault"
	ComplaintField        Field = "complaint"
	// Fields of the case that a finding makes worth asking for.
	BesideField   Field = "missing_neighbours" // whether a tooth stands beside it
	BitewingField Field = "bitewing"           // its depth can be measured on one
	PulpField     Field = "pulp"
	RootField     Field = "root_resorbed" // of a primary tooth
	GingivaField  Field = "gingiva"
	EnamelField   Field = "enamel" // how much light it lets through
)

// Content is what lies where a finding does: a film shows it so, a cavity takes it so, and a volume
// is counted so.
type Content string

// The contents. A finding that is only recorded has none.
const (
	Caries  Content = "caries"
	Filling Content = "filling"
	Gone    Content = "gone" // tooth that has broken off
)

// kindSpec is all that sets a kind of finding apart: what lies there, where, how it is
// said that it lies elsewhere, and what it may say.
type kindSpec struct {
	kind    Kind
	label   string
	content Content
	places  []place
	// elsewhere says why it cannot lie at a site, which is added.
	elsewhere func(t notation.Tooth) string
	fields    func(s Site, t notation.Tooth) []Field
}

// asCaries are the fields of caries, with those of its place.
func asCaries(more ...Field) []Field {
	return append([]Field{DepthField, SurfaceField, ActivityField, PulpField}, more...)
}

func says(text string) func(notation.Tooth) string {
	return func(notation.Tooth) string { return text }
}

// kinds lists every kind in the order in which it is offered; the first that a
// place can have is what a tap on it means.
var kinds = []kindSpec{
	{
		FissureCaries, "Fissure caries", Caries, []place{onOcclusal, onGroove},
		says("fissure caries lies in the occlusal grooves: its site is central, mesial_pit, distal_pit or a groove such as buccal_groove"),
		func(Site, notation.Tooth) []Field { return asCaries() },
	},
	{
		PitCaries, "Pit caries", Caries, []place{onOcclusal, onSmoothPit},
		says("pit caries lies in a pit: its site is central, mesial_pit, distal_pit, buccal_pit or lingual_pit"),
		func(Site, notation.Tooth) []Field { return asCaries() },
	},
	{
		ProximalCaries, "Proximal caries", Caries, []place{onProximal},
		says("proximal caries is mesial or distal"),
		func(_ Site, t notation.Tooth) []Field {
			if t.Anterior() {
				return asCaries(OpensField, BesideField)
			}
			return asCaries(BesideField, BitewingField)
		},
	},
	{
		CervicalCaries, "Cervical caries", Caries, []place{onSmooth},
		says("cervical caries is buccal or lingual here"),
		func(Site, notation.Tooth) []Field { return asCaries(OverCervicalLineField, GingivaField) },
	},
	{
		OldRestoration, "Old filling", Filling, []place{onOcclusal, onProximal, onSmooth, onSmoothPit},
		says("an old filling is named by its surface or pit"),
		func(s Site, t notation.Tooth) []Field {
			fields := []Field{DepthField, FaultField, PulpField}
			switch s.place() {
			case onProximal:
				if t.Anterior() {
					fields = append(fields, OpensField)
				}
				fields = append(fields, BesideField)
			case onSmooth:
				fields = append(fields, OverCervicalLineField, GingivaField)
			}
			return fields
		},
	},
	{
		UnderminedCusp, "Undermined cusp", "", []place{onCusp},
		func(t notation.Tooth) string {
			return "an undermined cusp is named by its cusp: on the " + t.Name() + " one of " + join(CuspSites(t))
		},
		func(Site, notation.Tooth) []Field { return []Field{DepthField} },
	},
	{
		Fracture, "Broken off", Gone, []place{onCusp, onIncisalAngle},
		says("what breaks off is a cusp or an incisal angle: name one"),
		func(s Site, _ notation.Tooth) []Field {
			if s.place() == onIncisalAngle {
				return []Field{DepthField, BesideField, EnamelField, PulpField}
			}
			return []Field{DepthField, PulpField}
		},
	},
	{
		Crack, "Crack", "", []place{onProximal, onSmooth},
		says("a crack is named by the surface on which it shows"),
		func(s Site, _ notation.Tooth) []Field {
			if s.place() == onSmooth {
				return []Field{ComplaintField, PulpField, GingivaField}
			}
			return []Field{ComplaintField, PulpField}
		},
	},
}

// Kinds lists every kind.
var Kinds = func() []Kind {
	all := make([]Kind, len(kinds))
	for n, k := range kinds {
		all[n] = k.kind
	}
	return all
}()

// Content is what lies where such a finding does.
func (k Kind) Content() Content {
	s, _ := k.spec()
	return s.content
}

func (k Kind) spec() (kindSpec, bool) {
	n := slices.IndexFunc(kinds, func(s kindSpec) bool { return s.kind == k })
	if n < 0 {
		return kindSpec{}, false
	}
	return kinds[n], true
}

// OfFissures reports caries of pits and fissures.
func (k Kind) OfFissures() bool { return k == FissureCaries || k == PitCaries }

// KindChoice is a kind of finding that a tooth can have, with its sites there.
type KindChoice struct {
	Kind  Kind
	Label string
	Sites []SiteChoice
}

// SiteChoice is a site of a kind of finding and what can be said of it there.
type SiteChoice struct {
	Site   Site
	Label  string
	Fields []Field
}

// Choices lists the kinds of findings that a tooth can have.
func Choices(t notation.Tooth) []KindChoice {
	var all []KindChoice
	for _, k := range kinds {
		choice := KindChoice{Kind: k.kind, Label: k.label}
		for _, p := range k.places {
			for _, s := range sitesAt(p, t) {
				if len(Apart(Finding{Kind: k.kind, Site: s}, t)) > 1 { // its parts are asked for
					continue
				}
				fields := k.fields(s, t)
				if t.Primary() && slices.Contains(fields, PulpField) {
					fields = append(fields, RootField)
				}
				choice.Sites = append(choice.Sites, SiteChoice{s, s.Label(), fields})
			}
		}
		if len(choice.Sites) > 0 {
			all = append(all, choice)
		}
	}
	return all
}

// StartingFinding is what intake starts from on a tooth: the commonest lesion of
// its kind, caries of the occlusal fissures of posterior teeth and proximal caries
// of anterior ones, at the depth from which a filling is usual.
func StartingFinding(t notation.Tooth) Finding {
	choice := Choices(t)[0]
	if t.Anterior() {
		return Finding{Kind: ProximalCaries, Site: Mesial, Depth: OuterDentin}
	}
	return Finding{Kind: choice.Kind, Site: choice.Sites[0].Site, Depth: OuterDentin}
}

// Fields lists the fields that a finding may have beyond its kind and site.
var Fields = []Field{
	DepthField, SurfaceField, ActivityField, FaultField, ComplaintField, PulpField, RootField,
	OverCervicalLineField, OpensField, BesideField, BitewingField, GingivaField, EnamelField,
}

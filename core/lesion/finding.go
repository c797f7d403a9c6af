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

// Depth a lesion has reached.
type Depth string

// The depths: halves of the enamel and thirds of the dentin, as a bitewing is read.
const (
	OuterEnamel  Depth = "outer_enamel"
	InnerEnamel  Depth = "inner_enamel"
	OuterDentin  Depth = "outer_dentin"
	MiddleDentin Depth = "middle_dentin"
	InnerDentin  Depth = "inner_dentin"
)

// Depths lists the depths from shallow to deep.
var Depths = []Depth{OuterEnamel, InnerEnamel, OuterDentin, MiddleDentin, InnerDentin}

// InDentin reports a lesion past the dentino-enamel junction.
func (d Depth) InDentin() bool { return strings.HasSuffix(string(d), "_dentin") }

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
	// OverCervicalLine (mm) is how far the middle of a cervical lesion lies over the
	// cervical line, negative on the root; nil takes the usual place.
	OverCervicalLine *float64
	// Opens is the surface through which a proximal lesion of an anterior tooth
	// shows: Buccal or Lingual, "" for neither.
	Opens Site
	Evidence
}

// Name is the finding in the dentist's words: "proximal caries, mesial".
func (f Finding) Name() string {
	spec, _ := f.Kind.spec()
	return strings.ToLower(spec.label + ", " + f.Site.Label())
}

// Proximal reports a finding that opens a mesial or distal surface.
func (f Finding) Proximal() bool {
	return f.Kind == ProximalCaries || f.Kind == OldRestoration && f.Site.place() == onProximal
}

// OnSmoothSurface reports a finding on a facial or lingual surface, off the
// occlusal one.
func (f Finding) OnSmoothSurface() bool {
	switch f.Site.place() {
	case onSmoothPit:
		return f.Kind == PitCaries || f.Kind == OldRestoration
	case onSmooth:
		return f.Kind == CervicalCaries || f.Kind == OldRestoration
	default:
		return false
	}
}

// OnIncisalAngle reports an incisal angle that is lost.
func (f Finding) OnIncisalAngle() bool {
	return f.Kind == Fracture && f.Site.place() == onIncisalAngle
}

// OnCusp reports a cusp that has broken off.
func (f Finding) OnCusp() bool { return f.Kind == Fracture && f.Site.place() == onCusp }

// Recorded reports a finding that is written down and never cut by itself: a
// crack, or a cusp whose fate the other findings decide.
func (f Finding) Recorded() bool { return f.Kind == Crack || f.Kind == UnderminedCusp || f.OnCusp() }

// Fault is something wrong with a finding.
type Fault struct {
	Field   string // as the document calls it: "kind", "site", "depth", "height_mm" ...
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
	if f.OverCervicalLine != nil {
		const root = 4.0 // mm of root that is modelled and may show
		switch {
		case !f.takes(OverCervicalLineField, t):
			add("over_neck_mm", "only lesions and fillings at the cervical line have a height above the CEJ: leave it out here")
		case !(*f.OverCervicalLine >= -root && *f.OverCervicalLine <= outline.Height):
			add("over_neck_mm", "%v mm above the CEJ is off the tooth: give %v (root) to %.1f (crown)", *f.OverCervicalLine, -root, outline.Height)
		}
	}
	if f.Opens != "" {
		switch {
		case !f.takes(OpensField, t):
			add("opens", "only proximal lesions of anterior teeth open to a facial or lingual surface: leave it out here")
		case f.Opens != Buccal && f.Opens != Lingual:
			add("opens", "%q is no surface that a proximal lesion opens to: use buccal or lingual", f.Opens)
		}
	}
	for _, e := range []struct {
		field Field
		given bool
		says  string
	}{
		{SurfaceField, f.Surface != "", "only caries has a surface that is intact or broken: leave it out here"},
		{ActivityField, f.Activity != "", "only caries is active or arrested: leave it out here"},
		{FaultField, f.Fault != "", "only an old filling has a fault: leave it out here"},
		{ComplaintField, f.Complaint != "", "only a crack hurts on biting or is split: leave it out here"},
	} {
		if e.given && !f.takes(e.field, t) {
			add(string(e.field), "%s", e.says)
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

// takes reports a field that the finding may have; of an unknown kind, none.
func (f Finding) takes(field Field, t notation.Tooth) bool {
	spec, known := f.Kind.spec()
	return known && slices.Contains(spec.fields(f.Site, t), field)
}

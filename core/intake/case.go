// Package intake holds what is known and decided of a tooth before it is planned:
// the patient, the findings, and the dentist's own choices.
package intake

import (
	"fmt"
	"slices"
	"strings"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

// Case is what a plan is made from. Lengths are millimetres.
type Case struct {
	Tooth    notation.Tooth
	Patient  Patient
	Findings []lesion.Finding
	// Contacts are the occlusal contacts marked before isolation: towards mesial
	// and facial from the middle of the occlusal table.
	Contacts []solid.Point2
	Missing  []notation.Side // sides on which no tooth stands
	Enamel   Enamel
	Pulp     Pulp
	// RootResorbed tells of a primary tooth whose root is going, on a film or by its mobility.
	RootResorbed bool
	// Gingiva is where its free margin was seen; nil takes that of the age.
	Gingiva *anatomy.Gingiva
	Choice  Choice
	// Overrides are dimensions set by hand, by their ids.
	Overrides map[string]float64
	// Rules are the practice's own that the choice names, nil where it names none.
	Rules *school.School
	// Kit is what the practice has of the instruments; nil is all of them.
	Kit *instrument.Kit
}

// Patient is known by a code and what bears on the plan, never by name.
type Patient struct {
	Code                                                 string
	AgeYears                                             float64
	PregnantOrNursing, KidneyDisease, MercurySensitivity bool
	CariesRisk                                           Risk
	Isolation                                            Isolation
	Parafunction                                         bool // grinding or clenching
	VisibleZone                                          bool // the tooth shows when speaking or smiling
	CannotCope                                           bool // with drilling
}

// Risk of caries; "" where it was not judged.
type Risk string

// The risks.
const (
	LowRisk      Risk = "low"
	ModerateRisk Risk = "moderate"
	HighRisk     Risk = "high"
)

// Risks lists them.
var Risks = []Risk{LowRisk, ModerateRisk, HighRisk}

// Isolation of the field; "" where it was not judged.
type Isolation string

// How well a field can be kept dry.
const (
	Secure   Isolation = "secure"
	Doubtful Isolation = "doubtful"
	None     Isolation = "none"
)

// Isolations lists them.
var Isolations = []Isolation{Secure, Doubtful, None}

// Wet reports a field that may not stay dry.
func (i Isolation) Wet() bool { return i == Doubtful || i == None }

// Enamel as it lets light through; "" where it was not looked at.
type Enamel string

// How much light enamel lets through.
const (
	Translucent Enamel = "translucent"
	Opaque      Enamel = "opaque"
)

// Enamels lists them.
var Enamels = []Enamel{Translucent, Opaque}

// Treatment of a finding.
type Treatment string

// The treatments that can be advised, the least first.
const (
	Watch   Treatment = "watch"
	Arrest  Treatment = "arrest"
	Seal    Treatment = "seal"
	Smooth  Treatment = "smooth" // a chip of enamel, or its fragment reattached
	Repair  Treatment = "repair" // an old filling at its fault
	Restore Treatment = "restore"
	Replace Treatment = "replace" // an old filling
	Cover   Treatment = "cover"   // weak cusps
	Refer   Treatment = "refer"   // for the pulp, a crown, an extraction, or a diagnosis first
)

// Treatments lists them.
var Treatments = []Treatment{Watch, Arrest, Seal, Smooth, Repair, Restore, Replace, Cover, Refer}

// Label is what a treatment is called.
func (t Treatment) Label() string {
	return map[Treatment]string{
		Watch: "Watch", Arrest: "Arrest", Seal: "Seal", Smooth: "Smooth or reattach", Repair: "Repair", Restore: "Restore",
		Replace: "Replace", Cover: "Cover", Refer: "Decide or refer first",
	}[t]
}

// Cuts reports a treatment for which a cavity is cut.
func (t Treatment) Cuts() bool { return t == Restore || t == Replace || t == Cover }

// Pulp as history and tests have it; "" where it was not tested.
type Pulp string

// The states of the pulp. Irreversible stands for signs that no filling mends: pain at night or
// of its own, a sinus, mobility, a dark furcation, no answer to cold.
const (
	Healthy      Pulp = "healthy"
	Reversible   Pulp = "reversible"
	Irreversible Pulp = "irreversible"
)

// PulpTests says how the pulp of a tooth is judged. Sensibility tests of primary teeth tell nothing to
// rely on (paediatric dentistry).
func PulpTests(t notation.Tooth) string {
	if t.Primary() {
		return "history, sinus, mobility, and a film of the furcation"
	}
	return "history, cold test, percussion, and a film"
}

// Pulps lists them.
var Pulps = []Pulp{Healthy, Reversible, Irreversible}

// Choice is what the dentist decided; what is left empty is proposed.
type Choice struct {
	Material school.Material
	School   string
	Layout   cavity.Layout // of a Class II
	Style    cavity.Style  // of the enamel margin, of a Class III or IV
	Lock     bool          // a lingual lock at a lost incisal angle
	Upper    cavity.UpperEdge
	Reason   string // the dentist's own, kept with the plan
	// Treatment is what the dentist decided; "" follows the advice.
	Treatment Treatment
	// Removal is how caries near the pulp is removed, Selective where it says nothing.
	Removal cavity.CariesRemoval
	// KeepsCusps tells that cusps found undermined are kept, against the advice.
	KeepsCusps bool
	// HidesMargin tells that a cervical margin in view is to be hidden under the gingiva.
	HidesMargin bool
}

// House is the id of the house rules that the case is planned under, "" if none.
func (c *Case) House() string {
	if !school.IsHouse(c.Choice.School) {
		return ""
	}
	return c.Choice.School
}

// Under plans the case under a practice's own rules. Their version, which a choice may name,
// is the rules' own from then on.
func (c *Case) Under(rules *school.School) {
	c.Choice.School, c.Rules = rules.ID, rules
}

// SchoolOf finds the school of a choice. The error is Faults where the choice
// names house rules that the case does not carry.
func (c *Case) SchoolOf(choice Choice) (*school.School, error) {
	if !school.IsHouse(choice.School) {
		return school.Get(choice.School)
	}
	if c.Rules == nil {
		return nil, Faults{
			{
				"$.choice.school",
				fmt.Sprintf(
					"%s are house rules of a practice, which are not known here: choose one of %s",
					choice.School,
					strings.Join(school.IDs, ", "),
				),
			},
		}
	}
	return c.Rules, nil
}

// ToCut are the findings that cavities are planned for, as they lie on the tooth: all but
// old fillings that stay.
func (c *Case) ToCut() []lesion.Finding {
	var cut []lesion.Finding
	for _, f := range c.Findings {
		if c.stays(f) {
			continue
		}
		for _, apart := range lesion.Apart(f, c.Tooth) {
			if !slices.ContainsFunc(cut, func(o lesion.Finding) bool { return o.Kind == apart.Kind && o.Site == apart.Site }) {
				cut = append(cut, apart)
			}
		}
	}
	return cut
}

// stays reports an old filling that is not cut out: the dentist may want one replaced that would.
func (c *Case) stays(f lesion.Finding) bool { return f.Stays() && c.Choice.Treatment != Replace }

// Staying are the old fillings that are not replaced.
func (c *Case) Staying() []lesion.Finding {
	return slices.DeleteFunc(slices.Clone(c.Findings), func(f lesion.Finding) bool { return !c.stays(f) })
}

// AnyInDentin reports a finding that has reached dentin.
func (c *Case) AnyInDentin() bool {
	return slices.ContainsFunc(c.Findings, func(f lesion.Finding) bool { return f.Kind != lesion.Crack && !c.stays(f) && f.Depth.InDentin() })
}

// GingivaSeen is the free margin as seen, or as the age has it.
func (c *Case) GingivaSeen() anatomy.Gingiva {
	if c.Gingiva == nil {
		return anatomy.GingivaAt(c.Patient.AgeYears)
	}
	return *c.Gingiva
}

// Dimensions lists every dimension that an override may name, with the limits
// between which it can be built.
func Dimensions() []cavity.Limits { return slices.Concat(occlusal.Limits(), smooth.Limits()) }

// Fault is one thing wrong with a document, at its JSON path.
type Fault struct {
	Path    string `json:"path"`
	Message string `json:"message"`
}

// Faults is every fault of a document; it is an error when not empty.
type Faults []Fault

// Error lists one fault a line: "path: message".
func (f Faults) Error() string {
	lines := make([]string, len(f))
	for n, fault := range f {
		lines[n] = fault.Path + ": " + fault.Message
	}
	return strings.Join(lines, "\n")
}

// Check lists what is wrong with a case whose document has the right form: what
// the tooth does not have, and what cannot be built.
func (c *Case) Check() Faults {
	var faults Faults
	for n, f := range c.Findings {
		for _, fault := range lesion.Validate(f, c.Tooth) {
			faults = append(faults, Fault{fmt.Sprintf("$.findings[%d].%s", n, fault.Field), fault.Message})
		}
	}
	known := Dimensions()
	for _, id := range sortedKeys(c.Overrides) {
		if problem := cavity.CheckOverride(known, id, c.Overrides[id]); problem != "" {
			faults = append(faults, Fault{"$.overrides." + id, problem})
		}
	}
	return faults
}

func sortedKeys(m map[string]float64) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

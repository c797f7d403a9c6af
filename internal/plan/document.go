package plan

import (
	"math"

	"obturon/core/assess"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/prep"
	"obturon/core/sequence"
)

// Schema names the version of plan documents.
const Schema = "obturon.plan/1"

// Document is a plan as it is stored, printed and exported. Lengths are
// millimetres in the tooth frame, angles degrees, volumes mm³.
type Document struct {
	Schema        string             `json:"schema"`
	Core          string             `json:"core"` // version of the core that made it
	Tooth         notation.Tooth     `json:"tooth"`
	Class         lesion.Class       `json:"class"`
	Surfaces      []string           `json:"surfaces"`
	Material      string             `json:"material"`
	School        string             `json:"school"`
	SchoolVersion string             `json:"school_version,omitempty"`
	Reason        string             `json:"choice_reason,omitempty"`   // why material and school were proposed
	Decision      string             `json:"decision_reason,omitempty"` // the dentist's own reason for the choice
	Advice        Advice             `json:"advice"`
	Dimensions    map[string]float64 `json:"dimensions"`
	Checks        []Check            `json:"checks"`
	Volumes       Volumes            `json:"volumes"`
	Finishes      []Finish           `json:"finishes,omitempty"`
	Gingiva       *Gingiva           `json:"gingiva,omitempty"` // that cavities at the neck were planned against
	Sequence      []Step             `json:"sequence"`
	Cautions      []string           `json:"cautions"`
	Refused       string             `json:"refused,omitempty"`
}

// Check is one judged criterion.
type Check struct {
	ID          string   `json:"id"`
	Label       string   `json:"label"`
	Form        string   `json:"form"`
	Side        string   `json:"side,omitempty"` // of the box it is about
	Value       *float64 `json:"value"`          // null where it could not be measured
	Uncertainty float64  `json:"uncertainty"`
	Unit        string   `json:"unit"`
	Target      Range    `json:"target"`
	Verdict     string   `json:"verdict"`
	Severity    string   `json:"severity,omitempty"`
	Where       *Place   `json:"where,omitempty"`
	Why         string   `json:"why"`
	Fix         string   `json:"fix,omitempty"`
	Dimension   string   `json:"dimension,omitempty"`
}

// Range of accepted values.
type Range struct {
	Min float64 `json:"min"`
	Max float64 `json:"max"`
}

// Place on the tooth.
type Place struct {
	Name  string     `json:"name"`
	Point [3]float64 `json:"point"`
}

// Volumes in mm³.
type Volumes struct {
	Enamel     float64 `json:"enamel"`
	Dentin     float64 `json:"dentin"`
	Lesion     float64 `json:"lesion"`
	OldFilling float64 `json:"old_filling,omitempty"` // counted neither as enamel nor as dentin
	Lost       float64 `json:"lost,omitempty"`        // broken off before
	Cavity     float64 `json:"cavity"`
	LesionLeft float64 `json:"lesion_left"`
}

// Finish is what the margins of a cavity on a face or an edge gain and cost.
// Areas are mm², volumes mm³, lengths mm.
type Finish struct {
	Site         string       `json:"site"`
	Name         string       `json:"name"`
	Class        lesion.Class `json:"class"`
	Style        string       `json:"style,omitempty"`
	BondedEnamel float64      `json:"bonded_enamel"`
	BondedDentin float64      `json:"bonded_dentin"`
	EnamelSpent  float64      `json:"enamel_spent"` // sound
	Margin       float64      `json:"margin"`
	MarginSeen   float64      `json:"margin_seen"`       // from the front
	Contact      string       `json:"contact,omitempty"` // kept, partly broken or broken
}

// Step of the sequence.
type Step struct {
	Step       string  `json:"step"`
	Instrument string  `json:"instrument"`
	Speed      string  `json:"speed"`
	Action     string  `json:"action"`
	Depth      float64 `json:"depth_mm,omitempty"`
	Gauge      string  `json:"gauge,omitempty"`
	Caution    string  `json:"caution,omitempty"`
	Seconds    int     `json:"seconds"`
}

func documentChecks(checks []assess.Check) []Check {
	list := make([]Check, 0, len(checks))
	for _, c := range checks {
		d := Check{
			ID: c.ID, Label: c.Label, Form: c.Form, Side: c.Side, Uncertainty: round(c.Uncertainty), Unit: c.Unit,
			Target:  Range{round(c.Target.Min), round(c.Target.Max)},
			Verdict: string(c.Verdict), Severity: string(c.Severity), Why: c.Why, Fix: c.Fix, Dimension: c.Dimension,
		}
		if c.Verdict != assess.NotApplicable {
			value := round(c.Value)
			d.Value = &value
			at := c.Where.At
			d.Where = &Place{c.Where.Name, [3]float64{round(at.X), round(at.Y), round(at.Z)}}
		}
		list = append(list, d)
	}
	return list
}

func documentSteps(steps []sequence.Step) []Step {
	list := make([]Step, 0, len(steps))
	for _, s := range steps {
		list = append(list, documentStep(s))
	}
	return list
}

func documentStep(s sequence.Step) Step {
	return Step{s.Name, s.Instrument, s.Speed, s.Action, round(s.Depth), s.Gauge, s.Caution, s.Seconds}
}

func documentDimensions(list []prep.Dimension) map[string]float64 {
	dimensions := map[string]float64{}
	for _, d := range list {
		dimensions[d.ID] = round(d.Value)
	}
	return dimensions
}

// round keeps documents to a thousandth, far below what is measurable.
func round(v float64) float64 { return math.Round(v*1000) / 1000 }

package render

import (
	"encoding/json"
	"fmt"

	"obturon/core/assess"
	"obturon/core/school"
	"obturon/core/tolerance"
	"obturon/internal/document"
)

// keptCheck is what a tolerance run keeps of a check: of an outcome the verdict and the
// value, of the drawn cavity also what it is.
type keptCheck struct {
	ID       school.CriterionID `json:"id,omitempty"`
	Side     string             `json:"side,omitempty"`
	Label    string             `json:"label,omitempty"`
	Unit     string             `json:"unit,omitempty"`
	Severity school.Severity    `json:"severity,omitempty"`
	Verdict  assess.Verdict     `json:"verdict"`
	Value    float64            `json:"value"`
}

type keptOutcome struct {
	Seed   uint64      `json:"seed"`
	Taken  float64     `json:"taken_mm3"`
	Checks []keptCheck `json:"checks"`
}

type keptDrawn struct {
	Cavity string      `json:"cavity"`
	Checks []keptCheck `json:"checks"`
}

// EncodeOutcomes writes outcomes by cavity, to be kept until all parts of a run are done.
func EncodeOutcomes(all [][]tolerance.Outcome) ([]byte, error) {
	kept := make([][]keptOutcome, len(all))
	for n, cavity := range all {
		for _, o := range cavity {
			k := keptOutcome{Seed: o.Seed, Taken: document.Thousandth(o.Taken)}
			for _, c := range o.Checks {
				k.Checks = append(k.Checks, keptCheck{Verdict: c.Verdict, Value: document.Thousandth(c.Value)})
			}
			kept[n] = append(kept[n], k)
		}
	}
	return json.Marshal(kept)
}

// DecodeOutcomes reads what EncodeOutcomes wrote.
func DecodeOutcomes(data []byte) ([][]tolerance.Outcome, error) {
	var kept [][]keptOutcome
	if err := json.Unmarshal(data, &kept); err != nil {
		return nil, fmt.Errorf("reading the outcomes of a tolerance run: %w", err)
	}
	all := make([][]tolerance.Outcome, len(kept))
	for n, cavity := range kept {
		for _, k := range cavity {
			o := tolerance.Outcome{Seed: k.Seed, Taken: k.Taken}
			for _, c := range k.Checks {
				o.Checks = append(o.Checks, assess.Check{Verdict: c.Verdict, Value: c.Value})
			}
			all[n] = append(all[n], o)
		}
	}
	return all, nil
}

// EncodeDrawn writes the cavities that outcomes are compared with.
func EncodeDrawn(all []tolerance.Drawn) ([]byte, error) {
	kept := make([]keptDrawn, len(all))
	for n, d := range all {
		kept[n].Cavity = d.Cavity
		for _, c := range d.Checks {
			kept[n].Checks = append(kept[n].Checks, keptCheck{c.ID, c.Side, c.Label, c.Unit, c.Severity, c.Verdict, document.Thousandth(c.Value)})
		}
	}
	return json.Marshal(kept)
}

// DecodeDrawn reads what EncodeDrawn wrote.
func DecodeDrawn(data []byte) ([]tolerance.Drawn, error) {
	var kept []keptDrawn
	if err := json.Unmarshal(data, &kept); err != nil {
		return nil, fmt.Errorf("reading the drawn cavities of a tolerance run: %w", err)
	}
	all := make([]tolerance.Drawn, len(kept))
	for n, k := range kept {
		all[n].Cavity = k.Cavity
		for _, c := range k.Checks {
			all[n].Checks = append(
				all[n].Checks,
				assess.Check{ID: c.ID, Side: c.Side, Label: c.Label, Unit: c.Unit, Severity: c.Severity, Verdict: c.Verdict, Value: c.Value},
			)
		}
	}
	return all, nil
}

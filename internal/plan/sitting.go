package plan

import (
	"context"
	"fmt"
	"slices"

	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/procedure"
	"obturon/core/sitting"
	"obturon/internal/document"
)

// Sitting is several cavities at the cervical line of one quadrant, prepared, filled and
// finished together.
type Sitting struct {
	Teeth []string
	Steps []procedure.Step
	Tray  []sitting.Item // that has to lie ready for it
}

// Sitting plans what of the cases of one patient's quadrant is treated with the first, and is
// cut, as one sitting with the kit of the first; nil where that is done alone. proven finds the
// proof of a case, nil where it has none. Errors are those of Evaluate, with the tooth, and of
// proven.
func (p *Planner) Sitting(ctx context.Context, cases []*intake.Case, proven func(c *intake.Case) (*Proof, error), products fill.Products, grid float64) (*Sitting, error) {
	s := &Sitting{}
	var visits []sitting.Visit
	var filled []sitting.Filled
	for _, c := range sitting.With(cases) {
		r, _, err := p.judged(ctx, c, grid, solved)
		if err != nil {
			return nil, fmt.Errorf("planning tooth %s: %w", c.Tooth, err)
		}
		if r.Refused() != "" {
			continue
		}
		proof, err := proven(c)
		if err != nil {
			return nil, err
		}
		fillings := r.Filled(products)
		visits = append(visits, sitting.Visit{Tooth: c.Tooth.String(), Steps: r.course(r.steps(proof), fillings, products)})
		s.Teeth = append(s.Teeth, c.Tooth.String())
		filled = append(filled, laidOut(fillings)...)
	}
	if len(visits) < sitting.Fewest {
		return nil, nil
	}
	s.Steps = sitting.Together(visits)
	s.Tray = sitting.Tray(s.Steps, filled, cases[0].Kit)
	return s, nil
}

// steps are those that a proof has, else those that the design asks for.
func (r *Result) steps(proof *Proof) []procedure.Step {
	if proof != nil {
		return proof.Steps
	}
	return r.Steps
}

// course is what is done for a tooth, from marking to the last word.
func (r *Result) course(cut []procedure.Step, fillings []Filling, products fill.Products) []procedure.Step {
	var filled []sitting.Filling
	for _, f := range fillings {
		filled = append(filled, sitting.Filling{Of: nameAmong(fillings, f), Steps: f.Steps})
	}
	return sitting.Course(cut, sitting.Ready(r.Subjects, r.Case, products), filled)
}

// laidOut is what of some fillings has to lie ready.
func laidOut(fillings []Filling) []sitting.Filled {
	all := make([]sitting.Filled, len(fillings))
	for n, f := range fillings {
		all[n] = sitting.Filled{Plans: f.Plans, Matrix: f.Matrix}
	}
	return all
}

// ProvenCase is a case with its proof.
type ProvenCase struct {
	*Result
	Proof *Proof
}

// Led is the sequence at the chair of one tooth, or of several in one sitting, from marking
// to the last word. Of several it has the cavities of all, one after the other.
func Led(all []ProvenCase, products fill.Products, facing ...fill.Facing) document.ProvenSequence {
	led := all[0].Proof.Sequence()
	visits := make([]sitting.Visit, len(all))
	of, before := map[string]*Proof{}, map[string]int{}
	for n, r := range all {
		tooth := r.Case.Tooth.String()
		visits[n] = sitting.Visit{Tooth: tooth, Steps: r.course(r.Proof.Steps, r.Filled(products, facing...), products)}
		of[tooth] = r.Proof
		if n == 0 {
			continue
		}
		before[tooth] = len(led.Cavities)
		led.Cavities, led.AsCut = slices.Concat(led.Cavities, r.Proof.Proven), slices.Concat(led.AsCut, r.Proof.AsCut)
	}
	steps := sitting.Together(visits)
	led.Steps = Steps(steps)
	for n, s := range steps {
		if s.Cut == nil {
			continue
		}
		proof, first := all[0].Proof, 0
		if len(s.Teeth) > 0 {
			proof, first = of[s.Teeth[0]], before[s.Teeth[0]]
		}
		cut := *proof.Cuts[s.Shown-1]
		cut.Cavity += first
		led.Steps[n].Cut = &cut
	}
	return led
}

// TrayItems writes what lies ready.
func TrayItems(tray []sitting.Item) []document.TrayItem {
	all := make([]document.TrayItem, len(tray))
	for n, i := range tray {
		all[n] = document.TrayItem{Group: string(i.Group), Name: i.Name, Count: i.Count, SingleUse: i.SingleUse, Note: i.Note, Missing: i.Missing}
	}
	return all
}

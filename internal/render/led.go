package render

import (
	"obturon/core/fill"
	"obturon/core/pipeline"
	"obturon/core/sitting"
	"obturon/internal/document"
	"slices"
)

// ProvenCase is a case with its proof.
type ProvenCase struct {
	*pipeline.Measured
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
		visits[n] = sitting.Visit{Tooth: tooth, Steps: r.Fill(products, facing...).Course(r.Proof.Steps)}
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

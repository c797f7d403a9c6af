package render

import (
	"obturon/core/assess"
	"obturon/core/notation"
	"obturon/core/pipeline"
	"obturon/core/procedure"
	"obturon/core/rehearsal"
	"obturon/internal/document"
)

// Proof is what cutting a case with a kit came to, as it is kept: all that is said of it
// later comes from here, whoever still remembers the rehearsal itself.
type Proof struct {
	Core    string                 `json:"core"`
	Tooth   string                 `json:"tooth"`
	Refused string                 `json:"refused,omitempty"`
	Steps   []procedure.Step       `json:"steps"`
	Cuts    []*document.StepCut    `json:"cuts"` // what cutting showed, by step; null of one that cuts nothing
	Proven  []document.CavityProof `json:"cavities"`
	AsCut   []document.Check       `json:"as_cut"`
	// DentinLeftMm is left over the pulp, where the school asks for DentinAskedMm; 0 where it is
	// far away.
	DentinLeftMm  float64 `json:"dentin_left_mm"`
	DentinAskedMm float64 `json:"dentin_asked_mm"`
}

// NoProof is that of a case that is refused.
func NoProof(r *pipeline.Decided) *Proof {
	return &Proof{
		Core:    pipeline.CoreVersion,
		Tooth:   r.Case.Tooth.String(),
		Refused: r.Refused(),
		Proven:  []document.CavityProof{},
		AsCut:   []document.Check{},
	}
}

// ProofOf writes what cutting a case came to.
func ProofOf(r *pipeline.Proven) *Proof {
	p := NoProof(r.Decided)
	p.Steps = r.Chair
	for _, s := range r.Chair {
		var cut *document.StepCut
		if s.Cut != nil {
			cut = stepCut(s.Cut.Cavity, &r.Rehearsals[s.Cut.Cavity].Steps[s.Cut.Step])
		}
		p.Cuts = append(p.Cuts, cut)
	}
	for _, c := range r.AsCut {
		p.AsCut = append(p.AsCut, check(c))
	}
	left, asked := assess.DentinLeft(r.Checks)
	p.DentinLeftMm, p.DentinAskedMm = document.Thousandth(left), document.Thousandth(asked)
	for _, one := range r.Rehearsals {
		whole := rehearsedCavity(one)
		p.Proven = append(
			p.Proven,
			document.CavityProof{
				Name:           whole.Name,
				ToGoMm3:        whole.ToGoMm3,
				LeftMm3:        whole.LeftMm3,
				ProvenWithinMm: whole.ProvenWithinMm,
				Unproven:       whole.Unproven,
				Undone:         whole.Undone,
			},
		)
	}
	return p
}

// Sequence writes the steps at the chair with what cutting them showed.
func (p *Proof) Sequence() document.ProvenSequence {
	d := document.ProvenSequence{
		Schema: document.ObturonSequence1, Core: p.Core, Tooth: p.Tooth, Steps: Steps(p.Steps), Cavities: p.Proven, AsCut: p.AsCut, DentinLeftMm: p.DentinLeftMm, DentinAskedMm: p.DentinAskedMm,
	}
	if t, err := notation.ParseISO(p.Tooth); err == nil {
		d.Frame = frameOf(t)
	}
	for n, cut := range p.Cuts {
		d.Steps[n].Cut = cut
	}
	return d
}

// Onto is a plan of the same case with the steps as they were proven.
func (p *Proof) Onto(d document.Plan) document.Plan {
	if p.Refused == "" {
		proven := p.Sequence()
		d.Proven = &proven
	}
	return d
}

func stepCut(cavity int, s *rehearsal.Step) *document.StepCut {
	return &document.StepCut{
		Cavity: cavity, EnamelMm3: document.Thousandth(s.Tissues.Enamel), DentinMm3: document.Thousandth(s.Tissues.Dentin), FillingMm3: document.Thousandth(s.Tissues.Filling), LeftMm3: document.Thousandth(s.Left),
		ShellMm: s.Behind, NearestNeighbourMm: known(s.Nearest.Beside), NearestPulpMm: known(s.Nearest.Pulp), HotWayMm: document.Thousandth(s.Hot),
	}
}

package plan

import (
	"obturon/core/fill"
	"obturon/internal/document"
	"obturon/internal/render"
)

// Document writes a plan, or the reason why none is made.
func (r *Result) Document() document.Plan {
	if r.Drawn == nil {
		return render.Refusal(r.Decided)
	}
	return render.Plan(r.Drawn)
}

// KeptDocument is Document for a file or a revision, filled with a practice's products.
func (r *Result) KeptDocument(products fill.Products) document.Plan {
	if r.Drawn == nil {
		return render.Refusal(r.Decided)
	}
	return render.KeptPlan(r.Drawn, products)
}

// Document writes how the kit cuts a case, or the reason why it does not.
func (r *Rehearsed) Document() document.Rehearsal {
	if r.Proven == nil {
		return render.RefusedRehearsal(r.Decided)
	}
	return render.Rehearsal(r.Proven)
}

// Proof writes what cutting a case came to.
func (r *Rehearsed) Proof() *render.Proof {
	if r.Proven == nil {
		return render.NoProof(r.Decided)
	}
	return render.ProofOf(r.Proven)
}

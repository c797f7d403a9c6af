package advice

import (
	"slices"

	"obturon/core/intake"
	"obturon/core/lesion"
)

// described puts a treatment of a case into words.
func described(c *intake.Case, t intake.Treatment) Way {
	w := Way{Treatment: t, Recall: recall(c)}
	switch t {
	case intake.Watch:
		w.Does = "Record it, and compare at recall: " + comparedBy(c) + "."
		w.For = []string{"No tooth is spent."}
		w.Against = []string{"It relies on the patient's coming back."}
	case intake.Arrest:
		w.Does = "Clean it, fluoride varnish, and home care for the surface; silver fluoride, which stains, is another way where looks don't count."
		w.For = []string{"No tooth is spent."}
		w.Against = []string{"It relies on the patient's cleaning, and on coming back."}
	case intake.Seal:
		w.Does = "Isolate, clean, etch, seal, cure; check the edge with an explorer."
		w.For = []string{"No tooth is spent, and the surface is easy to clean."}
		w.Against = []string{"It needs a dry field, and holds only as long as its edge does."}
	case intake.Smooth:
		w.Does = "Smooth the edge and polish it. Where the fragment was kept, bond it back; else a bonded edge without a bevel, where it shows."
		w.For = []string{"It takes minutes, and hardly any tooth."}
		w.Against = []string{"A larger chip still shows."}
	case intake.Repair:
		w.Does = "Clean the fault, roughen the old filling there, etch, bond, add composite, finish; the rest stays."
		w.For = []string{"What is sound stays, and the pulp is left alone."}
		w.Against = []string{"What lies under the old filling isn't seen."}
	case intake.Restore:
		w.Does = "Open as far as the lesion goes, and fill."
		w.For = []string{"The surface is closed and can be cleaned again."}
		w.Against = []string{"Tooth is spent, and each filling is followed by a larger one some day."}
	case intake.Replace:
		w.Does = "Take the old filling out, look at what is under it, and fill again."
		w.For = []string{"What is under it is seen."}
		w.Against = []string{"The cavity grows each time, and the pulp is put to the test again."}
	case intake.Cover:
		w.Does = "Lower the weak cusps and cover them with the filling."
		w.For = []string{"A weak cusp no longer splits off."}
		w.Against = []string{"More tooth goes."}
	case intake.Refer:
		w.Does = "Decide this first, or refer for it; what is planned after that starts from its outcome."
		w.For = []string{"The cause is treated."}
		w.Against = []string{"It takes another visit."}
		w.Recall = ""
	}
	return w
}

// comparedBy is how a lesion is followed where it lies.
func comparedBy(c *intake.Case) string {
	front := c.Tooth.Anterior()
	between := slices.ContainsFunc(c.Findings, lesion.Finding.Proximal)
	switch {
	case front && between:
		return "transilluminate, and a periapical film where that shows more"
	case between:
		return "the next bitewing beside this one"
	}
	return "look and feel on the dry, clean surface, with a photograph"
}

// recall is when to look again, by risk (national guides on recall agree within months).
func recall(c *intake.Case) string {
	switch c.Patient.CariesRisk {
	case intake.HighRisk:
		return "in 3 months"
	case intake.ModerateRisk:
		return "in 6 months"
	case intake.LowRisk:
		return "in 12 months"
	}
	return "in 6 months: caries risk was not entered"
}

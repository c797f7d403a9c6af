package advice

import (
	"fmt"
	"slices"

	"obturon/core/intake"
	"obturon/core/lesion"
)

// Way is one way of caring for a tooth, with what speaks for and against it.
type Way struct {
	Treatment    intake.Treatment
	Does         string // what is done
	For, Against []string
	Recall       string // when to look again, "" where nothing is left to be looked at
}

// verdict is what one finding, or the whole tooth, calls for.
type verdict struct {
	advise  intake.Treatment
	because string
	also    []intake.Treatment // that are offered beside it
}

// rule is a verdict for the findings that it holds for. Rules follow the consensus of cariology
// and operative dentistry on minimal intervention.
type rule struct {
	holds func(c *intake.Case, f lesion.Finding) bool
	verdict
}

func cariesOf(k func(lesion.Finding) bool, more ...func(lesion.Finding) bool) func(*intake.Case, lesion.Finding) bool {
	return func(_ *intake.Case, f lesion.Finding) bool {
		return k(f) && !slices.ContainsFunc(more, func(m func(lesion.Finding) bool) bool { return !m(f) })
	}
}

func anyCaries(f lesion.Finding) bool { return f.Kind.Content() == lesion.Caries }
func inFissure(f lesion.Finding) bool { return f.Kind.OfFissures() }
func proximal(f lesion.Finding) bool  { return f.Kind == lesion.ProximalCaries }
func cervical(f lesion.Finding) bool  { return f.Kind == lesion.CervicalCaries }
func inEnamel(f lesion.Finding) bool  { return !f.Depth.InDentin() }
func outermost(f lesion.Finding) bool { return f.Depth == lesion.OuterEnamel }
func outerDentin(f lesion.Finding) bool {
	return f.Depth == lesion.OuterDentin
}
func arrested(f lesion.Finding) bool     { return f.Activity == lesion.Arrested }
func intact(f lesion.Finding) bool       { return f.Surface == lesion.Intact }
func openToDentin(f lesion.Finding) bool { return f.Surface == lesion.Cavitated }

// cariesRules are tried in order; the first that holds decides about a lesion.
var cariesRules = []rule{
	{cariesOf(anyCaries, arrested), verdict{
		intake.Watch, "The lesion is arrested: hard, and clean. Nothing is lost by watching it; fill it for function or looks.",
		[]intake.Treatment{intake.Restore},
	}},
	{cariesOf(anyCaries, openToDentin), verdict{
		intake.Restore, "The surface is open to dentin: it cannot be kept clean as it is.", nil,
	}},
	{cariesOf(inFissure, inEnamel), verdict{
		intake.Seal, "The lesion lies within enamel: sealing arrests it, and no tooth is spent.",
		[]intake.Treatment{intake.Watch, intake.Restore},
	}},
	{cariesOf(inFissure, outerDentin, intact), verdict{
		intake.Seal, "The surface is intact: a sealant cuts the lesion off, also in the outer dentin, as long as it holds.",
		[]intake.Treatment{intake.Arrest, intake.Restore},
	}},
	{cariesOf(proximal, outermost), verdict{
		intake.Watch, "The lesion lies within the outer enamel, where it can be arrested: cleaning between the teeth and fluoride come first.",
		[]intake.Treatment{intake.Arrest, intake.Restore},
	}},
	{cariesOf(proximal, inEnamel), verdict{
		intake.Arrest, "The lesion lies within enamel, where it can be arrested before anything is drilled.",
		[]intake.Treatment{intake.Watch, intake.Restore},
	}},
	{cariesOf(proximal, outerDentin, intact), verdict{
		intake.Arrest, "The surface is intact: the lesion can still be arrested, and the contact stays as it is.",
		[]intake.Treatment{intake.Watch, intake.Restore},
	}},
	{cariesOf(cervical, inEnamel), verdict{
		intake.Arrest, "The lesion lies within cervical enamel, where it can be arrested: it is in reach of a brush and of fluoride.",
		[]intake.Treatment{intake.Watch, intake.Restore},
	}},
	{cariesOf(cervical, outerDentin, intact), verdict{
		intake.Arrest, "The surface is intact, and in reach of a brush and of fluoride.",
		[]intake.Treatment{intake.Watch, intake.Restore},
	}},
	{cariesOf(inFissure, outerDentin), verdict{
		intake.Restore, "Caries has reached dentin, where it goes on under an enamel that hides it.",
		[]intake.Treatment{intake.Seal},
	}},
	{cariesOf(proximal, outerDentin), verdict{
		intake.Restore, "Caries has reached dentin: about half of such surfaces are cavitated.",
		[]intake.Treatment{intake.Arrest},
	}},
	{cariesOf(anyCaries), verdict{
		intake.Restore, "Caries has reached dentin, where it goes on under an enamel that hides it.", nil,
	}},
}

// oldRules decide about an old filling by its fault.
var oldRules = map[lesion.OldFault]verdict{
	"": {
		intake.Watch, "The old filling was entered without a fault: a sound one stays. Enter what is wrong with it if something is.",
		[]intake.Treatment{intake.Replace},
	},
	lesion.OpenMargin: {
		intake.Repair, "The old filling is sound but for its margin: what is stained or open there is cleaned and sealed, and nothing else is cut.",
		[]intake.Treatment{intake.Watch, intake.Replace},
	},
	lesion.CariesBeside: {
		intake.Replace, "Caries goes on beside the old filling. Where it is small and in reach, a repair spares what is sound.",
		[]intake.Treatment{intake.Repair},
	},
	lesion.Broken: {
		intake.Replace, "The old filling is broken or loose. Where a part of it has chipped and the rest holds, a repair is enough.",
		[]intake.Treatment{intake.Repair},
	},
	lesion.OpenContact: {
		intake.Replace, "Food packs into an open contact: the proximal part is made again.",
		[]intake.Treatment{intake.Repair, intake.Watch},
	},
	lesion.Painful: {
		intake.Refer, "Find out first why it hurts: a high contact, a crack, an open margin or the pulp. A new filling cures only some of these.",
		[]intake.Treatment{intake.Repair, intake.Replace},
	},
	lesion.NotWanted: {
		intake.Watch, "The old filling is not wanted, and nothing else is wrong with it: a new one costs sound tooth each time.",
		[]intake.Treatment{intake.Repair, intake.Replace},
	},
}

// of is what a finding calls for; ok is false of one that calls for nothing by itself.
func of(c *intake.Case, f lesion.Finding) (v verdict, ok bool) {
	switch {
	case f.Kind == lesion.OldRestoration:
		v, ok = oldRules[f.Fault]
		return v, ok
	case f.Kind == lesion.Crack:
		return ofCrack(f)
	case f.Kind == lesion.Fracture && inEnamel(f):
		return verdict{
			intake.Smooth, "A chip of enamel: smoothing it, or bonding its fragment back, costs less tooth than was lost.",
			[]intake.Treatment{intake.Watch, intake.Restore},
		}, true
	case f.Kind == lesion.UnderminedCusp, f.OnCusp():
		return verdict{intake.Cover, "A cusp is lost or undermined: what carries it no longer holds it, and the filling covers it.", nil}, true
	case f.Kind == lesion.Fracture:
		return verdict{intake.Restore, "The tooth's form is lost.", nil}, true
	}
	for _, r := range cariesRules {
		if r.holds(c, f) {
			return r.verdict, true
		}
	}
	return v, false
}

func ofCrack(f lesion.Finding) (verdict, bool) {
	switch f.Complaint {
	case lesion.PainOnBiting:
		return verdict{
			intake.Refer, "Pain on biting: find out how far the crack goes before anything is cut, by a bite test at each cusp, transillumination, probing and a pulp test. The cusp over it is covered, or the tooth gets a crown.", nil,
		}, true
	case lesion.Split:
		return verdict{intake.Refer, "The parts of the tooth move apart: no filling holds them. It is decided first whether it can be kept.", nil}, true
	}
	return verdict{intake.Watch, "A crack line without a complaint is recorded, and looked at again.", nil}, true
}

// exfoliates (years) before a primary tooth is lost it is no longer filled without need.
const exfoliates = 1.0

// ofTooth is what the whole tooth calls for before any single finding; ok is false where the
// findings decide.
func ofTooth(c *intake.Case) (v verdict, ok bool) {
	primary := c.Tooth.Primary()
	inDentin := c.AnyInDentin()
	switch {
	case c.Pulp == intake.Irreversible && primary:
		return verdict{intake.Refer, "The pulp is dead or irreversibly inflamed: pulp treatment or extraction comes first, and what becomes of the space. No filling is planned before that.", nil}, true
	case c.Pulp == intake.Irreversible:
		return verdict{intake.Refer, "The pulp is dead or irreversibly inflamed: root canal treatment or extraction comes first. No filling is planned before that.", nil}, true
	case primary && inDentin && c.RootResorbed:
		return verdict{
			intake.Watch, "The root is resorbed: the tooth is lost soon. Keep it clean and arrest the caries, or extract it where it hurts.",
			[]intake.Treatment{intake.Arrest, intake.Restore},
		}, true
	case inDentin && c.Patient.CannotCope:
		return verdict{
			intake.Arrest, "Drilling is too much for this patient now: arrest the caries, with silver fluoride or a preformed crown set without drilling where that is to be had, and build trust first.",
			[]intake.Treatment{intake.Refer, intake.Restore},
		}, true
	case primary && inDentin && nearlyShed(c):
		years, _ := c.Tooth.ShedAt()
		return verdict{
			intake.Watch,
			fmt.Sprintf("At %v the tooth is lost within about a year, at %v as a rule: keep it clean and arrest the caries, or extract it where it hurts.", c.Patient.AgeYears, years),
			[]intake.Treatment{intake.Arrest, intake.Restore},
		}, true
	case primary && !c.Tooth.Anterior() && inDentin && crownFirst(c) != "":
		return verdict{intake.Refer, crownFirst(c), []intake.Treatment{intake.Arrest, intake.Restore}}, true
	}
	return v, false
}

// nearlyShed reports a primary tooth within about a year of its loss; one that was retained long
// past it is none.
func nearlyShed(c *intake.Case) bool {
	years, primary := c.Tooth.ShedAt()
	return primary && c.Patient.AgeYears > years-exfoliates && c.Patient.AgeYears <= years+lateSlack
}

// crownFirst says why a preformed crown comes before a filling of a primary molar; "" where it
// does not.
func crownFirst(c *intake.Case) string {
	cut := c.ToCut()
	sides := 0
	for _, f := range cut {
		if f.Proximal() && f.Depth.InDentin() {
			sides++
		}
	}
	const say = " a preformed crown lasts longer than a filling, and can be set without drilling. A filling is planned on request."
	switch {
	case lesion.HornInTheWay(cut, c.Tooth):
		return "The mesial horn of a primary first molar lies where the axial wall of a box would stand, and is at risk:" + say
	case sides > 1:
		return "Caries on both proximal surfaces of a primary molar:" + say
	case sides > 0 && c.Patient.CariesRisk == intake.HighRisk:
		return "A proximal lesion of a primary molar at high caries risk:" + say
	}
	return ""
}

// rank orders treatments by what they take: the more a finding calls for decides.
func rank(t intake.Treatment) int { return slices.Index(intake.Treatments, t) }

// decide finds what is advised for a case, why, and what is offered beside it.
func decide(c *intake.Case) verdict {
	if v, ok := ofTooth(c); ok {
		return v
	}
	best := verdict{advise: intake.Watch, because: "Nothing here calls for a cut."}
	found := false
	var also []intake.Treatment
	for _, f := range c.Findings {
		v, ok := of(c, f)
		if !ok {
			continue
		}
		also = append(append(also, v.advise), v.also...)
		if !found || rank(v.advise) > rank(best.advise) {
			best, found = v, true
		}
	}
	// What another finding needs in any case is no choice against it.
	best.also = nil
	for _, t := range intake.Treatments {
		if slices.Contains(also, t) && t != best.advise && (t.Cuts() || !best.advise.Cuts() || len(c.Findings) == 1) {
			best.also = append(best.also, t)
		}
	}
	if c.Patient.Isolation == intake.None {
		best = unbonded(best)
	}
	return best
}

// unbonded is a verdict where the field cannot be kept dry: nothing is sealed or bonded.
func unbonded(v verdict) verdict {
	v.also = slices.DeleteFunc(v.also, bonds)
	if bonds(v.advise) {
		v.because += " The field cannot be kept dry, so that nothing is sealed or bonded now: fluoride, and again when it can be."
		v.advise = intake.Arrest
		v.also = slices.DeleteFunc(v.also, func(t intake.Treatment) bool { return t == intake.Arrest })
	}
	return v
}

func bonds(t intake.Treatment) bool { return t == intake.Seal || t == intake.Repair }

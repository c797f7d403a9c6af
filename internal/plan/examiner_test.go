package plan

import (
	"fmt"
	"os"
	"testing"

	"obturon/core/anatomy"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
)

var _ = anatomy.Gingiva{}
var _ = school.Amalgam

// examined is a case as an operative dentistry examiner poses it.
func examined(tooth string, age float64, more func(*intake.Case), findings ...lesion.Finding) *intake.Case {
	c := &intake.Case{Tooth: notation.MustParse(tooth), Patient: intake.Patient{AgeYears: age, Isolation: intake.Secure}, Findings: findings}
	if more != nil {
		more(c)
	}
	return c
}

func finding(kind lesion.Kind, site lesion.Site, depth lesion.Depth) lesion.Finding {
	return lesion.Finding{Kind: kind, Site: site, Depth: depth}
}

func wide(f lesion.Finding, mm float64) lesion.Finding { f.Width = mm; return f }
func with(f lesion.Finding, e lesion.Evidence) lesion.Finding { f.Evidence = e; return f }
func over(f lesion.Finding, mm float64) lesion.Finding { f.OverCervicalLine = &mm; return f }

func TestZZDump(t *testing.T) {
	amalgam := func(c *intake.Case) { c.Choice.Material = school.Amalgam }
	rootAt70 := func(c *intake.Case) { c.Gingiva = &anatomy.Gingiva{Facial: -3, Lingual: -2, Papilla: -1} }
	fis, prox, old := lesion.FissureCaries, lesion.ProximalCaries, lesion.OldRestoration
	for _, c := range []struct {
		name string
		c    *intake.Case
	}{
		{"45 deep fissure 16", examined("45", 16, nil, finding(fis, lesion.Central, lesion.InnerDentin))},
		{"46 MOD wide", examined("46", 40, nil, finding(prox, lesion.Mesial, lesion.MiddleDentin), finding(prox, lesion.Distal, lesion.MiddleDentin), wide(with(finding(old, lesion.Central, lesion.OuterDentin), lesion.Evidence{Fault: lesion.Broken}), 4.6))},
		{"34 MOD undermined grinder", examined("34", 40, func(c *intake.Case) { c.Patient.Parafunction = true }, finding(prox, lesion.Mesial, lesion.MiddleDentin), finding(prox, lesion.Distal, lesion.MiddleDentin), finding(lesion.UnderminedCusp, "buccal", lesion.OuterDentin))},
		{"46 two lingual cusps amalgam", examined("46", 45, amalgam, finding(lesion.Fracture, "mesiolingual", lesion.OuterDentin), finding(lesion.Fracture, "distolingual", lesion.OuterDentin), finding(prox, lesion.Distal, lesion.MiddleDentin))},
		{"46 two lingual cusps amalgam nobox", examined("46", 45, amalgam, finding(lesion.Fracture, "mesiolingual", lesion.OuterDentin), finding(lesion.Fracture, "distolingual", lesion.OuterDentin), finding(fis, lesion.Central, lesion.MiddleDentin))},
		{"46 mesial slot amalgam", examined("46", 30, func(c *intake.Case) { amalgam(c); c.Choice.Layout = "slot" }, finding(prox, lesion.Mesial, lesion.OuterDentin))},
		{"32 chip", examined("32", 25, nil, finding(lesion.Fracture, lesion.MesialIncisalAngle, lesion.OuterEnamel))},
		{"46 outer enamel fissure on wish", examined("46", 25, func(c *intake.Case) { c.Choice.Treatment = intake.Restore }, finding(fis, lesion.Central, lesion.OuterEnamel))},
		{"27 mesial buccal neck", examined("27", 40, nil, finding(prox, lesion.Mesial, lesion.OuterDentin), finding(lesion.CervicalCaries, lesion.Buccal, lesion.OuterDentin))},
		{"35 deep distal root margin 66", examined("35", 66, rootAt70, finding(prox, lesion.Distal, lesion.InnerDentin))},
		{"34 root neck 70 amalgam", examined("34", 70, func(c *intake.Case) { rootAt70(c); amalgam(c) }, over(finding(lesion.CervicalCaries, lesion.Buccal, lesion.OuterDentin), -1.5))},
		{"12 root neck 70", examined("12", 70, rootAt70, over(finding(lesion.CervicalCaries, lesion.Buccal, lesion.OuterDentin), -1.5))},
		{"23 distal amalgam", examined("23", 40, amalgam, finding(prox, lesion.Distal, lesion.MiddleDentin))},
		{"54 MOD 8 high", examined("54", 8, func(c *intake.Case) { c.Patient.CariesRisk = intake.HighRisk; c.Choice.Treatment = intake.Restore }, finding(prox, lesion.Mesial, lesion.OuterDentin), finding(prox, lesion.Distal, lesion.OuterDentin))},
		{"84 MOD 8 high", examined("84", 8, func(c *intake.Case) { c.Patient.CariesRisk = intake.HighRisk }, finding(prox, lesion.Mesial, lesion.OuterDentin), finding(prox, lesion.Distal, lesion.OuterDentin))},
		{"53 fracture 3", examined("53", 3, nil, finding(lesion.Fracture, lesion.MesialIncisalAngle, lesion.OuterDentin))},
		{"17 behind missing 16", examined("17", 40, func(c *intake.Case) { c.Missing = []notation.Side{notation.Mesial} }, finding(prox, lesion.Mesial, lesion.MiddleDentin))},
		{"75 deep 5", examined("75", 5, func(c *intake.Case) { c.Pulp = intake.Healthy }, finding(fis, lesion.Central, lesion.InnerDentin))},
		{"15 no isolation", examined("15", 40, func(c *intake.Case) { c.Patient.Isolation = intake.None }, finding(prox, lesion.Distal, lesion.MiddleDentin))},
		{"37 crack", examined("37", 45, nil, with(finding(lesion.Crack, lesion.Mesial, lesion.OuterDentin), lesion.Evidence{Complaint: lesion.PainOnBiting}))},
	} {
		if only := os.Getenv("ONLY"); only != "" && only != c.name {
			continue
		}
		r, err := planner.Evaluate(t.Context(), c.c, DefaultGrid)
		if err != nil {
			fmt.Println("##", c.name, err)
			continue
		}
		d := r.Document()
		fmt.Printf("\n## %s: %s %s %s %s | advised %s: %s\n", c.name, d.Class, d.Material, d.School, r.Opened(), r.Decision.Treatment.Label(), r.Decision.Because)
		fmt.Println("refused:", d.Refused, "| choice:", d.ChoiceReason)
		if r.Drawn == nil {
			for _, k := range d.Cautions {
				fmt.Println("  !", k)
			}
			continue
		}
		fmt.Println(d.Dimensions)
		fmt.Printf("volumes %+v kept %+v\n", d.Volumes, d.Kept)
		for _, k := range d.Checks {
			if k.Verdict == "missed" || k.Verdict == "near" {
				v := 0.0
				if k.Value != nil {
					v = *k.Value
				}
				fmt.Printf("  %s %s %s %.2f (%s) %v\n", k.Verdict, k.Severity, k.Id, v, k.Side, k.Fix)
			}
		}
		for _, k := range d.Cautions {
			fmt.Println("  !", k)
		}
		for n, s := range d.Sequence {
			fmt.Printf("  %d %s %v %v\n", n+1, s.Action, s.Instruments, s.Caution)
		}
	}
}

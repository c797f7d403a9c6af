package plan

import (
	"syscall"
	"testing"

	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
)

// fillingKinds are the fillings that differ in what planning them takes.
var fillingKinds = []struct {
	name string
	c    func() *intake.Case
}{
	{"Box", func() *intake.Case { return forms[2].on("47", "composite", "adhesive") }},
	{"WideMOD", func() *intake.Case {
		c := forms[3].on("46", "composite", "adhesive")
		for n := range c.Findings {
			c.Findings[n].Depth = "middle_dentin"
		}
		c.Findings = append(c.Findings, lesion.Finding{Kind: "fissure_caries", Site: "central", Depth: "middle_dentin", Width: 4.6})
		return c
	}},
	{"AmalgamMOD", func() *intake.Case { return forms[3].on("46", "amalgam", "board") }},
	{"Neck", func() *intake.Case {
		return frontCase("33", lesion.Finding{Kind: "cervical_caries", Site: "buccal", Depth: "outer_dentin"})
	}},
	{"Angle", func() *intake.Case {
		return frontCase("22", lesion.Finding{Kind: "fracture", Site: "mesial_incisal", Depth: "outer_dentin"})
	}},
}

func frontCase(tooth string, f lesion.Finding) *intake.Case {
	return &intake.Case{
		Tooth: notation.MustParse(tooth), Patient: intake.Patient{AgeYears: 34}, Findings: []lesion.Finding{f},
		Choice: intake.Choice{Material: "composite", School: "adhesive"},
	}
}

// BenchmarkFilling plans the filling of a cavity that is cut already. CPU time counts: a
// server fills for many.
func BenchmarkFilling(b *testing.B) {
	for _, kind := range fillingKinds {
		b.Run(kind.name, func(b *testing.B) {
			r := evaluate(b, kind.c())
			if r.Refused() != "" {
				b.Fatal(r.Refused())
			}
			r.Fill(fill.Usual()) // what is worked out once for a cavity
			before := cpuMS(b)
			for b.Loop() {
				r.Fill(fill.Usual())
			}
			b.ReportMetric((cpuMS(b)-before)/float64(b.N), "cpu-ms")
		})
	}
}

// cpuMS is the processor time that the program has taken, in milliseconds.
func cpuMS(b *testing.B) float64 {
	b.Helper()
	var use syscall.Rusage
	if err := syscall.Getrusage(syscall.RUSAGE_SELF, &use); err != nil {
		b.Fatal(err)
	}
	ms := func(t syscall.Timeval) float64 { return float64(t.Sec)*1e3 + float64(t.Usec)/1e3 }
	return ms(use.Utime) + ms(use.Stime)
}

package core_test

import (
	"context"
	"fmt"

	"obturon/core/advice"
	"obturon/core/anatomy"
	"obturon/core/assess"
	"obturon/core/design"
	"obturon/core/drawing"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/sequence"
)

// A case goes down through the packages of the core, one stage after the other:
// each takes what the last one gave.
func Example() {
	c := &intake.Case{
		Tooth:    notation.MustParse("47"),
		Patient:  intake.Patient{Code: "HV-031", AgeYears: 41},
		Findings: []lesion.Finding{{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin}},
		Choice:   intake.Choice{Material: school.Amalgam, School: "board"},
	}
	if faults := c.Check(); len(faults) > 0 {
		fmt.Println(faults)
		return
	}
	decided := advice.Decide(c)
	rules, err := c.SchoolOf(decided.Choice)
	if err != nil {
		fmt.Println(err)
		return
	}
	tooth, err := anatomy.Build(c.Tooth, anatomy.MeasuredSizes{}, c.Patient.AgeYears, 0.1)
	if err != nil {
		fmt.Println(err)
		return
	}
	proposed, err := design.Propose(context.Background(), c, decided, rules, tooth, nil)
	if err != nil {
		fmt.Println(err)
		return
	}
	cut, err := proposed.Cut(c.Overrides)
	if err != nil {
		fmt.Println(err)
		return
	}
	prepared := measure.NewPrepared(tooth, tooth.Surface.Uncut().Carve(cut.Tool))
	cavity := measure.NewSubject(prepared, cut.Cavities[0])
	checks, err := assess.Cavity(context.Background(), cavity)
	if err != nil {
		fmt.Println(err)
		return
	}
	views := drawing.Views(drawing.Subject{Subject: cavity, Cut: cut.Tool})
	steps := sequence.Of(cut.Cavities, nil, nil, false)

	fmt.Printf("Class %s %v, %s by the %s school\n", decided.Class, decided.Surfaces, decided.Choice.Material, rules.ID)
	depth, _ := prepared.PulpalDepth()
	fmt.Println("the floor lies in dentin:", depth.Value > 1, "- missed:", assess.Worst(checks) == assess.Missed)
	fmt.Println(len(views), "views, first step:", steps[0].Name)
	// Output:
	// Class I [occlusal], amalgam by the board school
	// the floor lies in dentin: true - missed: false
	// 3 views, first step: Confirm and mark
}

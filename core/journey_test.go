package core_test

import (
	"context"
	"fmt"

	"obturon/core/anatomy"
	"obturon/core/assess"
	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/pipeline"
	"obturon/core/procedure"
	"obturon/core/school"
	"obturon/core/sitting"
)

// A case goes down through the core, one stage after the other, from what was found to what lies
// ready on the tray: each stage holds the one before.
func Example() {
	ctx := context.Background()
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
	decided, err := pipeline.Decide(c)
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Printf("Class %s %v, %s by the %s school\n", decided.Decision.Class, decided.Decision.Surfaces, decided.Decision.Choice.Material, decided.School.ID)

	tooth, err := anatomy.Build(c.Tooth, anatomy.MeasuredSizes{}, c.Patient.AgeYears, 0.1)
	if err != nil {
		fmt.Println(err)
		return
	}
	proposed, err := decided.Propose(ctx, tooth, nil)
	if err != nil {
		fmt.Println(err)
		return
	}
	if proposed, err = proposed.Solve(ctx); err != nil {
		fmt.Println(err)
		return
	}
	designed, err := decided.Design(proposed)
	if err != nil {
		fmt.Println(err)
		return
	}
	drawn, err := designed.Draw(ctx, pipeline.Sections{})
	if err != nil {
		fmt.Println(err)
		return
	}
	depth, _ := drawn.Prepared.PulpalDepth()
	fmt.Println("the floor lies in dentin:", depth.Value > 1, "- missed:", drawn.Worst() == string(assess.Missed))
	fmt.Println(len(drawn.Views), "views, first step:", drawn.Steps[0].Name)

	proven, err := drawn.Prove(ctx, func(float64) {})
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Println("the kit cuts it in", len(proven.Rehearsals[0].Steps), "steps, surfaces not proven:", len(proven.Rehearsals[0].Unproven()))

	filled := drawn.Fill(fill.Usual())
	course := filled.Course(proven.Chair)
	fmt.Println("broken rules of order:", len(procedure.OutOfOrder(course)), "- first:", course[0].Name, "- last:", course[len(course)-1].Name)
	tray := sitting.Tray(course, filled.LaidOut(), c.Kit)
	fmt.Println("on the tray first:", tray[0].Name)
	// Output:
	// Class I [occlusal], amalgam by the board school
	// the floor lies in dentin: true - missed: false
	// 3 views, first step: Confirm and mark
	// the kit cuts it in 5 steps, surfaces not proven: 0
	// broken rules of order: 0 - first: Confirm and mark - last: Tell the patient
	// on the tray first: mouth mirror
}

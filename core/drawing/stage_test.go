package drawing

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity/cavitytest"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/school"
	"obturon/core/solid"
)

// On the way to a cavity the tooth is drawn as far as it is cut: whole at first, as the
// finished view has it at last, with the bur where it is held.
func TestStagesLeadToTheFinishedView(t *testing.T) {
	subject := cavitytest.Cut(t, cavitytest.Propose(t, cavitytest.Request(t, "35", "board", school.Amalgam, 0.1, lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin})), nil)
	own := Subject{Subject: subject, Cut: subject.Cavity.Tool()}
	model := subject.Prepared.Model
	bur := instrument.MustFind(instrument.Pear).Head
	r, ok := subject.Prepared.PulpalDepth()
	if !ok {
		t.Fatal("no depth")
	}
	held := &Held{bur, solid.Pose{Tip: r.Where.At, Axis: model.Table.W}}
	whole := measure.NewPrepared(model, model.Surface.Uncut())
	for _, finished := range Views(own) {
		t.Run(finished.ID, func(t *testing.T) {
			before, after := Stage(finished, own, whole, nil), Stage(finished, own, subject.Prepared, held)
			if len(before.Tags) != 0 || len(after.Tags) != 0 {
				t.Error("a stage is dimensioned")
			}
			if was, is := area(before, Lesion), area(after, Lesion); was < 0.1 && finished.Section != "" || is > 0.02 {
				t.Errorf("%.2f mm² of caries before the cut, %.2f after it", was, is)
			}
			if got := area(before, Cavity); got != 0 {
				t.Errorf("%.2f mm² of an uncut tooth are open", got)
			}
			for _, kind := range []string{Cavity, Floor, Enamel} {
				if want, got := area(finished, kind), area(after, kind); math.Abs(got-want) > 0.02*want+0.05 {
					t.Errorf("%s: %.2f mm² at last, %.2f finished", kind, got, want)
				}
			}
			if section := area(finished, Enamel) > 0; section && area(before, Enamel) <= area(after, Enamel)+0.5 {
				t.Errorf("%.2f mm² before the cut, %.2f after it", area(before, Enamel), area(after, Enamel))
			}
			low := math.Inf(1)
			for _, l := range after.Layers {
				for _, line := range l.Lines {
					for _, p := range line.Points {
						if l.Kind == Bur {
							low = math.Min(low, p.Y)
						}
						if (l.Kind == Bur || l.Kind == Shank) && (p.X < after.Bounds.MinX || p.X > after.Bounds.MaxX || p.Y < after.Bounds.MinY || p.Y > after.Bounds.MaxY) {
							t.Fatalf("the bur leaves the view at %v", p)
						}
					}
				}
			}
			if tip := after.Plane.Project(r.Where.At); finished.Section != "" && math.Abs(low-tip.Y) > 0.05 {
				t.Errorf("the bur's tip is drawn at %.2f, held at %.2f", low, tip.Y)
			}
			if a := area(after, Bur); a < 0.4 || a > math.Pi*bur.Diameter*bur.Length {
				t.Errorf("%.2f mm² of the bur are seen", a)
			}
		})
	}
}

func TestABurOutsideIsNotDrawn(t *testing.T) {
	v := View{Plane: solid.Plane{U: r3.Vec{X: 1}, V: r3.Vec{Z: 1}}, Bounds: Bounds{-1, -1, 1, 1}}
	v.addHeld(Held{instrument.MustFind(instrument.Pear).Head, solid.Pose{Tip: r3.Vec{X: 9}, Axis: r3.Vec{Z: 1}}})
	if len(v.Layers) != 0 {
		t.Errorf("drawn is %+v", v.Layers)
	}
}

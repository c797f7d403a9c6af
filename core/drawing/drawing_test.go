package drawing

import (
	"math"
	"testing"

	"obturon/core/cavity"
	"obturon/core/cavity/cavitytest"
	"obturon/core/lesion"
	"obturon/core/school"
)

func views(t *testing.T, tooth string) []View {
	t.Helper()
	return viewsOf(t, tooth, "board", "amalgam")
}

func viewsOf(t *testing.T, tooth, schoolID string, material school.Material) []View {
	t.Helper()
	central := lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin}
	return drawn(t, cavitytest.Request(t, tooth, schoolID, material, 0.15, central))
}

// drawn draws the cavity that a request leads to.
func drawn(t *testing.T, r cavity.Request) []View {
	t.Helper()
	s := cavitytest.Cut(t, cavitytest.Propose(t, r), nil)
	return Views(Subject{Subject: s, Cut: s.Cavity.Tool()})
}

func area(v View, kind string) float64 {
	sum := 0.0
	for _, l := range v.Layers {
		if l.Kind == kind {
			for _, line := range l.Lines {
				sum += math.Abs(line.Area())
			}
		}
	}
	return sum
}

func TestViewsShowTheToothAndItsTissues(t *testing.T) {
	const hair = 0.001 // mm, that a traced line may reach past the frame it is traced in
	for _, v := range views(t, "46") {
		for _, l := range v.Layers {
			for _, line := range l.Lines {
				for _, p := range line.Points {
					if math.IsNaN(p.X+p.Y) || p.X < v.Bounds.MinX-hair || p.X > v.Bounds.MaxX+hair || p.Y < v.Bounds.MinY-hair || p.Y > v.Bounds.MaxY+hair {
						t.Fatalf("%s %s: a point at %v outside %v", v.ID, l.Kind, p, v.Bounds)
					}
				}
			}
		}
		if v.ID == "plan" {
			if a := area(v, Crown); a < 80 || a > 110 {
				t.Errorf("crown of %.0f mm2", a)
			}
			if a := area(v, Cavity); a < 6 || a > 25 {
				t.Errorf("cavity of %.0f mm2", a)
			}
			continue
		}
		enamel, dentin, pulp := area(v, Enamel), area(v, Dentin), area(v, Pulp)
		if !(enamel > dentin && dentin > pulp && pulp > 0) {
			t.Errorf("%s: areas %.1f %.1f %.1f", v.ID, enamel, dentin, pulp)
		}
	}
}

func TestLabelsKeepApart(t *testing.T) {
	for _, v := range views(t, "46") {
		for n, a := range v.Tags {
			for _, b := range v.Tags[n+1:] {
				if a.LabelRight == b.LabelRight && math.Abs(a.LabelAt.Y-b.LabelAt.Y) < labelStep-1e-9 {
					t.Errorf("%s: labels %s and %s overlap", v.ID, a.Label, b.Label)
				}
			}
		}
	}
}

func TestTheMouthDecidesTheSides(t *testing.T) {
	for tooth, want := range map[string][2]string{"46": {"mesial", "lingual"}, "36": {"distal", "lingual"}, "15": {"mesial", "facial"}} {
		plan := views(t, tooth)[0]
		if plan.Right != want[0] || plan.Up != want[1] {
			t.Errorf("%s: right %s, up %s", tooth, plan.Right, plan.Up)
		}
	}
}

func TestATagPullsTheWayItGrows(t *testing.T) {
	for _, v := range views(t, "46") {
		for _, tag := range v.Tags {
			if tag.Dimension == "" {
				continue
			}
			if length := math.Hypot(tag.Pull.X, tag.Pull.Y); math.Abs(length-1) > 1e-6 || tag.Gain <= 0 {
				t.Errorf("%s %s pulls by %v, gain %v", v.ID, tag.Dimension, tag.Pull, tag.Gain)
			}
			if tag.Dimension == "pulpal_depth" && tag.Pull.Y >= 0 {
				t.Error("a deeper floor lies lower")
			}
		}
	}
}

func TestABondedPlanShowsBevelAndSealedFissures(t *testing.T) {
	if got := area(viewsOf(t, "85", "primary", "composite")[0], Bevel); got < 0.5 || got > 6 {
		t.Errorf("the bevel covers %.1f mm2", got)
	}
	plan := viewsOf(t, "46", "adhesive", "composite")[0]
	if area(plan, Bevel) != 0 {
		t.Error("an occlusal margin of composite is bevelled")
	}
	length := 0.0
	for _, l := range plan.Layers {
		if l.Kind == Seal {
			for _, line := range l.Lines {
				length += line.Length()
			}
		}
	}
	if length < 3 {
		t.Errorf("%.1f mm of fissure are sealed", length)
	}
	if amalgam := views(t, "46")[0]; area(amalgam, Bevel) != 0 {
		t.Error("an amalgam shows a bevel")
	}
}

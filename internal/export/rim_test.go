package export

import (
	"context"
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
	"obturon/internal/plan"
)

// rimEdges are the mesh's edges between cut and uncut surface.
func rimEdges(m *solid.Mesh) [][2]int32 {
	sides := map[[2]int32]uint8{}
	for n, t := range m.Triangles {
		side := uint8(1)
		if m.Labels[n] == 0 {
			side = 2
		}
		for e := range 3 {
			a, b := t[e], t[(e+1)%3]
			sides[[2]int32{min(a, b), max(a, b)}] |= side
		}
	}
	var edges [][2]int32
	for e, s := range sides {
		if s == 3 {
			edges = append(edges, e)
		}
	}
	return edges
}

// faultsOfRim counts the corners of a mesh's rim, those that lie off it, and those that
// turn by more than 78 degrees.
func faultsOfRim(r *plan.Result, m *solid.Mesh) (corners, off, turning int) {
	next := map[int32][]r3.Vec{}
	for _, e := range rimEdges(m) {
		next[e[0]] = append(next[e[0]], m.Vertices[e[1]])
		next[e[1]] = append(next[e[1]], m.Vertices[e[0]])
	}
	for v, beside := range next {
		p := m.Vertices[v]
		if max(math.Abs(r.Model.Surface.Distance(p)), math.Abs(r.Cut.Tool.Distance(p))) > 0.02 {
			off++
		}
		if len(beside) != 2 {
			continue
		}
		a, b := r3.Sub(beside[0], p), r3.Sub(beside[1], p)
		if min(r3.Norm(a), r3.Norm(b)) > 0.02 && r3.Cos(a, b) > -0.2 {
			turning++
		}
	}
	return len(next), off, turning
}

// The rim of every class's cavity is drawn where cut and outer surface meet.
func TestTheRimRunsWithoutTeeth(t *testing.T) {
	for _, c := range []struct {
		tooth    string
		age      float64
		kind     lesion.Kind
		site     lesion.Site
		school   string
		material school.Material
	}{
		{"46", 34, lesion.FissureCaries, "central", "board", school.Amalgam},
		{"44", 34, lesion.ProximalCaries, "distal", "board", school.Amalgam},
		{"25", 34, lesion.ProximalCaries, "distal", "adhesive", school.Composite},
		{"74", 6, lesion.ProximalCaries, "distal", "primary", school.Amalgam},
		{"12", 34, lesion.ProximalCaries, "distal", "board", school.Composite},
		{"22", 34, lesion.Fracture, "mesial_incisal", "adhesive", school.Composite},
		{"33", 50, lesion.CervicalCaries, "buccal", "traditional", school.Composite},
	} {
		r, err := plan.NewPlanner().Evaluate(context.Background(), &intake.Case{
			Tooth: notation.MustParse(c.tooth), Patient: intake.Patient{AgeYears: c.age},
			Findings: []lesion.Finding{{Kind: c.kind, Site: c.site, Depth: lesion.OuterDentin}},
			Choice:   intake.Choice{Material: c.material, School: c.school},
		}, plan.DefaultGrid)
		if err != nil || r.Refused() != "" {
			t.Fatalf("%s: %v %s", c.tooth, err, r.Refused())
		}
		corners, off, turning := faultsOfRim(r, parted(cutTooth{r.Model, r.Cut}, r.Prepared.Mesh))
		// Where a bevel runs out, it and the outer surface hardly cross.
		if most := corners / 20; off > most || turning > most {
			t.Errorf("%s %s: of %d corners of the rim %d lie off it, %d turn sharply", c.tooth, c.kind, corners, off, turning)
		}
		if c.material != school.Amalgam {
			continue // its bevels are thinner than the coarse mesh's cells
		}
		if corners, off, _ := faultsOfRim(r, parted(cutTooth{r.Model, r.Cut}, r.Turning)); off > corners/20 {
			t.Errorf("%s %s while turned: of %d corners of the rim %d lie off it", c.tooth, c.kind, corners, off)
		}
	}
}

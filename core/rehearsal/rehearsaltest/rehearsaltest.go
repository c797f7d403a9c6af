// Package rehearsaltest rehearses cavities for the tests of rehearsals and of what is
// written from them.
package rehearsaltest

import (
	"testing"

	"obturon/core/anatomy"
	"obturon/core/cavity/cavitytest"
	"obturon/core/instrument"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/rehearsal"
	"obturon/core/school"
	"obturon/core/solid"
)

// Cut has all instruments cut a cavity, as CutWith does.
func Cut(
	t *testing.T,
	tooth, rules string,
	material school.Material,
	beside bool,
	findings ...lesion.Finding,
) (*rehearsal.Rehearsal, *solid.Workpiece) {
	t.Helper()
	return CutWith(t, nil, tooth, rules, material, beside, findings...)
}

// CutWith has a kit cut a cavity, beside the tooth distal of it where that is wanted, and
// gives the tooth as it was drawn as well.
func CutWith(
	t *testing.T,
	kit *instrument.Kit,
	tooth, rules string,
	material school.Material,
	beside bool,
	findings ...lesion.Finding,
) (*rehearsal.Rehearsal, *solid.Workpiece) {
	t.Helper()
	request := cavitytest.Request(t, tooth, rules, material, 0.1, findings...)
	var others []*solid.Mesh
	if beside {
		other, ok := request.Model.Tooth.Neighbour(notation.Distal, 30)
		if !ok {
			t.Fatalf("nothing stands distal of %s", tooth)
		}
		n := anatomy.Place(request.Model, notation.Distal, cavitytest.Model(t, other.String(), 0.1))
		others = append(others, n.Mesh())
		request.Adjacent = map[notation.Side]*anatomy.AdjacentSurface{
			notation.Distal: n.AdjacentSurface(request.Model.Contact(notation.Distal), 2),
		}
	}
	subject := cavitytest.Cut(t, cavitytest.Propose(t, request), nil)
	r, err := rehearsal.Of(t.Context(), kit, subject.Cavity, subject.Workpiece, others)
	if err != nil {
		t.Fatal(err)
	}
	return r, subject.Workpiece
}

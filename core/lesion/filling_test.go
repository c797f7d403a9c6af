package lesion

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

func oldTooth(t *testing.T) *anatomy.Model {
	t.Helper()
	m, err := anatomy.Build(notation.MustParse("46"), anatomy.MeasuredSizes{}, 34, 0.2)
	if err != nil {
		t.Fatal(err)
	}
	return m
}

func TestAnOldFillingHasUprightWallsAndAFlatFloor(t *testing.T) {
	m := oldTooth(t)
	l, err := NewOcclusal(m, Finding{Kind: OldRestoration, Site: Central, Depth: "outer_dentin", Width: 1.4, Height: 1.8, Length: 3})
	if err != nil {
		t.Fatal(err)
	}
	shallowest := math.Inf(1)
	for _, q := range l.Path() {
		shallowest = math.Min(shallowest, m.TableHeights().At(q.X, q.Y))
	}
	for _, p := range l.Floor() {
		if got := m.Table.To(p).Z; math.Abs(got-(shallowest-1.8)) > 1e-9 {
			t.Errorf("the floor lies at %.3f, want %.3f", got, shallowest-1.8)
		}
	}
	q := l.Path()[len(l.Path())/2]
	for _, c := range []struct {
		aside, up float64
		inside    bool
	}{{0.6, 0.3, true}, {0.8, 0.3, false}, {0, -0.05, false}, {0, 0.05, true}} {
		at := m.Table.From(r3.Vec{X: q.X, Y: q.Y + c.aside, Z: shallowest - 1.8 + c.up})
		if got := l.Distance(at) < 0; got != c.inside {
			t.Errorf("%.2f aside, %.2f over the floor: inside %v", c.aside, c.up, got)
		}
	}
}

func TestAnOldFillingOfAProximalFaceIsABox(t *testing.T) {
	m := oldTooth(t)
	l, err := NewProximal(m, Finding{Kind: OldRestoration, Site: Distal, Depth: "outer_dentin", Width: 2.4, Height: 2})
	if err != nil {
		t.Fatal(err)
	}
	inwards := r3.Scale(-0.5, l.normal)
	at := func(a, z float64) r3.Vec { return r3.Add(l.at(l.surface.At(a, z), a, z), inwards) }
	for _, c := range []struct {
		a, z   float64
		inside bool
	}{{0, 0, true}, {1.0, 0, true}, {1.4, 0, false}, {0, -0.8, true}, {0, -1.2, false}, {0, 1.2, true}} {
		if got := l.Distance(at(c.a, c.z)) < 0; got != c.inside {
			t.Errorf("%.1f across, %.1f up: inside %v", c.a, c.z, got)
		}
	}
	whole := VolumeWithin(l, func(r3.Vec) float64 { return -1 })
	dentin := VolumeWithin(l, m.Dentin().Distance)
	if math.Abs(whole-l.Volume()) > 1e-9 || dentin <= 0 || dentin >= whole {
		t.Errorf("%.2f mm3, of which %.2f in dentin", whole, dentin)
	}
}

func TestFindingsDecideTheClass(t *testing.T) {
	for _, c := range []struct {
		findings []Finding
		want     Class
	}{
		{[]Finding{{Kind: OldRestoration, Site: Central}}, ClassI},
		{[]Finding{{Kind: OldRestoration, Site: Mesial}}, ClassII},
		{[]Finding{{Kind: UnderminedCusp, Site: "mesiobuccal"}}, Rebuild},
		{[]Finding{{Kind: UnderminedCusp, Site: "mesiobuccal"}, {Kind: ProximalCaries, Site: Distal}}, ClassII},
	} {
		if got, _ := Classify(c.findings, notation.MustParse("46")); got != c.want {
			t.Errorf("%v is class %s, want %s", c.findings, got, c.want)
		}
	}
}

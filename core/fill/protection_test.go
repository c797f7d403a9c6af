package fill

import (
	"math"
	"strings"
	"testing"

	"obturon/core/cavity/cavitytest"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/procedure"
	"obturon/core/school"
)

func cutFor(t *testing.T, tooth string, material school.Material, schoolID string, f lesion.Finding) *measure.Subject {
	t.Helper()
	return cavitytest.Cut(t, cavitytest.Propose(t, cavitytest.Request(t, tooth, schoolID, material, 0.12, f)), nil)
}

// What is laid over the pulp follows from what is left there and from what is laid on it.
func TestThePulpIsProtectedByWhatIsLeft(t *testing.T) {
	deep := lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.InnerDentin, Height: 3.6}
	shallow := lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin}
	for _, c := range []struct {
		name     string
		f        lesion.Finding
		material school.Material
		school   string
		want     []Kind
	}{
		{"soft dentin stays under composite", deep, school.Composite, "adhesive", []Kind{Capping, Lining}},
		{"soft dentin stays under amalgam", deep, school.Amalgam, "board", []Kind{Capping, Lining}},
		{"a shallow composite", shallow, school.Composite, "adhesive", nil},
	} {
		s := cutFor(t, "46", c.material, c.school, c.f)
		layers := Protect(s, Usual())
		if len(layers) != len(c.want) {
			t.Errorf("%s: %d layers, want %v", c.name, len(layers), c.want)
			continue
		}
		for n, l := range layers {
			if l.Product.Kind != c.want[n] || l.Volume < 0.1 || l.Thick < 0.3 || l.Why == "" {
				t.Errorf("%s: %+v", c.name, l)
			}
			for _, v := range l.Mesh.Vertices {
				if into := s.Model.IntoDentin(v); into < offMargin-0.15 {
					t.Fatalf("%s: %s lies %.2f mm from the junction", c.name, l.Product.Kind, into)
				}
			}
		}
		var bare, over float64
		for _, p := range Plans(s, nil, Usual()) {
			bare += p.Volume
		}
		for _, p := range Plans(s, layers, Usual()) {
			over += p.Volume
		}
		laid := 0.0
		for _, l := range layers {
			laid += l.Volume
		}
		if math.Abs(bare-over-laid) > 0.1+0.1*laid {
			t.Errorf("%s: the filling loses %.2f mm³ to %.2f of protection", c.name, bare-over, laid)
		}
		steps := Steps(s, layers, Plans(s, layers, Usual()), Matrix{}, Usual())
		count := 0
		for n, step := range steps {
			if step.Kind == procedure.ProtectPulp {
				count++
				if n != count-1 || step.Clock == nil || step.Clock.Least == 0 || !strings.Contains(step.Action, "deepest part only") {
					t.Errorf("%s: step %d: %+v", c.name, n, step)
				}
			}
		}
		if count != len(c.want) {
			t.Errorf("%s: %d steps lay %v", c.name, count, c.want)
		}
	}
}

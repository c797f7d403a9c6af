package lesion

import (
	"testing"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

// A depth named by thirds leaves its share of the dentin, however thin that is; what has
// reached the inner third does reach it, and leaves some of it.
func TestNamedDepthsFollowTheDentin(t *testing.T) {
	for _, c := range []struct {
		tooth string
		site  Site
		age   float64
	}{{"62", Buccal, 6}, {"72", Lingual, 6}, {"34", Buccal, 18}, {"16", Buccal, 40}} {
		m, err := anatomy.Build(notation.MustParse(c.tooth), anatomy.MeasuredSizes{}, anatomy.ShapeAge(c.age), 0.1)
		if err != nil {
			t.Fatal(err)
		}
		if m, err = m.WithAge(c.age); err != nil {
			t.Fatal(err)
		}
		into := map[Depth]float64{}
		for _, depth := range []Depth{OuterDentin, MiddleDentin} {
			l, err := New(m, Finding{Kind: CervicalCaries, Site: c.site, Depth: depth})
			if err != nil {
				t.Fatal(err)
			}
			into[depth] = l.IntoDentin()
			if left := ToPulp(m, l); left < into[depth] {
				t.Errorf("%s %s: %.2f mm into dentin leaves %.2f", c.tooth, depth, into[depth], left)
			}
		}
		inner, err := New(m, Finding{Kind: CervicalCaries, Site: c.site, Depth: InnerDentin})
		if err != nil {
			t.Fatal(err)
		}
		if left := ToPulp(m, inner); left < 0.15 || inner.IntoDentin() < 1.3*into[MiddleDentin] {
			t.Errorf("%s: inner caries goes %.2f into dentin, middle %.2f, and leaves %.2f", c.tooth, inner.IntoDentin(), into[MiddleDentin], left)
		}
		if into[OuterDentin] >= into[MiddleDentin] {
			t.Errorf("%s: outer caries reaches %.2f, middle %.2f", c.tooth, into[OuterDentin], into[MiddleDentin])
		}
	}
}

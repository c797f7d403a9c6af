package lesion

import (
	"slices"
	"testing"

	"obturon/core/notation"
)

// A ridge that parts the fissure is not dug through: the pits beside it are asked for, and
// a "central" from elsewhere means both.
func TestCentralCariesBesideATransverseRidge(t *testing.T) {
	for _, c := range []struct {
		tooth string
		want  []Site
	}{{"34", []Site{MesialPit, DistalPit}}, {"44", []Site{MesialPit, DistalPit}}, {"35", []Site{Central}}, {"24", []Site{Central}}, {"74", []Site{Central}}} {
		tooth := notation.MustParse(c.tooth)
		var got []Site
		for _, f := range Apart(Finding{Kind: FissureCaries, Site: Central, Depth: OuterDentin}, tooth) {
			got = append(got, f.Site)
		}
		if !slices.Equal(got, c.want) {
			t.Errorf("%s: %v, want %v", c.tooth, got, c.want)
		}
		offered := slices.ContainsFunc(Choices(tooth), func(k KindChoice) bool {
			return k.Kind == FissureCaries && slices.ContainsFunc(k.Sites, func(s SiteChoice) bool { return s.Site == Central })
		})
		if offered != (len(c.want) == 1) {
			t.Errorf("%s: the central fissure is offered: %v", c.tooth, offered)
		}
	}
}

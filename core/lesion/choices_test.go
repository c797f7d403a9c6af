package lesion

import (
	"slices"
	"testing"

	"obturon/core/notation"
)

// What intake offers on a tooth is taken there, and what it does not offer is
// refused, on all 52 teeth; but for what is offered by its parts.
func TestWhatIsOfferedIsTakenAndNothingElse(t *testing.T) {
	taken := 0
	for _, tooth := range notation.All() {
		offered := map[Kind][]Site{}
		for _, choice := range Choices(tooth) {
			for _, site := range choice.Sites {
				offered[choice.Kind] = append(offered[choice.Kind], site.Site)
				if site.Label == "" {
					t.Errorf("%s: %s has no name", tooth, site.Site)
				}
			}
		}
		for _, kind := range Kinds {
			for _, site := range Sites {
				faults := Validate(Finding{Kind: kind, Site: site, Depth: OuterDentin}, tooth)
				inParts := len(Apart(Finding{Kind: kind, Site: site}, tooth)) > 1
				if offers := slices.Contains(offered[kind], site); (offers || inParts) != (len(faults) == 0) {
					t.Errorf("%s: %s at %s is offered: %v, refused with %v", tooth, kind, site, offers, faults)
				} else if offers {
					taken++
				}
			}
		}
		if start := StartingFinding(tooth); len(Validate(start, tooth)) > 0 {
			t.Errorf("%s: intake starts from %+v, which is refused", tooth, start)
		}
	}
	if taken < 800 {
		t.Errorf("only %d kinds at sites were taken", taken)
	}
}

// A field that intake asks for is taken there; one it does not ask for is refused.
func TestFieldsAskedForAreTaken(t *testing.T) {
	over := 1.2
	with := map[Field]func(*Finding){
		OverCervicalLineField: func(f *Finding) { f.OverCervicalLine = &over },
		SurfaceField:          func(f *Finding) { f.Surface = Intact },
		ActivityField:         func(f *Finding) { f.Activity = Arrested },
		FaultField:            func(f *Finding) { f.Fault = Broken },
		ComplaintField:        func(f *Finding) { f.Complaint = PainOnBiting },
	}
	for _, id := range []string{"46", "24", "43", "85", "52"} {
		tooth := notation.MustParse(id)
		for _, choice := range Choices(tooth) {
			for _, site := range choice.Sites {
				for field, set := range with {
					f := Finding{Kind: choice.Kind, Site: site.Site, Depth: OuterDentin}
					set(&f)
					if asked := slices.Contains(site.Fields, field); asked != (len(Validate(f, tooth)) == 0) {
						t.Errorf("%s, %s at %s: %s is asked for: %v, but %v", id, choice.Kind, site.Site, field, asked, Validate(f, tooth))
					}
				}
			}
		}
	}
}

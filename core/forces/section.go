package forces

import (
	"fmt"
	"strings"

	"obturon/core/measure"
	"obturon/core/resist"
)

// As is in what state a section is loaded.
type As string

// The states of a section.
const (
	AsCut    As = "cut"
	AsFilled As = "filled" // with a bonded composite
	AsSound  As = "sound"
)

// Section is the picture of a section with what there is to say of it.
type Section struct {
	resist.Picture
	Text        string
	Assumptions []string
}

// Pictured says what a section of a tooth with a cavity shows.
func Pictured(p resist.Picture, s *measure.Subject, bite resist.Bite, as As) Section {
	var tensions []string
	for _, c := range p.Corners {
		tensions = append(tensions, fmt.Sprintf("%.0f", c.MPa))
	}
	text := fmt.Sprintf("In this section the two sides part by %.1f µm.", p.Opening)
	if len(tensions) > 0 && as != AsSound {
		text += fmt.Sprintf(" Dentin 0.2 mm under the cavity's corners is pulled by %s MPa.", strings.Join(tensions, " and "))
	}
	if r, ok := s.ThinnestCusp(); ok && r.Over > 0 && as == AsCut {
		const sharp, round = 0.2, 0.4 // mm
		text += fmt.Sprintf(" A line angle rounded by %.1f instead of %.1f mm would take the tension in its very surface to %.2f of that.", round, sharp,
			resist.AngleStress(r.Over, r.Value, round)/resist.AngleStress(r.Over, r.Value, sharp))
	}
	reach := "It is the picture of a section, that cannot spread along the tooth."
	if len(s.Cavity.Boxes) < 2 {
		reach += " It speaks for a cavity through both ridges: the ridge that stands here carries most of what it shows."
	}
	return Section{p, text, []string{
		fmt.Sprintf("%.0f N on each millimetre of either incline, along the tooth, %.1f mm from its highest place.", resist.OnASlice(bite), bite.DownTheIncline),
		reach,
		"Stresses are averaged over discs of 0.15 mm, and good to a factor of two: compare pictures.",
	}}
}

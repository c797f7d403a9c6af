package forces

import (
	"fmt"
	"math"
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

// Way is how a section that is laid beside others is cut.
type Way string

// The ways.
const (
	WaySound  Way = "sound"
	WayCut    Way = "cut"
	WayFilled Way = "filled"
	WayRadius Way = "radius"
	WaySchool Way = "school"
)

// Titled is what a section is called that is cut so, with line angles of a radius (mm, 0 of
// none) or by a school of a name.
func (w Way) Titled(radius float64, school string) string {
	switch {
	case w == WaySound:
		return "Sound"
	case w == WayFilled:
		return "With a bonded composite"
	case w == WayRadius:
		return fmt.Sprintf("Line angles %.2g mm", radius)
	case w == WaySchool:
		return "By the " + school + " school"
	case radius > 0:
		return fmt.Sprintf("As cut, line angles %.2g mm", radius)
	}
	return "As cut"
}

// Section is the picture of a section with what there is to say of it.
type Section struct {
	resist.Picture
	// Radius (mm) is that of the line angles, 0 where there is none; OtherRadius is one to
	// compare it with.
	Radius, OtherRadius float64
	// RadiusTimes is by how much that would change the tension in the line angle's very
	// surface, and RadiusText says so; 0 and "" where no cusp stands beside one.
	RadiusTimes float64
	RadiusText  string
	Text        string
	Assumptions []string
}

// Pictured says what a section of a tooth with a cavity shows.
func Pictured(p resist.Picture, s *measure.Subject, bite resist.Bite, as As) Section {
	var tensions []string
	for _, c := range p.Corners {
		tensions = append(tensions, fmt.Sprintf("%.0f", c.MPa))
	}
	text := fmt.Sprintf("In this section the two sides %s.", apart(p.Opening))
	if len(tensions) > 0 && as != AsSound {
		text += fmt.Sprintf(" Dentin 0.2 mm under the cavity's corners is pulled by %s MPa.", strings.Join(tensions, " and "))
	}
	times, radius := rounded(p, s)
	if as == AsCut && radius != "" {
		text += " " + radius
	}
	reach := "It is the picture of a section, that cannot spread along the tooth."
	if len(s.Cavity.Boxes) < 2 {
		reach += " It speaks for a cavity through both ridges: the ridge that stands here carries most of what it shows."
	}
	own, _ := s.Cavity.Value("line_angle_radius")
	return Section{p, own, OtherRadius(own), times, radius, text, []string{
		fmt.Sprintf("%.0f N on each millimetre of either side, along the tooth, %s.", resist.OnASlice(bite), where(bite)) + slants(bite),
		reach,
		"Stresses are averaged over discs of 0.15 mm, and good to a factor of two: compare pictures.",
	}}
}

func where(bite resist.Bite) string {
	if bite.Place == resist.Plane {
		return "on its highest place"
	}
	return fmt.Sprintf("on its incline, %.1f mm from its highest place", bite.DownTheIncline)
}

// OtherRadius (mm) of line angles is one to compare a cavity's own with: twice it, or half of
// a round one.
func OtherRadius(own float64) float64 {
	const round, least = 0.3, 0.1
	if own > round {
		return own / 2
	}
	return max(2*own, least)
}

// rounded says what another radius of the line angles would make of the tension in the very
// surface of the one that is pulled most, which a picture averages away; "" where no cusp
// stands beside one.
func rounded(p resist.Picture, s *measure.Subject) (times float64, text string) {
	own, ok := s.Cavity.Value("line_angle_radius")
	if !ok {
		return 0, ""
	}
	most, stands := 0.0, false
	for _, cusp := range s.Model.CuspTips {
		form, ok := s.CuspForm(cusp)
		if !ok || s.Reduced(cusp) {
			continue
		}
		for _, l := range p.Loads {
			if (l.At.X > 0) != (cusp.At.Y > 0) {
				continue
			}
			stands = true
			foot := footOf(form, l, math.Copysign(1, cusp.At.Y))
			before, after := foot.Tension(form.Over, form.Base, own), foot.Tension(form.Over, form.Base, OtherRadius(own))
			if before <= most || after <= 0 {
				continue
			}
			most, times = before, after/before
			text = fmt.Sprintf(
				"In the very surface of the line angle under the %s cusp, where a closed form of a post counts, a radius of %.2g instead of %.2g mm would take the tension to %.2f of what it is.",
				cusp.Name,
				OtherRadius(own),
				own,
				times,
			)
		}
	}
	if stands && text == "" {
		text = "By this load the line angles are pressed, not pulled: their radius matters little."
	}
	return times, text
}

// footOf is what a cusp hands down to its line angle of a load in a section; out is 1 where
// outwards is towards facial, -1 where towards lingual.
func footOf(c measure.CuspForm, l resist.SliceLoad, out float64) resist.LineAngle {
	down := -l.Along.Y * l.NewtonsMM
	inwards := out * (c.Middle.Y - l.At.X)
	return resist.LineAngle{Out: out * l.Along.X * l.NewtonsMM, Down: down, Bend: -down * inwards}
}

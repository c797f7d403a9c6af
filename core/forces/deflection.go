package forces

import (
	"errors"
	"fmt"

	"obturon/core/anatomy"
	"obturon/core/measure"
	"obturon/core/resist"
)

// Cusp is a cusp under load.
type Cusp struct {
	anatomy.Named
	measure.CuspForm             // zeros where no wall stands beside it
	Sound, Empty, Filled float64 // µm outwards
}

// Bulk is a filling where a load on its marginal ridge bends it.
type Bulk struct {
	measure.Bulk
	Of   string // the ridge
	Bend float64
}

// BulkText says what bulks mean.
const BulkText = "Bends by: tension under the filling at the isthmus for each newton on a millimetre of the ridge, should the seat of the box not carry it. On a sound seat there is hardly any."

// Deflection is what the cavities of a tooth cost it in stiffness.
type Deflection struct {
	resist.Compared
	Cusps       []Cusp
	Bulks       []Bulk
	Line        string // all of it in one line
	Text        string
	Assumptions []string
}

// Deflected says what came of loading a tooth whose cavities are cut together.
func Deflected(c resist.Compared, cut *measure.Prepared, cavities []*measure.Subject, bite resist.Bite, assumed resist.Assumed) Deflection {
	p := Deflection{Compared: c}
	for n, named := range c.Cusps {
		cusp := Cusp{Named: named, Sound: c.Sound.Cusps[n], Empty: c.Empty.Cusps[n], Filled: c.Filled.Cusps[n]}
		cusp.CuspForm, _ = cut.CuspForm(named)
		p.Cusps = append(p.Cusps, cusp)
	}
	for _, s := range cavities {
		for _, side := range s.Cavity.Boxes {
			if b, ok := s.Box(side).Bulk(); ok {
				const newton = 1 // on each mm
				p.Bulks = append(p.Bulks, Bulk{b, side.String(), resist.RidgeBend(newton, b.Lever, b.Isthmus)})
			}
		}
	}
	p.say(bonds(cavities))
	p.Assumptions = assumptions(c, bite, assumed)
	return p
}

func (p *Deflection) say(bonded bool) {
	cut, parts := p.Times(p.Empty)
	filled, partsFilled := p.Times(p.Filled)
	if !parts || !partsFilled {
		p.Line = fmt.Sprintf(
			"Under the load facial and lingual cusps %s; those of the sound tooth %s.",
			apart(p.Empty.Opening),
			apart(p.Sound.Opening),
		)
		p.Text = p.Line + " It hardly deflects the cusps of the sound tooth: compare them one by one, or load it between the cusps."
		return
	}
	p.Text = fmt.Sprintf(
		"Under the load, facial and lingual cusps deflect apart by %.1f µm: %.1f times as far as those of the sound tooth.",
		p.Empty.Opening,
		cut,
	)
	if bonded {
		p.Line = fmt.Sprintf("Cuspal deflection is %.1f times that of the sound tooth as cut, %.1f times with a bonded composite.", cut, filled)
		p.Text += fmt.Sprintf(" A bonded composite brings that to %.1f times.", filled)
		return
	}
	p.Line = fmt.Sprintf(
		"Cuspal deflection is %.1f times that of the sound tooth as cut; an amalgam that does not bond gives little of it back.",
		cut,
	)
	p.Text += fmt.Sprintf(" An amalgam that does not bond gives little of it back; bonded, a filling would bring it to %.1f times.", filled)
}

// apart says how far (µm) two sides go from each other.
func apart(micrometres float64) string {
	if micrometres < 0 {
		return fmt.Sprintf("deflect towards each other by %.1f µm", -micrometres)
	}
	return fmt.Sprintf("deflect apart by %.1f µm", micrometres)
}

func assumptions(c resist.Compared, bite resist.Bite, assumed resist.Assumed) []string {
	load := fmt.Sprintf("%.0f N ", bite.Newtons)
	switch bite.Place {
	case resist.Contacts:
		load += fmt.Sprintf("on the %d marked contacts, square to the surface at each.", len(c.Borne))
		if c.Missed > 0 {
			load += fmt.Sprintf(" %d more lie on the filling, and are left out: they would press it down, not the cusps apart.", c.Missed)
		}
	case resist.Plane:
		load += fmt.Sprintf("by a flat antagonist, on the %d tips that reach it.", len(c.Borne))
	default:
		load += fmt.Sprintf("between the cusps, square to the inner inclines, %.1f mm from the tips.", bite.DownTheIncline)
	}
	if bite.Grinding > 0 {
		load += fmt.Sprintf(" That is %g times the usual load: this patient grinds or clenches.", bite.Grinding)
	}
	return []string{
		load + slants(bite),
		fmt.Sprintf(
			"Enamel %.0f, dentin %.0f, composite %.0f GPa, Poisson's ratio %.2g, all alike in every direction.",
			assumed.Enamel/1000,
			assumed.Dentin/1000,
			assumed.Composite/1000,
			assumed.Poisson,
		),
		fmt.Sprintf(
			"The root is held 3 mm under the cervical line. Computed on cells of %.2f mm; finer ones change it by less than a twentieth.",
			c.Side,
		),
		"It compares designs of one tooth by how far its cusps' tips give, and overstates what the tooth loses: in published tests premolars lost about 20 % of their stiffness with an occlusal cavity, 46 % with a box, 63 % with two. It says nothing of when a cusp breaks.",
	}
}

func slants(bite resist.Bite) string {
	switch {
	case bite.Slant > 0:
		return fmt.Sprintf(" It slants %.0f degrees outwards.", bite.Slant)
	case bite.Slant < 0:
		return fmt.Sprintf(" It slants %.0f degrees inwards.", -bite.Slant)
	}
	return ""
}

// NoDeflection says why nothing parts, "" for an error that is another's.
func NoDeflection(err error) string {
	switch {
	case errors.Is(err, resist.ErrNoCusps):
		return "No facial and lingual cusp stand against each other: there is no cuspal deflection to compare."
	case errors.Is(err, resist.ErrNothingBears):
		return "The cut tooth keeps no surface where the load lies: all of it is on the filling. Load it between the cusps."
	case errors.Is(err, resist.ErrBeside):
		return "The section passes beside the root: move it towards the middle of the tooth."
	}
	return ""
}

// bonds reports cavities all of whose fillings bond.
func bonds(all []*measure.Subject) bool {
	for _, s := range all {
		if !s.Cavity.Bonded() {
			return false
		}
	}
	return len(all) > 0
}

package forces

import (
	"errors"
	"fmt"

	"obturon/core/cavity"
	"obturon/core/measure"
	"obturon/core/resist"
)

// Cusp is a cusp under load.
type Cusp struct {
	resist.Borne
	Sound, Empty, Filled float64 // µm outwards
	// Base (mm) is how thick it stands at its base, Over how high over that; 0 where no
	// wall stands beside it.
	Base, Over float64
}

// Parting is what the cavities of a tooth cost it in stiffness.
type Parting struct {
	resist.Compared
	Cusps       []Cusp
	Text        string
	Assumptions []string
}

// Parted says what came of loading a tooth that is cut so.
func Parted(c resist.Compared, cut *measure.Prepared, bite resist.Bite, stiffness resist.Stiffness, bonded bool) Parting {
	p := Parting{Compared: c}
	for n, b := range c.Borne {
		cusp := Cusp{Borne: b, Sound: c.Sound.Cusps[n], Empty: c.Empty.Cusps[n], Filled: c.Filled.Cusps[n]}
		if r, ok := cut.CuspThickness(b.Cusp); ok {
			cusp.Base, cusp.Over = r.Value, r.Over
		}
		p.Cusps = append(p.Cusps, cusp)
	}
	p.Text = fmt.Sprintf("Under the load, facial and lingual cusps part by %.1f µm: %.1f times as far as those of the sound tooth.", c.Empty.Opening, c.Times(c.Empty))
	if bonded {
		p.Text += fmt.Sprintf(" A bonded composite brings that to %.1f times.", c.Times(c.Filled))
	} else {
		p.Text += fmt.Sprintf(" An amalgam that does not bond gives little of it back; bonded, a filling would bring it to %.1f times.", c.Times(c.Filled))
	}
	load := ""
	if bite.Doubled {
		load = " Twice the usual load: this patient grinds or clenches."
	}
	p.Assumptions = []string{
		fmt.Sprintf("%.0f N between the cusps, square to the inner inclines, %.1f mm from the tips.%s", bite.Newtons, bite.DownTheIncline, load),
		fmt.Sprintf("Enamel %.0f, dentin %.0f, composite %.0f GPa, Poisson's ratio %.1f, all alike in every direction.", stiffness.Enamel/1000, stiffness.Dentin/1000, stiffness.Composite/1000, stiffness.Poisson),
		fmt.Sprintf("The root is held 3 mm under the cervical line. Computed on cells of %.2f mm; finer ones change it by less than a twentieth.", c.Side),
		"It compares designs of one tooth. It says nothing of when a cusp breaks.",
	}
	return p
}

// NoParting says why nothing parts, "" for an error that is another's.
func NoParting(err error) string {
	if errors.Is(err, resist.ErrNoCusps) {
		return "No facial and lingual cusp stand against each other: there is nothing to part."
	}
	if errors.Is(err, resist.ErrBeside) {
		return "The section passes beside the root: move it towards the middle of the tooth."
	}
	return ""
}

// Bonds reports cavities all of whose fillings bond.
func Bonds(all []*cavity.Cavity) bool {
	for _, c := range all {
		if !c.Bonded() {
			return false
		}
	}
	return len(all) > 0
}

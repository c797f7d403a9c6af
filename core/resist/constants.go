package resist

import (
	"fmt"
	"strings"
)

// Constant is a figure that strength rests on, with where it comes from: a practice may set
// its own.
type Constant struct {
	ID, Name, Unit     string
	Value, Least, Most float64
	Source             string
}

const mpaInGPa = 1000

// Constants lists what is assumed unless a practice says otherwise: the middle of what is
// published (operative dentistry and materials convention). Amalgam is not among them: it
// does not bond, and closes hardly a quarter of what an empty cavity lets the cusps deflect, so
// that the empty cavity stands for it.
func Constants() []Constant {
	return []Constant{
		{
			"enamel",
			"Modulus of enamel",
			"GPa",
			84,
			40,
			120,
			"Middle of published tests, 70 to 100; alike in every direction here, though rods are stiffer along than across.",
		},
		{"dentin", "Modulus of dentin", "GPa", 18, 8, 30, "Middle of published tests, 12 to 25."},
		{"pulp", "Modulus of the pulp", "MPa", 2, 0.1, 20, "Published as a few; too soft to bear anything."},
		{"composite", "Modulus of composite", "GPa", 12, 2, 30, "Middle of hybrid composites, 6 to 20. Take it from your product's sheet."},
		{"poisson", "Poisson's ratio", "", 0.3, 0, 0.45, "Usual for all of them, 0.23 to 0.33."},
		{"bite", "Usual load", "N", 200, 10, 1000, "What molars chew with at most, by most published tests."},
		{"grinding", "Times that of who grinds", "", 2, 1, 4, "Convention: clenching reaches twice a chewing load and more."},
		{
			"bearing",
			"Length that bears it",
			"mm",
			10,
			2,
			14,
			"Convention: a molar bears it along its mesiodistal length. Loads on a section are per millimetre of it.",
		},
	}
}

// Figure is a constant as a practice has set it.
type Figure struct {
	ID     string  `json:"id"`
	Value  float64 `json:"value"`
	Source string  `json:"source"`
}

// Assumed are the constants that a tooth is loaded with.
type Assumed struct {
	Stiffness
	Newtons, Grinding float64 // the usual load, and times that for who grinds
	Bearing           float64 // mm of tooth that bear it
}

// Usual are the shipped constants.
func Usual() Assumed {
	a, _ := Assume(nil)
	return a
}

// Assume has a practice's figures in the place of the shipped ones. The error names every
// figure that cannot be, and what can.
func Assume(figures []Figure) (Assumed, error) {
	all, err := WithFigures(figures)
	if err != nil {
		return Assumed{}, err
	}
	value := map[string]float64{}
	for _, c := range all {
		value[c.ID] = c.Value
	}
	return Assumed{
		Stiffness: Stiffness{
			Enamel: mpaInGPa * value["enamel"], Dentin: mpaInGPa * value["dentin"], Pulp: value["pulp"],
			Composite: mpaInGPa * value["composite"], Poisson: value["poisson"],
		},
		Newtons: value["bite"], Grinding: value["grinding"], Bearing: value["bearing"],
	}, nil
}

// WithFigures lists the constants as a practice has set them. Errors are those of Assume.
func WithFigures(figures []Figure) ([]Constant, error) {
	all := Constants()
	at := map[string]int{}
	for n, c := range all {
		at[c.ID] = n
	}
	var wrong []string
	seen := map[string]bool{}
	for _, f := range figures {
		n, known := at[f.ID]
		switch {
		case !known:
			wrong = append(wrong, fmt.Sprintf("%q is no constant: leave it out", f.ID))
			continue
		case seen[f.ID]:
			wrong = append(wrong, fmt.Sprintf("%s is given twice: give it once", all[n].Name))
		case !(f.Value >= all[n].Least && f.Value <= all[n].Most):
			wrong = append(
				wrong,
				strings.TrimSpace(fmt.Sprintf("%s is %g: give %g to %g %s", all[n].Name, f.Value, all[n].Least, all[n].Most, all[n].Unit)),
			)
		case strings.TrimSpace(f.Source) == "":
			wrong = append(wrong, fmt.Sprintf("%s has no source: say where it comes from", all[n].Name))
		}
		seen[f.ID] = true
		all[n].Value, all[n].Source = f.Value, f.Source
	}
	if len(wrong) > 0 {
		return nil, fmt.Errorf("%s", strings.Join(wrong, "; "))
	}
	return all, nil
}

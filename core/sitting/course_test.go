package sitting

import (
	"strings"
	"testing"

	"obturon/core/fill"
	"obturon/core/instrument"
	"obturon/core/sequence"
)

// A tooth is marked before it is numb and dry, and nothing is bitten on while a dam lies:
// once, when the last of its cavities is filled.
func TestACourse(t *testing.T) {
	cut := []sequence.Step{{Name: "mark"}, {Name: "guard"}, {Name: "cut", Cut: &sequence.Cut{}}}
	ready := []Step{{Step: sequence.Step{Name: "numb"}, Shown: 1}, {Step: sequence.Step{Name: "prove"}, Clock: &fill.Clock{Least: 3, After: 1}, Shown: 1}}
	dam := Step{Step: sequence.Step{Name: "dam", Instruments: []instrument.ID{instrument.Dam}}, Shown: 1}
	filling := func(of string) Filling {
		return Filling{of, []fill.Step{{Name: "mix"}, {Name: "carve", Clock: &fill.Clock{Most: 9, After: 1}}, {Name: "bite", Last: true}, {Name: "seal"}, {Name: "tell", Last: true}}}
	}
	for name, c := range map[string]struct {
		ready    []Step
		fillings []Filling
		want     string
	}{
		"without a dam": {ready, []Filling{filling("")}, "mark numb prove guard cut mix carve bite seal tell"},
		"with one":      {append(ready[:2:2], dam), []Filling{filling("")}, "mark numb prove dam guard cut mix carve Dam-off bite seal tell"},
		"two cavities":  {append(ready[:2:2], dam), []Filling{filling("mesial"), filling("distal")}, "mark numb prove dam guard cut mix carve seal mix carve Dam-off bite seal tell"},
		"nothing yet":   {ready, nil, "mark numb prove guard cut"},
	} {
		steps := Course(cut, c.ready, c.fillings)
		var names []string
		for n, s := range steps {
			names = append(names, strings.ReplaceAll(s.Name, " ", "-"))
			if starts := map[string]string{"prove": "numb", "carve": "mix"}[s.Name]; starts != "" {
				if got := steps[s.Clock.After-1]; got.Name != starts || s.Clock.After > n {
					t.Errorf("%s: %s as step %d is started by %s as %d", name, s.Name, n+1, got.Name, s.Clock.After)
				}
			}
			if s.Shown > 0 && s.Shown != map[string]int{"guard": 2, "cut": 3}[s.Name] && s.Shown != 1 {
				t.Errorf("%s: %s is shown as step %d", name, s.Name, s.Shown)
			}
			if s.Filling == (s.Shown > 0) {
				t.Errorf("%s: %s is of filling %v, shown as %d", name, s.Name, s.Filling, s.Shown)
			}
		}
		if got := strings.Join(names, " "); got != c.want {
			t.Errorf("%s:\n got %s\nwant %s", name, got, c.want)
		}
	}
}

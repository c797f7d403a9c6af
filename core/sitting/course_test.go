package sitting

import (
	"strings"
	"testing"

	"obturon/core/instrument"
	"obturon/core/procedure"
)

// stepsOf makes steps of some kinds.
func stepsOf(script string) []procedure.Step {
	var all procedure.List
	for kind := range strings.FieldsSeq(script) {
		s := procedure.New(procedure.Kind(kind))
		s.Seconds = 60
		all.Add(s)
	}
	return all
}

func written(steps []procedure.Step) string {
	var all []string
	for _, s := range steps {
		all = append(all, strings.TrimSpace(string(s.Kind)+" "+strings.Join(s.Teeth, "+")))
	}
	return strings.Join(all, ", ")
}

// A tooth is marked before it is numb and dry, and nothing is bitten on while a dam lies:
// once, when the last of its cavities is filled.
func TestACourse(t *testing.T) {
	cut := stepsOf("confirm guard punch_cut inspect")
	numb := stepsOf("anaesthetise confirm_anaesthesia")
	numb[1].Clock = &procedure.Clock{Least: 3, After: numb[0].ID}
	dammed := append(numb[:2:2], procedure.New(procedure.Isolate, instrument.Dam))
	filling := func(of string) Filling {
		steps := stepsOf("triturate condense carve check_occlusion instruct")
		steps[2].Clock = &procedure.Clock{Most: 9, After: steps[0].ID}
		return Filling{of, steps}
	}
	for name, c := range map[string]struct {
		ready    []procedure.Step
		fillings []Filling
		want     string
	}{
		"without a dam": {numb, []Filling{filling("")}, "confirm, anaesthetise, confirm_anaesthesia, guard, punch_cut, inspect, triturate, condense, carve, check_occlusion, instruct"},
		"with one":      {dammed, []Filling{filling("")}, "confirm, anaesthetise, confirm_anaesthesia, isolate, guard, punch_cut, inspect, triturate, condense, carve, remove_dam, check_occlusion, instruct"},
		"two cavities":  {dammed, []Filling{filling("mesial"), filling("distal")}, "confirm, anaesthetise, confirm_anaesthesia, isolate, guard, punch_cut, inspect, triturate, condense, carve, triturate, condense, carve, remove_dam, check_occlusion, instruct"},
		"nothing yet":   {numb, nil, "confirm, anaesthetise, confirm_anaesthesia, guard, punch_cut, inspect"},
	} {
		steps := Course(cut, c.ready, c.fillings)
		if got := written(steps); got != c.want {
			t.Errorf("%s:\n got %s\nwant %s", name, got, c.want)
		}
		if broken := procedure.OutOfOrder(steps); len(broken) > 0 {
			t.Errorf("%s: out of order %v", name, broken)
		}
		for n, s := range steps {
			if s.Clock == nil {
				continue
			}
			starts := procedure.Index(steps, s.Clock.After)
			if starts < 0 || starts >= n || steps[starts].Of != s.Of || steps[starts].Kind != map[procedure.Kind]procedure.Kind{procedure.ConfirmAnaesthesia: procedure.Anaesthetise, procedure.Carve: procedure.Triturate}[s.Kind] {
				t.Errorf("%s: %s is started by step %d", name, s.ID, starts+1)
			}
		}
	}
}

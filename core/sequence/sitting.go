package sequence

import (
	"slices"

	"obturon/core/instrument"
	"obturon/core/school"
)

// Visit is one tooth of a sitting with the steps of its cavity.
type Visit struct {
	Tooth string
	Steps []Step
}

// Shared is a step of a sitting: on some of its teeth, one after the other, or
// once for all.
type Shared struct {
	Step
	Teeth []string
	Once  bool // not for each tooth again
}

// once are the steps that a whole quadrant needs one time only.
var once = []string{"Dam and cord"}

// Sitting runs the cavities of several teeth of a quadrant as one: every step on
// all teeth that need it before the next one, so that a bur is taken up once,
// then filled together and finished together. Cavities at the cervical line have no
// contacts to lose by it.
func Sitting(visits []Visit, material school.Material) []Shared {
	var shared []Shared
	next := make([]int, len(visits)) // of each tooth's own steps
	for {
		name, ok := following(visits, next)
		if !ok {
			break
		}
		s := Shared{Once: slices.Contains(once, name)}
		seconds := 0
		for n, v := range visits {
			if next[n] == len(v.Steps) || v.Steps[next[n]].Name != name {
				continue
			}
			own := v.Steps[next[n]]
			if len(s.Teeth) == 0 {
				s.Step = own
			}
			seconds += own.Seconds
			s.Teeth = append(s.Teeth, v.Tooth)
			next[n]++
		}
		if !s.Once {
			s.Seconds = seconds
		}
		shared = append(shared, s)
	}
	return append(shared, together(visits, material)...)
}

// following is the step that comes next: one that no other tooth has still to
// come to after a step of its own, or else the first tooth's.
func following(visits []Visit, next []int) (name string, ok bool) {
	for n, v := range visits {
		if next[n] == len(v.Steps) {
			continue
		}
		candidate := v.Steps[next[n]].Name
		if name == "" {
			name, ok = candidate, true
		}
		awaited := false
		for k, other := range visits {
			if k != n && next[k] < len(other.Steps) && slices.ContainsFunc(other.Steps[next[k]+1:], func(s Step) bool { return s.Name == candidate }) {
				awaited = true
			}
		}
		if !awaited {
			return candidate, true
		}
	}
	return name, ok
}

// together fills and finishes all teeth.
func together(visits []Visit, material school.Material) []Shared {
	const secondsBond, secondsLayers, secondsFinish, secondsCondense, secondsCarve = 120, 180, 120, 120, 120
	teeth := make([]string, len(visits))
	for n, v := range visits {
		teeth[n] = v.Tooth
	}
	all := func(s Step) Shared {
		s.Seconds *= len(teeth)
		return Shared{Step: s, Teeth: teeth}
	}
	if !material.Bonds() {
		return []Shared{
			all(Step{Name: "Condense", Instruments: tray(instrument.Condenser), Speed: instrument.ByHand, Action: "Small increments into line angles and grooves first, firm pressure, overfilled.", Caution: "Mercury hygiene; collect the waste.", Seconds: secondsCondense}),
			all(Step{Name: "Carve to the surface", Instruments: tray(instrument.Carver), Speed: instrument.ByHand, Action: "The blade rests on tooth above and below, so that the filling bulges as the surface does.", Gauge: "explorer along the margin", Seconds: secondsCarve}),
		}
	}
	return []Shared{
		all(Step{Name: "Etch and bond", Instruments: tray(instrument.Etch, instrument.Adhesive), Speed: instrument.NoSpeed, Action: "Etch enamel 15 seconds, follow the adhesive's own instructions, thin, cure.", Caution: "Curing light: filter and eye protection.", Seconds: secondsBond}),
		all(Step{Name: "Layers", Instruments: tray(instrument.Flowable, instrument.CompositePaste), Speed: instrument.NoSpeed, Action: "Thin flowable along the cervical margin, slightly underfilled, cure; the main mass tacked there and pulled to the biting side, cure; a small second addition to close the gap that shrinking opened, cure.", Seconds: secondsLayers}),
		all(Step{Name: "Finish together", Instruments: tray(instrument.Discs), Speed: instrument.Low, Action: "Shape each by the same tooth of the other side; take flash off with the number 12 blade, towards tooth. Then take out dam or cord.", Gauge: "explorer along the margin", Caution: "Half on tooth and half on filling; never on the gingiva.", Seconds: secondsFinish}),
	}
}

package sequence

import (
	"fmt"
	"strings"

	"obturon/core/instrument"
	"obturon/core/procedure"
	"obturon/core/rehearsal"
)

// mostOthers is how many alternatives a step names.
const mostOthers = 2

// others are what else would do, those that suit best first, and what each trades.
func (f fact) others() []procedure.Alternative {
	if f.r == nil {
		return nil
	}
	var all []procedure.Alternative
	if f.ByHand {
		for _, s := range instrument.Instead[f.first.ID] {
			if f.kit.Has(s.ID) {
				all = append(all, procedure.Alternative{Instrument: s.ID, Trade: s.Trade})
			}
		}
		return all
	}
	for _, o := range f.Others {
		if len(all) == mostOthers {
			break
		}
		all = append(
			all,
			procedure.Alternative{
				Instrument: o.Instrument,
				Trade: fmt.Sprintf(
					"%s: %s of %s mm³ at once",
					f.trade(f.first, f.kit.Get(o.Instrument)),
					volume(min(o.Takes, f.Wanted)),
					volume(f.Wanted),
				),
			},
		)
	}
	return all
}

// trade compares another bur with one that suits better.
func (f fact) trade(one, other instrument.Instrument) string {
	const same = 0.05 // mm
	var parts []string
	own, head := one.Head, other.Head
	switch {
	case head.Diameter < own.Diameter-same:
		parts = append(parts, fmt.Sprintf("%.1f mm narrower, more strokes", own.Diameter-head.Diameter))
	case head.Diameter > own.Diameter+same:
		parts = append(parts, fmt.Sprintf("%.1f mm wider, corners stay", head.Diameter-own.Diameter))
	}
	if short := f.most - head.Length; short > rehearsal.MostSunk {
		parts = append(parts, fmt.Sprintf("its head ends %.1f mm under the surface, the neck rubs", short))
	}
	if head.Shape == instrument.Straight && own.Shape != instrument.Straight {
		parts = append(parts, "square end: corners too sharp for amalgam")
	}
	if len(parts) == 0 {
		parts = append(parts, "much the same")
	}
	return strings.Join(parts, ", ")
}

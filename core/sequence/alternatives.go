package sequence

import (
	"fmt"
	"strings"

	"obturon/core/instrument"
)

// mostOthers is how many alternatives a step names.
const mostOthers = 2

// byHandInstead are what does the work of a hand instrument, and what it trades (operative
// dentistry convention).
var byHandInstead = map[instrument.ID][]Alternative{
	instrument.Hatchet:       {{instrument.ShortHatchet, "shorter blade: for less room, with less pull"}, {instrument.Chisel, "edge across the shaft: pushes where the hatchet pulls"}},
	instrument.ShortHatchet:  {{instrument.Hatchet, "longer blade: more pull, needs more room"}, {instrument.Chisel, "edge across the shaft: pushes where the hatchet pulls"}},
	instrument.AngledChisel:  {{instrument.ShortHatchet, "straighter: reaches less far round the distal corner"}, {instrument.Hatchet, "longer blade: needs more room behind the tooth"}},
	instrument.MarginTrimmer: {{instrument.SlimTaper, "a running bur: quicker, but nicks the gingival wall when it slips"}, {instrument.Chisel, "straight edge: planes the seat, cannot round the line angle"}},
	instrument.Spoon:         {{instrument.LargeRound, "at low speed: quicker, but cannot tell soft from firm by itself"}, {instrument.SmallRound, "the same in narrow places"}},
}

// others are what else would do, those that suit best first, and what each trades.
func (f fact) others() []Alternative {
	if f.ByHand {
		return byHandInstead[f.first.ID]
	}
	var all []Alternative
	for _, o := range f.Others {
		if len(all) == mostOthers {
			break
		}
		all = append(all, Alternative{o.Instrument, fmt.Sprintf("%s: %s of %s mm³ at once", f.trade(instrument.MustFind(o.Instrument)), volume(min(o.Takes, f.Wanted)), volume(f.Wanted))})
	}
	return all
}

// trade compares another bur with the one that was chosen.
func (f fact) trade(other instrument.Instrument) string {
	const same = 0.05 // mm
	var parts []string
	own, head := f.first.Head, other.Head
	switch {
	case head.Diameter < own.Diameter-same:
		parts = append(parts, fmt.Sprintf("%.1f mm narrower, more strokes", own.Diameter-head.Diameter))
	case head.Diameter > own.Diameter+same:
		parts = append(parts, fmt.Sprintf("%.1f mm wider, corners stay", head.Diameter-own.Diameter))
	}
	if short := f.most - head.Length; short > sunk {
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

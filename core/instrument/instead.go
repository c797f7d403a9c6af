package instrument

// Substitute is what does the work of another instrument, and what it trades.
type Substitute struct {
	ID    ID
	Trade string
}

// Instead are what does the work of hand instruments, guards and gauges, those that suit
// best first (operative dentistry convention). What stands in for a bur is found by cutting.
var Instead = map[ID][]Substitute{
	Hatchet: {
		{ShortHatchet, "shorter blade: for less room, with less pull"},
		{Chisel, "edge across the shaft: pushes where the hatchet pulls"},
	},
	ShortHatchet: {{Hatchet, "longer blade: more pull, needs more room"}, {Chisel, "edge across the shaft: pushes where the hatchet pulls"}},
	Chisel: {
		{Hatchet, "edge along the shaft: pulls where the chisel pushes"},
		{ShortHatchet, "shorter blade: for less room, with less pull"},
	},
	AngledChisel: {
		{ShortHatchet, "straighter: reaches less far round the distal corner"},
		{Hatchet, "longer blade: needs more room behind the tooth"},
	},
	MarginTrimmer: {
		{SlimTaper, "a running bur: quicker, but nicks the gingival wall when it slips"},
		{Chisel, "straight edge: planes the seat, cannot round the line angle"},
	},
	Spoon: {
		{LargeRound, "at low speed: quicker, but cannot tell soft from firm by itself"},
		{SmallRound, "the same in narrow places"},
	},
	Guard:         {{MetalStrip, "guards the adjacent tooth, does not part the teeth"}},
	MetalStrip:    {{Guard, "guards the adjacent tooth and parts the teeth"}},
	Pins:          {{Probe, "reads to the half millimetre, not go or no-go"}},
	Explorer:      {{Probe, "feels less, being blunt"}},
	Probe:         {{Pins, "tell go or no-go, at their sizes only"}},
	CervicalClamp: {{Cord, "holds the gingiva back, without the dam"}},
	Cord:          {{CervicalClamp, "holds the dam and the gingiva, needs a neck to grip"}},
}

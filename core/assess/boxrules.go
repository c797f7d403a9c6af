package assess

import (
	"fmt"

	"obturon/core/anatomy"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/prep"
	"obturon/core/school"
)

// boxRule is a criterion of a proximal box, judged for each box.
type boxRule struct {
	id, label, form string
	dimension       string // after the side's name where it is the box's own
	shared          bool   // the dimension holds for both boxes
	gauge           func(b measure.Box, beside *anatomy.Facing) (measure.Reading, bool)
	fix             func(short bool, by float64, where string) string
	fatal           func(value float64, c school.Criterion) bool
}

// at makes the rule of one side's box.
func (r boxRule) at(s Subject, side notation.Side) rule {
	dimension := r.dimension
	if dimension != "" && !r.shared {
		dimension = side.String() + "_" + dimension
	}
	return rule{
		id: r.id, label: r.label + ", " + side.String(), form: r.form, dimension: dimension, fix: r.fix, fatal: r.fatal,
		gauge: func(s Subject, c school.Criterion) (measure.Reading, school.Range, school.Range, bool) {
			reading, ok := r.gauge(s.Prepared.Box(side), s.Facing[side])
			return reading, c.Target, c.Limits, ok
		},
	}
}

// leftStanding reports a contact that the school wants broken and that is not.
func leftStanding(value float64, c school.Criterion) bool {
	return value < school.BrokenContact && c.Limits.Min > 0
}

func clearance(feature uint16) func(measure.Box, *anatomy.Facing) (measure.Reading, bool) {
	return func(b measure.Box, beside *anatomy.Facing) (measure.Reading, bool) {
		if beside == nil {
			return measure.Reading{}, false
		}
		return b.Clearance(feature, beside)
	}
}

func clearanceFix(wall string) func(bool, float64, string) string {
	return func(short bool, by float64, _ string) string {
		if short {
			return fmt.Sprintf("%s %s short of clearing the neighbour: undermine with the 245 held at half its width, then cleave with a sharp 10-7-14 hatchet, exit at 90. Measure without the wedge.", capital(wall), mm(by))
		}
		return fmt.Sprintf("%s %s further from the neighbour than asked: leave it; go on only where caries does.", capital(wall), mm(by))
	}
}

func exitAngle(feature uint16) func(measure.Box, *anatomy.Facing) (measure.Reading, bool) {
	return func(b measure.Box, _ *anatomy.Facing) (measure.Reading, bool) { return b.ExitAngle(feature) }
}

func exitFix(wall string) func(bool, float64, string) string {
	return func(short bool, by float64, _ string) string {
		if short {
			return fmt.Sprintf("%s leaves an enamel edge %.0f degrees too thin: plane it outwards with a 10-7-14 hatchet, flat face to the wall.", capital(wall), by)
		}
		return fmt.Sprintf("%s opens %.0f degrees too far and leaves the filling a thin edge: straighten it with the hatchet nearer to 90.", capital(wall), by)
	}
}

// functionalWall is the wall on the side of the functional cusps: lingual
// above, buccal below.
func functionalWall(b measure.Box) (functional, other uint16) {
	if b.Model.Tooth.Upper() {
		return prep.BoxLingual, prep.BoxBuccal
	}
	return prep.BoxBuccal, prep.BoxLingual
}

// lean is by how many degrees a wall leans over the seat.
func lean(b measure.Box, feature uint16) (measure.Reading, bool) {
	r, ok := b.WallAngle(feature)
	r.Value = 90 - r.Value
	return r, ok
}

func leanFix(short bool, by float64, where string) string {
	if short {
		return fmt.Sprintf("%s leans over the seat %.1f degrees too little: tip the 245 so for one light pass from the seat up.", capital(where), by)
	}
	return fmt.Sprintf("%s leans over the seat %.1f degrees too much: its enamel may hang free; plane the margin with a 10-7-14 hatchet.", capital(where), by)
}

// boxRules lists the criteria of a proximal box in the order of the work.
var boxRules = []boxRule{
	{
		id: "box.clearance_buccal", label: "Buccal clearance", form: "outline", dimension: "box_buccal",
		gauge: clearance(prep.BoxBuccal), fix: clearanceFix("buccal wall"), fatal: leftStanding,
	},
	{
		id: "box.clearance_lingual", label: "Lingual clearance", form: "outline", dimension: "box_lingual",
		gauge: clearance(prep.BoxLingual), fix: clearanceFix("lingual wall"), fatal: leftStanding,
	},
	{
		id: "box.clearance_gingival", label: "Gingival clearance", form: "outline", dimension: "box_depth",
		gauge: clearance(prep.GingivalFloor), fatal: leftStanding,
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Gingival floor %s short of clearing the neighbour: lower the seat with the 245, then trim it with a gingival margin trimmer.", mm(by))
			}
			return fmt.Sprintf("Gingival floor %s further from the neighbour than asked: leave it, unless caries goes on.", mm(by))
		},
	},
	{
		id: "outline.reverse_curve", label: "Reverse curve", form: "outline", dimension: "reverse_curve", shared: true,
		gauge: func(b measure.Box, _ *anatomy.Facing) (measure.Reading, bool) { return b.ReverseCurve() },
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("The turn before the box is %s too sharp: start the curve in the isthmus with the 330 pear, a light sweep into the cusp's slope.", mm(by))
			}
			return fmt.Sprintf("The curve cuts %s too far into the cusp: leave it and look at the cusp's thickness.", mm(by))
		},
	},
	{
		id: "gingiva.margin", label: "Gingival margin over the neck", form: "outline", dimension: "box_depth",
		gauge: func(b measure.Box, _ *anatomy.Facing) (measure.Reading, bool) { return b.OverNeck() },
		fix: func(_ bool, by float64, _ string) string {
			return fmt.Sprintf("The seat lies %s too near the cervical line: go no deeper, keep it dry, and place the band below it.", mm(by))
		},
	},
	{
		id: "box.axial_depth", label: "Axial depth", form: "resistance", dimension: "axial_depth",
		gauge: func(b measure.Box, _ *anatomy.Facing) (measure.Reading, bool) { return b.AxialDepth() },
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Seat %s too narrow: deepen the axial wall with the refining pear, which leaves the floor alone; a 1.0 hatchet laid on it tells the width.", mm(by))
			}
			return fmt.Sprintf("Seat %s wider than asked: the pulp is nearer; leave it and decide on a liner.", mm(by))
		},
	},
	{
		id: "box.axial_into_dentin", label: "Axial wall inside dentin", form: "resistance", dimension: "axial_depth",
		gauge: func(b measure.Box, _ *anatomy.Facing) (measure.Reading, bool) { return b.AxialIntoDentin() },
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Axial wall %s short of the dentin it should stand in: deepen it with the refining pear along the junction.", mm(by))
			}
			return fmt.Sprintf("Axial wall %s deeper in dentin than asked: stop, and look at the distance to the pulp.", mm(by))
		},
	},
	{
		id: "box.axial_convexity", label: "Axial wall bulges outwards", form: "resistance",
		gauge: func(b measure.Box, _ *anatomy.Facing) (measure.Reading, bool) {
			r, _, ok := b.AxialConvexity()
			return r, ok
		},
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Axial wall %s too flat: scrape its ends convex with the side edge of a chisel, towards the pulp no deeper.", mm(by))
			}
			return fmt.Sprintf("Axial wall bulges %s too far: its middle is shallow; one light pass with the refining pear.", mm(by))
		},
	},
	{
		id: "box.exit_angle_buccal", label: "Exit angle, buccal wall", form: "resistance", dimension: "box_buccal",
		gauge: exitAngle(prep.BoxBuccal), fix: exitFix("buccal wall"),
	},
	{
		id: "box.exit_angle_lingual", label: "Exit angle, lingual wall", form: "resistance", dimension: "box_lingual",
		gauge: exitAngle(prep.BoxLingual), fix: exitFix("lingual wall"),
	},
	{
		id: "resist.axiopulpal", label: "Axiopulpal line angle", form: "resistance", dimension: "axiopulpal", shared: true,
		gauge: func(b measure.Box, _ *anatomy.Facing) (measure.Reading, bool) { return b.Axiopulpal() },
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Axiopulpal line angle %s too sharp: bevel it from the middle to each side with a gingival margin trimmer.", mm(by))
			}
			return fmt.Sprintf("Axiopulpal bevel %s wider than asked: leave it; check the dentin over the pulp there.", mm(by))
		},
	},
	{
		id: "box.wall_functional", label: "Wall on the functional side leans in", form: "retention", dimension: "functional_lean", shared: true,
		gauge: func(b measure.Box, _ *anatomy.Facing) (measure.Reading, bool) {
			functional, _ := functionalWall(b)
			return lean(b, functional)
		},
		fix: leanFix,
	},
	{
		id: "box.wall_nonfunctional", label: "Other wall leans in", form: "retention", dimension: "nonfunctional_lean", shared: true,
		gauge: func(b measure.Box, _ *anatomy.Facing) (measure.Reading, bool) {
			_, other := functionalWall(b)
			return lean(b, other)
		},
		fix: leanFix,
	},
	{
		id: "retain.grooves", label: "Retention grooves", form: "retention", dimension: "groove_depth", shared: true,
		gauge: func(b measure.Box, _ *anatomy.Facing) (measure.Reading, bool) { return b.GrooveDepth() },
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Grooves %s too shallow: deepen them with the slim 169L just inside the junction; an explorer tip should catch.", mm(by))
			}
			return fmt.Sprintf("Grooves %s deeper than asked: leave them, and see that no enamel is undermined.", mm(by))
		},
	},
	{
		id: "box.opening", label: "Opening of the box", form: "convenience", dimension: "axial_depth",
		gauge: func(b measure.Box, _ *anatomy.Facing) (measure.Reading, bool) { return b.Opening() },
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Box opens %s too little at the top: deepen the axial wall a little from above with the 245.", mm(by))
			}
			return fmt.Sprintf("Box opens %s wider than asked: leave it.", mm(by))
		},
	},
	{
		id: "box.hatchet_access", label: "Room for a 1.0 blade", form: "convenience", dimension: "axial_depth",
		gauge: func(b measure.Box, beside *anatomy.Facing) (measure.Reading, bool) {
			if beside == nil {
				return measure.Reading{}, false
			}
			return b.Room(beside)
		},
		fix: func(_ bool, by float64, _ string) string {
			return fmt.Sprintf("A 1.0 blade is %s too wide for the gap to the neighbour: deepen the axial wall first, then cleave.", mm(by))
		},
	},
	{
		id: "box.gingival_slope", label: "Outer seat falls away", form: "finish", dimension: "gingival_slope", shared: true,
		gauge: func(b measure.Box, _ *anatomy.Facing) (measure.Reading, bool) { return b.GingivalSlope() },
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Outer seat falls %.0f degrees too little: plane it with the gingival margin trimmer of its side.", by)
			}
			return fmt.Sprintf("Outer seat falls %.0f degrees too much: level the inner half only; lower the seat no further.", by)
		},
	},
}

package assess

import (
	"fmt"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/face"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/prep"
	"obturon/core/school"
)

// FaceSubject is what a cavity on a face or an edge is judged from.
type FaceSubject struct {
	Face     measure.Face
	Design   face.Design
	Lesions  []lesion.Lesion
	Facing   *anatomy.Facing // the tooth beside, of a proximal cavity
	School   *school.School
	Material string
	Gingival []r3.Vec // the free gingival margin
	Visible  bool     // the tooth shows
}

// faceRule is a criterion of cavities on faces and edges.
type faceRule struct {
	id, label, form string
	figure          string // the dimension that moves the value, "" if none
	classes         []lesion.Class
	gauge           func(s FaceSubject) (measure.Reading, bool)
	fix             func(short bool, by float64, where string) string
}

// Face runs every criterion that a cavity has, in the order of the work.
func Face(s FaceSubject) []Check {
	var all []asked
	for _, r := range faceRules {
		if slices.Contains(r.classes, s.Design.Class()) {
			all = append(all, asked{r.of(s), face.Name(s.Design.Site)})
		}
	}
	return Subject{Prepared: s.Face.Prepared, School: s.School, Material: s.Material}.judge(all)
}

// of makes the rule of one cavity.
func (r faceRule) of(s FaceSubject) rule {
	made := rule{id: r.id, label: r.label, form: r.form, fix: r.fix}
	if r.figure != "" {
		made.dimension = face.DimensionID(s.Design.Site, r.figure)
	}
	made.gauge = func(_ Subject, c school.Criterion) (measure.Reading, school.Range, school.Range, bool) {
		reading, ok := r.gauge(s)
		return reading, c.Target, c.Limits, ok
	}
	return made
}

var (
	three  = []lesion.Class{lesion.ClassIII}
	four   = []lesion.Class{lesion.ClassIV}
	five   = []lesion.Class{lesion.ClassV}
	pits   = []lesion.Class{lesion.ClassI}
	sunk   = []lesion.Class{lesion.ClassI, lesion.ClassIII, lesion.ClassV}
	always = []lesion.Class{lesion.ClassI, lesion.ClassIII, lesion.ClassIV, lesion.ClassV}
)

// styled gauges a finish of some styles only.
func styled(gauge func(FaceSubject) (measure.Reading, bool), styles ...face.Style) func(FaceSubject) (measure.Reading, bool) {
	return func(s FaceSubject) (measure.Reading, bool) {
		if !slices.Contains(styles, s.Design.Style) {
			return measure.Reading{}, false
		}
		return gauge(s)
	}
}

// bevelOf reads one figure of the bevel over a part of the margin; an absent
// bevel is one without width.
func bevelOf(where func(at, outer r3.Vec) bool, figure func(measure.Bevel) measure.Reading, absent bool) func(FaceSubject) (measure.Reading, bool) {
	return func(s FaceSubject) (measure.Reading, bool) {
		b, ok := s.Face.FinishedMargin(where)
		if !ok {
			return measure.Reading{Where: s.Face.OcclusalMargin()}, absent
		}
		return figure(b), true
	}
}

func wholeMargin(_, _ r3.Vec) bool { return true }

func bevelWidth(b measure.Bevel) measure.Reading { return b.Width }
func bevelAngle(b measure.Bevel) measure.Reading { return b.Angle }
func bevelEdge(b measure.Bevel) measure.Reading  { return b.Edge }

func sizeFix(what, cutWith string) func(bool, float64, string) string {
	return func(short bool, by float64, _ string) string {
		if short {
			return fmt.Sprintf("%s %s short: %s.", what, mm(by), cutWith)
		}
		return fmt.Sprintf("%s %s more than asked: tooth is gone; go on only where caries does.", what, mm(by))
	}
}

func bevelFix(what string) func(bool, float64, string) string {
	return func(short bool, by float64, _ string) string {
		if short {
			return fmt.Sprintf("%s %s too narrow: one light pass more, drawn out along the face.", what, mm(by))
		}
		return fmt.Sprintf("%s %s wider than asked: leave it, and let the composite run out over it.", what, mm(by))
	}
}

func angleFix(short bool, by float64, _ string) string {
	if short {
		return fmt.Sprintf("Bevel %.0f degrees too flat: hold the diamond steeper for the next pass.", by)
	}
	return fmt.Sprintf("Bevel %.0f degrees too steep: lay the diamond flatter along the face.", by)
}

// faceRules lists the criteria in the order of the work. The fixes name the
// instrument that risks least.
var faceRules = []faceRule{
	{
		id: "anterior.box_height", label: "Box height", form: "outline", figure: "height", classes: three,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.Extent() },
		fix:   sizeFix("Box height", "lengthen it gingivally with the 330 pear, away from the incisal corner"),
	},
	{
		id: "anterior.box_width", label: "Box width", form: "outline", figure: "width", classes: three,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.Reach() },
		fix:   sizeFix("Box width", "move the axial wall in with the 330 pear, watching the pulp"),
	},
	{
		id: "anterior.incisal_bridge", label: "Tooth under the incisal corner", form: "outline", figure: "height", classes: three,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.IncisalBridge() },
		fix: func(short bool, by float64, _ string) string {
			if !short {
				return "More of the corner is kept than asked for: nothing to do."
			}
			return fmt.Sprintf("The corner stands on %s too little: cut nothing more towards incisal; if it yields to a probe, plan it as a lost corner.", mm(by))
		},
	},
	{
		id: "anterior.clearance_gingival", label: "Gingival clearance", form: "outline", figure: "height", classes: three,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.Clearance(prep.GingivalWall, s.Facing) },
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Gingival margin %s short of clearing the neighbour: take it gingivally with a hand chisel, the strip in place.", mm(by))
			}
			return fmt.Sprintf("Gingival margin %s further from the neighbour than asked: leave it, unless caries goes on.", mm(by))
		},
	},
	{
		id: "neck.gingiva", label: "Margin over the free gingiva", form: "outline", figure: "rise", classes: five,
		gauge: func(s FaceSubject) (measure.Reading, bool) {
			if !s.Visible || s.Material != "composite" {
				return measure.Reading{}, false // stays as found
			}
			return s.Face.OverGingiva(s.Gingival)
		},
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Margin %s deeper under the gingiva than asked: go no further; place a cord so that it stays dry.", mm(by))
			}
			return fmt.Sprintf("Margin %s too high to be hidden: take it down with a cord in place, never touching the gingival crest.", mm(by))
		},
	},
	{
		id: "pit.width", label: "Pit opened", form: "outline", figure: "height", classes: pits,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.Extent() },
		fix:   sizeFix("The opening is", "widen it with the 330 pear held square to the face"),
	},
	{
		id: "anterior.box_depth", label: "Box depth", form: "resistance", figure: "depth", classes: three,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.Sunk() },
		fix:   sizeFix("Box depth", "sink the 330 pear further; its head flush is 1.5"),
	},
	{
		id: "anterior.facial_tooth", label: "Tooth left towards the far face", form: "resistance", figure: "depth", classes: three,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.TowardsFar() },
		fix: func(short bool, by float64, where string) string {
			if !short {
				return "More tooth is kept than asked for: nothing to do."
			}
			return fmt.Sprintf("The %s is %s thinner than asked: stop there; mask it with an opaque first layer, or carry the cavity through.", where, mm(by))
		},
	},
	{
		id: "pit.depth", label: "Depth, shallowest", form: "resistance", figure: "depth", classes: pits,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.Depth() },
		fix:   sizeFix("The floor is", "sink the 330 pear further, square to the face"),
	},
	{
		id: "neck.depth", label: "Axial depth, shallowest", form: "resistance", figure: "depth", classes: five,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.Depth() },
		fix:   sizeFix("The floor is", "lower it evenly, following the face, with the 330 pear leaned along it"),
	},
	{
		id: "neck.into_dentin", label: "Floor into dentin", form: "resistance", figure: "depth", classes: five,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.IntoDentin() },
		fix:   sizeFix("Into dentin the floor is", "lower it evenly, following the face, with the 330 pear leaned along it"),
	},
	{
		id: "neck.evenness", label: "Depth varies by", form: "resistance", classes: five,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.Evenness() },
		fix: func(_ bool, by float64, _ string) string {
			return fmt.Sprintf("The floor is %s more uneven than allowed: bring the shallow parts down with a large round at low speed, turning with the face.", mm(by))
		},
	},
	{
		id: "resist.line_angle_radius", label: "Line angle radius", form: "resistance", figure: "line_angle_radius", classes: three,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.LineAngles() },
		fix: func(short bool, by float64, _ string) string {
			if short {
				return fmt.Sprintf("Line angles %s too sharp: round them with the 330 pear's tip, barely touching.", mm(by))
			}
			return fmt.Sprintf("Line angles %s too round: define them with the flat-ended refining pear.", mm(by))
		},
	},
	{
		id: "resist.pulp_distance", label: "Dentin over the pulp", form: "resistance", classes: always,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.PulpDistance() },
		fix: func(_ bool, by float64, where string) string {
			return fmt.Sprintf("Dentin %s thinner than asked at the %s: stop there; decide on a liner, and on review, before filling.", mm(by), where)
		},
	},
	{
		id: "resist.enamel_support", label: "Enamel without support", form: "resistance", classes: sunk,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.UnsupportedEnamel() },
		fix: func(_ bool, by float64, where string) string {
			return fmt.Sprintf("A strip of %s hangs over the cavity: cleave the %s with a sharp chisel until it rests on dentin.", mm(by), where)
		},
	},
	{
		id: "neck.wall_open", label: "Walls open outwards", form: "retention", figure: "wall_open", classes: five,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.WallOpening() },
		fix: func(short bool, by float64, where string) string {
			if short {
				return fmt.Sprintf("%s leans over by %.1f degrees too much: turn the bur square to the face there for one pass.", capital(where), by)
			}
			return fmt.Sprintf("%s opens %.1f degrees too far: leave it; the grooves hold the filling.", capital(where), by)
		},
	},
	{
		id: "neck.grooves", label: "Retention grooves", form: "retention", figure: "groove_depth", classes: five,
		gauge: grooves,
		fix:   sizeFix("The grooves are", "run the 1/4 round once more along the line angles, in dentin"),
	},
	{
		id: "anterior.grooves", label: "Retention grooves", form: "retention", figure: "groove_depth", classes: three,
		gauge: grooves,
		fix:   sizeFix("The grooves are", "run the 1/4 round once more along the axial line angles, in dentin"),
	},
	{
		id: "corner.groove", label: "Gingival retention groove", form: "retention", figure: "groove_depth", classes: four,
		gauge: func(s FaceSubject) (measure.Reading, bool) {
			for _, l := range s.Lesions {
				if lost, broken := l.(*lesion.Corner); broken && !face.GrooveFits(lost) {
					return measure.Reading{}, false
				}
			}
			if r, ok := s.Face.SunkIntoBreak(); ok {
				return r, true
			}
			return measure.Reading{Where: s.Face.OcclusalMargin()}, true // none is one without depth
		},
		fix: sizeFix("The groove is", "run the 1/4 round once more just inside the junction"),
	},
	{
		id: "corner.facial_bevel", label: "Facial bevel width", form: "finish", figure: "bevel_width", classes: four,
		gauge: bevelOf(measure.FacialMargin, bevelWidth, true), fix: bevelFix("Facial bevel"),
	},
	{
		id: "corner.facial_angle", label: "Facial bevel to the surface", form: "finish", figure: "bevel_angle", classes: four,
		gauge: styled(bevelOf(measure.FacialMargin, bevelAngle, false), face.Short, face.Translucency), fix: angleFix,
	},
	{
		id: "corner.lingual_bevel", label: "Lingual bevel width", form: "finish", figure: "lingual_bevel", classes: four,
		gauge: bevelOf(measure.LingualMargin, bevelWidth, true), fix: bevelFix("Lingual bevel"),
	},
	{
		id: "finish.bevel_width", label: "Bevel width", form: "finish", figure: "bevel_width", classes: three,
		gauge: styled(bevelOf(wholeMargin, bevelWidth, true), face.Short), fix: bevelFix("Bevel"),
	},
	{
		id: "finish.bevel_angle", label: "Bevel to the surface", form: "finish", figure: "bevel_angle", classes: three,
		gauge: styled(bevelOf(wholeMargin, bevelAngle, false), face.Short), fix: angleFix,
	},
	{
		id: "finish.feather_width", label: "Long bevel width", form: "finish", figure: "bevel_width", classes: three,
		gauge: styled(bevelOf(wholeMargin, bevelWidth, true), face.Long), fix: bevelFix("Long bevel"),
	},
	{
		id: "finish.margin_thickness", label: "Edge of the long bevel", form: "finish", classes: []lesion.Class{lesion.ClassIII, lesion.ClassIV},
		gauge: styled(bevelOf(measure.FacialMargin, bevelEdge, false), face.Long, face.Scalloped),
		fix: func(_ bool, by float64, _ string) string {
			return fmt.Sprintf("The bevel ends %s too thick: draw it out with the long tapered diamond until no edge is felt.", mm(by))
		},
	},
	{
		id: "neck.bevel_width", label: "Occlusal bevel width", form: "finish", figure: "bevel_width", classes: five,
		gauge: func(s FaceSubject) (measure.Reading, bool) {
			r, ok := bevelOf(wholeMargin, bevelWidth, true)(s)
			return r, ok && (r.Value > 0 || s.Face.EnamelToBevel())
		},
		fix: bevelFix("Occlusal bevel"),
	},
	{
		id: "neck.root_bevel", label: "Bevel on the root", form: "finish", classes: five,
		gauge: func(s FaceSubject) (measure.Reading, bool) { return s.Face.RootBevel() },
		fix: func(_ bool, by float64, _ string) string {
			return fmt.Sprintf("A bevel of %s runs on the root: leave it, and finish the margin there square.", mm(by))
		},
	},
	{
		id: "retain.bevel_width", label: "Bevel width", form: "finish", figure: "bevel_width", classes: pits,
		gauge: bevelOf(wholeMargin, bevelWidth, true), fix: bevelFix("Bevel"),
	},
	{
		id: "resist.cavosurface_angle", label: "Cavosurface angle, median", form: "finish", classes: []lesion.Class{lesion.ClassI, lesion.ClassV},
		gauge: func(s FaceSubject) (measure.Reading, bool) {
			if s.Material != "amalgam" {
				return measure.Reading{}, false // the bevel is judged by itself
			}
			return s.Face.CavosurfaceAngle()
		},
		fix: func(short bool, by float64, where string) string {
			if short {
				return fmt.Sprintf("Margin %.0f degrees too acute: the enamel edge is thin; plane it square to the face (%s).", by, where)
			}
			return fmt.Sprintf("Margin opens %.0f degrees too far: amalgam runs out thin there; straighten the wall (%s).", by, where)
		},
	},
	{
		id: "lesion.cleared", label: "Lesion or old filling left", form: "convenience", classes: always,
		gauge: func(s FaceSubject) (measure.Reading, bool) {
			return s.Face.LesionLeft(s.Lesions), len(s.Lesions) > 0
		},
		fix: func(_ bool, by float64, _ string) string {
			return fmt.Sprintf("About %.2f mm³ of lesion or old filling is left: follow it at low speed with the round 4 or a spoon, junction first.", by)
		},
	},
}

func grooves(s FaceSubject) (measure.Reading, bool) {
	if r, ok := s.Face.GrooveDepth(); ok {
		return r, true
	}
	return measure.Reading{Where: s.Face.OcclusalMargin()}, true // none is one without depth
}

package assess

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"obturon/core/cavity"
	"obturon/core/school"
)

// tie is two criteria that pull the same wall two ways: what the first lacks, the second
// would lose.
type tie struct {
	first school.CriterionID
	short bool // the first is short of its target, else over it
	at    string
	other school.CriterionID
	low   bool    // the second falls as the first is mended, else it rises
	gain  float64 // of the first for each mm of the second; 0 stands for 1
	// because says what makes the two meet on this tooth, and which comes first; {least} is
	// the first's own limit.
	because string
}

// ties lists them by kind of cavity. The seat's width comes before how far the wall
// stands in dentin; depths and widths that hold the filling come before the last of the
// millimetre over the pulp, never before its limit (operative dentistry convention).
var ties = map[cavity.Kind][]tie{
	cavity.Occlusal: {
		{
			first:   school.BoxAxialIntoDentin,
			other:   school.BoxAxialDepth,
			low:     true,
			because: "the enamel there is too thin. The seat's width comes first",
		},
		{
			first:   school.BoxOpening,
			short:   true,
			other:   school.BoxAxialDepth,
			because: "the tooth is narrower over the box than at its seat. The seat's width comes first",
		},
		{
			first:   school.BoxAxialConvexity,
			short:   true,
			other:   school.BoxAxialDepth,
			low:     true,
			gain:    0.3,
			because: "the tooth turns away too soon for so deep a wall. The seat's width comes first",
		},
		{
			first:   school.ResistPulpDistance,
			short:   true,
			at:      "pulpal floor",
			other:   school.ResistPulpalDepth,
			low:     true,
			because: "the pulp is too high. The floor's depth comes first as long as {least} of sound dentin stay",
		},
		{
			first:   school.ResistPulpDistance,
			short:   true,
			at:      "axial wall",
			other:   school.BoxAxialDepth,
			low:     true,
			because: "the pulp is too wide. The seat's width comes first as long as {least} of sound dentin stay",
		},
		{
			first:   school.ResistCuspThickness,
			short:   true,
			other:   school.OutlineIsthmusWidth,
			low:     true,
			gain:    0.5,
			because: "the cusp is as thin by nature. Weigh its cover",
		},
	},
	cavity.Pit: {
		{
			first:   school.ResistPulpDistance,
			short:   true,
			other:   school.PitDepth,
			low:     true,
			because: "the pulp is too near. The depth comes first as long as {least} of sound dentin stay",
		},
	},
	cavity.Proximal: {
		{
			first:   school.AnteriorBoxWidth,
			short:   true,
			other:   school.ResistPulpDistance,
			low:     true,
			because: "the pulp is too wide, and comes first",
		},
		{
			first:   school.ResistPulpDistance,
			short:   true,
			other:   school.AnteriorBoxWidth,
			low:     true,
			because: "the pulp is too wide. The width comes first as long as {least} of sound dentin stay",
		},
	},
	cavity.Cervical: {
		{
			first:   school.ResistPulpDistance,
			short:   true,
			other:   school.NeckDepth,
			low:     true,
			because: "the pulp is too near. The depth comes first as long as {least} of sound dentin stay",
		},
		{
			first:   school.NeckIntoDentin,
			short:   true,
			other:   school.ResistPulpDistance,
			low:     true,
			because: "the pulp is too near, and comes first",
		},
	},
}

// nameConflicts says of checks that lie off their targets which other one keeps them
// there: both cannot be met on this tooth.
func nameConflicts(kind cavity.Kind, checks []Check) {
	for n := range checks {
		c := &checks[n]
		if c.Cause != nil || c.Verdict != Missed && c.Verdict != Near {
			continue
		}
		for _, t := range ties[kind] {
			if t.first != c.ID || t.short != (c.Value < c.Target.Min) || !strings.HasPrefix(c.Where.Name, t.at) {
				continue
			}
			o := slices.IndexFunc(checks, func(o Check) bool {
				return o.ID == t.other && o.Measured() && (o.Side == c.Side || o.Side == "" || c.Side == "")
			})
			if o < 0 {
				continue
			}
			room := checks[o].Target.Max - checks[o].Value
			if t.low {
				room = checks[o].Value - checks[o].Target.Min
			}
			if lacking := c.Target.Off(c.Value) - max(room, 0)*cmp.Or(t.gain, 1); lacking > 0 {
				c.Against = t.other
				c.Fix = fmt.Sprintf(
					"%s %s and %s %s %s cannot both be met here, by %.2f: %s.",
					checks[o].Label,
					checks[o].Target,
					c.Named(),
					c.Target,
					school.UnitName(c.Unit),
					lacking,
					strings.ReplaceAll(t.because, "{least}", school.InUnit(c.Limits.Min, c.Unit)),
				)
				break
			}
		}
	}
}

package rehearsal

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/notation"
	"obturon/core/procedure"
)

// job is a kind of step as a cavity asks for it: what is to be taken and by what.
type job struct {
	kind   procedure.Kind
	why    string // why it comes where it does
	side   string // "mesial" or "distal", of the box that it is about; "" everywhere
	open   string // the same where no shell stands
	wants  func(feature uint16) bool
	tools  []instrument.ID // those that suit best first
	tilts  []r3.Vec        // of a bur's or a blade's axis, in the cavity's frame
	shell  bool            // while the shell towards the adjacent tooth still stands
	ends   ends            // of the outline that it is about
	level  bool            // no deeper than the pulpal floor
	punch  bool            // the first cut, straight in
	enamel bool            // carious enamel as well: it is cut, not followed
	breaks bool            // the shell, by hand
	fine   bool            // thin leavings as well
	old    bool            // an old filling only
	least  float64         // mm³ that a bur is taken up for; leastByBur if 0
	most   int             // cuts; usualCuts if 0
	trials int             // burs and axes tried before one is taken; usualTrials if 0
	play   float64         // mm more than elsewhere that a bur may enter what is to stay by
	thick  float64         // mm that a blade takes off; thickest if 0
}

// ends of an outline, by a ridge that stays: with the rest, left out, or alone.
type ends int

const (
	withEnds ends = iota
	butEnds
	onlyEnds
)

// leastByBur and leastByHand (mm³) are what an instrument is taken up for.
const (
	leastByBur  = 0.06
	leastByHand = 0.01
)

// snug (mm) is the play by which a groove just as wide as its bur is found on the lattice;
// its ways are settled into the middle then, where half of that is what reading hides.
const snug = 0.08

// enough is what (mm³) a bur is taken up for.
func (j job) enough() float64 {
	if j.least > 0 {
		return j.least
	}
	return leastByBur
}

// worth is the share of a sample's cell that must still stand for a bur to be led there.
func (j job) worth() float32 {
	if j.fine {
		return 0.1
	}
	return 0.3
}

var upright = []r3.Vec{{Z: 1}}

// leaning are axes upright and so many degrees off: both ways across the crown and along it.
func leaning(degrees float64) []r3.Vec { return slices.Concat(upright, around(4, degrees)) }

// around are n axes so many degrees off upright, evenly about it.
func around(n int, degrees float64) []r3.Vec {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	axes := make([]r3.Vec, n)
	for i := range axes {
		y, x := math.Sincos(2 * math.Pi * (float64(i) + 1) / float64(n))
		axes[i] = r3.Vec{X: sin * x, Y: sin * y, Z: cos}
	}
	return axes
}

// along are the axes of a bur that bevels: lying ever flatter on the surface.
var along = slices.Concat(around(8, 30), around(8, 60), around(8, 88))

func anything(uint16) bool { return true }

// hatchetFor is the blade that gets at a cavity's walls: behind an upper second molar only
// the angled one has room, in a primary tooth the short one (operative dentistry convention).
func hatchetFor(c *cavity.Cavity) instrument.ID {
	const secondMolar = 7
	t := c.Model.Tooth
	switch {
	case t.Upper() && !t.Primary() && t.Position() >= secondMolar && slices.Contains(c.Boxes, notation.Distal):
		return instrument.AngledChisel
	case t.Primary():
		return instrument.ShortHatchet
	}
	return instrument.Hatchet
}

// eachBox repeats jobs for every box of a cavity, side by side.
func eachBox(c *cavity.Cavity, jobs ...job) []job {
	var all []job
	for _, side := range c.Boxes {
		for _, j := range jobs {
			j.side = side.String()
			all = append(all, j)
		}
	}
	return all
}

func oneOf(features ...uint16) func(uint16) bool {
	return func(f uint16) bool { return slices.Contains(features, f) }
}

func ofBevel(f uint16) bool { return f&cavity.BevelFlag != 0 }

func ofWalls(f uint16) bool {
	return !ofBevel(f) && f != cavity.Excavation && f != cavity.RetentionGroove && f != cavity.CuspReduction
}

var (
	ofOutline   = oneOf(cavity.Floor, cavity.WallBuccal, cavity.WallLingual, cavity.WallMesial, cavity.WallDistal)
	ofExtension = oneOf(cavity.WallExtension)
	ofBox       = oneOf(cavity.BoxBuccal, cavity.BoxLingual, cavity.AxialWall, cavity.GingivalFloor, cavity.AxiopulpalEdge)
	ofSeat      = oneOf(cavity.GingivalFloor, cavity.AxiopulpalEdge)
	ofCaries    = oneOf(cavity.Excavation)
	ofGroove    = oneOf(cavity.RetentionGroove)
	ofCusp      = oneOf(cavity.CuspReduction)
	ofBreak     = oneOf(cavity.FractureSurface)
	ofLock      = oneOf(cavity.LingualLock)
)

// The burs for a purpose, those that suit best first.
var (
	pears     = []instrument.ID{instrument.Pear, instrument.SmallPear, instrument.LongPear}
	slim      = []instrument.ID{instrument.SmallPear, instrument.SlimTaper, instrument.Pear}
	ditching  = []instrument.ID{instrument.LongPear, instrument.SmallPear, instrument.SlimTaper}
	walling   = []instrument.ID{instrument.LongPear, instrument.RefiningPear, instrument.SmallPear}
	refining  = []instrument.ID{instrument.RefiningPear, instrument.LongPear, instrument.SlimTaper}
	rounds    = []instrument.ID{instrument.LargeRound, instrument.SmallRound} // the largest that fits; else the spoon
	grooving  = []instrument.ID{instrument.SlimTaper, instrument.QuarterRound}
	bevelling = []instrument.ID{instrument.FineFlame, instrument.Football, instrument.LongTaper}
	lowering  = []instrument.ID{instrument.Cylinder, instrument.FineFlame}
	loosening = []instrument.ID{instrument.CrossCut, instrument.Pear, instrument.SmallPear}
	saucering = []instrument.ID{instrument.MicroDiamond, instrument.Pear, instrument.LargeRound}
)

// jobsOf are the jobs of a cavity, in the order of work: an old filling first, narrow before
// wide, a box behind its shell, walls and floor by the refining bur, outline and support before
// deep caries, grooves in clean dentin, then what burs leave by hand; cusps and bevels last.
// Of what is surveyed they take how grooves and bevels lie; s is nil before that.
func jobsOf(c *cavity.Cavity, s *Survey) []job {
	hand := []instrument.ID{hatchetFor(c)}
	breakShell := job{kind: procedure.BreakShell, why: "It guards the adjacent tooth while a bur runs behind it; undermined, it breaks away towards the space.", breaks: true, tools: hand}
	var shape []job
	switch c.Kind {
	case cavity.Occlusal:
		outline := "One depth all along, from the first cut outwards."
		if len(c.Boxes) > 0 {
			outline = "The fissures give access and depth before a box is cut."
		}
		fissures := []job{
			{kind: procedure.PunchCut, why: "Full depth at once: the head is the gauge for all that follows.", wants: ofOutline, level: true, tools: pears, tilts: upright, shell: true, enamel: true, punch: true},
			{kind: procedure.Outline, why: outline, wants: ofOutline, ends: butEnds, level: true, tools: pears, tilts: upright, shell: true, enamel: true},
			{kind: procedure.Ridges, why: "Last of the outline: an overrun would cross what cannot be put back.", wants: ofOutline, ends: onlyEnds, level: true, tools: pears, tilts: upright, shell: true, enamel: true},
			{kind: procedure.Extensions, why: "A slim bur after the wide one: a groove is not widened for a head.", wants: ofExtension, level: true, tools: slim, tilts: upright, shell: true, enamel: true},
		}
		if s == nil && !c.Opened || s != nil && !s.any(ofOutline) { // a slot
			fissures = []job{{kind: procedure.PunchCut, why: "Straight in over the lesion, inside the ridge: full depth is found before the box is widened.", wants: ofBox, tools: ditching, tilts: upright, shell: true, punch: true}}
		}
		ditch := job{kind: procedure.Ditch, why: "Behind a shell of enamel, so that no running bur meets the adjacent tooth.", open: "No shell is left, for want of an adjacent tooth or of room.", wants: ofBox, tools: ditching, tilts: leaning(6), shell: true, enamel: true}
		walls := job{kind: procedure.BoxWalls, why: "Once nothing stands outside them.", wants: ofBox, tools: walling, tilts: leaning(6), enamel: true}
		cleave := job{kind: procedure.Cleave, why: "The bur has undermined what stands too near the adjacent tooth for it: a blade takes that off.", wants: ofBox, tools: hand, tilts: leaning(12), thick: cleft, enamel: true}
		shape = slices.Concat(fissures, eachBox(c, ditch), []job{breakShell}, eachBox(c, walls, cleave))
	case cavity.Cervical:
		shape = []job{
			{kind: procedure.OpenToSize, why: "One depth under a curved surface: the bur turns with it.", wants: ofWalls, tools: saucering, tilts: slices.Concat(leaning(20), around(4, 40)), enamel: true},
		}
	case cavity.IncisalAngle:
		shape = []job{
			{kind: procedure.FractureSurface, why: "Enamel that nothing carries goes before the margin is finished.", wants: ofBreak, tools: lowering, tilts: slices.Concat(leaning(30), around(8, 60)), fine: true, most: 8},
			{kind: procedure.LingualLock, why: "From the sound surface, once the break is even.", wants: ofLock, tools: pears, tilts: leaning(12)},
		}
	default:
		shape = []job{
			{kind: procedure.PunchCut, why: "Straight in, short of the adjacent tooth: the head is the gauge.", open: "Straight in, full depth at once: the head is the gauge.", wants: ofWalls, tools: pears, tilts: upright, shell: true, enamel: true, punch: true},
			{kind: procedure.OpenToSize, why: "Behind a shell of enamel, so that no running bur meets the adjacent tooth.", open: "At the depth of the punch cut, outwards from it.", wants: ofWalls, tools: pears, tilts: leaning(12), shell: true, enamel: true},
			breakShell,
			{kind: procedure.Walls, why: "Once nothing stands outside them.", wants: ofWalls, tools: walling, tilts: leaning(12), enamel: true},
			{kind: procedure.Cleave, why: "The bur has undermined what stands too near the adjacent tooth for it: a blade takes that off.", wants: ofWalls, tools: hand, tilts: leaning(12), thick: cleft, enamel: true},
		}
	}
	var grooved, bevelled []r3.Vec
	if s != nil {
		grooved, bevelled = s.channelled(ofGroove), s.lying(ofBevel)
	}
	var old []job
	if len(c.Fillings()) > 0 {
		if c.Opened { // its room is the first cut: there is no pit left to enter at
			shape = slices.DeleteFunc(shape, func(j job) bool { return j.kind == procedure.PunchCut })
		}
		old = []job{{kind: procedure.OldFillingOut, why: "What lies under it decides the outline.", wants: anything, tools: loosening, tilts: leaning(12), shell: true, old: true}}
	}
	return slices.Concat(old, shape, []job{
		{kind: procedure.Refine, why: "A flat end levels the floor and defines the line angles.", wants: ofWalls, tools: refining, tilts: leaning(6), fine: true},
		{kind: procedure.CariesLeft, why: "With outline and support in place it is seen how far soft dentin goes.", wants: ofCaries, tools: rounds, tilts: leaning(12)},
		{kind: procedure.Grooves, why: "In clean dentin, so after caries.", wants: ofGroove, tools: grooving, tilts: slices.Concat(grooved, leaning(12), around(8, 25), around(8, 45)), fine: true, least: 0.01, most: 8, trials: 8, play: snug},
	}, eachBox(c, job{kind: procedure.TrimSeat, why: "What the bur leaves at the gingival wall and the axiopulpal line angle.", wants: ofSeat, tools: []instrument.ID{instrument.MarginTrimmer}, tilts: leaning(12)}), []job{
		{kind: procedure.PlaneWalls, why: "What burs leave on the walls: a blade goes where no head does.", wants: ofWalls, tools: hand, tilts: leaning(12), enamel: true},
		{kind: procedure.LiftSoftDentin, why: "What rounds leave in corners and over the pulp.", wants: ofCaries, tools: []instrument.ID{instrument.Spoon}, tilts: slices.Concat(leaning(12), around(8, 35)), thick: soft},
		{kind: procedure.ReduceCusps, why: "Only when caries is out is it known what carries them.", wants: ofCusp, tools: lowering, tilts: slices.Concat(leaning(30), around(8, 60))},
		{kind: procedure.Bevel, why: "Last: every other step would blunt it.", wants: ofBevel, tools: bevelling, tilts: slices.Concat(along, bevelled), fine: true, least: 0.01, most: 10},
	})
}

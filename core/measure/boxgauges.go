package measure

import (
	"math"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/school"
)

// boxGauges are taken at each proximal box of a posterior tooth.
var boxGauges = []Gauge{
	{Criterion: school.BoxClearanceBuccal, Of: ofOcclusal, box: clearance(cavity.BoxBuccal), walls: []uint16{cavity.BoxBuccal}},
	{Criterion: school.BoxClearanceLingual, Of: ofOcclusal, box: clearance(cavity.BoxLingual), walls: []uint16{cavity.BoxLingual}},
	{Criterion: school.BoxClearanceGingival, Of: ofOcclusal, box: overTheStep, walls: []uint16{cavity.GingivalFloor}},
	{Criterion: school.OutlineReverseCurve, Of: ofOcclusal, box: alone(Box.ReverseCurve)},
	{Criterion: school.GingivaMargin, Of: ofOcclusal, box: alone(Box.OverCervicalLine)},
	{Criterion: school.BoxAxialDepth, Of: ofOcclusal, box: alone(Box.AxialDepth)},
	{Criterion: school.BoxAxialIntoDentin, Of: ofOcclusal, box: alone(Box.AxialIntoDentin)},
	{Criterion: school.BoxAxialConvexity, Of: ofOcclusal, box: alone(func(b Box) (Reading, bool) {
		r, _, ok := b.AxialConvexity()
		return r, ok
	})},
	{Criterion: school.BoxAxialHeight, Of: ofOcclusal, opened: true, box: alone(Box.AxialHeight)},
	{Criterion: school.BoxExitAngleBuccal, Of: ofOcclusal, box: alone(func(b Box) (Reading, bool) { return b.ExitAngle(cavity.BoxBuccal) })},
	{Criterion: school.BoxExitAngleLingual, Of: ofOcclusal, box: alone(func(b Box) (Reading, bool) { return b.ExitAngle(cavity.BoxLingual) })},
	{Criterion: school.ResistAxiopulpal, Of: ofOcclusal, box: alone(Box.Axiopulpal)},
	{Criterion: school.BoxWallFunctional, Of: ofOcclusal, box: alone(func(b Box) (Reading, bool) {
		functional, _ := b.sideWalls()
		return b.Lean(functional)
	})},
	{Criterion: school.BoxWallNonfunctional, Of: ofOcclusal, box: alone(func(b Box) (Reading, bool) {
		_, other := b.sideWalls()
		return b.Lean(other)
	})},
	{Criterion: school.RetainGrooves, Of: ofOcclusal, box: alone(Box.GrooveDepth)},
	{Criterion: school.RetainPullProximal, Of: ofOcclusal, box: (*Subject).PullProximal, when: unbonded},
	{Criterion: school.RetainTipping, Of: ofOcclusal, box: (*Subject).Tipping, when: unbonded},
	{Criterion: school.BoxOpening, Of: ofOcclusal, box: alone(Box.Opening)},
	{Criterion: school.BoxHatchetAccess, Of: ofOcclusal, box: func(s *Subject, b Box) (Reading, bool) {
		beside := s.beside(b)
		if beside == nil {
			return Reading{}, false
		}
		return b.Room(beside)
	}},
	{Criterion: school.BoxGingivalSlope, Of: ofOcclusal, box: alone(Box.GingivalSlope)},
}

// alone adapts a gauge that needs no adjacent tooth.
func alone(gauge func(Box) (Reading, bool)) func(*Subject, Box) (Reading, bool) {
	return func(_ *Subject, b Box) (Reading, bool) { return gauge(b) }
}

// beside is the surface that the adjacent tooth turns to a box, nil where there is none.
func (s *Subject) beside(b Box) *anatomy.AdjacentSurface { return s.Cavity.Adjacent[b.Side] }

// clearance is the distance of a wall's margin to the adjacent tooth.
func clearance(feature uint16) func(*Subject, Box) (Reading, bool) {
	return func(s *Subject, b Box) (Reading, bool) {
		beside := s.beside(b)
		if beside == nil {
			return Reading{}, false
		}
		return b.Clearance(feature, beside)
	}
}

// overTheStep is the gingival clearance, with what the step under the pulpal floor needs of
// it: a seat no higher than makes a step of its own.
func overTheStep(s *Subject, b Box) (Reading, bool) {
	r, ok := clearance(cavity.GingivalFloor)(s, b)
	if height, stepped := b.AxialHeight(); ok && stepped {
		r.Need = math.Max(r.Value-math.Max(height.Value-cavity.LeastStep, 0), 0)
	}
	return r, ok
}

// sideWalls are the wall on the side of the functional cusps, lingual above and
// buccal below, and the other one.
func (p *Prepared) sideWalls() (functional, other uint16) {
	if p.Model.Tooth.Upper() {
		return cavity.BoxLingual, cavity.BoxBuccal
	}
	return cavity.BoxBuccal, cavity.BoxLingual
}

// Lean is by how many degrees a side wall leans over the seat.
func (b Box) Lean(feature uint16) (Reading, bool) {
	r, ok := b.WallAngle(feature)
	r.Value = 90 - r.Value
	return r, ok
}

package measure

import (
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/school"
)

// smoothGauges are taken at cavities of smooth surfaces and incisal edges.
var smoothGauges = []Gauge{
	{Criterion: school.AnteriorBoxHeight, Of: ofProximal, read: onSmooth(Smooth.Extent)},
	{Criterion: school.AnteriorBoxWidth, Of: ofProximal, read: onSmooth(Smooth.Reach)},
	{Criterion: school.AnteriorIncisalBridge, Of: ofProximal, read: onSmooth(Smooth.IncisalBridge)},
	{Criterion: school.AnteriorClearanceGingival, Of: ofProximal, read: gingivalClearance},
	{Criterion: school.NeckGingiva, Of: ofCervical, read: overGingivaInView},
	{Criterion: school.PitWidth, Of: ofPit, read: onSmooth(Smooth.Extent)},
	{Criterion: school.AnteriorBoxDepth, Of: ofProximal, read: onSmooth(Smooth.Sunk)},
	{Criterion: school.AnteriorFacialTooth, Of: ofProximal, read: onSmooth(Smooth.TowardsFar)},
	{Criterion: school.PitDepth, Of: ofPit, read: onSmooth(Smooth.Depth)},
	{Criterion: school.NeckDepth, Of: ofCervical, read: onSmooth(Smooth.Depth)},
	{Criterion: school.NeckIntoDentin, Of: ofCervical, read: onSmooth(Smooth.IntoDentin)},
	{Criterion: school.AnteriorAxialEvenness, Of: ofProximal, read: onSmooth(Smooth.AxialEvenness)},
	{Criterion: school.NeckConcavity, Of: ofCervical, read: onSmooth(Smooth.Hollow)},
	{Criterion: school.NeckEvenness, Of: ofCervical, read: onSmooth(Smooth.Evenness)},
	{Criterion: school.ResistLineAngleRadius, Of: ofProximal, read: onSmooth(Smooth.LineAngles)},
	{Criterion: school.NeckWallOpen, Of: ofCervical, read: onSmooth(Smooth.WallOpening)},
	{Criterion: school.NeckGrooves, Of: ofCervical, read: smoothGrooves},
	{Criterion: school.AnteriorGrooves, Of: ofProximal, read: smoothGrooves},
	{Criterion: school.CornerGroove, Of: ofAngle, read: grooveInBreak},
	{Criterion: school.CornerFacialBevel, Of: ofAngle, read: bevelOf(FacialMargin, Bevel.width, true)},
	{Criterion: school.CornerFacialAngle, Of: ofAngle, read: styled(bevelOf(FacialMargin, Bevel.angle, false), cavity.Short, cavity.Translucency)},
	{Criterion: school.CornerLingualBevel, Of: ofAngle, read: bevelOf(LingualMargin, Bevel.width, true)},
	{Criterion: school.FinishBevelWidth, Of: ofProximal, read: styled(bevelOf(wholeMargin, Bevel.width, true), cavity.Short)},
	{Criterion: school.FinishBevelAngle, Of: ofProximal, read: styled(bevelOf(wholeMargin, Bevel.angle, false), cavity.Short)},
	{Criterion: school.FinishFeatherWidth, Of: ofProximal, read: styled(bevelOf(wholeMargin, Bevel.width, true), cavity.Long)},
	{Criterion: school.FinishMarginThickness, Of: []cavity.Kind{cavity.Proximal, cavity.IncisalAngle}, read: styled(bevelOf(FacialMargin, Bevel.edge, false), cavity.Long, cavity.Scalloped)},
	{Criterion: school.NeckBevelWidth, Of: ofCervical, read: cervicalBevel},
	{Criterion: school.NeckRootBevel, Of: ofCervical, read: prepared((*Prepared).RootBevel)},
	{Criterion: school.RetainBevelWidth, Of: ofPit, read: bevelOf(wholeMargin, Bevel.width, true)},
	{Criterion: school.ResistCavosurfaceAngle, Of: []cavity.Kind{cavity.Pit, cavity.Cervical}, read: unbevelledAngle},
}

// styled takes a gauge for some styles of finish only.
func styled(gauge func(*Subject) []Reading, styles ...cavity.Style) func(*Subject) []Reading {
	return func(s *Subject) []Reading {
		if !slices.Contains(styles, s.Cavity.Style) {
			return nil
		}
		return gauge(s)
	}
}

// bevelOf reads one figure of the bevel over a part of the margin; where absent
// counts, no bevel is one without width.
func bevelOf(where func(at, outer r3.Vec) bool, figure func(Bevel) Reading, absentCounts bool) func(*Subject) []Reading {
	return func(s *Subject) []Reading {
		b, ok := s.FinishedMargin(where)
		if !ok {
			return listed(Reading{Where: s.OcclusalMargin()}, absentCounts)
		}
		return []Reading{figure(b)}
	}
}

func wholeMargin(_, _ r3.Vec) bool { return true }

func (b Bevel) width() Reading { return b.Width }
func (b Bevel) angle() Reading { return b.Angle }
func (b Bevel) edge() Reading  { return b.Edge }

func gingivalClearance(s *Subject) []Reading {
	side, _ := s.Cavity.Site.Side()
	return listed(s.Smooth().Clearance(cavity.GingivalWall, s.Cavity.Adjacent[side]))
}

// overGingivaInView is how far a margin in view lies over the free gingiva;
// elsewhere, and under amalgam, it stays as found.
func overGingivaInView(s *Subject) []Reading {
	if !s.Cavity.Visible || !s.Cavity.Bonded() {
		return nil
	}
	return listed(s.Smooth().OverGingiva(s.Gingival()))
}

// smoothGrooves reads missing grooves as such without depth.
func smoothGrooves(s *Subject) []Reading {
	if r, ok := s.Smooth().GrooveDepth(); ok {
		return []Reading{r}
	}
	return []Reading{{Where: s.OcclusalMargin()}}
}

// grooveInBreak reads the groove of a lost incisal angle, where one would fit.
func grooveInBreak(s *Subject) []Reading {
	for _, l := range s.Cavity.Lesions {
		if lost, broken := l.(*lesion.IncisalAngle); broken && !lost.TakesGroove() {
			return nil
		}
	}
	if r, ok := s.Smooth().SunkIntoBreak(); ok {
		return []Reading{r}
	}
	return []Reading{{Where: s.OcclusalMargin()}}
}

// cervicalBevel reads a missing bevel as one without width where there is enamel
// to bevel.
func cervicalBevel(s *Subject) []Reading {
	b, bevelled := s.FinishedMargin(wholeMargin)
	if bevelled {
		return []Reading{b.Width}
	}
	return listed(Reading{Where: s.OcclusalMargin()}, s.Smooth().EnamelToBevel())
}

// unbevelledAngle is the cavosurface angle under amalgam: elsewhere the bevel is
// judged by itself.
func unbevelledAngle(s *Subject) []Reading {
	if s.Cavity.Bonded() {
		return nil
	}
	return listed(s.CavosurfaceAngle())
}

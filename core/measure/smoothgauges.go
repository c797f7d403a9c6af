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
	{
		Criterion: school.AnteriorIncisalBridge,
		Of:        ofProximal,
		read:      onSmooth(Smooth.IncisalBridge),
		walls:     []uint16{cavity.IncisalWall},
		kept:      true,
	},
	{Criterion: school.AnteriorClearanceGingival, Of: ofProximal, read: gingivalClearance},
	{
		Criterion: school.NeckGingiva,
		Of:        ofCervical,
		read:      func(s *Subject) []Reading { return listed(s.Smooth().OverGingiva(s.Gingival())) },
		when:      hidden,
	},
	{Criterion: school.PitWidth, Of: ofPit, read: onSmooth(Smooth.Extent)},
	{Criterion: school.AnteriorBoxDepth, Of: ofProximal, read: onSmooth(Smooth.Sunk)},
	{
		Criterion: school.AnteriorFacialTooth,
		Of:        ofProximal,
		read:      onSmooth(Smooth.TowardsFar),
		walls:     []uint16{cavity.FacialWall, cavity.LingualWall},
		kept:      true,
	},
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
	{Criterion: school.CornerGroove, Of: ofAngle, read: grooveInBreak, when: takesGroove},
	{Criterion: school.CornerFacialBevel, Of: ofAngle, read: bevelOf(FacialMargin, Bevel.width, true)},
	{
		Criterion: school.CornerFacialAngle,
		Of:        ofAngle,
		read:      bevelOf(FacialMargin, Bevel.angle, false),
		when:      inStyle(cavity.Short, cavity.Translucency),
	},
	{Criterion: school.CornerLingualBevel, Of: ofAngle, read: bevelOf(LingualMargin, Bevel.width, true)},
	{Criterion: school.FinishBevelWidth, Of: ofProximal, read: bevelOf(wholeMargin, Bevel.width, true), when: inStyle(cavity.Short)},
	{Criterion: school.FinishBevelAngle, Of: ofProximal, read: bevelOf(wholeMargin, Bevel.angle, false), when: inStyle(cavity.Short)},
	{Criterion: school.FinishFeatherWidth, Of: ofProximal, read: bevelOf(wholeMargin, Bevel.width, true), when: inStyle(cavity.Long)},
	{
		Criterion: school.FinishMarginThickness,
		Of:        []cavity.Kind{cavity.Proximal, cavity.IncisalAngle},
		read:      bevelOf(FacialMargin, Bevel.edge, false),
		when:      inStyle(cavity.Long, cavity.Scalloped),
	},
	{Criterion: school.NeckBevelWidth, Of: ofCervical, read: cervicalBevel},
	{Criterion: school.NeckRootBevel, Of: ofCervical, read: prepared((*Prepared).RootBevel)},
	{Criterion: school.FinishBevelWidth, Of: ofPit, read: bevelOf(wholeMargin, Bevel.width, true)},
	{
		Criterion: school.ResistCavosurfaceAngle,
		Of:        []cavity.Kind{cavity.Pit, cavity.Cervical},
		read:      func(s *Subject) []Reading { return s.MarginAngles() },
		when:      unbonded,
	},
}

// inStyle holds for some styles of finish only.
func inStyle(styles ...cavity.Style) func(*Subject) bool {
	return func(s *Subject) bool { return slices.Contains(styles, s.Cavity.Style) }
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

// hidden holds for a bonded margin that is wished under the gingiva; else it stays over it, or
// as found.
func hidden(s *Subject) bool { return s.Cavity.HidesMargin && s.Cavity.Bonded() }

// smoothGrooves reads missing grooves as such without depth.
func smoothGrooves(s *Subject) []Reading {
	if r, ok := s.Smooth().GrooveDepth(); ok {
		return []Reading{r}
	}
	return []Reading{{Where: s.OcclusalMargin()}}
}

// takesGroove holds where a groove would fit into the break.
func takesGroove(s *Subject) bool {
	for _, l := range s.Cavity.Lesions {
		if lost, broken := l.(*lesion.IncisalAngle); broken && !lost.TakesGroove() {
			return false
		}
	}
	return true
}

// grooveInBreak reads the groove of a lost incisal angle.
func grooveInBreak(s *Subject) []Reading {
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

// unbonded holds under amalgam, whose margin is judged by its angle: elsewhere the bevel
// is judged by itself.
func unbonded(s *Subject) bool { return !s.Cavity.Bonded() }

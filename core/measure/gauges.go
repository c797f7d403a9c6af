package measure

import (
	"slices"

	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/school"
)

// Gauge reads one criterion off a cavity. Those of one sort stand in one list,
// beside the functions that read: occlusalGauges, boxGauges, smoothGauges.
type Gauge struct {
	Criterion school.CriterionID
	// Of are the kinds of cavities that have it.
	Of []cavity.Kind
	// when tells whether it is asked for at a cavity; nil where it always is.
	when func(s *Subject) bool
	// opened tells that it needs opened fissures.
	opened bool
	// read takes the reading, or all readings of like kind of which the one
	// furthest from the target counts; none where there is nothing to read.
	read func(s *Subject) []Reading
	// box takes the reading of one proximal box instead.
	box func(s *Subject, b Box) (Reading, bool)
	// walls are those that caries may push out, with which the value grows; kept tells
	// that it falls instead, as what is left of the tooth does.
	walls []uint16
	kept  bool
}

// Side is the box that a gauge is taken at, "" of the whole cavity.
type Side string

// Turn is a gauge to be taken at a cavity, once for each of its boxes.
type Turn struct {
	Gauge
	Side Side
}

// Turns lists the gauges that a cavity has.
func Turns(s *Subject) []Turn {
	var all []Turn
	for _, g := range slices.Concat(commonGauges, occlusalGauges, boxGauges, smoothGauges) {
		switch {
		case !slices.Contains(g.Of, s.Cavity.Kind), g.opened && !s.Cavity.Opened:
		case g.box != nil:
			for _, side := range s.Cavity.Boxes {
				all = append(all, Turn{g, Side(side.String())})
			}
		default:
			all = append(all, Turn{Gauge: g})
		}
	}
	return all
}

// Asked reports whether the gauge is asked for at a cavity at all.
func (t Turn) Asked(s *Subject) bool { return t.when == nil || t.when(s) }

// Read takes the readings; none where there is nothing to read.
func (t Turn) Read(s *Subject) []Reading {
	readings := t.taken(s)
	if len(t.walls) > 0 {
		for n := range readings {
			s.standBack(&readings[n], t.walls, t.kept)
		}
	}
	return readings
}

func (t Turn) taken(s *Subject) []Reading {
	if t.box == nil {
		return t.read(s)
	}
	side := notation.Mesial
	if t.Side == Side(notation.Distal.String()) {
		side = notation.Distal
	}
	return listed(t.box(s, s.Box(side)))
}

func listed(r Reading, ok bool) []Reading {
	if !ok {
		return nil
	}
	return []Reading{r}
}

// prepared adapts a gauge of the whole tooth.
func prepared(gauge func(*Prepared) (Reading, bool)) func(*Subject) []Reading {
	return func(s *Subject) []Reading { return listed(gauge(s.Prepared)) }
}

// onSmooth adapts a gauge of a smooth surface.
func onSmooth(gauge func(Smooth) (Reading, bool)) func(*Subject) []Reading {
	return func(s *Subject) []Reading { return listed(gauge(s.Smooth())) }
}

var (
	everyKind  = []cavity.Kind{cavity.Occlusal, cavity.Pit, cavity.Proximal, cavity.IncisalAngle, cavity.Cervical}
	ofOcclusal = []cavity.Kind{cavity.Occlusal}
	ofProximal = []cavity.Kind{cavity.Proximal}
	ofAngle    = []cavity.Kind{cavity.IncisalAngle}
	ofCervical = []cavity.Kind{cavity.Cervical}
	ofPit      = []cavity.Kind{cavity.Pit}
)

// commonGauges are taken at cavities whatever surface they open on.
var commonGauges = []Gauge{
	{Criterion: school.ResistPulpDistance, Of: everyKind, read: prepared((*Prepared).PulpDistance)},
	{
		Criterion: school.ResistEnamelSupport,
		Of:        []cavity.Kind{cavity.Occlusal, cavity.Pit, cavity.Proximal, cavity.Cervical},
		read:      prepared((*Prepared).UnsupportedEnamel),
	},
	{
		Criterion: school.RetainPullOcclusal,
		Of:        []cavity.Kind{cavity.Occlusal, cavity.Pit, cavity.Proximal, cavity.Cervical},
		read:      (*Subject).PullOut,
		when:      unbonded,
	},
	{Criterion: school.LesionJunction, Of: everyKind, read: func(s *Subject) []Reading {
		return listed(s.Left().ToGo, len(s.Cavity.Lesions) > 0)
	}},
	{Criterion: school.LesionOverPulp, Of: everyKind, when: (*Subject).Leaves, read: func(s *Subject) []Reading {
		return listed(s.Left().Seal, s.Leaves())
	}},
}

package prep

import (
	"errors"
	"math"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/school"
	"obturon/core/solid"
)

// Request is what an occlusal preparation is proposed from.
type Request struct {
	Model    *anatomy.Model
	Lesions  []*lesion.Occlusal
	School   *school.School
	Material string // amalgam or composite
}

const (
	burRadius       = 0.4  // mm, the 0.8 pear: nothing is cut narrower
	extensionRadius = 0.58 // mm, the rounded end of a groove extension
	pitCover        = 0.5  // mm of outline past the centre of a pit
	lesionCover     = 0.10 // mm of outline past a lesion's spread at the junction
	courseSmoothing = 0.45 // mm
	pulpAllowance   = 0.03 // mm of dentin left over what is asked, for the cut's own error
)

// ErrNoCentralFissure means that a ridge divides the occlusal surface.
var ErrNoCentralFissure = errors.New("a transverse ridge divides the occlusal surface")

// ErrBeyondRidge means that a lesion lies across the oblique ridge from the
// fissures that are opened.
var ErrBeyondRidge = errors.New("a lesion lies beyond the oblique ridge")

// Build makes the cavity of a design.
func Build(r Request, d ClassI) (*Cavity, error) {
	s, err := newSite(r)
	if err != nil {
		return nil, err
	}
	end := math.Max(math.Max(d.DovetailWidth, d.IsthmusWidth)/2, burRadius)
	mesialEnd := s.mesialSurface - d.MesialRidge
	distalEnd := s.distalSurface + d.DistalRidge
	if mesialEnd-distalEnd < 2*end {
		middle := (mesialEnd + distalEnd) / 2
		mesialEnd, distalEnd = middle+end, middle-end
	}
	course := clipCourse(smoothCourse(s.line, courseSmoothing), distalEnd+end, mesialEnd-end)
	mesialCentre, distalCentre := course[0], course[len(course)-1]

	c := &Cavity{
		Table:    r.Model.Table,
		slope:    math.Tan(d.FloorTilt * math.Pi / 180),
		radius:   d.LineAngleRadius,
		mesialX:  mesialCentre.X,
		distalX:  distalCentre.X,
		excavate: r.Lesions,
	}
	lean := func(p, normal solid.Point2) float64 {
		// Walls beside the marginal ridges lean out, the others in; the
		// change runs round the corner of the outline's end.
		beside := 0.0
		if normal.X > 0 {
			beside = solid.Smoothstep(mesialCentre.X-0.5, mesialCentre.X, p.X)
		} else {
			beside = solid.Smoothstep(-distalCentre.X-0.5, -distalCentre.X, -p.X)
		}
		beside *= solid.Smoothstep(0.15, 0.8, math.Abs(normal.X))
		return d.WallConvergence + (-d.RidgeDivergence-d.WallConvergence)*beside
	}
	form := newForm(s.strokes(r, d, course, end, distalEnd, mesialEnd))
	c.outline = newOutline(form.isthmusFlow(course, d.IsthmusWidth, endZone), r.Model.TableHeights(), lean)
	if err := c.setLevel(r.Model, d.PulpalDepth); err != nil {
		return nil, err
	}
	c.setBounds()
	return c, nil
}

// endZone (mm) is the part of the outline that counts as its mesial or distal end.
const endZone = 0.9

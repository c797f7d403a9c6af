// Package face designs cavities that open on a face or an edge of the crown
// instead of its occlusal table: Class III, IV and V, and pits off the occlusal
// surface. From a tooth, its lesions and a school it proposes dimensions, and
// from dimensions it builds the cavity as a solid tool. It does not know how the
// result is judged.
package face

import (
	"errors"
	"math"

	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/school"
)

// Style is how the enamel margin of a bonded filling is finished.
type Style string

// The styles (operative dentistry convention). Short is a narrow bevel, on the
// facial side of a broken corner a slant; Long thins out to nothing;
// Translucency follows how much light the enamel lets through; Scalloped breaks
// the line of light at a broken corner.
const (
	AnyStyle     Style = ""
	Short        Style = "short"
	Long         Style = "long"
	Translucency Style = "translucency"
	Scalloped    Style = "scalloped"
)

// Styles lists what may be asked for.
var Styles = []string{string(Short), string(Long), string(Translucency), string(Scalloped)}

// StylesOf lists the styles that a class offers.
func StylesOf(c lesion.Class) []Style {
	switch c {
	case lesion.ClassIII:
		return []Style{Short, Long}
	case lesion.ClassIV:
		return []Style{Short, Long, Translucency, Scalloped}
	default:
		return nil
	}
}

// Request is what a cavity is proposed from.
type Request struct {
	Model *anatomy.Model
	// Site is where the cavity lies: mesial or distal (Class III), an incisal
	// corner (IV), buccal or lingual (V), or a pit of a face (I).
	Site    lesion.Site
	Lesions []lesion.Lesion // of this site
	// Facing is the surface of the tooth beside a proximal site, nil where there
	// is none.
	Facing   *anatomy.Facing
	School   *school.School
	Material string // amalgam or composite
	Style    Style
	// Translucent tells that the enamel lets much light through.
	Translucent bool
	// Gingiva is the free gingival margin; Visible that the tooth shows.
	Gingiva anatomy.Gingiva
	Visible bool
	// Lock asks for a lingual lock at a broken corner.
	Lock bool
}

// ErrOffFace means that a cavity's figures lie where the face has ended.
var ErrOffFace = errors.New("the cavity runs off its face: bring its walls back")

// ErrNoCornerLeft means that a proximal lesion leaves no incisal corner to keep.
var ErrNoCornerLeft = errors.New("nothing would be left of the incisal corner over this lesion")

const (
	burRadius     = 0.4  // mm, the 0.8 pear: nothing is cut narrower
	lesionCover   = 0.15 // mm of outline past a lesion
	pulpAllowance = 0.03 // mm of dentin left over what is asked, for the cut's own error
)

// ClassOf is the class of a cavity at a site.
func ClassOf(site lesion.Site) lesion.Class {
	switch site {
	case lesion.Mesial, lesion.Distal:
		return lesion.ClassIII
	case lesion.MesialCorner, lesion.DistalCorner:
		return lesion.ClassIV
	case lesion.Buccal, lesion.Lingual:
		return lesion.ClassV
	default:
		return lesion.ClassI
	}
}

// sense is +1 at mesial sites and -1 at distal ones.
func (r Request) sense() float64 {
	if r.Site == lesion.Distal || r.Site == lesion.DistalCorner {
		return -1
	}
	return 1
}

func (r Request) bonded() bool { return r.Material == "composite" }

// criterion is what the school asks for under an id; the zero one where it does
// not ask.
func (r Request) criterion(id string) school.Criterion {
	c, ok := r.School.For(id, r.Model.Tooth, r.Material)
	if !ok || !c.Required() {
		return school.Criterion{}
	}
	return c
}

// aim is what a proposal tries for; 0 where the school does not ask.
func (r Request) aim(id string) float64 { return r.criterion(id).Aim }

// lesionOf finds the lesion of a kind that a cavity is laid about.
func lesionOf[L lesion.Lesion](r Request) (found L, ok bool) {
	for _, l := range r.Lesions {
		if found, ok = l.(L); ok {
			return found, true
		}
	}
	return found, false
}

// opens is the face that a proximal cavity is entered from: where the lesion
// shows, and from lingual where it shows nowhere.
func (r Request) opens() lesion.Site {
	if p, ok := lesionOf[*lesion.Proximal](r); ok && p.Finding.Opens == lesion.Buccal {
		return lesion.Buccal
	}
	return lesion.Lingual
}

// up rounds up to figures that a dentist can set and read.
func up(v float64) float64 { return math.Ceil(v*20-1e-9) / 20 }

func nearest(v float64) float64 { return math.Round(v*20) / 20 }

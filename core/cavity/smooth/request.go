package smooth

import (
	"math"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/lesion"
)

// request is a cavity's request, for the forms of this package.
type request struct{ cavity.Request }

// burRadius (mm) is that of the pear that cuts outlines: nothing is cut narrower.
var burRadius = instrument.MustFind(instrument.Pear).Head.Radius()

// kindOf is the kind of a cavity at a site.
func kindOf(site lesion.Site) cavity.Kind {
	switch site {
	case lesion.Mesial, lesion.Distal:
		return cavity.Proximal
	case lesion.MesialIncisalAngle, lesion.DistalIncisalAngle:
		return cavity.IncisalAngle
	case lesion.Buccal, lesion.Lingual:
		return cavity.Cervical
	default:
		return cavity.Pit
	}
}

// ClassOf is the class of a cavity at a site.
func ClassOf(site lesion.Site) lesion.Class {
	return map[cavity.Kind]lesion.Class{
		cavity.Proximal: lesion.ClassIII, cavity.IncisalAngle: lesion.ClassIV, cavity.Cervical: lesion.ClassV, cavity.Pit: lesion.ClassI,
	}[kindOf(site)]
}

// sideSign is +1 at mesial sites and -1 at distal ones.
func (r request) sideSign() float64 {
	if r.Site == lesion.Distal || r.Site == lesion.DistalIncisalAngle {
		return -1
	}
	return 1
}

// beside is the surface of the adjacent tooth a proximal site, nil where there is
// none.
func (r request) beside() *anatomy.AdjacentSurface {
	side, faces := r.Site.Side()
	if !faces {
		return nil
	}
	return r.Adjacent[side]
}

// lesionOf finds the lesion of a kind that a cavity is laid about.
func lesionOf[L lesion.Lesion](r request) (l L, ok bool) {
	for _, any := range r.Lesions {
		if l, ok = any.(L); ok {
			return l, true
		}
	}
	return l, false
}

// opens is the surface that a proximal cavity is entered from: where the lesion
// shows, and from lingual where it shows nowhere.
func (r request) opens() lesion.Site {
	if p, ok := lesionOf[*lesion.Proximal](r); ok && p.Finding.Opens == lesion.Buccal {
		return lesion.Buccal
	}
	return lesion.Lingual
}

// up rounds up to figures that a dentist can set and read.
func up(v float64) float64 { return math.Ceil(v*20-1e-9) / 20 }

func nearest(v float64) float64 { return math.Round(v*20) / 20 }

// newBevel is nil under amalgam, and where margins are left as the walls make them.
func (r request) newBevel(zones ...cavity.Zone) *cavity.Bevel {
	if !r.Bonded() {
		return nil
	}
	return cavity.NewBevel(r.Model, zones...)
}

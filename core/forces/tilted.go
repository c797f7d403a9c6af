package forces

import (
	"fmt"
	"math"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/measure"
)

// Tilt is how far (degrees) a pull of one's own leads off the bur: as seen from the side
// towards mesial, as seen along the arch towards facial; each negative the other way. Of a
// cavity in a face they lead along and towards the biting side.
type Tilt struct{ Mesial, Facial float64 }

// MostTilt is the most (degrees) that a pull of one's own may lead off the bur.
const MostTilt = 80

// Check names a figure that cannot be.
func (t Tilt) Check() error {
	for name, degrees := range map[string]float64{"mesial": t.Mesial, "facial": t.Facial} {
		if !(math.Abs(degrees) <= MostTilt) {
			return fmt.Errorf("the pull is tilted towards %s by %g degrees: give -%d to %d", name, degrees, MostTilt, MostTilt)
		}
	}
	return nil
}

// said is the pull in words.
func (t Tilt) said() string {
	var ways []string
	for _, way := range []struct {
		degrees float64
		to, fro string
	}{{t.Mesial, "mesial", "distal"}, {t.Facial, "facial", "lingual"}} {
		switch {
		case way.degrees > 0:
			ways = append(ways, fmt.Sprintf("%.0f° towards %s", way.degrees, way.to))
		case way.degrees < 0:
			ways = append(ways, fmt.Sprintf("%.0f° towards %s", -way.degrees, way.fro))
		}
	}
	if len(ways) == 0 {
		return "Pulled out along the bur"
	}
	return "Pulled out " + strings.Join(ways, " and ")
}

// Tilted is how each filling of a cavity is held against a pull of one's own.
func Tilted(s *measure.Subject, t Tilt) []Pull {
	tan := func(degrees float64) float64 { return math.Tan(degrees * math.Pi / 180) }
	f := s.Cavity.Frame
	along := r3.Unit(r3.Add(f.W, r3.Add(r3.Scale(tan(t.Mesial), f.U), r3.Scale(tan(t.Facial), f.V))))
	var all []Pull
	for _, bed := range s.Beds() {
		all = append(all, pulled(s, bed, Pull{Name: t.said(), From: middleOf(bed), Along: along}))
	}
	return all
}

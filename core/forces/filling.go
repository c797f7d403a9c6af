// Package forces reads what holds a filling and what a cavity costs its tooth as a dentist
// would: which pulls are held, by what, how far the filling goes before; what one change
// would buy; how far the cusps deflect. Three kinds of figures are told apart: fillings and
// changes are geometry of the cut tooth; deflections and sections are physics under assumptions
// that stand beside them; bonds are an index.
package forces

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/hold"
	"obturon/core/measure"
)

// State is how a filling is held against one pull.
type State string

// The states, by what stands over the filling (mm): under least it is noise of the walls.
const (
	Held State = "held"
	Fit  State = "fit" // walls touch it along its way, and nothing but friction holds it
	Free State = "free"
)

const (
	leastUndercut = 0.04 // mm that are told from a wall's noise
	leastTipping  = 0.01 // mm for half a millimetre of tipping
)

// Holder is a wall, or a pair of grooves, that stands over a filling by so much (mm).
type Holder struct {
	Name     string
	Features []uint16
	MM       float64
}

// Pull is one way in which a filling may leave.
type Pull struct {
	Name  string
	Side  string // the box it is about, "" of none
	State State
	// Depth (mm) is how far the tooth stands over the filling on its way, MostUndercut at
	// most; Moves how far the filling goes before a wall stops it, infinite where none does.
	Depth, Moves float64
	By           []Holder // what holds it, most first
	// From and Along are the arrow that is drawn: where it takes hold and a unit vector.
	From, Along r3.Vec
	Turns       bool // about the gingival margin, instead of along the arrow
	Places      []Place
	Text        string
}

// Place is one of the walls that hold, by how much (mm).
type Place struct {
	At r3.Vec
	MM float64
}

// Filling is one of the fillings of a cavity.
type Filling struct {
	Of      string // the cavity's name, "" of the only one
	Bonded  bool
	Release hold.Release
	// Text says how its walls stand all together.
	Text  string
	Pulls []Pull // as a rigid filling without a bond
	Bond  *Bond  // nil of one that does not bond
}

// Of lists the fillings of a cavity.
func Of(s *measure.Subject) []Filling {
	var all []Filling
	for _, bed := range s.Beds() {
		f := Filling{Of: s.Cavity.Name, Bonded: s.Cavity.Bonded(), Release: bed.Release()}
		f.Pulls = pulls(s, bed)
		f.Text = released(f.Release) + f.loosest(s, bed)
		if f.Bonded {
			f.Bond = bonded(s.Bond(bed))
		}
		all = append(all, f)
	}
	return all
}

// pulls are those on one filling.
func pulls(s *measure.Subject, bed *hold.Bed) []Pull {
	all := []Pull{outward(s, bed)}
	for _, side := range s.Cavity.Boxes {
		if b := s.Box(side); s.BedOf(b) == bed {
			all = append(all, proximal(s, bed, b), tipping(s, bed, b))
		}
	}
	return all
}

// loosest says how a filling that no wall lets go straight comes free most easily, "" of one
// that is let go, or bonds.
func (f *Filling) loosest(s *measure.Subject, bed *hold.Bed) string {
	if f.Bonded || f.Release.Degrees >= 0 {
		return ""
	}
	along, u := s.WeakestPull(bed)
	for _, p := range f.Pulls {
		if !p.Turns && p.Depth < u.Depth {
			along, u.Depth = p.Along, p.Depth
		}
	}
	text := easiest(math.Acos(math.Min(r3.Dot(along, s.Cavity.Frame.W), 1))*180/math.Pi, u.Depth)
	if !bed.Freedom(s.Cavity.Frame.W).Locked {
		text += " Turned a little as it is drawn, it may still come free."
	}
	return text
}

func outward(s *measure.Subject, bed *hold.Bed) Pull {
	return pulled(s, bed, Pull{Name: "Pulled out along the bur", From: middleOf(bed), Along: s.Cavity.Frame.W})
}

func proximal(s *measure.Subject, bed *hold.Bed, b measure.Box) Pull {
	side := b.Side.String()
	return pulled(s, bed, Pull{Name: "Pulled towards " + side, Side: side, From: middleOf(bed), Along: b.Outward()})
}

// pulled fills in how a straight pull is held.
func pulled(s *measure.Subject, bed *hold.Bed, p Pull) Pull {
	u := s.Pull(bed, p.Along)
	p.Depth, p.Moves = u.Depth, u.Moves
	switch {
	case u.Depth >= leastUndercut:
		p.State = Held
		for _, h := range holders(s, bed) {
			if d := s.Pull(bed.Of(func(f uint16) bool { return slices.Contains(h.Features, f) }), p.Along).Depth; d >= leastUndercut {
				h.MM = d
				p.By = append(p.By, h)
			}
		}
		slices.SortStableFunc(p.By, func(a, b Holder) int { return cmp.Compare(b.MM, a.MM) })
	case u.Depth > 0:
		p.State = Fit
	default:
		p.State = Free
	}
	standing := s.Standing(bed, p.Along)
	p.Places = places(bed, standing, math.Min(leastUndercut/2, slices.Max(standing)/2))
	p.Text = p.said()
	return p
}

// places are those of a bed that stand in the way by at least so much.
func places(bed *hold.Bed, mm []float64, least float64) []Place {
	var all []Place
	for n, w := range bed.Walls {
		if mm[n] > 0 && mm[n] >= least {
			all = append(all, Place{w.At, mm[n]})
		}
	}
	return all
}

func tipping(s *measure.Subject, bed *hold.Bed, b measure.Box) Pull {
	p := Pull{
		Name:  "Tipped out over the gingival margin",
		Side:  b.Side.String(),
		Turns: true,
		Moves: math.NaN(),
		Along: b.Outward(),
		State: Free,
		From:  middleOf(bed),
	}
	pivot, about, ok := s.TippingAxis(b)
	if !ok {
		p.Text = p.said()
		return p
	}
	p.From = pivot
	mm, _, feature := bed.Tipping(pivot, about, measure.Tipped)
	p.Depth, p.Places = mm, places(bed, bed.InTheWay(pivot, about, measure.Tipped), leastTipping)
	switch {
	case mm >= leastTipping:
		p.State = Held
		for _, h := range holders(s, bed) {
			if slices.Contains(h.Features, feature) {
				h.MM = mm
				p.By = []Holder{h}
			}
		}
	case mm > 0:
		p.State = Fit
	}
	p.Text = p.said()
	return p
}

// holders lists what may hold a filling, each with its features: walls of one pair count as
// one, those of an outline that widens past its isthmus as its dovetail. Floors hold by the
// walls that stand on them.
func holders(s *measure.Subject, bed *hold.Bed) []Holder {
	occlusal := "the buccal and lingual walls"
	if s.Cavity.Dovetail && len(s.Cavity.Boxes) > 0 {
		occlusal = "the dovetail"
	}
	all := []Holder{
		{Name: "the retention grooves", Features: []uint16{cavity.RetentionGroove}},
		{Name: "the lingual lock", Features: []uint16{cavity.LingualLock}},
		{Name: occlusal, Features: []uint16{cavity.WallBuccal, cavity.WallLingual}},
		{Name: "the walls beside the ridges", Features: []uint16{cavity.WallMesial, cavity.WallDistal}},
		{Name: "the walls of the box", Features: []uint16{cavity.BoxBuccal, cavity.BoxLingual}},
		{Name: "the axial wall", Features: []uint16{cavity.AxialWall}},
		{Name: "the groove extensions", Features: []uint16{cavity.WallExtension}},
		{Name: "what was excavated", Features: []uint16{cavity.Excavation}},
		{Name: "the facial and lingual walls", Features: []uint16{cavity.FacialWall, cavity.LingualWall}},
		{Name: "the incisal and gingival walls", Features: []uint16{cavity.IncisalWall, cavity.OcclusalWall, cavity.GingivalWall}},
		{Name: "the fracture surface", Features: []uint16{cavity.FractureSurface}},
	}
	return slices.DeleteFunc(all, func(h Holder) bool {
		return !slices.ContainsFunc(bed.Walls, func(w hold.Wall) bool { return slices.Contains(h.Features, w.Feature) })
	})
}

// middleOf is the middle of a bed, by area.
func middleOf(bed *hold.Bed) r3.Vec {
	var sum r3.Vec
	total := 0.0
	for _, w := range bed.Walls {
		sum, total = r3.Add(sum, r3.Scale(w.Area, w.At)), total+w.Area
	}
	return r3.Scale(1/total, sum)
}

package measure

import (
	"math"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/notation"
)

// ContactState says what a cavity leaves of a contact area.
type ContactState string

// The states of a contact.
const (
	ContactKept         ContactState = "kept"
	ContactPartlyBroken ContactState = "partly broken"
	ContactBroken       ContactState = "broken"
)

// ContactStates lists them.
var ContactStates = []ContactState{ContactKept, ContactPartlyBroken, ContactBroken}

// Finish is what the margins of a cavity gain and cost. Areas are mm², volumes
// mm³, lengths mm.
type Finish struct {
	BondedEnamel, BondedDentin float64
	EnamelSpent                float64 // sound
	Margin, MarginSeen         float64 // its length, and what of it shows from the front
	Contact                    ContactState
	// EdgeIndex is of the bond of a rebuilt corner: see Bond.
	EdgeIndex float64
}

// Finish measures the margins of a cavity, with the adjacent teeth standing in the
// way of the view. Contact is "" where no tooth touches the cavity's side.
func (s *Subject) Finish(neighbours map[notation.Side]*anatomy.Neighbour) Finish {
	bonded := s.Bonded()
	var beside []*anatomy.Neighbour
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		if n := neighbours[side]; n != nil {
			beside = append(beside, n)
		}
	}
	f := Finish{BondedEnamel: bonded.Enamel, BondedDentin: bonded.Dentin, EnamelSpent: s.Volumes().Enamel}
	f.Margin, f.MarginSeen = s.MarginSeen(beside...)
	for _, l := range s.Cavity.Lesions {
		f.EnamelSpent -= l.Volume() - lesion.VolumeWithin(l, s.Model.Dentin().Distance)
	}
	f.EnamelSpent = math.Max(f.EnamelSpent, 0)
	if s.Cavity.Kind == cavity.IncisalAngle {
		for _, bed := range s.Beds() {
			f.EdgeIndex = math.Max(f.EdgeIndex, s.Bond(bed).EdgeIndex)
		}
	}
	if side, faces := s.Cavity.Site.Side(); faces && s.Cavity.Kind == cavity.Proximal && s.Cavity.Adjacent[side] != nil {
		f.Contact = contactState(s.Smooth().ContactLeft(s.Model.Contact(side)))
	}
	return f
}

// contactState names what is left of a contact area, given its share: a twentieth
// either way is the gauge's own error.
func contactState(left float64) ContactState {
	const whole, none = 0.95, 0.05
	switch {
	case left >= whole:
		return ContactKept
	case left <= none:
		return ContactBroken
	default:
		return ContactPartlyBroken
	}
}

// Removed is what cavities take away, mm³: by tissue, and apart from it what was
// diseased, filled or broken off before.
type Removed struct {
	Enamel, Dentin, Lesion, OldFilling, Lost, Cavity float64
}

// Removed splits what was cut out of the tooth for these lesions: the total comes
// from the closed meshes, the shares from samples of the solid. What a filling had
// taken before, or has broken off, is not spent by the cavity.
func (p *Prepared) Removed(lesions []lesion.Lesion) Removed {
	v := Removed{Cavity: p.Model.Surface.Volume() - p.Mesh.Volume()}
	sampled := p.Volumes()
	if removed := sampled.Enamel + sampled.Dentin; removed > 0 {
		v.Dentin = v.Cavity * sampled.Dentin / removed
	}
	v.Enamel = v.Cavity - v.Dentin
	for _, l := range lesions {
		switch lesion.ContentOf(l) {
		case lesion.Filling:
			v.OldFilling += l.Volume()
		case lesion.Gone:
			v.Lost += l.Volume()
		default:
			v.Lesion += l.Volume()
			continue
		}
		inDentin := lesion.VolumeWithin(l, p.Model.Dentin().Distance)
		v.Dentin -= inDentin
		v.Enamel -= l.Volume() - inDentin
	}
	for _, f := range []*float64{&v.Enamel, &v.Dentin, &v.Lesion, &v.OldFilling, &v.Lost, &v.Cavity} {
		*f = math.Max(*f, 0)
	}
	return v
}

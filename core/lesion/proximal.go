package lesion

import (
	"fmt"
	"math"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// proximalExtent is the default size of a proximal lesion on a crown as wide
// as widestMolar: it starts just under the contact as a cone in enamel, base
// outwards, and spreads again along the junction, as cariology draws caries of
// smooth surfaces. The sizes hold at the surface and at the junction.
type proximalExtent struct {
	height, width float64 // mm, along the crown and across it
	enamel        float64 // share of the enamel's thickness that is lost
	intoDentin    float64 // mm
}

var proximalExtents = map[Depth]proximalExtent{
	"outer_enamel":  {1.0, 1.4, 0.45, 0},
	"inner_enamel":  {1.3, 1.9, 0.9, 0},
	"outer_dentin":  {1.7, 2.4, 1, 0.5},
	"middle_dentin": {2.2, 3.0, 1, 1.1},
	"inner_dentin":  {2.8, 3.6, 1, 1.8},
}

// on scales an extent to a tooth. Incisors are thin at their contacts: there the
// lesion leaves both surfaces standing.
func (e proximalExtent) on(m *anatomy.Model) proximalExtent {
	size := m.Sizes.Buccolingual / widestMolar
	e.height, e.width = e.height*size, e.width*size
	if m.Tooth.Anterior() {
		const inside, share = 1.2, 0.45 // mm from the contact; of the tooth's thickness there
		at := m.MesialContact.At
		facial, ok := m.OnSide(1, at.X-inside, at.Z)
		lingual, also := m.OnSide(-1, at.X-inside, at.Z)
		if ok && also {
			e.width = math.Min(e.width, share*(facial.Y-lingual.Y))
		}
	}
	return e
}

// coneTip is how wide the lesion is where its cone in enamel ends, as a share
// of its width at the surface.
const coneTip = 0.6

// Proximal is the volume of a lesion on a mesial or distal surface.
type Proximal struct {
	Finding Finding
	extent  proximalExtent
	origin  r3.Vec // in the contact's plane, at the lesion's middle
	normal  r3.Vec // out of the tooth, level
	across  r3.Vec // level, towards facial
	// Of the outer surface and of the junction: heights along normal over
	// (across, z) about the origin, mm.
	surface, junction *solid.Sheet
	volume            func() float64
	bounds            func() solid.Box
	outside           func(r3.Vec) float64 // of the tooth, mm
}

// NewProximal places a proximal lesion under the contact of its side. It fails
// for a site that is not proximal.
func NewProximal(m *anatomy.Model, f Finding) (*Proximal, error) {
	e, ok := proximalExtents[f.Depth]
	if !ok {
		return nil, fmt.Errorf("lesion depth %q is unknown", f.Depth)
	}
	contact := m.MesialContact
	if f.Site == Distal {
		contact = m.DistalContact
	} else if f.Site != Mesial {
		return nil, fmt.Errorf("site %s is not on a proximal surface", f.Site)
	}
	if f.Kind == OldRestoration {
		e.height, e.width = fillingBoxHeight, fillingBoxWidth
	}
	e = e.on(m)
	if f.Height > 0 {
		e.height = f.Height
	}
	if f.Width > 0 {
		e.width = f.Width
	}
	p := &Proximal{Finding: f, extent: e, normal: contact.Normal, outside: m.Surface.Distance}
	p.across = r3.Vec{X: -contact.Normal.Y, Y: contact.Normal.X}
	if p.across.Y < 0 {
		p.across = r3.Scale(-1, p.across)
	}
	p.origin = r3.Sub(contact.At, r3.Vec{Z: contact.Height / 2})
	p.surface = p.heights(m.Surface.Distance)
	p.junction = p.heights(m.Dentin().Distance)
	p.levelJunction()
	p.extent.intoDentin = frontInDentin(m, f.Depth, p.extent.intoDentin, p.at(p.junction.At(0, 0), 0, 0))
	p.volume = sync.OnceValue(func() float64 { return sampleVolume(p) })
	p.bounds = sync.OnceValue(p.findBounds)
	return p, nil
}

// heights samples where a field's surface lies along the contact's normal,
// seen from outside.
func (p *Proximal) heights(field func(r3.Vec) float64) *solid.Sheet {
	const step, around = 0.1, 0.6             // mm
	const outside, reach, march = 0.5, 4, 0.1 // mm
	a, z := p.extent.width/2+around, p.extent.height/2+around
	inward := r3.Scale(-1, p.normal)
	return solid.NewSheet(-a, -z, a, z, step).Fill(func(a, z float64) float64 {
		if t, ok := solid.RootAlong(field, p.at(outside, a, z), inward, 0, reach, march); ok {
			return outside - t
		}
		return outside - reach
	})
}

// levelJunction keeps the junction beside the lesion's middle about as deep as
// there: over the dentin's shoulder there is enamel only.
func (p *Proximal) levelJunction() {
	const most = 1.3 // times the enamel over the middle
	enamel := most * (p.surface.At(0, 0) - p.junction.At(0, 0))
	for n, outer := range p.surface.Values {
		p.junction.Values[n] = max(p.junction.Values[n], outer-float32(enamel))
	}
}

// at is the point at a height along the normal, and so far across and up.
func (p *Proximal) at(height, across, up float64) r3.Vec {
	return r3.Add(p.origin, r3.Add(r3.Scale(height, p.normal), r3.Add(r3.Scale(across, p.across), r3.Vec{Z: up})))
}

// IntoDentin is the depth past the dentino-enamel junction in mm, negative
// when the lesion stops in enamel.
func (p *Proximal) IntoDentin() float64 {
	if p.extent.intoDentin > 0 {
		return p.extent.intoDentin
	}
	enamel := p.surface.At(0, 0) - p.junction.At(0, 0)
	return (p.extent.enamel - 1) * enamel
}

// Distance is negative inside the lesion; near its surface it approximates
// the distance in mm.
func (p *Proximal) Distance(q r3.Vec) float64 {
	d := r3.Sub(q, p.origin)
	n, a, z := r3.Dot(d, p.normal), r3.Dot(d, p.across), d.Z
	if p.Finding.Kind == OldRestoration {
		return p.fillingBox(q, n, a, z)
	}
	halfWidth, halfHeight := p.extent.width/2, p.extent.height/2
	r := math.Sqrt(a*a/(halfWidth*halfWidth) + z*z/(halfHeight*halfHeight))
	size := min(halfWidth, halfHeight)
	if aside := (r - 1) * size; aside > 0.5 { // beside the sheets, too far to matter
		return aside
	}
	outer, junction := p.surface.At(a, z), p.junction.At(a, z)
	enamel := max(outer-junction, 0.1)
	under := outer - n
	share := min(max(under/(enamel*p.extent.enamel), 0), 1)
	cone := max((r-1+(1-coneTip)*share)*size, under-p.extent.enamel*enamel)
	if into := p.extent.intoDentin; into > 0 {
		// Half an ellipsoid behind the junction.
		below := junction - n
		deep := max(below, 0) / into
		bowl := max((math.Sqrt(r*r+deep*deep)-1)*min(size, into), -below-junctionSpread)
		cone = min(cone, bowl)
	}
	return max(cone, -under)
}

// Feature is always 1: a lesion has one surface.
func (p *Proximal) Feature(r3.Vec) uint16 { return 1 }

// Bounds holds the lesion.
func (p *Proximal) Bounds() solid.Box { return p.bounds() }

func (p *Proximal) findBounds() solid.Box {
	lo := p.Deepest()
	hi := lo
	for _, q := range p.Rim() {
		lo = r3.Vec{X: min(lo.X, q.X), Y: min(lo.Y, q.Y), Z: min(lo.Z, q.Z)}
		hi = r3.Vec{X: max(hi.X, q.X), Y: max(hi.Y, q.Y), Z: max(hi.Z, q.Z)}
	}
	const room = 0.4 // mm, surface and walls bulge between the points
	d := r3.Vec{X: room, Y: room, Z: room}
	if p.Finding.Kind == OldRestoration {
		const over = 4.0 // mm from a contact to over any ridge
		hi.Z += over
	}
	return solid.Box{Min: r3.Sub(lo, d), Max: r3.Add(hi, d)}
}

// Width is the spread across on the surface, mm.
func (p *Proximal) Width() float64 { return p.extent.width }

// Volume is the lesion's volume in mm³.
func (p *Proximal) Volume() float64 { return p.volume() }

// Middle is the surface point over the lesion's middle.
func (p *Proximal) Middle() r3.Vec { return p.at(p.surface.At(0, 0), 0, 0) }

// Rim lists points round the lesion where it is widest: on the surface, and
// along the junction where it has spread there.
func (p *Proximal) Rim() []r3.Vec {
	const points = 24
	var rim []r3.Vec
	if p.Finding.Kind == OldRestoration {
		for _, z := range []float64{-0.5, 0, 0.25} {
			for _, a := range []float64{-0.5, -0.25, 0, 0.25, 0.5} {
				a, z := a*p.extent.width, z*p.extent.height
				rim = append(rim, p.at(p.surface.At(a, z), a, z))
			}
		}
		return rim
	}
	for n := range points {
		sin, cos := math.Sincos(2 * math.Pi * float64(n) / points)
		a, z := cos*p.extent.width/2, sin*p.extent.height/2
		rim = append(rim, p.at(p.surface.At(a, z), a, z))
		if p.extent.intoDentin > 0 {
			rim = append(rim, p.at(p.junction.At(a, z), a, z))
		}
	}
	return rim
}

// Deepest is the lesion's innermost point.
func (p *Proximal) Deepest() r3.Vec {
	if p.extent.intoDentin > 0 {
		return p.at(p.junction.At(0, 0)-p.extent.intoDentin, 0, 0)
	}
	outer := p.surface.At(0, 0)
	return p.at(outer-p.extent.enamel*(outer-p.junction.At(0, 0)), 0, 0)
}

package lesion

import (
	"fmt"
	"math"
	"slices"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// extent holds the default size of an occlusal lesion in mm. Cariology's picture
// of fissure caries: two cones, the inner one with its base on the junction, along
// which it widens as it deepens; an outer third of dentin is about 0.6 mm.
type extent struct{ width, intoDentin, length float64 }

var defaultExtents = map[Depth]extent{
	"outer_enamel":  {0.3, -0.5, 2.0},
	"inner_enamel":  {0.4, -0.1, 2.4},
	"outer_dentin":  {0.9, 0.55, 2.6},
	"middle_dentin": {1.6, 1.2, 3.0},
	"inner_dentin":  {2.4, 1.9, 3.4},
}

// on scales an extent to a tooth: fissures of small teeth are shorter, and lesions
// narrower, but not in proportion.
func (e extent) on(m *anatomy.Model) extent {
	size := m.Sizes.Mesiodistal / widestMolar
	e.width, e.length = e.width*math.Sqrt(size), e.length*size
	return e
}

// widestMolar (mm) is the mesiodistal size the default lengths hold for.
const widestMolar = 11.0

// fissureHalfWidth (mm) is how far enamel beside a carious fissure is lost.
const fissureHalfWidth = 0.15

// Occlusal is the volume of an occlusal lesion: a narrow track through the
// enamel along the fissure, and a broader bowl in the dentin under it.
type Occlusal struct {
	Finding Finding
	model   *anatomy.Model
	path    []r3.Vec     // on the surface, in the occlusal table's frame
	across  *solid.Sheet // distance from the path in the table's plane, mm
	extent  extent
	floor   float64 // height of an old filling's floor
	under   float64 // height under which the junction belongs to the crown's side
	volume  func() float64
}

// NewOcclusal places a pit or fissure lesion on the tooth. It fails for a site
// that is not on the occlusal surface.
func NewOcclusal(m *anatomy.Model, f Finding) (*Occlusal, error) {
	e, ok := defaultExtents[f.Depth]
	if !ok {
		return nil, fmt.Errorf("lesion depth %q is unknown", f.Depth)
	}
	e = e.on(m)
	if f.Kind == OldRestoration {
		e.width, e.length = fillingWidth*m.Sizes.Buccolingual/widestMolar, fillingLength*m.Sizes.Mesiodistal/widestMolar
	}
	if f.Width > 0 {
		e.width = f.Width
	}
	if f.Length > 0 {
		e.length = f.Length
	}
	o := &Occlusal{Finding: f, model: m, extent: e}
	var err error
	if o.path, err = o.track(); err != nil {
		return nil, err
	}
	switch q := o.path[len(o.path)/2]; {
	case f.Kind == OldRestoration:
		o.layFloor()
	case f.Height > 0:
		// A given height is measured from the fissure's mouth down.
		o.extent.intoDentin = f.Height - (m.TableHeights().At(q.X, q.Y) - m.DentinHeights().At(q.X, q.Y))
	default:
		for _, q := range o.path {
			under := m.Table.From(r3.Vec{X: q.X, Y: q.Y, Z: m.DentinHeights().At(q.X, q.Y)})
			o.extent.intoDentin = frontInDentin(m, f.Depth, o.extent.intoDentin, under)
		}
	}
	const side = 1.0 // mm that the junction falls beside a fissure at the most
	o.under = math.Inf(1)
	for _, q := range o.path {
		o.under = min(o.under, m.DentinHeights().At(q.X, q.Y)-side)
	}
	o.volume = sync.OnceValue(func() float64 { return sampleVolume(o) })
	o.across = acrossPath(o.path, max(o.extent.width/2, fissureHalfWidth)+acrossReach)
	return o, nil
}

// track is the fissure that the lesion follows.
func (o *Occlusal) track() ([]r3.Vec, error) {
	if g, ok := grooveAt(o.model, o.Finding.Site); ok {
		return trackFrom(o.model, g, o.extent.length), nil
	}
	centre, err := siteCentre(o.model, o.Finding.Site)
	if err != nil {
		return nil, err
	}
	length := o.extent.length
	if o.Finding.Kind == PitCaries {
		length = 0
	}
	track := trackAlongGrooves(o.model, centre, length)
	// Caries starts in the pit and follows the fissure inwards: its tail up the marginal
	// ridge is shallow and brushed clean.
	past := o.model.Table.To(centre).X
	inside := slices.DeleteFunc(slices.Clone(track), func(q r3.Vec) bool {
		return o.Finding.Site == MesialPit && q.X > past || o.Finding.Site == DistalPit && q.X < past
	})
	if len(inside) == 0 {
		return []r3.Vec{o.model.Table.To(centre)}, nil
	}
	return inside, nil
}

// Branches reports a lesion of a side groove, whose path leads away from the
// central fissure.
func (o *Occlusal) Branches() bool { return o.Finding.Site.OnGroove() }

// acrossReach (mm) is how far beside the lesion the distance from its path is kept.
const acrossReach = 1.0

func acrossPath(path []r3.Vec, around float64) *solid.Sheet {
	low, halfHeight := path[0], path[0]
	for _, p := range path {
		low.X, low.Y = min(low.X, p.X), min(low.Y, p.Y)
		halfHeight.X, halfHeight.Y = max(halfHeight.X, p.X), max(halfHeight.Y, p.Y)
	}
	const step = 0.04 // mm
	return solid.NewSheet(low.X-around, low.Y-around, halfHeight.X+around, halfHeight.Y+around, step).Fill(func(x, y float64) float64 {
		least := math.Inf(1)
		for n := range path {
			least = min(least, segmentDistance2D(path[n], path[min(n+1, len(path)-1)], r3.Vec{X: x, Y: y}))
		}
		return least
	})
}

// Width is the spread across at the junction, mm.
func (o *Occlusal) Width() float64 { return o.extent.width }

// Path is the fissure the lesion follows on the surface, in the occlusal
// table's frame: mesial first, or outwards along a side groove.
func (o *Occlusal) Path() []r3.Vec { return o.path }

// IntoDentin is the depth past the dentino-enamel junction in mm, negative
// when the lesion stops in enamel.
func (o *Occlusal) IntoDentin() float64 { return o.extent.intoDentin }

// Distance is negative inside the lesion; near its surface it approximates
// the distance in mm. Depth counts along the bur's axis.
func (o *Occlusal) Distance(p r3.Vec) float64 {
	q := o.model.Table.To(p)
	across := o.across.At(q.X, q.Y)
	half := max(o.extent.width/2, fissureHalfWidth)
	if across > half+acrossReach*0.9 { // beside the sheet, too far to matter
		return across - half
	}
	if o.Finding.Kind == OldRestoration {
		return o.filling(q, across)
	}
	junction := o.model.DentinHeights().At(q.X, q.Y)
	below := junction - q.Z // depth past it
	outside := q.Z - o.model.TableHeights().At(q.X, q.Y)
	track := max(across-fissureHalfWidth, below-o.extent.intoDentin)
	if o.extent.intoDentin > 0 {
		// Half an ellipsoid hanging from the junction.
		r := hypot(across/half, max(below, 0)/o.extent.intoDentin)
		bowl := max((r-1)*min(half, o.extent.intoDentin), -below-junctionSpread, o.under-junction)
		track = min(track, bowl)
	}
	return max(track, outside)
}

// junctionSpread (mm) is how far into enamel the lesion's bowl rises where it
// spreads along the junction.
const junctionSpread = 0.1

// Feature is always 1: a lesion has one surface.
func (o *Occlusal) Feature(r3.Vec) uint16 { return 1 }

// Bounds holds the lesion.
func (o *Occlusal) Bounds() solid.Box {
	first := o.model.Table.From(o.path[0])
	box := solid.Box{Min: first, Max: first}
	for _, q := range o.path {
		p := o.model.Table.From(q)
		box.Min = r3.Vec{X: min(box.Min.X, p.X), Y: min(box.Min.Y, p.Y), Z: min(box.Min.Z, p.Z)}
		box.Max = r3.Vec{X: max(box.Max.X, p.X), Y: max(box.Max.Y, p.Y), Z: max(box.Max.Z, p.Z)}
	}
	side := o.extent.width/2 + 0.4
	const enamel = 1.8 // mm, more than lies under any fissure
	box.Min = r3.Sub(box.Min, r3.Vec{X: side, Y: side, Z: enamel + max(o.extent.intoDentin, 0)})
	box.Max = r3.Add(box.Max, r3.Vec{X: side, Y: side, Z: 0.8})
	return box
}

func siteCentre(m *anatomy.Model, s Site) (r3.Vec, error) {
	name := map[Site]string{MesialPit: "mesial pit", DistalPit: "distal pit", Central: "central pit"}[s]
	if name == "" {
		return r3.Vec{}, fmt.Errorf("site %s is not on the occlusal surface", s)
	}
	if p, ok := m.Pit(name); ok {
		return p, nil
	}
	if s == Central {
		return m.Table.Origin, nil
	}
	return r3.Vec{}, fmt.Errorf("the %s has no %s", m.Tooth.Name(), name)
}

// trackAlongGrooves collects fissure points within half the length of the
// centre, from mesial to distal, about trackStep apart.
func trackAlongGrooves(m *anatomy.Model, centre r3.Vec, length float64) []r3.Vec {
	const trackStep = 0.2 // mm
	var track []r3.Vec
	for _, p := range m.CentralLine() {
		if math.Abs(p.X-centre.X) > length/2 {
			continue
		}
		if len(track) == 0 || r3.Norm(r3.Sub(m.Table.To(p), track[len(track)-1])) >= trackStep {
			track = append(track, m.Table.To(p))
		}
	}
	if len(track) == 0 {
		return []r3.Vec{m.Table.To(centre)}
	}
	return track
}

func segmentDistance2D(a, b, p r3.Vec) float64 {
	dx, dy := b.X-a.X, b.Y-a.Y
	t := 0.0
	if l2 := dx*dx + dy*dy; l2 > 0 {
		t = min(max(((p.X-a.X)*dx+(p.Y-a.Y)*dy)/l2, 0), 1)
	}
	return hypot(p.X-a.X-t*dx, p.Y-a.Y-t*dy)
}

// hypot is math.Hypot without its care for overflow, which lengths in a tooth
// do not need.
func hypot(x, y float64) float64 { return math.Sqrt(x*x + y*y) }

// Volume is the lesion's volume in mm³.
func (o *Occlusal) Volume() float64 { return o.volume() }

// Middle is a surface point over the middle of the lesion.
func (o *Occlusal) Middle() r3.Vec { return o.model.Table.From(o.path[len(o.path)/2]) }

// Floor lists the deepest points along the lesion.
func (o *Occlusal) Floor() []r3.Vec {
	floor := make([]r3.Vec, len(o.path))
	for n, q := range o.path {
		if o.Finding.Kind == OldRestoration {
			floor[n] = o.model.Table.From(r3.Vec{X: q.X, Y: q.Y, Z: o.floor})
			continue
		}
		floor[n] = o.model.Table.From(r3.Vec{X: q.X, Y: q.Y, Z: o.model.DentinHeights().At(q.X, q.Y) - o.extent.intoDentin})
	}
	return floor
}

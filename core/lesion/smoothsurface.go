package lesion

import (
	"fmt"
	"math"
	"strings"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// smoothSurfaceExtent is the default size of a lesion on a facial or lingual surface:
// saucers at the cervical line are broad and low, on a tooth as wide as widestMolar;
// pits are narrow at the surface and spread along the junction. So operative
// textbooks describe the lesions of Class V, and those of pits under Class I.
type smoothSurfaceExtent struct {
	height, width float64 // mm
	enamel        float64 // share of the enamel's thickness that is lost
	intoDentin    float64 // mm
}

var cervicalExtents = map[Depth]smoothSurfaceExtent{
	"outer_enamel":  {1.0, 2.6, 0.45, 0},
	"inner_enamel":  {1.2, 3.2, 0.9, 0},
	"outer_dentin":  {1.6, 4.0, 1, 0.3},
	"middle_dentin": {2.1, 4.8, 1, 0.7},
	"inner_dentin":  {2.6, 5.6, 1, 1.2},
}

var smoothPitExtents = map[Depth]smoothSurfaceExtent{
	"outer_enamel":  {0.3, 0.3, 0.5, 0},
	"inner_enamel":  {0.4, 0.4, 0.9, 0},
	"outer_dentin":  {0.9, 0.9, 1, 0.5},
	"middle_dentin": {1.4, 1.4, 1, 1.0},
	"inner_dentin":  {1.9, 1.9, 1, 1.5},
}

const (
	pitMouth          = 0.5  // of a pit's width: how wide it is where it opens
	underGingiva      = 0.1  // mm that a lesion of usual place starts under the free gingiva
	aboveCervicalLine = 0.35 // mm from the cervical line up to the edge of a lesion of usual place
	bareEnamel        = 0.1  // mm of enamel under which a place counts as root
	rootLesions       = 0.6  // share of the depth in dentin that a lesion reaches where no enamel covers it
)

// SmoothSurface is the volume of a lesion, or an old filling, on a facial or lingual
// face: at the cervical line or in a pit.
type SmoothSurface struct {
	Finding Finding
	Frame   anatomy.Frame // at its middle: U mesial, V occlusal, W out
	extent  smoothSurfaceExtent
	root    float64 // mm that it goes deep where no enamel covers the tooth
	pit     bool
	outer   *anatomy.OuterSurface
	dentin  *solid.Dense
	volume  func() float64
}

// NewSmoothSurface places a lesion at the cervical line or in a pit of a
// surface. It fails with ErrOffTooth where its height leaves the tooth, and for
// other sites.
func NewSmoothSurface(m *anatomy.Model, f Finding) (*SmoothSurface, error) {
	if !f.OnSmoothSurface() {
		return nil, fmt.Errorf("%s at %s does not lie on a facial or lingual surface", f.Kind, f.Site)
	}
	l := &SmoothSurface{Finding: f, pit: strings.HasSuffix(string(f.Site), "_pit"), outer: m.OuterSurface(), dentin: m.Dentin()}
	known := false
	if l.pit {
		l.extent, known = smoothPitExtents[f.Depth]
	} else {
		l.extent, known = cervicalExtents[f.Depth]
		size := cervicalSize(m)
		l.extent.height, l.extent.width = l.extent.height*size, cervicalWidth(m, l.extent.width*size)
	}
	if !known {
		return nil, fmt.Errorf("lesion depth %q is unknown", f.Depth)
	}
	if f.Height > 0 {
		l.extent.height = f.Height
	}
	if f.Width > 0 {
		l.extent.width = f.Width
	}
	at, ok := l.place(m)
	if !ok {
		return nil, fmt.Errorf("the %s has no place for %s at %s", m.Tooth.Name(), f.Kind, f.Site)
	}
	l.Frame = m.FrameAt(at)
	under := r3.Sub(l.Frame.Origin, r3.Scale(math.Max(l.dentin.Distance(l.Frame.Origin), 0), l.Frame.W))
	l.root = math.Max(frontInDentin(m, f.Depth, rootLesions*(0.5+l.extent.intoDentin), under), bareEnamel)
	l.extent.intoDentin = frontInDentin(m, f.Depth, l.extent.intoDentin, under)
	l.volume = sync.OnceValue(func() float64 { return sampleVolume(l) })
	return l, nil
}

// cervicalSize scales lesions at the cervical line: on small teeth they are smaller, but not
// in proportion.
func cervicalSize(m *anatomy.Model) float64 { return math.Sqrt(m.Sizes.Mesiodistal / widestMolar) }

// cervicalWidth keeps the default width on the surface: its ends turn to the proximal
// faces.
func cervicalWidth(m *anatomy.Model, width float64) float64 {
	const most = 0.5 // of the mesiodistal size
	return math.Min(width, most*m.Sizes.Mesiodistal)
}

func (l *SmoothSurface) place(m *anatomy.Model) (r3.Vec, bool) {
	if l.pit {
		return m.FacePit(strings.ReplaceAll(string(l.Finding.Site), "_", " "))
	}
	// Plaque stays along the gingiva: there the lesion starts.
	over := math.Max(aboveCervicalLine, anatomy.GingivaAt(m.AgeYears).Facial-underGingiva) + l.extent.height/2
	if l.Finding.OverCervicalLine != nil {
		over = *l.Finding.OverCervicalLine
	}
	return m.OverCervicalLine(l.Finding.Site == Buccal, over)
}

// Found is the finding that it stands for, caries or an old filling.
func (l *SmoothSurface) Found() Finding { return l.Finding }

// enamelAt is the enamel's thickness (mm) under a place of the surface, and how
// deep the lesion goes under it.
func (l *SmoothSurface) enamelAt(foot r3.Vec) (enamel, deep float64) {
	enamel = math.Max(l.dentin.Distance(foot), 0)
	deep = enamel*l.extent.enamel + l.extent.intoDentin
	if enamel < bareEnamel {
		deep = l.root
	}
	return enamel, deep
}

// Distance is negative inside the lesion; near its surface it approximates
// the distance in mm.
func (l *SmoothSurface) Distance(p r3.Vec) float64 {
	if aside := l.aside(p); aside > 1 { // too far to matter
		return aside
	}
	foot, normal, depth := l.outer.Over(p)
	return l.DistanceUnder(foot, normal, depth)
}

// DistanceUnder is the distance of a place so deep (mm) under a place of the
// outer surface, where that is known already.
func (l *SmoothSurface) DistanceUnder(foot, normal r3.Vec, depth float64) float64 {
	if !l.Frame.OnItsSurface(foot, normal) {
		// Deep in the tooth another surface may lie nearer a step on: what is under this
		// one then ends at once, and must not be taken for far away.
		const deep, near, far = 1.0, 0.2, 1.0 // mm
		if depth > deep {
			return near
		}
		return far
	}
	q := l.over(foot, normal, depth)
	halfWidth, halfHeight := l.extent.width/2, l.extent.height/2
	r := math.Hypot(q.X/halfWidth, q.Y/halfHeight)
	size := math.Min(halfWidth, halfHeight)
	enamel, deep := l.enamelAt(foot)
	if l.Finding.Kind == OldRestoration {
		return math.Max(roundMax((r-1)*size, depth-deep), -depth)
	}
	if !l.pit {
		return math.Max((math.Hypot(r, math.Max(depth, 0)/deep)-1)*math.Min(size, deep), -depth)
	}
	share := 1.0
	if enamel > 0 {
		share = math.Min(math.Max(depth/enamel, 0), 1)
	}
	track := math.Max((r-pitMouth-(1-pitMouth)*share)*size, depth-enamel*l.extent.enamel)
	if into := l.extent.intoDentin; into > 0 {
		under := depth - enamel
		track = math.Min(track, math.Max((math.Hypot(r, math.Max(under, 0)/into)-1)*math.Min(size, into), -under-junctionSpread))
	}
	return math.Max(track, -depth)
}

// over is where a place lies over the surface: square to it near it, and along the
// lesion's own axis deep in the tooth, where what is square to it is ill defined.
func (l *SmoothSurface) over(foot, normal r3.Vec, depth float64) r3.Vec {
	const shallow, deep = 0.8, 1.8 // mm
	square, share := l.Frame.To(foot), solid.Smoothstep(shallow, deep, depth)
	if share == 0 {
		return square
	}
	axial := l.Frame.To(r3.Sub(foot, r3.Scale(depth, normal)))
	return r3.Add(r3.Scale(1-share, square), r3.Scale(share, axial))
}

// aside is a lower bound of the distance that needs no looking at the surface.
func (l *SmoothSurface) aside(p r3.Vec) float64 {
	q := l.Frame.To(p)
	return math.Max(math.Abs(q.X)-0.5*l.extent.width, math.Abs(q.Y)-0.5*l.extent.height) - 0.5
}

// Feature is always 1: a lesion has one surface.
func (l *SmoothSurface) Feature(r3.Vec) uint16 { return 1 }

// Bounds holds the lesion.
func (l *SmoothSurface) Bounds() solid.Box {
	const room = 0.4 // mm, more than the surface curves away under its middle
	_, deep := l.enamelAt(l.Frame.Origin)
	wide, high := l.extent.width/2+room, l.extent.height/2+room
	return l.Frame.FromBox(solid.Box{
		Min: r3.Vec{X: -wide, Y: -high, Z: -deep - 2*room - l.extent.width*l.extent.width/32},
		Max: r3.Vec{X: wide, Y: high, Z: room},
	})
}

// IntoDentin is the depth past the dentino-enamel junction in mm, negative when
// the lesion stops in enamel.
func (l *SmoothSurface) IntoDentin() float64 {
	enamel, deep := l.enamelAt(l.Frame.Origin)
	return deep - enamel
}

// Volume is the lesion's volume in mm³.
func (l *SmoothSurface) Volume() float64 { return l.volume() }

// Middle is the surface point over the lesion's middle.
func (l *SmoothSurface) Middle() r3.Vec { return l.Frame.Origin }

// Size is the lesion's width and height across the surface, mm.
func (l *SmoothSurface) Size() (width, height float64) { return l.extent.width, l.extent.height }

// Deepest is the lesion's innermost point.
func (l *SmoothSurface) Deepest() r3.Vec {
	_, deep := l.enamelAt(l.Frame.Origin)
	return l.Frame.From(r3.Vec{Z: -deep})
}

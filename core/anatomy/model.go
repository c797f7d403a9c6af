package anatomy

import (
	"fmt"
	"math"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
	"obturon/core/solid"
)

// Model is one sampled tooth. It is immutable and safe to share.
type Model struct {
	Tooth    notation.Tooth
	AgeYears float64
	Measured MeasuredSizes
	Sizes    Sizes

	Surface *solid.Blank // outer surface with the root stubs
	Landmarks

	shape   *shape
	views   *views
	chamber *pulpChamber
	pulp    func() *solid.Dense
}

// views are what not every use of a shape needs, made when first asked for and
// shared by all ages of it.
type views struct {
	fromJunction                func() *solid.Dense
	dentin                      func() *solid.Dense
	screen, turning             func() *solid.Blank
	tableHeights, dentinHeights func() *solid.Sheet
	riddenHeights, slopes       func() *solid.Sheet
	silhouette                  func() solid.Polyline
	relief                      func() []solid.Polyline
	cervicalLine                func() []r3.Vec
	outer                       func() *OuterSurface
	aspects                     aspects
}

// Sizes of a crown, mm.
type Sizes struct {
	Height, Mesiodistal, Buccolingual float64
}

// Limits of the grid step, mm.
const leastStep, mostStep = 0.04, 0.5

// tissueStep (mm) is the spacing of the dentin's samples: the junction is
// smooth, so that reading between them is as good as sampling more finely.
const tissueStep = 0.2

// Build models a tooth with samples h mm apart and the sizes in own, where
// they are known. It fails for sizes, ages and steps that make no sense.
func Build(t notation.Tooth, own MeasuredSizes, ageYears, h float64) (*Model, error) {
	c, err := crownOf(t, own)
	if err != nil {
		return nil, err
	}
	if err := checkAge(ageYears); err != nil {
		return nil, err
	}
	if !(h >= leastStep && h <= mostStep) {
		return nil, fmt.Errorf("grid step %v mm is outside %v to %v", h, leastStep, mostStep)
	}
	s := newShape(&c, c.wearAt(ageYears))
	m := &Model{Tooth: t, Measured: own, shape: s}
	m.Surface = solid.NewBlank(solid.NewGrid(s.bounds(), h), s.outer)
	m.setAge(ageYears)
	m.Landmarks = findLandmarks(&c, m)
	m.Sizes = m.measureSizes()
	m.views = m.newViews()
	return m, nil
}

// FromFields makes a model of other fields than a tooth's of ours, with the
// occlusal table where one says: a block to try gauges on, or a scan. dentin
// and pulp may be nil where nothing asks for them.
func FromFields(t notation.Tooth, table Frame, surface *solid.Blank, dentin, pulp *solid.Dense) *Model {
	m := &Model{Tooth: t, Surface: surface, Landmarks: Landmarks{Table: table}}
	m.pulp = func() *solid.Dense { return pulp }
	m.views = m.newViews()
	m.views.dentin = func() *solid.Dense { return dentin }
	return m
}

// sampleDentin samples the dentin inside the tooth and close around it; the
// rest is air.
func (m *Model) sampleDentin() *solid.Dense {
	const near = 0.4 // mm outside the surface
	grid := solid.NewGrid(m.shape.bounds(), tissueStep)
	return solid.SampleRows(grid, func(j, k int, out []float32) {
		for i := range out {
			p := grid.Point(i, j, k)
			if out[i] = float32(m.Surface.Distance(p)); out[i] < near {
				out[i] = float32(m.shape.dentin(p, float64(out[i])))
			}
		}
	})
}

func (m *Model) newViews() *views {
	v := &views{}
	v.dentin = sync.OnceValue(m.sampleDentin)
	v.fromJunction = sync.OnceValue(m.sampleFromJunction)
	v.screen = sync.OnceValue(m.Surface.Coarser)
	v.turning = sync.OnceValue(func() *solid.Blank { return v.screen().Coarser() })
	v.tableHeights = sync.OnceValue(func() *solid.Sheet { return m.sampleHeights(m.Surface.Distance) })
	v.dentinHeights = sync.OnceValue(func() *solid.Sheet { return m.sampleHeights(m.Dentin().Distance) })
	v.riddenHeights = sync.OnceValue(func() *solid.Sheet { return v.tableHeights().Closed(bridged).Blur(smoothed) })
	v.slopes = sync.OnceValue(func() *solid.Sheet { return smoothedOnCrown(v.riddenHeights()) })
	v.silhouette = sync.OnceValue(m.drawSilhouette)
	v.relief = sync.OnceValue(m.drawRelief)
	v.outer = sync.OnceValue(m.newOuterSurface)
	v.cervicalLine = sync.OnceValue(func() []r3.Vec { return m.aroundNeck(func(float64, float64) float64 { return 0 }) })
	return v
}

// Dentin is negative inside dentin or pulp and zero at the dentino-enamel
// junction; a distance near it, in mm.
func (m *Model) Dentin() *solid.Dense { return m.views.dentin() }

// Pulp is the signed distance to the pulp, mm.
func (m *Model) Pulp() *solid.Dense { return m.pulp() }

// Screen is the outer surface with samples twice as far apart, for the screen.
func (m *Model) Screen() *solid.Blank { return m.views.screen() }

// Turning is coarser still, for slow screens while the tooth turns.
func (m *Model) Turning() *solid.Blank { return m.views.turning() }

// TableHeights is the surface as seen along the bur's axis: heights (mm) over
// the occlusal table, in the frame Table; -9 beside the crown.
func (m *Model) TableHeights() *solid.Sheet { return m.views.tableHeights() }

// RiddenHeights is the surface as a finishing bur rides over it: TableHeights
// without fissures too narrow for the bur. It falls away over the last 0.4 mm
// before the crown's edge, where a bevel runs out.
func (m *Model) RiddenHeights() *solid.Sheet { return m.views.riddenHeights() }

// What RiddenHeights leaves out, mm: valleys up to twice bridged across.
const bridged, smoothed = 0.25, 0.12

// Slopes is RiddenHeights smoothed until only cusps and ridges are left: its
// slopes are those that a bur held along a margin can follow.
func (m *Model) Slopes() *solid.Sheet { return m.views.slopes() }

// DentinHeights is the dentino-enamel junction seen like TableHeights.
func (m *Model) DentinHeights() *solid.Sheet { return m.views.dentinHeights() }

// Silhouette is the crown's outline seen along the bur, in the frame Table.
func (m *Model) Silhouette() solid.Polyline { return m.views.silhouette() }

// Relief draws the occlusal surface by height lines, in the frame Table.
func (m *Model) Relief() []solid.Polyline { return m.views.relief() }

// CervicalLine is the cemento-enamel junction around the cervix, a closed line
// that starts mesially and runs facially.
func (m *Model) CervicalLine() []r3.Vec { return m.views.cervicalLine() }

// Contact is the contact of a side.
func (m *Model) Contact(side notation.Side) Contact {
	if side == notation.Distal {
		return m.DistalContact
	}
	return m.MesialContact
}

// WithAge is the same tooth at another age. Within a stage of wear only the pulp
// differs; all else is shared, which is much quicker than building anew. It fails for
// an age that Build refuses.
func (m *Model) WithAge(ageYears float64) (*Model, error) {
	if err := checkAge(ageYears); err != nil {
		return nil, err
	}
	if stageAt(ageYears) != stageAt(m.AgeYears) {
		return Build(m.Tooth, m.Measured, ageYears, m.Surface.H)
	}
	other := *m
	other.setAge(ageYears)
	other.Horns = other.chamber.tips()
	return &other, nil
}

func (m *Model) setAge(ageYears float64) {
	m.AgeYears = ageYears
	chamber := newPulp(m.shape, m.shape.c.pulpSizeAt(ageYears))
	m.chamber = chamber
	bounds := m.shape.bounds()
	m.pulp = sync.OnceValue(func() *solid.Dense { return chamber.distanceField(bounds) })
}

func checkAge(ageYears float64) error {
	if !(ageYears >= 0 && ageYears <= 120) {
		return fmt.Errorf("age %v is outside 0 to 120 years", ageYears)
	}
	return nil
}

// measureSizes measures the crown on the sampled surface: its greatest extents
// above the cervical line, and its height.
func (m *Model) measureSizes() Sizes {
	const step = 0.2 // mm; the surfaces are broad where they reach furthest
	h := m.shape.c.Height
	reach := func(dir r3.Vec, across float64) float64 {
		most := 0.0
		for z := 0.0; z < h; z += step {
			for a := -across; a <= across; a += step {
				if p, ok := m.onAxialSurface(dir, a, z); ok {
					most = math.Max(most, r3.Dot(p, dir))
				}
			}
		}
		return most
	}
	s := Sizes{
		Mesiodistal:  reach(r3.Vec{X: 1}, 2) + reach(r3.Vec{X: -1}, 2),
		Buccolingual: reach(r3.Vec{Y: 1}, 3.2) + reach(r3.Vec{Y: -1}, 3.2),
	}
	for _, tip := range m.CuspTips {
		s.Height = math.Max(s.Height, tip.At.Z)
	}
	for _, p := range m.IncisalEdge {
		s.Height = math.Max(s.Height, p.Z)
	}
	return s
}

// For is the same tooth on the other side of the arch, sharing all samples.
func (m *Model) For(t notation.Tooth) *Model {
	other := *m
	other.Tooth = t
	return &other
}

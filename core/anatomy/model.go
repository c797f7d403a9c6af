package anatomy

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
	"obturon/core/solid"
)

// Model is one sampled tooth. It is immutable and safe to share.
type Model struct {
	Tooth    notation.Tooth
	AgeYears float64
	Sizes    Sizes

	Surface *solid.Blank // outer surface with the root stub
	Screen  *solid.Blank // the same, coarser, for the screen
	Turning *solid.Blank // coarser still, for slow screens while the tooth turns
	Dentin  *solid.Dense // negative inside dentin or pulp; zero at the DEJ
	Pulp    *solid.Dense // signed distance to the pulp
	Landmarks

	// TableHeights is the surface as seen along the bur's axis: heights (mm)
	// over the occlusal table, in the frame Table. -9 beside the crown.
	// DentinHeights is the dentino-enamel junction seen the same way.
	TableHeights, DentinHeights *solid.Sheet
	// Silhouette is the crown's outline seen along the bur, in the frame Table.
	Silhouette solid.Polyline
	// Relief draws the occlusal surface by height lines, in the frame Table.
	Relief []solid.Polyline

	chamber *pulpChamber

	crown crown
	body  *body
	box   solid.Box
}

// Sizes of a crown, mm.
type Sizes struct {
	Height, Mesiodistal, Buccolingual float64
}

// Build models a tooth with samples h mm apart. It fails for teeth that are
// not modelled and for ages and steps that make no sense.
func Build(t notation.Tooth, ageYears, h float64) (*Model, error) {
	c, err := crownOf(t)
	if err != nil {
		return nil, err
	}
	if err := checkAge(ageYears); err != nil {
		return nil, err
	}
	if !(h >= 0.04 && h <= 0.5) {
		return nil, fmt.Errorf("grid step %v mm is outside 0.04 to 0.5", h)
	}
	const margin = 0.6 // mm of air around the tooth
	box := solid.Box{
		Min: r3.Vec{X: -c.Mesiodistal/2 - margin, Y: -(c.Buccolingual - c.BuccalExtent) - margin, Z: rootStub - margin},
		Max: r3.Vec{X: c.Mesiodistal/2 + margin, Y: c.BuccalExtent + margin, Z: c.Height + margin},
	}
	grid := solid.NewGrid(box, h)
	b := newBody(&c)
	top := newOcclusal(&c, box)
	lateral, carving := b.lateralField(grid)

	outer := outerField(&c, grid, top, lateral, carving)
	m := &Model{Tooth: t, crown: c, body: b, box: box}
	m.Dentin = dentinField(&c, grid, b, top, lateral, carving, outer)
	m.Surface = solid.NewBlank(outer)
	m.Screen = m.Surface.Coarser()
	m.Turning = m.Screen.Coarser()
	m.setAge(ageYears)
	m.Landmarks = findLandmarks(&c, m)
	m.Sizes = measureSizes(m)
	m.TableHeights = m.sampleHeights(m.Surface.Dense)
	m.DentinHeights = m.sampleHeights(m.Dentin)
	m.Silhouette = m.silhouette()
	m.Relief = m.relief()
	return m, nil
}

// WithAge is the same tooth at another age. Only the pulp differs; all else is
// shared, which is much quicker than building anew.
func (m *Model) WithAge(ageYears float64) (*Model, error) {
	if err := checkAge(ageYears); err != nil {
		return nil, err
	}
	other := *m
	other.setAge(ageYears)
	other.Horns = other.chamber.tips()
	return &other, nil
}

func (m *Model) setAge(ageYears float64) {
	m.AgeYears = ageYears
	m.chamber = newPulp(&m.crown, m.body, pulpSizeAt(ageYears))
	m.Pulp = m.chamber.distanceField(m.box)
}

func checkAge(ageYears float64) error {
	if !(ageYears >= 0 && ageYears <= 120) {
		return fmt.Errorf("age %v is outside 0 to 120 years", ageYears)
	}
	return nil
}

// rounding (mm) is the blend where the occlusal surface meets the side faces.
func (c *crown) rounding() float64 {
	if c.Primary {
		return 0.5
	}
	return 0.6
}

func outerField(c *crown, g solid.Grid, top *occlusal, lateral, carving *solid.Dense) *solid.Dense {
	return solid.SampleRows(g, func(j, k int, out []float32) {
		for i := range out {
			p := g.Point(i, j, k)
			n := g.Index(i, j, k)
			roof := (p.Z - top.carved.At(p.X, p.Y)) / top.denom.At(p.X, p.Y)
			crown := solid.SmoothMax(float64(lateral.Values[n]+carving.Values[n]), roof, c.rounding())
			out[i] = float32(solid.SmoothMax(crown, rootStub-p.Z, 0.5))
		}
	})
}

func dentinField(c *crown, g solid.Grid, b *body, top *occlusal, lateral, carving, outer *solid.Dense) *solid.Dense {
	blend := 1.1
	if c.Primary {
		blend = 0.6 // the junction of primary teeth follows the surface closely
	}
	cover := enamelCover{c}
	height := dentinHeight(c, top)
	steep := height.Like().Fill(func(x, y float64) float64 {
		dx, dy := height.Slope(x, y)
		return math.Sqrt(1 + dx*dx + dy*dy)
	})
	return solid.SampleRows(g, func(j, k int, out []float32) {
		section := b.at(g.Point(0, 0, k).Z)
		for i := range out {
			p := g.Point(i, j, k)
			n := g.Index(i, j, k)
			surface := outer.Values[n]
			if surface > 1 { // air: no tissue to tell apart
				out[i] = surface
				continue
			}
			u, v := section.normalised(p.X, p.Y)
			side := float64(lateral.Values[n]) + 0.5*float64(carving.Values[n]) + cover.lateral(u, v, p.Z)
			roof := (p.Z - height.At(p.X, p.Y)) / steep.At(p.X, p.Y)
			out[i] = float32(math.Max(solid.SmoothMax(side, roof, blend), float64(surface)))
		}
	})
}

func measureSizes(m *Model) Sizes {
	s := Sizes{Height: -math.MaxFloat64}
	lo := r3.Vec{X: math.Inf(1), Y: math.Inf(1)}
	hi := r3.Vec{X: math.Inf(-1), Y: math.Inf(-1)}
	for _, p := range m.Surface.Uncut().Mesh().Vertices {
		s.Height = math.Max(s.Height, p.Z)
		lo.X, hi.X = math.Min(lo.X, p.X), math.Max(hi.X, p.X)
		lo.Y, hi.Y = math.Min(lo.Y, p.Y), math.Max(hi.Y, p.Y)
	}
	s.Mesiodistal, s.Buccolingual = hi.X-lo.X, hi.Y-lo.Y
	return s
}

// For is the same tooth on the other side of the arch, sharing all samples.
func (m *Model) For(t notation.Tooth) *Model {
	other := *m
	other.Tooth = t
	return &other
}

package export

import (
	"encoding/binary"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/design"
	"obturon/core/notation"
	"obturon/core/pipeline"
	"obturon/core/school"
	"obturon/core/solid"
)

// Labels of the triangles on the screen.
const (
	OuterEnamel = iota
	RootSurface
	EnamelWall
	DentinWall
	CavityFloor
	LesionLeft
	PulpSurface
	BevelFace
	AmalgamFace
	CompositeFace
	meshLabels
)

// WebMesh is the prepared tooth for the screen. Its layout is described in
// docs/mesh-format.md.
type WebMesh struct {
	Vertices, Triangles int
	Step                float64       // quantum of positions, mm
	Hand                notation.Hand // of the frame that positions are in
	Data                []byte
}

// Quanta of positions in mm, each a fraction of a pixel where its mesh is shown.
const (
	fineStep   = 0.005
	coarseStep = 0.02
)

// stepOf is the quantum that a mesh is worth: one that follows a drag is seen from
// afar.
func stepOf(m *solid.Mesh) float64 {
	const coarse = 14_000 // triangles
	if len(m.Triangles) < coarse {
		return coarseStep
	}
	return fineStep
}

// shadingGroups is how many sets of faces share normals: outside, walls, floor, bevel.
const shadingGroups = 4

var shadingGroup = [meshLabels]uint8{0, 0, 1, 1, 2, 2, 1, 3, 0, 0}

// cutTooth is a tooth with what is cut in it; with nothing of a sound one.
type cutTooth struct {
	model *anatomy.Model
	cut   design.Cut
}

// NewWebMesh packs the prepared tooth. The mesh is one of the design's.
func NewWebMesh(d *pipeline.Designed, m *solid.Mesh) *WebMesh {
	return packTooth(cutTooth{d.Model, d.Cut}, m)
}

func packTooth(on cutTooth, m *solid.Mesh) *WebMesh {
	m = parted(on, m)
	return packMesh(on.model, m, screenLabels(on, m))
}

// NewFilledMesh packs a tooth that is filled to what it was, its filling apart from what is
// tooth; the mesh is that of the uncut tooth.
func NewFilledMesh(d *pipeline.Designed, m *solid.Mesh) *WebMesh {
	const aside = 0.5 // mm past the tool, within which facets may reach over its border
	const thin = 0.03 // mm: where a bevel runs out, less than that of filling is none to the eye
	tool, filling := d.Cut.Tool, uint8(CompositeFace)
	if d.Cut.Cavities[0].Material == school.Amalgam {
		filling = AmalgamFace
	}
	near := tool.Bounds()
	near.Min, near.Max = r3.Sub(near.Min, r3.Vec{X: aside, Y: aside, Z: aside}), r3.Add(near.Max, r3.Vec{X: aside, Y: aside, Z: aside})
	inReach := func(p r3.Vec) bool { return near.Contains(p) }
	inside := func(p r3.Vec) float64 { return tool.Distance(p) + thin }
	m = m.SplitWhere(inside, func(n int) bool { return inReach(m.Centroid(n)) })
	m = m.SplitWhere(tissueBorder(d.Model, true), func(n int) bool { return m.Centroid(n).Z > rootOnly })
	labels := screenLabels(cutTooth{model: d.Model}, m)
	for n := range labels {
		if at := m.Centroid(n); inReach(at) && inside(at) < 0 {
			labels[n] = filling
		}
	}
	return packMesh(d.Model, m, labels)
}

// NewToothMesh packs the surface of a sound tooth; the mesh is one of its own.
func NewToothMesh(model *anatomy.Model, m *solid.Mesh) *WebMesh {
	return packTooth(cutTooth{model: model}, m)
}

// NewTissueMesh packs a tissue inside the tooth, all of one label.
func NewTissueMesh(model *anatomy.Model, m *solid.Mesh, label uint8) *WebMesh {
	labels := make([]uint8, len(m.Triangles))
	for n := range labels {
		labels[n] = label
	}
	return packMesh(model, m, labels)
}

// packMesh keeps one vertex per place and label, so that colours and line
// angles stay crisp while surfaces shade smoothly.
func packMesh(model *anatomy.Model, m *solid.Mesh, labels []uint8) *WebMesh {
	normals := make([]r3.Vec, shadingGroups*len(m.Vertices))
	shadeKey := func(v int32, label uint8) int32 { return v*shadingGroups + int32(shadingGroup[label]) }
	for n, t := range m.Triangles {
		area := m.AreaVector(n)
		for _, v := range t {
			k := shadeKey(v, labels[n])
			normals[k] = r3.Add(normals[k], area)
		}
	}
	web := &WebMesh{Triangles: len(m.Triangles), Step: stepOf(m), Hand: model.Tooth.FrameHand()}

	index := make([]int32, meshLabels*len(m.Vertices)) // one more than the place, 0 where none yet
	var places [3]steps
	var facings [2]steps
	var triangles triangleCoder
	for n, tri := range m.Triangles {
		var own [3]int32
		for k, v := range tri {
			at := &index[int(v)*meshLabels+int(labels[n])]
			if *at == 0 {
				web.Vertices++
				*at = int32(web.Vertices)
				normal := normals[shadeKey(v, labels[n])]
				if shadingGroup[labels[n]] == 0 {
					// The finer model shades fissures the coarse mesh cannot hold.
					normal = model.Surface.Gradient(m.Vertices[v])
				}
				p := m.Vertices[v]
				for axis, x := range [3]float64{p.X, p.Y, p.Z} {
					places[axis].add(int64(math.Round(x / web.Step)))
				}
				for axis, x := range octahedral(normal) {
					facings[axis].add(int64(math.Round(octahedralSteps * x)))
				}
			}
			own[k] = *at - 1
		}
		triangles.add(own)
	}
	for _, s := range places {
		web.Data = append(web.Data, s.packed...)
	}
	for _, s := range facings {
		web.Data = append(web.Data, s.packed...)
	}
	web.Data = append(append(web.Data, labels...), triangles.packed...)
	return web
}

// steps are numbers, each written as the step from the one before: small, where
// what they measure lies side by side.
type steps struct {
	packed []byte
	last   int64
}

func (s *steps) add(v int64) {
	s.packed = binary.AppendVarint(s.packed, v-s.last)
	s.last = v
}

// octahedralSteps is how finely the two figures of a normal are kept.
const octahedralSteps = 63

// octahedral writes a direction as two figures from -1 to 1: its place on an
// octahedron whose lower half is folded up.
func octahedral(d r3.Vec) [2]float64 {
	size := math.Abs(d.X) + math.Abs(d.Y) + math.Abs(d.Z)
	if size == 0 {
		return [2]float64{}
	}
	x, y := d.X/size, d.Y/size
	if d.Z < 0 {
		x, y = math.Copysign(1-math.Abs(y), x), math.Copysign(1-math.Abs(x), y)
	}
	return [2]float64{x, y}
}

// lesionUnder (mm) is how deep under a cut surface a lesion is looked for.
const lesionUnder = 0.03

// screenLabels names every triangle by what a dentist sees there.
func screenLabels(on cutTooth, m *solid.Mesh) []uint8 {
	labels := make([]uint8, len(m.Triangles))
	for n, feature := range m.Labels {
		at := m.Centroid(n)
		if feature == 0 && at.Z < rootOnly {
			labels[n] = RootSurface
			continue
		}
		dentin := tissueBorder(on.model, feature == 0)(at) < 0
		switch {
		case feature == 0 && dentin:
			labels[n] = RootSurface
		case feature == 0:
			labels[n] = OuterEnamel
		case insideLesion(on.cut, r3.Sub(at, r3.Scale(lesionUnder, m.Normal(n)))):
			labels[n] = LesionLeft
		case feature == cavity.Floor || feature == cavity.Excavation:
			labels[n] = CavityFloor
		case feature&cavity.BevelFlag != 0:
			labels[n] = BevelFace
		case dentin:
			labels[n] = DentinWall
		default:
			labels[n] = EnamelWall
		}
	}
	return labels
}

func insideLesion(cut design.Cut, p r3.Vec) bool {
	for _, l := range cut.Lesions() {
		if l.Distance(p) < 0 {
			return true
		}
	}
	return false
}

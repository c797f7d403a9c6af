package export

import (
	"encoding/binary"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/solid"
	"obturon/internal/plan"
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
	meshLabels
)

// WebMesh is the prepared tooth for the screen. Its layout is described in
// docs/mesh-format.md.
type WebMesh struct {
	Vertices, Triangles int
	Mirrored            bool
	Data                []byte
}

// positionStep is the quantum of positions: a thousandth of a millimetre.
const positionStep = 0.001

// shadingGroups is how many sets of faces share normals: outside, walls, floor, bevel.
const shadingGroups = 4

var shadingGroup = [meshLabels]uint8{0, 0, 1, 1, 2, 2, 1, 3}

// NewWebMesh packs the prepared tooth. The mesh is one of the result's.
func NewWebMesh(r *plan.Result, m *solid.Mesh) *WebMesh {
	return packMesh(r.Model, m, screenLabels(r, m))
}

// NewToothMesh packs the surface of a sound tooth; the mesh is one of its own.
func NewToothMesh(model *anatomy.Model, m *solid.Mesh) *WebMesh {
	return packMesh(model, m, screenLabels(&plan.Result{Model: model}, m))
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
	web := &WebMesh{Triangles: len(m.Triangles)}
	t := model.Tooth
	// The tooth frame is right-handed on the lower right and the upper left.
	web.Mirrored = t.Upper() == t.Right()

	index := make([]int32, meshLabels*len(m.Vertices)) // one more than the place, 0 where none yet
	vertices := make([]byte, 0, 10*len(m.Vertices))
	indices := make([]byte, 0, 6*len(m.Triangles))
	triangleLabels := make([]byte, 0, len(m.Triangles))
	previous := int64(0)
	for n, tri := range m.Triangles {
		for _, v := range tri {
			at := &index[int(v)*meshLabels+int(labels[n])]
			if *at == 0 {
				web.Vertices++
				*at = int32(web.Vertices)
				normal := normals[shadeKey(v, labels[n])]
				if labels[n] <= RootSurface {
					// The finer model shades fissures the coarse mesh cannot hold.
					normal = model.Surface.Gradient(m.Vertices[v])
				}
				vertices = appendVertex(vertices, m.Vertices[v], normal)
			}
			// Neighbouring triangles use neighbouring vertices: steps are small.
			indices = binary.AppendVarint(indices, int64(*at-1)-previous)
			previous = int64(*at - 1)
		}
		triangleLabels = append(triangleLabels, labels[n])
	}
	web.Data = append(append(vertices, triangleLabels...), indices...)
	return web
}

// appendVertex writes three int16 positions and three int8 normal components.
func appendVertex(out []byte, p, normal r3.Vec) []byte {
	for _, x := range [3]float64{p.X, p.Y, p.Z} {
		out = binary.LittleEndian.AppendUint16(out, uint16(int16(math.Round(x/positionStep))))
	}
	if length := r3.Norm(normal); length > 0 {
		normal = r3.Scale(1/length, normal)
	}
	for _, x := range [3]float64{normal.X, normal.Y, normal.Z} {
		out = append(out, byte(int8(math.Round(127*x))))
	}
	return out
}

// screenLabels names every triangle by what a dentist sees there.
func screenLabels(r *plan.Result, m *solid.Mesh) []uint8 {
	labels := make([]uint8, len(m.Triangles))
	const under, rootOnly = 0.03, -0.5 // mm below the surface, where the tissue is read; mm below which no enamel reaches
	for n, feature := range m.Labels {
		at := m.Centroid(n)
		if feature == 0 && at.Z < rootOnly {
			labels[n] = RootSurface
			continue
		}
		inside := r3.Sub(at, r3.Scale(under, m.Normal(n)))
		dentin := r.Model.Dentin().Distance(inside) < 0
		switch {
		case feature == 0 && dentin:
			labels[n] = RootSurface
		case feature == 0:
			labels[n] = OuterEnamel
		case insideLesion(r, inside):
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

func insideLesion(r *plan.Result, p r3.Vec) bool {
	for _, l := range r.Cut.Lesions() {
		if l.Distance(p) < 0 {
			return true
		}
	}
	return false
}

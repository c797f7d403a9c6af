package export

import (
	"bytes"
	"io"
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
	"obturon/core/solid"
)

// handed is a figure of a solid that changes its sign where the solid is turned over and
// not where it is turned: the mean of xyz over its surface, from its middle.
func handed(m *solid.Mesh) (sum float64) {
	var middle r3.Vec
	whole := 0.0
	for n := range m.Triangles {
		middle = r3.Add(middle, r3.Scale(m.Area(n), m.Centroid(n)))
		whole += m.Area(n)
	}
	middle = r3.Scale(1/whole, middle)
	for n := range m.Triangles {
		at := r3.Sub(m.Centroid(n), middle)
		sum += m.Area(n) / whole * at.X * at.Y * at.Z
	}
	return sum
}

func nearestVertex(m *solid.Mesh, p r3.Vec) float64 {
	least := math.Inf(1)
	for _, v := range m.Vertices {
		least = math.Min(least, r3.Norm(r3.Sub(v, p)))
	}
	return least
}

// Files of a tooth and of the same one of the other side are of different hands. Each
// stands as in the mouth: looked at from facial with the biting side up, mesial lies to the
// left of upper right and lower left teeth, and to the right of the others.
func TestFilesOfAPairAreOfDifferentHands(t *testing.T) {
	formats := []struct {
		name  string
		write func(io.Writer, Solid) error
		read  func(*testing.T, []byte) *solid.Mesh
	}{{"stl", WriteSTL, readSTL}, {"obj", WriteOBJ, readOBJ}, {"ply", WritePLY, readPLY}}
	for _, pair := range []struct {
		teeth     [2]string
		age       float64
		mesialOnX [2]float64 // +1 towards +x of the file
	}{
		{[2]string{"46", "36"}, 30, [2]float64{-1, 1}},
		{[2]string{"16", "26"}, 30, [2]float64{1, -1}},
		{[2]string{"13", "23"}, 30, [2]float64{1, -1}},
		{[2]string{"75", "85"}, 7, [2]float64{1, -1}},
	} {
		built, err := anatomy.Build(notation.MustParse(pair.teeth[0]), anatomy.MeasuredSizes{}, pair.age, 0.25)
		if err != nil {
			t.Fatal(err)
		}
		for _, format := range formats {
			var signed [2]float64
			for n, iso := range pair.teeth {
				tooth := notation.MustParse(iso)
				m := built.For(tooth)
				var out bytes.Buffer
				if err := format.write(&out, Solid{Mesh: m.Surface.Uncut().Mesh(), Tooth: tooth, Name: "intact"}); err != nil {
					t.Fatal(err)
				}
				told := map[float64]string{1: "tooth " + iso + ", mm, x mesial, y facial, z occlusal", -1: "tooth " + iso + ", mm, x distal, y facial, z occlusal"}
				if want := told[pair.mesialOnX[n]]; !strings.Contains(out.String()[:200], want) {
					t.Errorf("%s.%s does not say %q", iso, format.name, want)
				}
				read := format.read(t, out.Bytes())
				if v := read.Volume(); v < 100 {
					t.Errorf("%s.%s encloses %.1f mm³: its normals point inwards", iso, format.name, v)
				}
				signed[n] = handed(read)
				mesial := m.MesialContact.At
				mesial.X *= pair.mesialOnX[n]
				if off := nearestVertex(read, mesial); off > 0.25 {
					t.Errorf("%s.%s: the mesial contact lies %.2f mm off where the mouth has it", iso, format.name, off)
				}
			}
			if math.Abs(signed[0]+signed[1]) > 0.02*math.Abs(signed[0]) || math.Abs(signed[0]) < 1e-3 {
				t.Errorf("%v.%s: the signed figures are %.4f and %.4f", pair.teeth, format.name, signed[0], signed[1])
			}
		}
	}
}

package export

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
	"obturon/core/solid"
)

// corner is a tetrahedron with legs of 1 mm: its volume is a sixth.
var corner = &solid.Mesh{
	Vertices:  []r3.Vec{{}, {X: 1}, {Y: 1}, {Z: 1}},
	Triangles: [][3]int32{{0, 2, 1}, {0, 1, 3}, {0, 3, 2}, {1, 2, 3}},
	Labels:    []uint16{0, 0, 7, 0},
}

func TestOBJHoldsTheSolid(t *testing.T) {
	var out bytes.Buffer
	if err := WriteOBJ(&out, Solid{Mesh: corner, Name: "corner", Tooth: notation.MustParse("36")}); err != nil {
		t.Fatal(err)
	}
	if v := readOBJ(t, out.Bytes()).Volume(); math.Abs(v-1.0/6) > 1e-6 {
		t.Errorf("read back it holds %.6f mm3", v)
	}
}

func readOBJ(t *testing.T, data []byte) *solid.Mesh {
	t.Helper()
	read := &solid.Mesh{}
	for line := range strings.Lines(string(data)) {
		var v r3.Vec
		var f [3]int32
		if n, _ := fmt.Sscanf(line, "v %f %f %f", &v.X, &v.Y, &v.Z); n == 3 {
			read.Vertices = append(read.Vertices, v)
		}
		if n, _ := fmt.Sscanf(line, "f %d %d %d", &f[0], &f[1], &f[2]); n == 3 {
			read.Triangles = append(read.Triangles, [3]int32{f[0] - 1, f[1] - 1, f[2] - 1})
		}
	}
	return read
}

func readPLY(t *testing.T, data []byte) *solid.Mesh {
	t.Helper()
	header, body, _ := bytes.Cut(data, []byte("end_header\n"))
	var vertices, faces int
	for line := range strings.Lines(string(header)) {
		_, _ = fmt.Sscanf(line, "element vertex %d", &vertices)
		_, _ = fmt.Sscanf(line, "element face %d", &faces)
	}
	read := &solid.Mesh{}
	for n := range vertices {
		read.Vertices = append(read.Vertices, vectorAt(body[12*n:]))
	}
	for n := range faces {
		corner := func(k int) int32 { return int32(binary.LittleEndian.Uint32(body[12*vertices+15*n+1+4*k:])) }
		read.Triangles = append(read.Triangles, [3]int32{corner(0), corner(1), corner(2)})
	}
	return read
}

func readSTL(t *testing.T, data []byte) *solid.Mesh {
	t.Helper()
	read := &solid.Mesh{}
	for n := range int(binary.LittleEndian.Uint32(data[80:])) {
		var tri [3]int32
		for k := range tri {
			tri[k] = int32(len(read.Vertices))
			read.Vertices = append(read.Vertices, vectorAt(data[84+50*n+12+12*k:]))
		}
		read.Triangles = append(read.Triangles, tri)
	}
	return read
}

// vectorAt reads three floats.
func vectorAt(data []byte) r3.Vec {
	at := func(k int) float64 { return float64(math.Float32frombits(binary.LittleEndian.Uint32(data[4*k:]))) }
	return r3.Vec{X: at(0), Y: at(1), Z: at(2)}
}

func TestPLYHoldsTheSolidAndItsFeatures(t *testing.T) {
	var out bytes.Buffer
	if err := WritePLY(&out, Solid{Mesh: corner, Name: "corner", Tooth: notation.MustParse("36")}); err != nil {
		t.Fatal(err)
	}
	header, body, found := bytes.Cut(out.Bytes(), []byte("end_header\n"))
	if !found || !bytes.Contains(header, []byte("element face 4")) || len(body) != 4*12+4*15 {
		t.Fatalf("header %q, %d bytes of body", header, len(body))
	}
	third := body[4*12+2*15:]
	if third[0] != 3 || binary.LittleEndian.Uint32(third[5:]) != 3 || binary.LittleEndian.Uint16(third[13:]) != 7 {
		t.Errorf("the third face reads %v", third[:15])
	}
}

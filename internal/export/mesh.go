package export

import (
	"bufio"
	"encoding/binary"
	"fmt"
	"io"
	"math"
)

// WriteOBJ writes a solid as Wavefront OBJ text, in millimetres as the tooth stands in
// the mouth, counter-clockwise seen from outside. Errors are those of the writer.
func WriteOBJ(w io.Writer, s Solid) error {
	m, out := s.standing(), bufio.NewWriter(w)
	fmt.Fprintf(out, "# %s\no %s\n", s.told(), s.Name)
	for _, v := range m.Vertices {
		fmt.Fprintf(out, "v %.4f %.4f %.4f\n", v.X, v.Y, v.Z)
	}
	for _, t := range m.Triangles {
		fmt.Fprintf(out, "f %d %d %d\n", t[0]+1, t[1]+1, t[2]+1)
	}
	if err := out.Flush(); err != nil {
		return fmt.Errorf("writing OBJ: %w", err)
	}
	return nil
}

// WritePLY writes a solid as binary little-endian PLY, in millimetres as the tooth
// stands in the mouth. Each face carries its feature: 0 the uncut tooth, else a part of
// the cavity. Errors are those of the writer.
func WritePLY(w io.Writer, s Solid) error {
	m, out := s.standing(), bufio.NewWriter(w)
	fmt.Fprintf(out, "ply\nformat binary_little_endian 1.0\ncomment %s\n", s.told())
	fmt.Fprintf(out, "element vertex %d\nproperty float x\nproperty float y\nproperty float z\n", len(m.Vertices))
	fmt.Fprintf(out, "element face %d\nproperty list uchar int vertex_indices\nproperty ushort feature\nend_header\n", len(m.Triangles))
	vertex := make([]byte, 12)
	for _, v := range m.Vertices {
		for k, x := range [3]float64{v.X, v.Y, v.Z} {
			binary.LittleEndian.PutUint32(vertex[4*k:], math.Float32bits(float32(x)))
		}
		out.Write(vertex) // a failure is kept and told by Flush
	}
	face := make([]byte, 15)
	face[0] = 3
	for n, t := range m.Triangles {
		for k, v := range t {
			binary.LittleEndian.PutUint32(face[1+4*k:], uint32(v))
		}
		binary.LittleEndian.PutUint16(face[13:], m.Labels[n])
		out.Write(face)
	}
	if err := out.Flush(); err != nil {
		return fmt.Errorf("writing PLY: %w", err)
	}
	return nil
}

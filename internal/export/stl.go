// Package export writes plans in open formats: STL solids, SVG and PDF
// drawings.
package export

import (
	"bufio"
	"encoding/binary"
	"fmt"
	"io"
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// WriteSTL writes a solid as binary STL, in millimetres as the tooth stands in the
// mouth, with outward normals. The header names tooth, axes and solid. Errors are those
// of the writer.
func WriteSTL(w io.Writer, s Solid) error {
	m, out := s.standing(), bufio.NewWriter(w)
	header := make([]byte, 80)
	copy(header, s.told())
	if _, err := out.Write(header); err != nil {
		return fmt.Errorf("writing STL: %w", err)
	}
	if err := binary.Write(out, binary.LittleEndian, uint32(len(m.Triangles))); err != nil {
		return fmt.Errorf("writing STL: %w", err)
	}
	facet := make([]byte, 50)
	for n, t := range m.Triangles {
		normal := m.Normal(n)
		if math.IsNaN(normal.X) { // a facet without area has no normal of its own
			normal = r3.Vec{}
		}
		put(facet[0:], normal)
		for corner, v := range t {
			put(facet[12+12*corner:], m.Vertices[v])
		}
		if _, err := out.Write(facet); err != nil {
			return fmt.Errorf("writing STL: %w", err)
		}
	}
	if err := out.Flush(); err != nil {
		return fmt.Errorf("writing STL: %w", err)
	}
	return nil
}

func put(b []byte, v r3.Vec) {
	binary.LittleEndian.PutUint32(b[0:], math.Float32bits(float32(v.X)))
	binary.LittleEndian.PutUint32(b[4:], math.Float32bits(float32(v.Y)))
	binary.LittleEndian.PutUint32(b[8:], math.Float32bits(float32(v.Z)))
}

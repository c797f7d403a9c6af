package solid

import "math"

// WithoutCrumbs leaves out the pieces of a closed mesh that enclose less than least
// (mm³) or are thinner on the average than thinnest (mm), and tells how many they were
// and how much they enclosed together. Where a surface grazes another, samples catch
// the film between the two here and there only, and a solid breaks up into such pieces.
func (m *Mesh) WithoutCrumbs(least, thinnest float64) (whole *Mesh, crumbs int, volume float64) {
	pieces := m.Patches(func(int) bool { return true })
	whole = &Mesh{Vertices: m.Vertices}
	for _, piece := range pieces {
		part := &Mesh{Vertices: m.Vertices}
		area := 0.0
		for _, n := range piece {
			part.Triangles = append(part.Triangles, m.Triangles[n])
			area += m.Area(n)
		}
		if held := math.Abs(part.Volume()); held < least || 2*held < thinnest*area {
			crumbs++
			volume += held
			continue
		}
		for _, n := range piece {
			whole.Triangles, whole.Labels = append(whole.Triangles, m.Triangles[n]), append(whole.Labels, m.Labels[n])
		}
	}
	if crumbs == 0 {
		return m, 0, 0
	}
	return whole.compact(), crumbs, volume
}

// Joined puts meshes that do not touch into one, without the vertices that none uses.
func Joined(meshes ...*Mesh) *Mesh {
	all := &Mesh{}
	for _, m := range meshes {
		first := int32(len(all.Vertices))
		all.Vertices = append(all.Vertices, m.Vertices...)
		for _, t := range m.Triangles {
			all.Triangles = append(all.Triangles, [3]int32{first + t[0], first + t[1], first + t[2]})
		}
		all.Labels = append(all.Labels, m.Labels...)
	}
	return all.compact()
}

// compact leaves out the vertices that no triangle uses.
func (m *Mesh) compact() *Mesh {
	place := make([]int32, len(m.Vertices)) // one more than the new place
	out := &Mesh{Labels: m.Labels, Triangles: make([][3]int32, len(m.Triangles))}
	for n, t := range m.Triangles {
		for k, v := range t {
			if place[v] == 0 {
				out.Vertices = append(out.Vertices, m.Vertices[v])
				place[v] = int32(len(out.Vertices))
			}
			out.Triangles[n][k] = place[v] - 1
		}
	}
	return out
}

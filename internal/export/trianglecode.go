package export

import (
	"encoding/binary"
	"slices"
)

// triangleCoder writes triangles briefly: most share an edge with one of the last
// few, and their third corner is new or was seen a moment ago. docs/mesh-format.md
// describes what it writes.
type triangleCoder struct {
	packed  []byte
	used    int32
	edges   [][2]int32 // the last ones, newest first, as a neighbour runs along them
	corners []int32    // the last ones, newest first
}

const (
	edgesKept   = 15
	cornersKept = 14
	noEdge      = 15 // in place of an edge: all three corners follow
	farCorner   = 15 // in place of a corner: how far back it lies follows
)

// add writes a triangle. Corners that are new must be numbered as they come.
func (c *triangleCoder) add(t [3]int32) {
	for e, edge := range c.edges {
		for k := range 3 {
			if edge == [2]int32{t[k], t[(k+1)%3]} {
				third := t[(k+2)%3]
				c.corner(e, third)
				c.remember(edge[0], edge[1], third)
				return
			}
		}
	}
	for _, v := range t {
		c.corner(noEdge, v)
	}
	c.remember(t[0], t[1], t[2])
}

// corner writes one corner behind an edge.
func (c *triangleCoder) corner(edge int, v int32) {
	switch at := slices.Index(c.corners, v); {
	case v == c.used:
		c.packed = append(c.packed, byte(edge<<4))
		c.used++
	case at >= 0:
		c.packed = append(c.packed, byte(edge<<4|at+1))
	default:
		c.packed = append(c.packed, byte(edge<<4|farCorner))
		c.packed = binary.AppendUvarint(c.packed, uint64(c.used-v))
	}
	c.corners = latest(c.corners, v, cornersKept)
}

// remember keeps the edges that neighbours can join.
func (c *triangleCoder) remember(a, b, third int32) {
	c.edges = latest(c.edges, [2]int32{b, a}, edgesKept)
	c.edges = latest(c.edges, [2]int32{third, b}, edgesKept)
	c.edges = latest(c.edges, [2]int32{a, third}, edgesKept)
}

// latest puts an entry first and forgets the oldest.
func latest[T any](list []T, entry T, kept int) []T {
	list = slices.Insert(list, 0, entry)
	return list[:min(len(list), kept)]
}

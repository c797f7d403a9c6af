package solid

// Corner c of a cell sits at (c&1, c>>1&1, c>>2&1). Edge e = 4*axis + n runs
// along its axis; n numbers the four parallel edges by the two other axes,
// lower axis first.

// cellEdges lists the two corners of each of the twelve edges, low end first.
var cellEdges = func() (edges [12][2]int) {
	for axis := range 3 {
		u, v := (axis+1)%3, (axis+2)%3
		if u > v {
			u, v = v, u
		}
		for n := range 4 {
			c := (n&1)<<u | (n>>1)<<v
			edges[4*axis+n] = [2]int{c, c | 1<<axis}
		}
	}
	return edges
}()

// cellConfig says how a cell's crossings group into surface sheets. Each
// sheet gets one vertex, which keeps the mesh manifold where two sheets pass
// through one cell.
type cellConfig struct {
	sheets int
	sheet  [12]int8 // sheet of each edge, -1 where the edge is not crossed
}

// cellConfigs holds the grouping for each pattern of solid corners (bit set = solid).
var cellConfigs = func() (configs [256]cellConfig) {
	for pattern := range configs {
		configs[pattern] = groupSheets(pattern)
	}
	return configs
}()

func groupSheets(pattern int) cellConfig {
	solid := func(c int) bool { return pattern>>c&1 == 1 }
	parent := [12]int{}
	for e := range parent {
		parent[e] = e
	}
	var find func(int) int
	find = func(e int) int {
		if parent[e] != e {
			parent[e] = find(parent[e])
		}
		return parent[e]
	}
	crossed := func(e int) bool { return solid(cellEdges[e][0]) != solid(cellEdges[e][1]) }

	for axis := range 3 {
		for side := range 2 {
			var face []int // crossed edges lying in this face
			for e, ends := range cellEdges {
				inFace := ends[0]>>axis&1 == side && ends[1]>>axis&1 == side
				if inFace && crossed(e) {
					face = append(face, e)
				}
			}
			switch len(face) {
			case 2:
				parent[find(face[0])] = find(face[1])
			case 4:
				// Ambiguous face: solid corners are kept apart, by the same
				// rule in both cells that share the face.
				for c := range 8 {
					if c>>axis&1 != side || !solid(c) {
						continue
					}
					var around []int
					for _, e := range face {
						if cellEdges[e][0] == c || cellEdges[e][1] == c {
							around = append(around, e)
						}
					}
					parent[find(around[0])] = find(around[1])
				}
			}
		}
	}
	config := cellConfig{}
	number := map[int]int8{}
	for e := range 12 {
		config.sheet[e] = -1
		if !crossed(e) {
			continue
		}
		root := find(e)
		if _, seen := number[root]; !seen {
			number[root] = int8(config.sheets)
			config.sheets++
		}
		config.sheet[e] = number[root]
	}
	return config
}

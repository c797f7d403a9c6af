package solid

// Contours traces where the sheet passes level, with smaller values on the
// left of the walk, so loops around low ground run counter-clockwise.
func (s *Sheet) Contours(level float64) []Polyline {
	c := contouring{sheet: s, level: level, next: map[int]int{}, ends: map[int]bool{}}
	for j := range s.NY - 1 {
		for i := range s.NX - 1 {
			c.link(i, j)
		}
	}
	return c.lines()
}

// contouring follows one level through a sheet. Every lattice edge that the level
// crosses carries one point, named by the edge; each cell links its points in
// walking order.
type contouring struct {
	sheet *Sheet
	level float64
	next  map[int]int  // the point that follows a point
	ends  map[int]bool // points that follow another
	order []int        // points that another follows, as they were met
}

// edge names the lattice edge that runs from a sample along x (0) or y (1).
func (c *contouring) edge(i, j, along int) int { return (j*c.sheet.NX+i)*2 + along }

// point is where the level crosses an edge.
func (c *contouring) point(edge int) Point2 {
	s, n := c.sheet, edge/2
	p := Point2{s.X0 + float64(n%s.NX)*s.H, s.Y0 + float64(n/s.NX)*s.H}
	crossed := func(step int) float64 {
		a, b := float64(s.Values[n])-c.level, float64(s.Values[n+step])-c.level
		return a / (a - b) * s.H
	}
	if edge%2 == 0 {
		p.X += crossed(1)
	} else {
		p.Y += crossed(s.NX)
	}
	return p
}

// link joins the points on the four edges of a cell. Walking them counter-clockwise,
// a line starts where low ground ends and runs back to where that ground began.
func (c *contouring) link(i, j int) {
	s, at := c.sheet, j*c.sheet.NX+i
	low := func(n int) bool { return float64(s.Values[n]) < c.level }
	corners := [4]bool{low(at), low(at + 1), low(at + s.NX + 1), low(at + s.NX)}
	if corners == [4]bool{} || corners == [4]bool{true, true, true, true} {
		return
	}
	edges := [4]int{c.edge(i, j, 0), c.edge(i+1, j, 1), c.edge(i, j+1, 0), c.edge(i, j, 1)}
	for e := range 4 {
		if !corners[e] || corners[(e+1)%4] {
			continue
		}
		for back := 1; back < 4; back++ {
			if f := (e + 4 - back) % 4; !corners[f] && corners[(f+1)%4] {
				c.next[edges[e]] = edges[f]
				c.ends[edges[f]] = true
				c.order = append(c.order, edges[e])
				break
			}
		}
	}
}

// lines walks from point to point: first the lines that begin at the sheet's edge,
// then the loops.
func (c *contouring) lines() []Polyline {
	var lines []Polyline
	walked := map[int]bool{}
	walk := func(start int) {
		if line := c.walk(start, walked); len(line.Points) > 1 {
			lines = append(lines, line)
		}
	}
	for _, point := range c.order {
		if !c.ends[point] {
			walk(point)
		}
	}
	for _, point := range c.order {
		walk(point)
	}
	return lines
}

// walk follows a line from its start until it ends, closes or meets what was walked.
func (c *contouring) walk(start int, walked map[int]bool) (line Polyline) {
	for at := start; !walked[at]; {
		walked[at] = true
		line.Points = append(line.Points, c.point(at))
		next, more := c.next[at]
		if !more {
			return line
		}
		if next == start {
			line.Closed = true
			return line
		}
		at = next
	}
	return line
}

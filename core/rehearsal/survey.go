// Package rehearsal cuts a drawn cavity with the kit's own instruments: it derives from the
// cavity's surface alone which instrument reaches what, in which order the rules of the
// work put them, and by which ways their tips go; cuts the tooth with their profiles, step
// by step; and measures how far what they leave is from what was drawn.
package rehearsal

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/parallel"
	"obturon/core/solid"
)

// Survey is a tooth about one cavity as a bur finds it: fields sampled in the cavity's
// frame, whose z points out of the tooth along the bur. It knows what has to go and what
// must stay, and nothing of the figures behind them.
type Survey struct {
	Frame anatomy.Frame
	// Kept is the distance (mm) to what must stay, negative within it.
	Kept *solid.Dense
	// Feature is that of the cavity's surface nearest to each sample.
	Feature []uint16
	// Dentin tells the samples within the dentino-enamel junction.
	Dentin []bool
	// Filling tells the samples within an old filling; nil where there is none.
	Filling []bool
	// ToGo is the share of each sample's cell that the cavity takes from the tooth.
	ToGo []float32
	// Pulp is the distance (mm) to the pulp. Beside is that to the adjacent teeth, Skin
	// that to the surface which goes and faces them; nil where none stands close.
	Pulp, Beside, Skin *solid.Dense

	goes      solid.Box  // about all that has to go
	drawn     solid.Tool // what the cavity takes, in the tooth frame
	floorEnds [2]float64 // x of where the pulpal floor ends, by side
	floorAt   float64    // z of the pulpal floor; -Inf of a cavity without one
	boxes     []notation.Side
	ridged    []notation.Side // sides of an occlusal cavity that have no box
	mesh      *solid.Mesh     // of the kept tooth about the cavity, in the frame
	tooth     *solid.Dense    // mm to the tooth as it comes, known near its surface
}

// surveyAside (mm) is how far the fields go beside the cavity: a head's radius and a
// shank that leans. surveyAbove is how far over the tooth: a tip that is free.
const (
	surveyAside = 1.6
	surveyBelow = 0.9
	surveyAbove = 0.4
)

// newSurvey samples a tooth as it comes to be cut, and with its cavity cut, h mm apart.
func newSurvey(c *cavity.Cavity, before, prepared *solid.Workpiece, beside []*solid.Mesh, h float64) *Survey {
	frame := c.Frame
	mesh := inFrame(prepared.Mesh(), frame)
	var others []*solid.Mesh
	for _, m := range beside {
		others = append(others, inFrame(m, frame))
	}
	grid := solid.NewGrid(surveyed(mesh, others), h)
	s := &Survey{
		Frame:     frame,
		mesh:      cropped(mesh, grid),
		floorAt:   floorHeight(mesh),
		floorEnds: endsOfFloor(mesh),
		boxes:     c.Boxes,
		drawn:     c.Tool(),
	}
	if c.Kind == cavity.Occlusal {
		for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
			if !slices.Contains(c.Boxes, side) {
				s.ridged = append(s.ridged, side)
			}
		}
	}
	var work parallel.Group
	work.Go(func() { s.besideOf(grid, before, prepared, others) })
	work.Go(func() {
		kept, nearest := solid.DistanceToMesh(grid, s.mesh, func(p r3.Vec) bool { return prepared.Distance(frame.From(p)) < 0 })
		s.tooth = solid.Sample(grid, func(p r3.Vec) float64 { return before.Distance(frame.From(p)) })
		s.Kept, s.Feature, s.ToGo = kept, make([]uint16, grid.Len()), make([]float32, grid.Len())
		for n, at := range nearest {
			s.Feature[n] = s.mesh.Labels[at]
			tooth, left := solid.Occupied(float64(s.tooth.Values[n]), h), solid.Occupied(float64(kept.Values[n]), h)
			s.ToGo[n] = float32(math.Max(tooth-left, 0))
		}
		s.nameTheRest()
		pulp, dentin := c.Model.Pulp(), c.Model.Dentin()
		s.Pulp = solid.Sample(grid, func(p r3.Vec) float64 { return pulp.Distance(frame.From(p)) })
		s.Dentin = s.within(dentin)
		if old := c.Fillings(); len(old) > 0 {
			s.Filling = s.within(solid.Union(old))
		}
	})
	work.Wait()
	s.goes, _ = grid.BoxOf(func(n int) bool { return s.ToGo[n] > 0 })
	return s
}

// floorHeight is the z of a prepared tooth's pulpal floor: with a box beside it, work at one
// depth ends there.
func floorHeight(m *solid.Mesh) float64 {
	const deepest = 0.05 // of its facets are passed over, as where it meets a wall
	var heights []float64
	for n, label := range m.Labels {
		if label == cavity.Floor {
			heights = append(heights, m.Centroid(n).Z)
		}
	}
	if len(heights) == 0 {
		return math.Inf(-1)
	}
	slices.Sort(heights)
	return heights[int(deepest*float64(len(heights)))]
}

// partOf is the feature of the cavity's part in which a sample has to go: what lies under
// the pulpal floor is a box's, whatever wall is nearest.
func (s *Survey) partOf(n int) uint16 {
	f := s.Feature[n]
	if ofOutline(f) {
		if z := s.Kept.Origin.Z + float64(n/(s.Kept.N[0]*s.Kept.N[1]))*s.Kept.H; z < s.floorAt-s.Kept.H {
			return cavity.GingivalFloor
		}
	}
	return f
}

// byRidge reports a sample of an occlusal cavity that lies by a ridge which stays.
func (s *Survey) byRidge(n int) bool {
	x := s.Kept.Origin.X + float64(n%s.Kept.N[0])*s.Kept.H
	for _, side := range s.ridged {
		if end := s.floorEnds[side]; (side == notation.Mesial && x > end-beforeRidge) || (side == notation.Distal && x < end+beforeRidge) {
			return true
		}
	}
	return false
}

// beforeRidge (mm) is from where on a ridge is approached: a head and a little.
const beforeRidge = 1.0

// endsOfFloor is how far the pulpal floor of a prepared tooth goes to either side, by x.
func endsOfFloor(m *solid.Mesh) [2]float64 {
	ends := [2]float64{notation.Mesial: math.Inf(-1), notation.Distal: math.Inf(1)}
	for n, label := range m.Labels {
		if label == cavity.Floor {
			x := m.Centroid(n).X
			ends[notation.Mesial], ends[notation.Distal] = math.Max(ends[notation.Mesial], x), math.Min(ends[notation.Distal], x)
		}
	}
	return ends
}

// within tells the samples inside a solid.
func (s *Survey) within(of interface{ Distance(p r3.Vec) float64 }) []bool {
	inside := make([]bool, len(s.ToGo))
	for n, d := range solid.Sample(s.Kept.Grid, func(p r3.Vec) float64 { return of.Distance(s.Frame.From(p)) }).Values {
		inside[n] = d < 0
	}
	return inside
}

// sideOf is the side of the tooth's middle on which a sample of an occlusal cavity lies.
func (s *Survey) sideOf(n int) string {
	if s.Kept.Origin.X+float64(n%s.Kept.N[0])*s.Kept.H > 0 {
		return notation.Mesial.String()
	}
	return notation.Distal.String()
}

// A surface faces the adjacent tooth up to closeBeside (mm) from it, and where its normal
// leans no more than mostSlope towards the bur: what faces the bur more is where it enters.
const (
	closeBeside = 1.2
	mostSlope   = 0.5
)

// vertexNormals are unit normals of a mesh at its vertices.
func vertexNormals(m *solid.Mesh) []r3.Vec {
	out := make([]r3.Vec, len(m.Vertices))
	for n, t := range m.Triangles {
		for _, v := range t {
			out[v] = r3.Add(out[v], m.AreaVector(n))
		}
	}
	for n, v := range out {
		if v != (r3.Vec{}) {
			out[n] = r3.Unit(v)
		}
	}
	return out
}

func (s *Survey) besideOf(grid solid.Grid, before, prepared *solid.Workpiece, beside []*solid.Mesh) {
	var points []r3.Vec
	for _, m := range beside {
		points = append(points, cropped(m, grid).Vertices...)
	}
	if len(points) == 0 {
		return
	}
	s.Beside = solid.DistanceToPoints(grid, points)
	uncut := cropped(inFrame(before.Mesh(), s.Frame), grid)
	out := vertexNormals(uncut)
	var skin []r3.Vec
	for n, p := range uncut.Vertices {
		if out[n].Z < mostSlope && s.Beside.Distance(p) < closeBeside && prepared.CutDistance(s.Frame.From(p)) > 0 {
			skin = append(skin, p)
		}
	}
	if len(skin) > 0 {
		s.Skin = solid.DistanceToPoints(grid, skin)
	}
}

// nameTheRest gives what lies nearest to the tooth's own surface, over a cavity that opens
// there and just beside it, the feature of what goes next to it: an instrument may end a
// little off what is drawn.
func (s *Survey) nameTheRest() {
	const past = 3 // samples beside what goes
	g := s.Kept.Grid
	steps := [6]int{1, -1, g.N[0], -g.N[0], g.N[0] * g.N[1], -g.N[0] * g.N[1]}
	var named []int
	beside := map[int]int{} // how many samples from what goes
	for n, f := range s.Feature {
		if f != 0 && s.ToGo[n] > 0 {
			named = append(named, n)
		}
	}
	for len(named) > 0 {
		n := named[0]
		named = named[1:]
		for _, step := range steps {
			m := n + step
			if m < 0 || m >= len(s.Feature) || s.Feature[m] != 0 {
				continue
			}
			if s.ToGo[m] == 0 {
				if beside[n] == past {
					continue
				}
				beside[m] = beside[n] + 1
			}
			s.Feature[m] = s.Feature[n]
			named = append(named, m)
		}
	}
}

// inFrame gives a mesh in a frame, its triangles still turned outwards.
func inFrame(m *solid.Mesh, frame anatomy.Frame) *solid.Mesh {
	own := &solid.Mesh{Vertices: make([]r3.Vec, len(m.Vertices)), Triangles: m.Triangles, Labels: m.Labels}
	for n, v := range m.Vertices {
		own.Vertices[n] = frame.To(v)
	}
	if r3.Dot(r3.Cross(frame.U, frame.V), frame.W) < 0 {
		own.Triangles = make([][3]int32, len(m.Triangles))
		for n, t := range m.Triangles {
			own.Triangles[n] = [3]int32{t[0], t[2], t[1]}
		}
	}
	return own
}

// surveyed is the box about what is cut, up to over the tooth and those beside it.
func surveyed(m *solid.Mesh, beside []*solid.Mesh) solid.Box {
	var cut []r3.Vec
	for n, t := range m.Triangles {
		if m.Labels[n] != 0 {
			cut = append(cut, m.Vertices[t[0]], m.Vertices[t[1]], m.Vertices[t[2]])
		}
	}
	b := solid.Enclosing(cut...)
	b.Min = r3.Sub(b.Min, r3.Vec{X: surveyAside, Y: surveyAside, Z: surveyBelow})
	b.Max = r3.Add(b.Max, r3.Vec{X: surveyAside, Y: surveyAside})
	top := b.Max.Z
	for _, other := range append(beside, m) {
		for _, p := range other.Vertices {
			if p.X > b.Min.X && p.X < b.Max.X && p.Y > b.Min.Y && p.Y < b.Max.Y {
				top = math.Max(top, p.Z)
			}
		}
	}
	b.Max.Z = top + surveyAbove
	return b
}

// cropped keeps the triangles of a mesh that lie in or near a grid.
func cropped(m *solid.Mesh, g solid.Grid) *solid.Mesh {
	const past = 1.0 // mm
	room := g.Room()
	room.Min, room.Max = r3.Sub(room.Min, r3.Vec{X: past, Y: past, Z: past}), r3.Add(room.Max, r3.Vec{X: past, Y: past, Z: past})
	own := &solid.Mesh{}
	at := map[int32]int32{}
	for n, t := range m.Triangles {
		if !room.Contains(m.Vertices[t[0]]) {
			continue
		}
		var corners [3]int32
		for c, v := range t {
			if _, ok := at[v]; !ok {
				at[v] = int32(len(own.Vertices))
				own.Vertices = append(own.Vertices, m.Vertices[v])
			}
			corners[c] = at[v]
		}
		own.Triangles, own.Labels = append(own.Triangles, corners), append(own.Labels, m.Labels[n])
	}
	return own
}

// featureAt is the feature of the drawn surface nearest to a place of the tooth frame.
func (s *Survey) featureAt(p r3.Vec) uint16 {
	g := &s.Kept.Grid
	own := r3.Sub(s.Frame.To(p), g.Origin)
	at := func(v float64, n int) int { return min(max(int(math.Round(v/g.H)), 0), n-1) }
	if f := s.Feature[g.Index(at(own.X, g.N[0]), at(own.Y, g.N[1]), at(own.Z, g.N[2]))]; f != 0 {
		return f
	}
	return cavity.Excavation // off all drawn surfaces
}

// any reports something to go that lies nearest to one of the wanted features.
func (s *Survey) any(wanted func(feature uint16) bool) bool {
	for n, share := range s.ToGo {
		if share > 0 && wanted(s.partOf(n)) {
			return true
		}
	}
	return false
}

// Volume is what shares of cells come to, mm³.
func (s *Survey) Volume(shares []float32) float64 {
	sum := 0.0
	for _, v := range shares {
		sum += float64(v)
	}
	return sum * math.Pow(s.Kept.H, 3)
}

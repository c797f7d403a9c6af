package resist

import (
	"context"
	"errors"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/elastic"
	"obturon/core/solid"
)

// Picture is a slice of a tooth under load, which cannot spread along the tooth: the picture
// of a section. It speaks for a cavity that runs through both ridges; where a ridge stands,
// the ridge carries what the slice cannot show.
type Picture struct {
	// Lines are where the largest principal stress, averaged about each place, passes a
	// level (MPa), in the plane of the section.
	Lines []Level
	// Enamel, Dentin and Pulp are what stands of the section, each with what lies within it.
	Enamel, Dentin, Pulp []solid.Polyline
	Filling              []solid.Polyline // where it bonds
	// Loads are the two inclines'.
	Loads []SliceLoad
	// Corners are the tension (MPa) in dentin a little under the cavity, where it is largest
	// to either side: averaged over a disc, since the largest in any one cell has no end.
	Corners []Corner
	// Opening (µm) is by how much the two sides part.
	Opening float64
}

// Level is one line of the picture.
type Level struct {
	MPa   float64
	Lines []solid.Polyline
}

// SliceLoad is a load on one side of a section: its place, the way it presses (unit vector)
// and how much (N for each mm of tooth).
type SliceLoad struct {
	At, Along solid.Point2
	NewtonsMM float64
	// Tip is the place on that side that stands highest.
	Tip solid.Point2
}

// Corner is a place of the dentin under a cavity with its tension.
type Corner struct {
	At  solid.Point2
	MPa float64
}

// Levels (MPa) that are drawn.
var Levels = []float64{2, 5, 10, 20}

// OnASlice is what each incline of a section bears of a bite, N for each mm.
func OnASlice(b Bite) float64 { return b.Newtons / b.Bearing }

// slice is a section's cells.
type slice struct {
	plane    solid.Plane
	side     float64
	low      solid.Point2
	nx, ny   int
	sound    []float64
	left     []float64
	body     *elastic.Body
	dentin   []bool
	distance func(r3.Vec) float64 // of the cut tooth
	// mm of each cell's middle to what stands, its dentin, its pulp, and to what is cut away
	tissues [4][]float64
	filled  bool
	middleX float64 // of the occlusal table
}

// ErrBeside is of sections that miss the root: nothing there is held.
var ErrBeside = errors.New("the section passes beside the root: nothing there is held")

// Slice loads the section of a tooth in a plane, whose Y is up; filling is the modulus (MPa)
// of what bonds in the cavity, 0 for an empty one. Errors: ErrNoCusps where no two sides
// stand, ErrBeside, figures that cannot be, and the context's.
func Slice(
	ctx context.Context,
	m *anatomy.Model,
	cut *solid.Workpiece,
	plane solid.Plane,
	bite Bite,
	stiffness Stiffness,
	filling, side float64,
) (Picture, error) {
	if err := errors.Join(bite.Check(), stiffness.Check()); err != nil {
		return Picture{}, err
	}
	s := newSlice(m, cut, plane, stiffness, filling, side)
	if !s.stand() {
		return Picture{}, ErrBeside
	}
	var p Picture
	for _, way := range []float64{1, -1} {
		l, ok := s.load(m, way, bite)
		if !ok {
			return Picture{}, ErrNoCusps
		}
		p.Loads = append(p.Loads, l)
	}
	system, err := elastic.Prepare(s.body)
	if err != nil {
		return Picture{}, err
	}
	const reach = 0.3 // mm over which a load is spread
	loads := map[elastic.Node]r3.Vec{}
	for _, l := range p.Loads {
		for _, n := range s.about(system, l.At, reach) {
			loads[n.node] = r3.Add(loads[n.node], r3.Vec{X: n.w * l.NewtonsMM * l.Along.X, Y: n.w * l.NewtonsMM * l.Along.Y})
		}
	}
	d, err := system.Solve(ctx, loads, tolerance)
	if err != nil {
		return Picture{}, err
	}
	for n, l := range p.Loads {
		moved := 0.0
		for _, n := range s.about(system, solid.Point2{X: l.Tip.X, Y: l.Tip.Y - 1.2}, 1) {
			moved += n.w * d.At(n.node).X
		}
		p.Opening += 1000 * moved * []float64{1, -1}[n]
	}
	s.picture(&p, d)
	return p, nil
}

func newSlice(m *anatomy.Model, cut *solid.Workpiece, plane solid.Plane, stiffness Stiffness, filling, side float64) *slice {
	reach := 0.6*m.Sizes.Buccolingual + 2
	top := 0.0
	for _, c := range m.CuspTips {
		top = math.Max(top, plane.Project(c.At).Y+0.5)
	}
	low := plane.Project(r3.Add(plane.Origin, r3.Vec{Z: heldAt - plane.Origin.Z})).Y
	s := &slice{
		plane:    plane,
		side:     side,
		low:      solid.Point2{X: -side * math.Ceil(reach/side), Y: low},
		distance: cut.Distance,
		filled:   filling > 0,
		middleX:  plane.Project(m.Table.Origin).X,
	}
	s.nx, s.ny = 2*int(math.Ceil(reach/side)), int(math.Ceil((top-low)/side))
	body := &elastic.Body{
		Cells:   [3]int{s.nx, s.ny, 0},
		Side:    side,
		Poisson: stiffness.Poisson,
		Modulus: make([]float64, s.nx*s.ny),
		Held:    map[elastic.Node][3]bool{},
	}
	s.sound, s.left, s.dentin = make([]float64, s.nx*s.ny), make([]float64, s.nx*s.ny), make([]bool, s.nx*s.ny)
	dentin, pulp := m.Dentin(), m.Pulp()
	for n := range s.tissues {
		s.tissues[n] = make([]float64, s.nx*s.ny)
	}
	for n := range body.Modulus {
		at := s.at(s.middle(n))
		toCut, toDentin, toPulp := cut.Distance(at), dentin.Distance(at), pulp.Distance(at)
		s.sound[n] = shareInside(m.Surface.Distance(at), side)
		s.left[n] = math.Min(s.sound[n], shareInside(toCut, side))
		tissue := stiffness.Enamel
		switch {
		case toPulp < 0:
			tissue = stiffness.Pulp
		case toDentin < 0:
			tissue, s.dentin[n] = stiffness.Dentin, true
		}
		s.tissues[0][n], s.tissues[1][n], s.tissues[2][n] = toCut, math.Max(toCut, toDentin), math.Max(toCut, toPulp)
		s.tissues[3][n] = math.Max(m.Surface.Distance(at), -toCut)
		filled := 0.0
		if filling > 0 {
			filled = s.sound[n] - s.left[n]
		}
		body.Modulus[n] = ofCell(tissue, s.left[n], filling, filled)
	}
	s.body = body
	return s
}

// stand holds the slice at its lowest row: where it passes between roots, that is the roof
// over them. ok is false beside the tooth.
func (s *slice) stand() (ok bool) {
	for n := range s.sound {
		if s.sound[n] < 0.5 {
			continue
		}
		row := n / s.nx
		for i := range s.nx + 1 {
			s.body.Held[elastic.Node{i, row, 0}] = [3]bool{true, true, true}
		}
		return s.at(s.middle(n)).Z < 0
	}
	return false
}

func (s *slice) middle(n int) solid.Point2 {
	return solid.Point2{X: s.low.X + s.side*(float64(n%s.nx)+0.5), Y: s.low.Y + s.side*(float64(n/s.nx)+0.5)}
}

func (s *slice) at(p solid.Point2) r3.Vec { return s.plane.At(p.X, p.Y) }

// load is that on one side: on the incline that looks to the middle, so far from the place
// that stands highest, or nearer to it where the cavity has taken that. A flat antagonist
// meets the highest place itself. Contacts lie beside most sections: one is loaded on its
// inclines.
func (s *slice) load(m *anatomy.Model, way float64, bite Bite) (SliceLoad, bool) {
	const step = 0.05
	const above, deep = 1.0, 6.0 // mm over the section's top, and how far down is looked
	top := s.low.Y + s.side*float64(s.ny)
	// The surface over a place of the section; of the sound tooth, or of the cut one.
	over := func(distance func(r3.Vec) float64, x float64) (float64, bool) {
		from := s.plane.At(x, top+above)
		t, ok := solid.RootAlong(distance, from, r3.Scale(-1, s.plane.V), 0, above+deep, 0.1)
		return top + above - t, ok
	}
	tip, found := solid.Point2{Y: math.Inf(-1)}, false
	for x := 0.5; x < -s.low.X; x += step {
		if y, ok := over(m.Surface.Distance, way*x); ok && y > tip.Y {
			tip, found = solid.Point2{X: way * x, Y: y}, true
		}
	}
	if !found {
		return SliceLoad{}, false
	}
	down := bite.DownTheIncline
	if bite.Place == Plane {
		down = 0
	}
	for ; down > -step/2; down -= step {
		x := tip.X - way*math.Max(down, 0)
		sound, ok := over(m.Surface.Distance, x)
		cut, stands := over(s.distance, x)
		if !ok || !stands || sound-cut > step {
			continue
		}
		before, first := over(m.Surface.Distance, x-step)
		after, second := over(m.Surface.Distance, x+step)
		if !first || !second {
			continue
		}
		slope := (after - before) / (2 * step)
		if bite.Place == Plane {
			slope = 0
		}
		length := math.Hypot(slope, 1)
		along := slanted(r3.Vec{Y: slope / length, Z: -1 / length}, way*bite.Slant)
		return SliceLoad{
			At: solid.Point2{X: x, Y: sound}, Along: solid.Point2{X: along.Y, Y: along.Z},
			NewtonsMM: OnASlice(bite) * length, Tip: tip,
		}, true
	}
	return SliceLoad{}, false
}

// about weighs the nodes near a place, as lattice.about does in space.
func (s *slice) about(system *elastic.System, at solid.Point2, reach float64) []weighted {
	var found []weighted
	for j := range s.ny + 1 {
		for i := range s.nx + 1 {
			n := elastic.Node{i, j, 0}
			d := math.Hypot(s.low.X+s.side*float64(i)-at.X, s.low.Y+s.side*float64(j)-at.Y) / reach
			if d < 1 && system.Has(n) {
				found = append(found, weighted{n, (1 - d*d) * (1 - d*d)})
			}
		}
	}
	return evenly(found)
}

// picture draws the lines of tension and finds where dentin under the cavity is strained
// most.
func (s *slice) picture(p *Picture, d *elastic.Displacements) {
	const disc = 0.15 // mm of radius over which stress is averaged
	raw := make([]float64, s.nx*s.ny)
	stands := make([]bool, len(raw))
	for n := range raw {
		if stress, ok := d.StressIn(n%s.nx, n/s.nx, 0); ok && s.body.Modulus[n] > 0 {
			raw[n], stands[n] = stress.Tension(), true
		}
	}
	cells := int(math.Ceil(disc / s.side))
	means := make([]float64, len(raw))
	mean := func(n int) float64 {
		sum, count := 0.0, 0.0
		for j := -cells; j <= cells; j++ {
			for i := -cells; i <= cells; i++ {
				x, y := n%s.nx+i, n/s.nx+j
				if x < 0 || y < 0 || x >= s.nx || y >= s.ny || math.Hypot(float64(i), float64(j))*s.side > disc {
					continue
				}
				if k := y*s.nx + x; stands[k] {
					sum, count = sum+raw[k], count+1
				}
			}
		}
		return sum / math.Max(count, 1)
	}
	best := [2]Corner{}
	for n := range raw {
		if stands[n] {
			means[n] = mean(n)
		}
		v, at := means[n], s.middle(n)
		// A fifth of a millimetre within the dentin, off the cut.
		const inside, band = 0.2, 0.1
		gap := -s.distance(s.at(at))
		lost := s.left[n] < 1 || s.sound[n] < 1
		if lost || !s.dentin[n] || gap < inside || gap > inside+band || !s.underCut(at) {
			continue
		}
		side := 0
		if at.X < s.middleX {
			side = 1
		}
		if v > best[side].MPa {
			best[side] = Corner{at, v}
		}
	}
	for _, c := range best {
		if c.MPa > 0 {
			p.Corners = append(p.Corners, c)
		}
	}
	p.Enamel, p.Dentin, p.Pulp = s.sheet(s.tissues[0]).Contours(0), s.sheet(s.tissues[1]).Contours(0), s.sheet(s.tissues[2]).Contours(0)
	if s.filled {
		p.Filling = s.sheet(s.tissues[3]).Contours(0)
	}
	sheet := s.sheet(means)
	for _, mpa := range Levels {
		lines := slices.DeleteFunc(sheet.Contours(mpa), func(l solid.Polyline) bool { return len(l.Points) < 4 })
		p.Lines = append(p.Lines, Level{mpa, lines})
	}
}

// sheet lays values of the cells out over the section.
func (s *slice) sheet(values []float64) *solid.Sheet {
	sheet := solid.NewSheet(s.low.X+s.side/2, s.low.Y+s.side/2, s.low.X+s.side*(float64(s.nx)-0.5), s.low.Y+s.side*(float64(s.ny)-0.5), s.side)
	for n, v := range values {
		if i, j := n%s.nx, n/s.nx; i < sheet.NX && j < sheet.NY {
			sheet.Values[j*sheet.NX+i] = float32(v)
		}
	}
	return sheet
}

// underCut reports a place with the cut near it, straight up, down or beside: one near the
// outer surface alone has none.
func (s *slice) underCut(at solid.Point2) bool {
	n := int((at.X-s.low.X)/s.side) + s.nx*int((at.Y-s.low.Y)/s.side)
	const near = 0.35 // mm
	for step := 1; step <= int(math.Ceil(near/s.side)); step++ {
		for _, by := range []int{step, -step, step * s.nx, -step * s.nx} {
			if k := n + by; k >= 0 && k < len(s.left) && s.sound[k] == 1 && s.left[k] < 0.5 {
				return true
			}
		}
	}
	return false
}

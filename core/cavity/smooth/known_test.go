package smooth

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/solid"
)

// block is a block whose top is flat at z 0, with so much enamel under it, turned
// off no grid: closed forms hold on it.
func block(t *testing.T, enamel float64) *anatomy.Model {
	t.Helper()
	const half, deep = 4.5, 4.0 // mm
	around := solid.Box{Min: r3.Vec{X: -5.2, Y: -5.2, Z: -4.6}, Max: r3.Vec{X: 5.2, Y: 5.2, Z: 0.9}}
	surface := solid.NewBlank(solid.NewGrid(around, 0.08), func(p r3.Vec) float64 {
		return max(math.Abs(p.X)-half, math.Abs(p.Y)-half, p.Z, -deep-p.Z)
	})
	dentin := solid.Sample(solid.NewGrid(around, 0.2), func(p r3.Vec) float64 { return p.Z + enamel })
	pulp := solid.Sample(solid.NewGrid(around, 0.4), func(p r3.Vec) float64 { return p.Z + 3.8 })
	return anatomy.FromFields(notation.MustParse("46"), topOf(r3.Vec{}), surface, dentin, pulp)
}

func topOf(at r3.Vec) anatomy.Frame {
	return anatomy.Frame{Origin: at, U: r3.Vec{X: 1}, V: r3.Vec{Y: 1}, W: r3.Vec{Z: 1}}
}

func cavityOn(m *anatomy.Model, b body, bounds solid.Box, zones ...cavity.Zone) *Solid {
	c := &Solid{surface: m.Surface, outer: m.OuterSurface(), dentin: m.Dentin(), Frame: topOf(r3.Vec{}), body: b, bounds: bounds}
	if len(zones) > 0 {
		c.bevel = cavity.NewBevel(m, zones...)
	}
	return c
}

func cutInto(m *anatomy.Model, c *Solid) *measure.Prepared {
	return measure.NewPrepared(m, m.Surface.Uncut().Carve(c))
}

func everywhere(_, _ r3.Vec) float64 { return 1 }

func within(t *testing.T, what string, got, want, share float64) {
	t.Helper()
	if math.Abs(got-want) > share*math.Abs(want) {
		t.Errorf("%s is %.3f, want %.3f within %.0f %%", what, got, want, 100*share)
	}
}

func circle(radius float64) solid.Polyline {
	line := solid.Polyline{Closed: true}
	for n := range 96 {
		sin, cos := math.Sincos(2 * math.Pi * float64(n) / 96)
		line.Points = append(line.Points, solid.Point2{X: radius * cos, Y: radius * sin})
	}
	return line
}

// A box 3 by 2 by 1.5, open to the side: its axial corners have the bur's radius.
func TestABoxOfTheStartingFormHasItsVolume(t *testing.T) {
	m := block(t, 3)
	const height, width, depth, side = 3.0, 2.0, 1.5, 4.5
	frame := topOf(r3.Vec{X: side})
	b := &proximalBox{frame: frame, low: -height / 2, top: height / 2, axial: -width, floor: -depth, radius: 0.02, end: cavity.FacialWall}
	c := cavityOn(m, b, b.bounds())
	p := cutInto(m, c)
	corners := 2 * (1 - math.Pi/4) * burRadius * burRadius * depth
	within(t, "the box's volume", m.Surface.Volume()-p.Mesh.Volume(), height*width*depth-corners, 0.005)
	gauge := p.On(frame)
	for _, reading := range []struct {
		name string
		take func() (measure.Reading, bool)
		want float64
	}{{"height", gauge.Extent, height}, {"width", gauge.Reach, width}, {"depth", gauge.Sunk, depth}} {
		if r, ok := reading.take(); !ok || math.Abs(r.Value-reading.want) > 0.02 {
			t.Errorf("its %s reads %.3f, %v, want %.2f", reading.name, r.Value, ok, reading.want)
		}
	}
	if !p.Mesh.Closed() {
		t.Error("the cut block is not closed")
	}
}

// halfSpace cuts everything past x 0, down to a floor: its margin is straight.
type halfSpace struct{ deep float64 }

func (h halfSpace) distance(at *cavity.Place) float64 { return max(-at.P.X, -h.deep-at.P.Z) }
func (h halfSpace) walls(at *cavity.Place) float64    { return -at.P.X }
func (h halfSpace) Over(foot, _ r3.Vec) float64       { return max(-foot.X, -h.deep-foot.Z) }
func (h halfSpace) feature(*cavity.Place) uint16      { return cavity.FractureSurface }
func (h halfSpace) toPulp(pulp *solid.Dense) float64  { return pulp.Distance(r3.Vec{Z: -h.deep}) }
func (h halfSpace) bounds() solid.Box {
	return solid.Box{Min: r3.Vec{X: -4, Y: -5, Z: -3}, Max: r3.Vec{X: 5, Y: 5, Z: 0.8}}
}

func areaOf(p *measure.Prepared, of func(label uint16) bool, here func(at, normal r3.Vec) bool) float64 {
	sum := 0.0
	for n, label := range p.Mesh.Labels {
		if of(label) && here(p.Mesh.Centroid(n), p.Mesh.Normal(n)) {
			sum += p.Mesh.Area(n)
		}
	}
	return sum
}

// Along a straight margin of length L a bevel w on the surface at an angle a has
// a face of L w / cos a, and gains L w (1/cos a - tan a) over the wall it takes.
func TestABevelAlongAStraightMarginHasItsArea(t *testing.T) {
	const length, deep = 6.0, 2.0            // mm of the margin's middle part, and of the wall
	middle := func(at, normal r3.Vec) bool { // wall and bevel, and not the floor
		return math.Abs(at.Y) < length/2 && at.X < 1 && normal.X > 0.4
	}
	cut := func(label uint16) bool { return label != 0 }
	bevelled := func(label uint16) bool { return label&cavity.BevelFlag != 0 }
	for _, c := range []struct{ width, angle float64 }{{0.5, 45}, {1.0, 30}, {1.0, 45}, {0.7, 60}} {
		m := block(t, 3)
		body := halfSpace{deep}
		plain := cutInto(m, cavityOn(m, body, body.bounds()))
		p := cutInto(m, cavityOn(m, body, body.bounds(), cavity.Chamfer(c.width, c.angle, everywhere)))
		sin, cos := math.Sincos(c.angle * math.Pi / 180)
		onSurface := c.width * cos
		face := areaOf(p, bevelled, middle)
		within(t, "the bevel's face", face, length*onSurface/cos, 0.02)
		gain := length * onSurface * (1/cos - sin/cos)
		within(t, "all that is bonded", areaOf(p, cut, middle), areaOf(plain, cut, middle)+gain, 0.01)
		b, ok := p.FinishedMargin(func(at, _ r3.Vec) bool { return math.Abs(at.Y) < length/2 && at.X < 1 })
		if !ok || math.Abs(b.Width.Value-c.width) > 0.05 || math.Abs(b.Angle.Value-c.angle) > 2 {
			t.Errorf("width %v at %v reads %.3f and %.1f", c.width, c.angle, b.Width.Value, b.Angle.Value)
		}
	}
}

// Round a closed convex margin of length L the surface is (L w + pi w²) / cos a.
func TestABevelRoundAPitHasItsArea(t *testing.T) {
	m := block(t, 3)
	const radius, onSurface = 2.0, 0.7
	k := newPocket(m.OuterSurface(), topOf(r3.Vec{}), circle(radius), 2)
	k.depth, k.radius, k.biting = 1.5, 0.1, cavity.OcclusalWall
	bounds := k.bounds()
	grow := r3.Vec{X: 1.2, Y: 1.2, Z: 0.2}
	bounds = solid.Box{Min: r3.Sub(bounds.Min, grow), Max: r3.Add(bounds.Max, grow)}
	p := cutInto(m, cavityOn(m, k, bounds, cavity.Chamfer(onSurface*math.Sqrt2, 45, everywhere)))
	area := areaOf(p, func(label uint16) bool { return label&cavity.BevelFlag != 0 }, func(_, _ r3.Vec) bool { return true })
	within(t, "the bevel's face", area, 14.617, 0.02)
	if r, ok := p.On(topOf(r3.Vec{})).Depth(); !ok || math.Abs(r.Value-1.5) > 0.02 {
		t.Errorf("the floor reads %.3f deep, %v", r.Value, ok)
	}
	if r, ok := p.On(topOf(r3.Vec{})).Evenness(); !ok || r.Value > 0.02 {
		t.Errorf("a flat floor is uneven by %.3f, %v", r.Value, ok)
	}
}

// A feather is as deep as its form says where it starts, and nothing where it ends.
func TestAFeatherThinsOutToNothing(t *testing.T) {
	m := block(t, 3)
	const width = 2.5
	body := halfSpace{2}
	p := cutInto(m, cavityOn(m, body, body.bounds(), cavity.Feather(width, everywhere)))
	b, ok := p.FinishedMargin(func(at, _ r3.Vec) bool { return math.Abs(at.Y) < 3 && at.X < 1 })
	if !ok || b.Edge.Value > 0.02 {
		t.Errorf("the edge is %.3f thick, %v", b.Edge.Value, ok)
	}
	if math.Abs(b.Width.Value-width) > 0.12 {
		t.Errorf("it is %.3f wide, want %.1f", b.Width.Value, width)
	}
	for _, aside := range []float64{0.3, 1.0, 1.8} {
		left := 1 - aside/width
		want := cavity.FeatherDepth * left * (cavity.EdgeShare + (1-cavity.EdgeShare)*left)
		top, hit := solid.RootAlong(p.Workpiece.Distance, r3.Vec{X: -aside, Z: 0.5}, r3.Vec{Z: -1}, 0, 2, 0.05)
		if got := top - 0.5; !hit || math.Abs(got-want) > 0.01 {
			t.Errorf("%v mm aside it is %.3f deep, want %.3f", aside, got, want)
		}
	}
}

func TestABevelStaysInEnamel(t *testing.T) {
	const thin = 0.4 // mm of enamel
	m := block(t, thin)
	body := halfSpace{2}
	p := cutInto(m, cavityOn(m, body, body.bounds(), cavity.Chamfer(1.6, 45, everywhere)))
	for n, label := range p.Mesh.Labels {
		if at := p.Mesh.Centroid(n); label&cavity.BevelFlag != 0 && math.Abs(at.Y) < 3 && at.Z < -thin+cavity.EnamelUnderBevel-0.02 {
			t.Fatalf("the bevel reaches %.2f mm deep under %.1f mm of enamel", -at.Z, thin)
		}
	}
}

func TestGroovesReachIntoTheirWalls(t *testing.T) {
	m := block(t, 3)
	line := band(4, func(float64) float64 { return -1 }, func(float64) float64 { return 1 }, 6)
	for _, deep := range []float64{0.2, 0.25, 0.35} {
		k := newPocket(m.OuterSurface(), topOf(r3.Vec{}), line, 1)
		k.depth, k.radius, k.biting = 1.3, 0.1, cavity.OcclusalWall
		c := cavityOn(m, k, k.bounds())
		c.grooves = k.lineAngleGrooves(Design{Width: 4, GrooveDepth: deep})
		if r, ok := cutInto(m, c).On(topOf(r3.Vec{})).GrooveDepth(); !ok || math.Abs(r.Value-deep) > 0.04 {
			t.Errorf("grooves of %.2f read %.3f, %v", deep, r.Value, ok)
		}
	}
}

// A round pit in a surface of the block, with every figure known.
func pitIn(t *testing.T, m *anatomy.Model, at, out r3.Vec, radius, depth, open float64) (*measure.Prepared, anatomy.Frame) {
	t.Helper()
	frame := m.FrameAt(at)
	if r3.Dot(frame.W, out) < 0.999 {
		t.Fatalf("the surface looks to %v", frame.W)
	}
	k := newPocket(m.OuterSurface(), frame, circle(radius), 1)
	k.depth, k.radius, k.open, k.biting = depth, 0.05, math.Tan(open*math.Pi/180), cavity.OcclusalWall
	c := cavityOn(m, k, k.bounds())
	c.Frame = frame
	return cutInto(m, c), frame
}

func TestWhatIsBondedIsSplitByTissue(t *testing.T) {
	const enamel, radius, depth = 0.8, 1.2, 1.3
	m := block(t, enamel)
	p, frame := pitIn(t, m, r3.Vec{}, r3.Vec{Z: 1}, radius, depth, 0)
	bonded := p.Bonded()
	within(t, "enamel bonded", bonded.Enamel, 2*math.Pi*radius*enamel, 0.03)
	within(t, "dentin bonded", bonded.Dentin, 2*math.Pi*radius*(depth-enamel)+math.Pi*radius*radius, 0.03)
	if r, ok := p.On(frame).IntoDentin(); !ok || math.Abs(r.Value-(depth-enamel)) > 0.03 {
		t.Errorf("the floor reads %.3f into dentin, %v", r.Value, ok)
	}
}

func TestWallsThatOpenAreMeasuredSo(t *testing.T) {
	m := block(t, 3)
	for _, open := range []float64{0, 6, 14} {
		p, frame := pitIn(t, m, r3.Vec{}, r3.Vec{Z: 1}, 1.6, 1.4, open)
		if r, ok := p.On(frame).WallOpening(); !ok || math.Abs(r.Value-open) > 1 {
			t.Errorf("walls that open %v degrees read %.2f, %v", open, r.Value, ok)
		}
	}
}

// Of a margin on the front all shows, of one on another surface nothing.
func TestTheMarginThatShowsFromTheFront(t *testing.T) {
	m := block(t, 3)
	const radius = 1.0
	for name, c := range map[string]struct {
		at, out r3.Vec
		shows   bool
	}{
		"front": {r3.Vec{Y: 4.5, Z: -2}, r3.Vec{Y: 1}, true},
		"back":  {r3.Vec{Y: -4.5, Z: -2}, r3.Vec{Y: -1}, false},
		"side":  {r3.Vec{X: 4.5, Z: -2}, r3.Vec{X: 1}, false},
	} {
		p, _ := pitIn(t, m, c.at, c.out, radius, 0.8, 0)
		length, seen := p.MarginSeen()
		within(t, "the margin on the "+name, length, 2*math.Pi*radius, 0.04)
		want := 0.0
		if c.shows {
			want = length
		}
		if math.Abs(seen-want) > 0.02*length {
			t.Errorf("%s: %.2f of %.2f mm show", name, seen, length)
		}
	}
}

func TestTheGingivalMarginAgainstTheGingiva(t *testing.T) {
	m := block(t, 3)
	const middle, radius = -2.0, 1.0
	p, frame := pitIn(t, m, r3.Vec{Y: 4.5, Z: middle}, r3.Vec{Y: 1}, radius, 0.8, 0)
	for _, level := range []float64{-3.4, -3, -2.5} {
		line := []r3.Vec{}
		for x := -4.0; x <= 4; x += 0.1 {
			line = append(line, r3.Vec{X: x, Y: 4.5, Z: level})
		}
		if r, ok := p.On(frame).OverGingiva(line); !ok || math.Abs(r.Value-(middle-radius-level)) > 0.03 {
			t.Errorf("gingiva at %.1f: the margin reads %.3f over it, %v", level, r.Value, ok)
		}
	}
}

func TestWhatIsLeftOfAContact(t *testing.T) {
	m := block(t, 3)
	p, _ := pitIn(t, m, r3.Vec{X: 4.5, Z: -2}, r3.Vec{X: 1}, 1.0, 0.8, 0)
	for _, c := range []struct{ z, size, left float64 }{{-2, 1.2, 0}, {-2, 4, 0.75}, {-0.6, 0.6, 1}} {
		contact := anatomy.Contact{At: r3.Vec{X: 4.5, Z: c.z}, Normal: r3.Vec{X: 1}, Height: c.size, Width: c.size}
		if got := p.On(topOf(r3.Vec{})).ContactLeft(contact); math.Abs(got-c.left) > 0.08 {
			t.Errorf("of a contact %.1f wide at %.1f %.2f is left, want %.2f", c.size, c.z, got, c.left)
		}
	}
}

// A floor with wide round edges is hollow by what the rounding leaves at its edges, or a
// little more as walls come together under a surface; a flat one is not.
func TestASaucersHollowIsThatOfItsRounding(t *testing.T) {
	m := block(t, 3)
	const radius, depth, share = 1.6, 1.0, 0.75
	for _, rounding := range []float64{0.05, depth} {
		k := newPocket(m.OuterSurface(), topOf(r3.Vec{}), circle(radius), 2)
		k.depth, k.radius, k.biting = depth, rounding, cavity.OcclusalWall
		p := cutInto(m, cavityOn(m, k, k.bounds()))
		least, most := -0.02, 0.02
		if in := (1 - share) * radius; in < rounding {
			least = rounding - math.Sqrt(rounding*rounding-(rounding-in)*(rounding-in))
			most = least + 0.1
		}
		if r, ok := p.On(topOf(r3.Vec{})).Hollow(); !ok || r.Value < least || r.Value > most {
			t.Errorf("rounded by %.2f it is hollow by %.3f, want %.3f to %.3f, %v", rounding, r.Value, least, most, ok)
		}
	}
}

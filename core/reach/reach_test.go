package reach

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/instrument"
	"obturon/core/solid"
)

// pocket is a block with a rectangular hole from its top (z = 0) down: the field outside
// it, exact, and what has to go.
type pocket struct{ long, wide, deep float64 }

// free is the distance (mm) to the pocket's walls and floor, positive in the pocket and
// over the block.
func (c pocket) free(p r3.Vec) float64 {
	x, y := c.long/2-math.Abs(p.X), c.wide/2-math.Abs(p.Y)
	if p.Z <= 0 && math.Min(x, y) >= 0 { // within
		return math.Min(math.Min(x, y), p.Z+c.deep)
	}
	if p.Z > 0 { // over it: the edge, or the block's top
		if math.Min(x, y) < 0 {
			return p.Z
		}
		return math.Hypot(math.Min(x, y), p.Z)
	}
	return math.Max(math.Max(math.Min(x, y), -1), p.Z) // in the block
}

func (c pocket) grid(h float64) solid.Grid {
	const aside = 1.6
	return solid.NewGrid(solid.Box{
		Min: r3.Vec{X: -3.7, Y: -3.2, Z: -3},
		Max: r3.Vec{X: c.long/2 + aside, Y: c.wide/2 + aside, Z: 0.4},
	}, h)
}

// left is what a bur leaves of the pocket standing, mm³.
func (c pocket) left(bur *instrument.Head, h float64) float64 {
	g := c.grid(h)
	obstacles := solid.Sample(g, c.free)
	stands := Where(obstacles, bur, r3.Vec{Z: 1}, 0, obstacles.Room())
	toGo := func(n int) float64 {
		if g.Point(0, 0, n/(g.N[0]*g.N[1])).Z > h/4 {
			return 0
		}
		return 1 - solid.Occupied(float64(obstacles.Values[n]), h)
	}
	beyond := stands.Beyond(func(n int) bool { return toGo(n) > 0 })
	sum := 0.0
	for n := range beyond {
		sum += math.Max(toGo(n)-solid.Occupied(float64(beyond[n]), h), 0)
	}
	return sum * h * h * h
}

// What a head cannot reach of a rectangular pocket follows from its shape: a round one
// leaves every edge rounded, a square end only the upright ones.
func TestWhatAHeadLeavesOfAPocket(t *testing.T) {
	c := pocket{long: 4.03, wide: 3.07, deep: 2.04}
	// Fields on a lattice tell a face to a hundredth of a millimetre.
	faces := c.long*c.wide + 2*(c.long+c.wide)*c.deep                  // mm²
	edge := func(r float64) float64 { return (1 - math.Pi/4) * r * r } // mm² of an edge that a radius leaves
	round := func(r float64) float64 {
		return 4*edge(r)*(c.deep-r) + 2*(c.long+c.wide-4*r)*edge(r) + 4*(1-math.Pi/6)*r*r*r
	}
	for _, b := range []struct {
		name string
		head instrument.Head
		want float64
	}{
		{"round 1.4", instrument.Head{Shape: instrument.Round, Diameter: 1.4, Length: 1.4}, round(0.7)},
		{"round 1.0", instrument.Head{Shape: instrument.Round, Diameter: 1, Length: 1}, round(0.5)},
		{"straight 1.0", instrument.Head{Shape: instrument.Straight, Diameter: 1, Length: 4}, 4 * edge(0.5) * c.deep},
	} {
		got := c.left(&b.head, 0.1)
		if math.Abs(got-b.want) > 0.05*b.want+0.008*faces {
			t.Errorf("%s leaves %.3f mm³, want %.3f", b.name, got, b.want)
		}
	}
}

// A bur gets only where it can be brought: not into a room whose opening is too narrow.
func TestABurCannotBeBroughtThroughANarrowOpening(t *testing.T) {
	room, throat := pocket{long: 3, wide: 3, deep: 3}, pocket{long: 1.2, wide: 3, deep: 1}
	open := func(p r3.Vec) float64 { // a room from 1 to 3 deep under a slit of 1.2
		below := math.Min(room.free(p), -1-p.Z)
		return math.Max(below, math.Min(throat.free(r3.Vec{X: p.X, Y: p.Y, Z: math.Max(p.Z, -0.5)}), 10))
	}
	obstacles := solid.Sample(room.grid(0.1), open)
	inRoom := func(s *Stands) (n int) {
		for at, allowed := range s.Allowed {
			if allowed && s.Point(0, 0, at/(s.N[0]*s.N[1])).Z < -2 {
				n++
			}
		}
		return n
	}
	slim, thick := instrument.MustFind(instrument.Pear).Head, instrument.MustFind(instrument.LargeRound).Head
	if inRoom(Where(obstacles, slim, r3.Vec{Z: 1}, 0.02, obstacles.Room())) == 0 {
		t.Error("the 330 does not get through a slit of 1.2")
	}
	if n := inRoom(Where(obstacles, thick, r3.Vec{Z: 1}, 0.02, obstacles.Room())); n > 0 {
		t.Errorf("the 1.4 round is said to get through a slit of 1.2: %d places", n)
	}
}

// The ways, cut with the head's own profile, make the pocket: nothing is cut outside it
// by more than allowed, and what stays is what the head cannot reach.
func TestWaysCutThePocket(t *testing.T) {
	c := pocket{long: 4.03, wide: 3.07, deep: 2.04}
	const h, overcut = 0.1, 0.0
	g := c.grid(h)
	obstacles := solid.Sample(g, c.free)
	head := &instrument.Head{Shape: instrument.Straight, Diameter: 1, Length: 4}
	stands := Where(obstacles, head, r3.Vec{Z: 1}, overcut, obstacles.Room())
	ways := stands.Ways(stands.Useful(func(n int) bool {
		return obstacles.Values[n] > 0 && g.Point(0, 0, n/(g.N[0]*g.N[1])).Z <= 0
	}))
	var motions []*solid.Motion
	for _, w := range ways {
		for n := range w {
			at := func(p r3.Vec) solid.Pose { return solid.Pose{Tip: p, Axis: r3.Vec{Z: 1}} }
			motions = append(motions, solid.NewMotion(head.Solid(), 1, at(w[max(n-1, 0)]), at(w[n])))
		}
	}
	cut := func(p r3.Vec) bool {
		for _, m := range motions {
			if m.Distance(p) < 0 {
				return true
			}
		}
		return false
	}
	standing, over := 0.0, 0.0
	const fine = 0.05
	for x := -2.277; x < 2.3; x += fine {
		for y := -1.777; y < 1.8; y += fine {
			for z := -2.277; z < 0; z += fine {
				p := r3.Vec{X: x, Y: y, Z: z}
				switch free := c.free(p); {
				case free > FillingTolerance && !cut(p):
					standing += fine * fine * fine
				case free < -2*FillingTolerance && cut(p):
					over += fine * fine * fine
				}
			}
		}
	}
	if want := 4 * (1 - math.Pi/4) * 0.25 * c.deep; math.Abs(standing-want) > 0.3*want {
		t.Errorf("%.3f mm³ stand, want %.3f", standing, want)
	}
	if over > 0.01 {
		t.Errorf("%.3f mm³ are cut more than %.2f mm outside", over, 2*FillingTolerance)
	}
}

func TestThinnedKeepsToTheLine(t *testing.T) {
	var round Way
	for n := range 101 {
		sin, cos := math.Sincos(float64(n) / 100 * math.Pi)
		round = append(round, r3.Vec{X: cos, Y: sin})
	}
	thin := round.Thinned(0.01)
	if len(thin) > 17 || len(thin) < 8 || math.Abs(thin.Length()-math.Pi) > 0.02 {
		t.Errorf("%d places, %.3f long", len(thin), thin.Length())
	}
}

// Where a head fits by its balls it fits by its own surface, but for what the balls miss,
// upright and leaning.
func TestStandsAreThoseOfTheExactProfile(t *testing.T) {
	c := pocket{long: 4.03, wide: 3.07, deep: 2.04}
	obstacles := solid.Sample(c.grid(0.1), c.free)
	for _, id := range []instrument.ID{instrument.Pear, instrument.LongPear, instrument.StraightBur, instrument.FineFlame} {
		head := instrument.MustFind(id).Head
		for _, axis := range []r3.Vec{{Z: 1}, r3.Unit(r3.Vec{X: 0.3, Z: 1})} {
			s := Where(obstacles, head, axis, 0, obstacles.Room())
			e1, e2 := solid.Across(axis)
			wrong := 0
			for n := 0; n < s.Len(); n += 97 {
				tip := s.Point(n%s.N[0], n/s.N[0]%s.N[1], n/(s.N[0]*s.N[1]))
				enters := math.Inf(-1)
				for _, p := range head.Profile() {
					for turn := 0.0; turn < 2*math.Pi; turn += 0.2 {
						sin, cos := math.Sincos(turn)
						at := r3.Add(tip, r3.Add(r3.Scale(p[1], axis), r3.Scale(p[0], r3.Add(r3.Scale(cos, e1), r3.Scale(sin, e2)))))
						enters = math.Max(enters, -c.free(at))
					}
				}
				const tolerance = 0.05 // mm: the balls, the lattice, and the walk round
				if s.Allowed[n] && enters > tolerance {
					wrong++
				}
			}
			if wrong > 0 {
				t.Errorf("%s held %.1f: %d places where it does not fit", id, axis, wrong)
			}
		}
	}
}

// What is reached of a pocket does not depend on how far beside it one looks.
func TestLookingOnlyAboutWhatGoes(t *testing.T) {
	c := pocket{long: 2.03, wide: 1.57, deep: 1.04}
	obstacles := solid.Sample(c.grid(0.1), c.free)
	about := solid.Box{Min: r3.Vec{X: -c.long / 2, Y: -c.wide / 2, Z: -c.deep}, Max: r3.Vec{X: c.long / 2, Y: c.wide / 2}}
	wanted := func(n int) bool {
		return obstacles.Values[n] > 0 && about.Contains(obstacles.Point(n%obstacles.N[0], n/obstacles.N[0]%obstacles.N[1], n/(obstacles.N[0]*obstacles.N[1])))
	}
	for _, axis := range []r3.Vec{{Z: 1}, r3.Unit(r3.Vec{X: 0.2, Z: 1}), r3.Unit(r3.Vec{Y: -0.5, Z: 1})} {
		for _, id := range []instrument.ID{instrument.Pear, instrument.SlimTaper} {
			head := instrument.MustFind(id).Head
			whole := Where(obstacles, head, axis, 0.005, obstacles.Room()).Beyond(wanted)
			part := Where(obstacles, head, axis, 0.005, about).Beyond(wanted)
			for n := range whole {
				if wanted(n) && math.Abs(float64(whole[n]-part[n])) > 1e-3 {
					t.Fatalf("%s held %.1f, sample %d: %.3f, looking everywhere %.3f", id, axis, n, part[n], whole[n])
				}
			}
		}
	}
}

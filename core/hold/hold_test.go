package hold

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

var up, mesial = r3.Vec{Z: 1}, r3.Vec{X: 1}

// Releases that can be solved by hand.
func TestRelease(t *testing.T) {
	rad := math.Pi / 180
	for _, c := range []struct {
		name    string
		walls   []Wall
		degrees float64
		within  float64
		along   r3.Vec // where one way is best
		angle   float64
	}{
		{"all walls diverge 3", classI(3, 3).walls(0.2), 3, 0.001, up, 4 * math.Asin(math.Pow(math.Sin(3*rad), 2))},
		{"parallel", classI(0, 0).walls(0.2), 0, 0.001, r3.Vec{}, 0},
		{"all walls converge 4", classI(-4, -4).walls(0.2), -4, 0.001, up, 0},
		{"across converge 4, along diverge 3", classI(-4, 3).walls(0.2), -3.970, 0.001, r3.Vec{}, 0},
		{"straight MO slides out", mo(-4, false).walls(0.2), 0, 0.001, mesial, 0},
		{"MO with a dovetail", mo(-4, true).walls(0.1), -3.990, 0.001, r3.Vec{}, 0},
		{"MO with a dovetail that diverges is drawn", mo(4, true).walls(0.1), 2.34, 0.01, r3.Vec{}, math.NaN()},
		{"MO with proximal grooves", grooved(mo(-4, false), -4, 3.6).walls(0.05), -3.990, 0.001, r3.Vec{}, 0},
		{"slot slides out", slot(-4, false).walls(0.2), 0, 0.001, mesial, 0},
		{"slot with grooves", slot(-4, true).walls(0.05), -3.990, 0.001, r3.Vec{}, 0},
		{"dish", dish(50), 40, 4.5, up, math.NaN()}, // its rim looks as its facets on average
	} {
		d := NewBed(c.walls).Release()
		if math.Abs(d.Degrees-c.degrees) > c.within {
			t.Errorf("%s: %.3f degrees along %.3f, not %.3f", c.name, d.Degrees, d.Along, c.degrees)
		}
		if c.along != (r3.Vec{}) && r3.Norm(r3.Sub(d.Along, c.along)) > 0.01 {
			t.Errorf("%s: freest along %.3f, not %.3f", c.name, d.Along, c.along)
		}
		if math.Abs(d.SolidAngle-c.angle) > 1e-5 {
			t.Errorf("%s: %.6f sr are free, not %.6f", c.name, d.SolidAngle, c.angle)
		}
	}
}

// What the tooth stands over a filling by, pulled one way.
func TestUndercut(t *testing.T) {
	tan := math.Tan(4 * math.Pi / 180)
	for _, c := range []struct {
		name  string
		in    cavity
		along r3.Vec
		want  float64
	}{
		{"1.6 deep at 4 degrees", cavity{[]block{trough(-3, 3, 0.5, 1.6, -4, 0)}, outside}, up, 1.6 * tan},
		{"slot 4.5 high at 4 degrees", slot(-4, false), up, 4.5 * tan},
		{"dovetail pulled mesially", mo(0, true), mesial, 0.3},
		{"grooves pulled mesially", slot(0, true), mesial, 0.3},
		{"a straight MO pulled mesially", mo(-4, false), mesial, 0},
		{"parallel walls pulled up", classI(0, 0), up, 0},
	} {
		u := NewBed(c.in.walls(0.1)).Undercut(c.in.tooth, c.along, 6)
		if math.Abs(u.Depth-c.want) > 0.03 {
			t.Errorf("%s: %.3f mm, not %.3f", c.name, u.Depth, c.want)
		}
		if free := math.IsInf(u.Moves, 1); free != (c.want == 0) {
			t.Errorf("%s: stopped after %.2f mm", c.name, u.Moves)
		}
	}
}

// Turning about the gingival edge of the box lifts the other end of the isthmus against
// walls that converge.
func TestTipping(t *testing.T) {
	pivot, about := r3.Vec{X: 4, Z: -3.6}, r3.Vec{Y: 1}
	// The isthmus's end lies 7 mm off and 3.6 higher at its top; what rises there meets
	// walls at 4 degrees.
	want := math.Sin(4*math.Pi/180) * 0.5 * 7 / math.Hypot(7, 3.6)
	if got, _, _ := NewBed(mo(-4, false).walls(0.05)).Tipping(pivot, about, 0.5); math.Abs(got-want) > 0.001 {
		t.Errorf("%.4f mm, not %.4f", got, want)
	}
	if got, _, _ := NewBed(mo(0, false).walls(0.05)).Tipping(pivot, about, 0.5); got > 0.001 {
		t.Errorf("parallel walls stand in the way by %.4f mm", got)
	}
}

// Motions with a turn in them find what straight ways do not.
func TestFreedom(t *testing.T) {
	for _, c := range []struct {
		name   string
		walls  []Wall
		locked bool
	}{
		{"walls that converge", classI(-4, -4).walls(0.2), true},
		{"walls that diverge", classI(3, 3).walls(0.2), false},
		{"straight MO", mo(-4, false).walls(0.2), false},
		{"MO with a dovetail", mo(-4, true).walls(0.1), true},
		{"slot", slot(-4, false).walls(0.2), false},
		{"slot with grooves", slot(-4, true).walls(0.05), true},
		{"dish", dish(50), false},
		{"no wall at all", nil, false},
	} {
		f := NewBed(c.walls).Freedom(up)
		if f.Locked != c.locked {
			t.Errorf("%s: locked %v, by %.4f; free %+.3f", c.name, f.Locked, f.Least, f.Free)
		}
	}
}

// Facets that look a little aside, and a stray one that looks back, change little; a groove
// that is small beside its walls counts.
func TestNoiseNeitherLocksNorFrees(t *testing.T) {
	pick := rand.New(rand.NewPCG(7, 8))
	noisy := classI(3, 3).walls(0.1)
	for n := range noisy {
		aside := r3.Vec{X: pick.NormFloat64(), Y: pick.NormFloat64(), Z: pick.NormFloat64()}
		noisy[n].Normal = r3.Unit(r3.Add(noisy[n].Normal, r3.Scale(0.015, aside)))
	}
	noisy = append(noisy, Wall{At: r3.Vec{Z: -1}, Normal: r3.Vec{Z: -1}, Area: 0.005})
	if d := NewBed(noisy).Release(); math.Abs(d.Degrees-3) > 1 {
		t.Errorf("noise makes 3 degrees %.2f", d.Degrees)
	}
	small := slot(-4, false).walls(0.1)
	for n := range small {
		small[n].Area *= 100
	}
	groove := slot(-4, true).blocks[1:]
	for _, w := range (cavity{groove, 4}).walls(0.05) {
		w.Feature += 100
		small = append(small, w)
	}
	if d := NewBed(small).Release(); d.Degrees > -3.9 {
		t.Errorf("a small groove is passed over: %.2f degrees along %.2f", d.Degrees, d.Along)
	}
}

// The easiest way out of a straight MO is towards its open side; a dovetail holds it in
// every way.
func TestTheWeakestPull(t *testing.T) {
	straight := mo(-4, false)
	along, u := NewBed(straight.walls(0.1)).Weakest(straight.tooth, up, 6)
	if u.Depth > 0.06 || r3.Dot(along, mesial) < 0.8 {
		t.Errorf("straight: held by %.3f mm along %.2f", u.Depth, along)
	}
	locked := mo(-4, true)
	if _, u := NewBed(locked.walls(0.1)).Weakest(locked.tooth, up, 6); u.Depth < 0.05 {
		t.Errorf("with a dovetail: held by %.3f mm", u.Depth)
	}
	drawn := classI(3, 3)
	if _, u := NewBed(drawn.walls(0.1)).Weakest(drawn.tooth, up, 6); u.Depth > 0 {
		t.Errorf("walls that diverge: held by %.3f mm", u.Depth)
	}
}

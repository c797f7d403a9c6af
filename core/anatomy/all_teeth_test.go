package anatomy

import (
	"math"
	"math/rand/v2"
	"sync"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
	"obturon/core/solid"
)

// averages holds one adult (or child's) model of each type, built once for the
// tests that read it.
var averages = sync.OnceValue(func() map[string]*Model {
	models := map[string]*Model{}
	for _, tooth := range everyType() {
		age := 34.0
		if tooth.Primary() {
			age = 6
		}
		m, err := Build(tooth, MeasuredSizes{}, age, 0.1)
		if err != nil {
			panic(err)
		}
		models[tooth.String()] = m
	}
	return models
})

func TestEveryToothIsAClosedSolidOfItsSize(t *testing.T) {
	for id, m := range averages() {
		mesh := m.Surface.Uncut().Mesh()
		if !mesh.Closed() {
			t.Errorf("%s: open mesh", id)
		}
		// Sizes are felt along rays: the mesh must agree.
		lo, hi := r3.Vec{X: 9, Y: 9}, r3.Vec{X: -9, Y: -9}
		for _, p := range mesh.Vertices {
			if p.Z > 0 {
				lo = r3.Vec{X: math.Min(lo.X, p.X), Y: math.Min(lo.Y, p.Y)}
				hi = r3.Vec{X: math.Max(hi.X, p.X), Y: math.Max(hi.Y, p.Y), Z: math.Max(hi.Z, p.Z)}
			}
		}
		for name, pair := range map[string][2]float64{
			"mesiodistal": {m.Sizes.Mesiodistal, hi.X - lo.X}, "buccolingual": {m.Sizes.Buccolingual, hi.Y - lo.Y}, "height": {m.Sizes.Height, hi.Z},
		} {
			if math.Abs(pair[0]-pair[1]) > 0.03 {
				t.Errorf("%s: %s %.3f, its mesh has %.3f", id, name, pair[0], pair[1])
			}
		}
		if v := m.Surface.Volume(); v < 60 || v > 1300 {
			t.Errorf("%s: %.0f mm3", id, v)
		}
	}
}

// Samples are kept only near the surface: nowhere may that lose some of it.
func TestSparseSamplesMissNoSurface(t *testing.T) {
	for _, id := range []string{"11", "13", "14", "16", "46", "54", "84"} {
		m := averages()[id]
		wrong := 0
		b := m.shape.bounds()
		for z := b.Min.Z; z < b.Max.Z; z += 0.17 {
			for y := b.Min.Y; y < b.Max.Y; y += 0.17 {
				for x := b.Min.X; x < b.Max.X; x += 0.17 {
					p := r3.Vec{X: x, Y: y, Z: z}
					if exact := m.shape.outer(p); (exact < -0.06) != (m.Surface.Distance(p) < 0) && math.Abs(exact) > 0.06 {
						wrong++
					}
				}
			}
		}
		if wrong > 0 {
			t.Errorf("%s: %d points lie on the wrong side of the sampled surface", id, wrong)
		}
	}
}

// enamelAt is the enamel's thickness from a point on the surface, along the
// inward normal there.
func enamelAt(m *Model, at r3.Vec) float64 {
	inward := r3.Scale(-1, r3.Unit(m.Surface.Gradient(at)))
	t, ok := m.Dentin().RootAlong(at, inward, 0, 4, 0.05)
	if !ok {
		return math.NaN()
	}
	return t
}

// belowContact is on the mesial surface between cervix and contact: at the height
// of the contact the biting surface's enamel joins in.
func belowContact(m *Model) r3.Vec {
	at, _ := m.onAxialSurface(r3.Vec{X: 1}, m.MesialContact.At.Y, mix(m.shape.c.CEJCurveMesial, m.MesialContact.At.Z, 0.6))
	return at
}

func TestEnamelIsAsThickAsTheTableSays(t *testing.T) {
	for id, m := range averages() {
		c := crowns[id]
		check := func(place string, at r3.Vec, want float64) {
			if got := enamelAt(m, at); !(math.Abs(got-want) <= 0.15) {
				t.Errorf("%s: enamel %s %.2f mm, the table says %.2f", id, place, got, want)
			}
		}
		// The thickness a surface has grown to at a height above the CEJ.
		grown := func(full, above float64) float64 { return full * (1 - math.Exp(-above/c.EnamelTaper)) }
		at := belowContact(m)
		check("of the mesial surface", at, grown(c.EnamelProximal, at.Z-c.CEJCurveMesial))
		facial, _ := m.onAxialSurface(r3.Vec{Y: 1}, 0.28*c.Mesiodistal, 0.45*c.Height)
		if c.Anterior {
			facial, _ = m.onAxialSurface(r3.Vec{Y: 1}, 0, 0.45*c.Height)
		}
		check("on the facial surface", facial, grown(c.EnamelBuccal, m.shape.lean.upright(facial).Z))
		if c.Anterior {
			top := m.IncisalEdge[len(m.IncisalEdge)/2]
			if got := m.shape.enamelUnder(top); math.Abs(got-c.EnamelCuspFunctional) > 0.35 {
				t.Errorf("%s: incisal enamel %.2f mm, the table says %.2f", id, got, c.EnamelCuspFunctional)
			}
			continue
		}
		for n, k := range c.Cusps {
			if k.vestigial() {
				continue
			}
			want, got := enamelCover{c}.over(k), m.shape.enamelUnder(m.shape.lean.upright(m.CuspTips[n].At))
			if math.Abs(got-want) > 0.15 {
				t.Errorf("%s: enamel over the %s cusp %.2f mm, the table says %.2f", id, k.Name, got, want)
			}
		}
	}
}

// axisAt is the crown's own axis at a point of the leaning tooth.
func (s *shape) axisAt(p r3.Vec) r3.Vec {
	q := s.lean.upright(p)
	return r3.Unit(r3.Sub(s.lean.leaning(r3.Add(q, r3.Vec{Z: 0.5})), s.lean.leaning(r3.Sub(q, r3.Vec{Z: 0.5}))))
}

// Least hard tissue between pulp and surface, mm, over crown and neck (dental
// anatomy convention; primary teeth have half as much).
func TestPulpIsCovered(t *testing.T) {
	for id, m := range averages() {
		least := 1.2
		switch {
		case m.Tooth.Primary() && m.Tooth.Anterior():
			least = 0.75
		case m.Tooth.Primary():
			least = 0.9
		case m.Tooth.Anterior() && !m.Tooth.Upper():
			least = 0.9
		}
		worst, where := 9.0, r3.Vec{}
		for _, v := range m.Surface.Uncut().Mesh().Vertices {
			if v.Z < -1 {
				continue
			}
			if d := m.Pulp().Distance(v); d < worst {
				worst, where = d, v
			}
		}
		if worst < least {
			t.Errorf("%s: pulp %.2f mm under the surface at %.1f, at least %.1f are needed", id, worst, where, least)
		}
	}
}

// vestigial holds for the lingual cusp of lower first premolars, which is
// hardly more than the foot of the buccal one.
func (k cusp) vestigial() bool { return k.Drop > 2 }

func TestLandmarksOfEveryPosteriorTooth(t *testing.T) {
	for id, m := range averages() {
		c := crowns[id]
		if c.Anterior {
			continue
		}
		for n, tip := range m.CuspTips {
			if c.Cusps[n].vestigial() {
				continue
			}
			// A cusp is a summit of the surface along the crown's axis, not a
			// shoulder of a higher one.
			axis := m.shape.axisAt(tip.At)
			for way := range 8 {
				sin, cos := math.Sincos(2 * math.Pi * float64(way) / 8)
				if p, ok := m.SurfaceAbove(tip.At.X+0.25*cos, tip.At.Y+0.25*sin); ok && r3.Dot(r3.Sub(p, tip.At), axis) > 0.01 {
					t.Errorf("%s: the %s cusp rises further towards %.0f degrees", id, tip.Name, 360*float64(way)/8)
					break
				}
			}
			nearest := m.Pits[0]
			for _, p := range m.Pits {
				if r3.Norm(r3.Sub(p.At, tip.At)) < r3.Norm(r3.Sub(nearest.At, tip.At)) {
					nearest = p
				}
			}
			if tip.At.Z < nearest.At.Z+0.35 {
				t.Errorf("%s: cusp %s at %.2f is no higher than the %s at %.2f", id, tip.Name, tip.At.Z, nearest.Name, nearest.At.Z)
			}
			for _, other := range m.CuspTips[n+1:] {
				if r3.Norm(r3.Sub(tip.At, other.At)) < 0.8 {
					t.Errorf("%s: cusps %s and %s are one", id, tip.Name, other.Name)
				}
			}
		}
		centre := math.Inf(1)
		for _, p := range m.Pits {
			centre = math.Min(centre, p.At.Z)
		}
		for name, ridge := range map[string]r3.Vec{"mesial": m.MesialRidge, "distal": m.DistalRidge} {
			if ridge.Z < centre+0.3 {
				t.Errorf("%s: the %s marginal ridge is lower than the pits", id, name)
			}
		}
		if m.MesialRidge.X < 0.25*c.Mesiodistal || m.DistalRidge.X > -0.25*c.Mesiodistal {
			t.Errorf("%s: marginal ridges at %.2f and %.2f", id, m.MesialRidge.X, m.DistalRidge.X)
		}
	}
}

func TestUpperMolarsKeepTheirObliqueRidge(t *testing.T) {
	for _, id := range []string{"16", "17", "55"} {
		m := averages()[id]
		pit := func(name string) r3.Vec {
			p, ok := m.Pit(name)
			if !ok {
				t.Fatalf("%s has no %s", id, name)
			}
			return p
		}
		central, distal := pit("central pit"), pit("distal pit")
		if central.Z >= distal.Z {
			t.Errorf("%s: the distal pit at %.2f is deeper than the central one at %.2f", id, distal.Z, central.Z)
		}
		// From ML to DB the crest is one ridge, well above the pits on either side.
		c := crowns[id]
		lowest := math.Inf(1)
		for _, q := range spline(ridgePoints(c), false) {
			if p, ok := m.SurfaceAbove(q.X, q.Y); ok {
				lowest = math.Min(lowest, p.Z)
			}
		}
		if lowest < distal.Z+0.25 {
			t.Errorf("%s: the oblique ridge falls to %.2f, the distal pit lies at %.2f", id, lowest, distal.Z)
		}
	}
}

func ridgePoints(c *crown) []r3.Vec {
	var points []r3.Vec
	for _, p := range c.Ridges[0].Points {
		points = append(points, r3.Vec{X: c.x(p.X), Y: c.y(p.Y)})
	}
	return points
}

func TestLowerPosteriorsLeanLingually(t *testing.T) {
	for id, m := range averages() {
		posterior := !m.Tooth.Anterior()
		switch {
		case posterior && !m.Tooth.Upper() && (m.LingualLean < 8 || m.LingualLean > 18):
			t.Errorf("%s leans lingually by %.1f degrees, want 8 to 18", id, m.LingualLean)
		case posterior && m.Tooth.Upper() && math.Abs(m.LingualLean) > 4:
			t.Errorf("%s leans by %.1f degrees, want it upright", id, m.LingualLean)
		}
		if posterior && !m.Tooth.Upper() && m.Table.W.Y > -0.03 {
			t.Errorf("%s: the bur does not follow the crown's lean: %.3f", id, m.Table.W.Y)
		}
	}
}

func TestContactsAreAreasInTheirPlace(t *testing.T) {
	for id, m := range averages() {
		c := crowns[id]
		for name, contact := range map[string]Contact{"mesial": m.MesialContact, "distal": m.DistalContact} {
			if contact.Height < 0.4 || contact.Width < 0.3 || contact.Width > 4 {
				t.Errorf("%s: %s contact of %.1f by %.1f mm", id, name, contact.Height, contact.Width)
			}
			if contact.At.Z < 0.4*c.Height || contact.At.Z > 0.95*c.Height {
				t.Errorf("%s: %s contact at height %.2f of %.1f", id, name, contact.At.Z, c.Height)
			}
			if math.Abs(contact.At.Y) > 0.18*c.Buccolingual {
				t.Errorf("%s: %s contact %.2f beside the middle", id, name, contact.At.Y)
			}
		}
	}
}

func TestContactsGrowWithAge(t *testing.T) {
	for _, id := range []string{"46", "15"} {
		last := 0.0
		for _, age := range []float64{16, 35, 60} {
			m := build(t, id, age, 0.1)
			area := m.MesialContact.Height * m.MesialContact.Width
			if area < 1.2*last {
				t.Errorf("%s: a mesial contact of %.2f mm2 at %v, %.2f before", id, area, age, last)
			}
			last = area
			if ShapeAge(age+1) != ShapeAge(age) {
				t.Errorf("%s: another shape a year after %v", id, age)
			}
		}
	}
}

func TestOwnSizesChangeTheModel(t *testing.T) {
	tooth := notation.MustParse("46")
	own := MeasuredSizes{Height: 6.8, Mesiodistal: 11.6, Buccolingual: 10, EnamelAtContact: 1.0}
	m, err := Build(tooth, own, 34, 0.1)
	if err != nil {
		t.Fatal(err)
	}
	for name, pair := range map[string][2]float64{
		"height": {m.Sizes.Height, own.Height}, "mesiodistal": {m.Sizes.Mesiodistal, own.Mesiodistal}, "buccolingual": {m.Sizes.Buccolingual, own.Buccolingual},
	} {
		if math.Abs(pair[0]-pair[1]) > 0.06 {
			t.Errorf("%s %.3f mm, measured on the patient %.2f", name, pair[0], pair[1])
		}
	}
	average := averages()["46"]
	if a, b := enamelAt(m, belowContact(m)), enamelAt(average, belowContact(average)); a > b-0.1 {
		t.Errorf("enamel of %.2f mm on the mesial surface, not thinner than the average's %.2f", a, b)
	}
}

// Whatever sizes are accepted must still make a tooth.
func TestExtremeSizesStillMakeTeeth(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 8))
	share := func(average float64) float64 {
		switch random.IntN(4) {
		case 0:
			return 0
		case 1:
			return 1.0001 * leastShare * average
		case 2:
			return 0.9999 * mostShare * average
		default:
			return average * (leastShare + random.Float64()*(mostShare-leastShare))
		}
	}
	for _, tooth := range everyType() {
		c := crowns[tooth.String()]
		own := MeasuredSizes{share(c.Height), share(c.Mesiodistal), share(c.Buccolingual), share(c.EnamelProximal)}
		m, err := Build(tooth, own, float64(random.IntN(90)), 0.25)
		if err != nil {
			t.Errorf("%s with %+v: %v", tooth, own, err)
			continue
		}
		mesh := m.Surface.Uncut().Mesh()
		if !mesh.Closed() || !(mesh.Volume() > 10) {
			t.Errorf("%s with %+v: closed %v, %.1f mm3", tooth, own, mesh.Closed(), mesh.Volume())
		}
		for _, p := range append([]r3.Vec{m.MesialContact.At, m.DistalContact.At, m.FacialContour, m.Table.Origin}, places(m.CuspTips)...) {
			if math.IsNaN(p.X+p.Y+p.Z) || math.IsInf(p.X+p.Y+p.Z, 0) {
				t.Errorf("%s with %+v: a landmark at %v", tooth, own, p)
			}
		}
		if d := m.Pulp().Distance(r3.Vec{}); math.IsNaN(d) {
			t.Errorf("%s with %+v: the pulp is nowhere", tooth, own)
		}
		for _, blank := range []*solid.Mesh{m.DentinSolid(), m.PulpSolid()} {
			if !blank.Closed() {
				t.Errorf("%s with %+v: a tissue's mesh is open", tooth, own)
			}
		}
	}
}

func TestLinesAroundTheNeck(t *testing.T) {
	for id, m := range averages() {
		c := crowns[id]
		line := m.CervicalLine()
		if len(line) < 100 {
			t.Errorf("%s: cervical line of %d points", id, len(line))
			continue
		}
		// It starts mesially, where it arches highest, and is level facially.
		if math.Abs(line[0].Z-c.CEJCurveMesial) > 0.25 || math.Abs(line[len(line)/4].Z) > 0.3 {
			t.Errorf("%s: cervical line at %.2f mesially, %.2f facially", id, line[0].Z, line[len(line)/4].Z)
		}
		for n, p := range line {
			if d := m.Surface.Distance(p); math.Abs(d) > 0.01 {
				t.Errorf("%s: point %d of the cervical line lies %.3f off the surface", id, n, d)
				break
			}
		}
		gingiva := m.GingivalLine(GingivaAt(34))
		for n := range gingiva {
			if gingiva[n].Z <= line[n].Z {
				t.Errorf("%s: the gingiva lies under the cervical line", id)
				break
			}
		}
	}
	if young, old := GingivaAt(12), GingivaAt(80); young.Facial <= old.Facial {
		t.Error("the gingiva does not come down with age")
	}
}

func TestLeanUndoesItself(t *testing.T) {
	l := newLean(10)
	for _, p := range []r3.Vec{{X: 3, Y: 4, Z: 5}, {Y: -5, Z: 1}, {Z: -3}, {Y: 2, Z: 0.3}} {
		if got := l.leaning(l.upright(p)); r3.Norm(r3.Sub(got, p)) > 1e-3 {
			t.Errorf("%v comes back as %v", p, got)
		}
	}
}

func TestMeshesOfTheScreenAreClosed(t *testing.T) {
	for _, id := range []string{"11", "16", "84"} {
		m := averages()[id]
		for name, blank := range map[string]*solid.Blank{"screen": m.Screen(), "turning": m.Turning()} {
			if !blank.Uncut().Mesh().Closed() {
				t.Errorf("%s: the %s mesh is open", id, name)
			}
		}
	}
}

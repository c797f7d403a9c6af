package drawing

import (
	"math"
	"slices"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity/cavitytest"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

// waviness is by how much a line is longer than after smoothing over 0.3 mm,
// places beside real corners left out.
func waviness(line solid.Polyline) float64 {
	const step, window, sharp = 0.02, 7, 25.0 // mm, places to either side, degrees over 0.3 mm
	points := resampled(line, step)
	n := len(points)
	if n < 4*window {
		return 1
	}
	at := func(k int) (solid.Point2, bool) {
		if line.Closed {
			return points[(k+n)%n], true
		}
		if k < 0 || k >= n {
			return solid.Point2{}, false
		}
		return points[k], true
	}
	smooth := make([]solid.Point2, n)
	corner := make([]bool, n)
	for k := range points {
		var sum solid.Point2
		for d := -window; d <= window; d++ {
			p, ok := at(k + d)
			if !ok {
				corner[k] = true
				continue
			}
			sum.X, sum.Y = sum.X+p.X, sum.Y+p.Y
		}
		smooth[k] = solid.Point2{X: sum.X / (2*window + 1), Y: sum.Y / (2*window + 1)}
	}
	for k := range points {
		a, okA := at(k - 2*window)
		b, okB := at(k)
		c, okC := at(k + 2*window)
		if !okA || !okB || !okC {
			corner[k] = true
			continue
		}
		turn := math.Abs(math.Remainder(math.Atan2(c.Y-b.Y, c.X-b.X)-math.Atan2(b.Y-a.Y, b.X-a.X), 2*math.Pi))
		if turn*180/math.Pi > sharp {
			for d := -2 * window; d <= 2*window; d++ {
				if k+d >= 0 && k+d < n {
					corner[k+d] = true
				} else if line.Closed {
					corner[(k+d+n)%n] = true
				}
			}
		}
	}
	var drawn, smoothed float64
	for k := 1; k < n; k++ {
		if corner[k] || corner[k-1] {
			continue
		}
		drawn += math.Hypot(points[k].X-points[k-1].X, points[k].Y-points[k-1].Y)
		smoothed += math.Hypot(smooth[k].X-smooth[k-1].X, smooth[k].Y-smooth[k-1].Y)
	}
	if smoothed < 0.5 {
		return 1
	}
	return drawn / smoothed
}

// resampled spaces places evenly along a line, open or closed.
func resampled(line solid.Polyline, step float64) []solid.Point2 {
	if line.Closed {
		return line.Resample(step).Points
	}
	var out []solid.Point2
	left := 0.0
	for k := 1; k < len(line.Points); k++ {
		a, b := line.Points[k-1], line.Points[k]
		d := math.Hypot(b.X-a.X, b.Y-a.Y)
		for ; left < d; left += step {
			t := left / d
			out = append(out, solid.Point2{X: a.X + t*(b.X-a.X), Y: a.Y + t*(b.Y-a.Y)})
		}
		left -= d
	}
	return out
}

const (
	mostWavy = 1.01 // length to length after smoothing
	mostOff  = 0.02 // mm
)

func checkSmooth(t *testing.T, name string, v View) {
	t.Helper()
	for _, l := range v.Layers {
		for _, line := range l.Lines {
			if w := waviness(line); w > mostWavy {
				t.Errorf("%s, %s: a %s of %.1f mm is %.3f times as long as when smoothed", name, v.ID, l.Kind, line.Length(), w)
			}
		}
	}
}

// checkOn fails where a kind's lines leave the zero of a field in space.
func checkOn(t *testing.T, name string, v View, kind string, field func(r3.Vec) float64) {
	t.Helper()
	for _, l := range v.Layers {
		if l.Kind != kind {
			continue
		}
		for _, line := range l.Lines {
			low, high := extremes(line)
			for _, p := range line.Points {
				if p.Y <= low+sectionStep || p.Y >= high-sectionStep { // the samples may end there
					continue
				}
				if d := math.Abs(field(v.Plane.At(p.X, p.Y))); d > mostOff {
					t.Errorf("%s, %s: a %s lies %.3f mm off at %v", name, v.ID, kind, d, p)
					return
				}
			}
		}
	}
}

func extremes(line solid.Polyline) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, p := range line.Points {
		low, high = min(low, p.Y), max(high, p.Y)
	}
	return low, high
}

func TestCurvesOfEveryToothAreSmoothAndOnItsSurface(t *testing.T) {
	type kind struct {
		upper, primary bool
		position       int
	}
	models := map[kind]*anatomy.Model{} // both sides have the same shapes
	for _, tooth := range notation.All() {
		k := kind{tooth.Upper(), tooth.Primary(), tooth.Position()}
		if models[k] == nil {
			m, err := anatomy.Build(tooth, anatomy.MeasuredSizes{}, 30, 0.1)
			if err != nil {
				t.Fatal(err)
			}
			models[k] = m
		}
		m, name := models[k].For(tooth), tooth.String()
		if !tooth.Right() { // the mirror image of one that has been looked at whole
			checkSmooth(t, name, SurfaceChart(m, true))
			continue
		}
		for _, facial := range []bool{true, false} {
			checkSmooth(t, name, SurfaceChart(m, facial))
		}
		if !tooth.Anterior() {
			checkSmooth(t, name, Chart(m))
		}
		for _, axis := range []Axis{Mesiodistal, Buccolingual, Level} {
			at := 0.0
			if axis == Level {
				at = m.Sizes.Height / 2
			}
			v, err := StudySection(m, axis, at, nil)
			if err != nil {
				t.Fatal(err)
			}
			checkSmooth(t, name, v)
			checkOn(t, name, v, Uncut, m.SurfaceShape)
			checkOn(t, name, v, Dentin, func(p r3.Vec) float64 { return max(m.Dentin().Distance(p), m.SurfaceShape(p)) })
		}
	}
}

func TestCurvesOfEveryClassAreSmoothAndOnTheirSurfaces(t *testing.T) {
	for _, c := range []struct {
		tooth    string
		material school.Material
		f        lesion.Finding
	}{
		{"46", "amalgam", lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin}},
		{"37", "composite", lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Mesial, Depth: lesion.OuterDentin}},
		{"25", "amalgam", lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: lesion.OuterDentin}},
		{"12", "composite", lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: lesion.OuterDentin}},
		{"22", "composite", lesion.Finding{Kind: lesion.Fracture, Site: lesion.MesialIncisalAngle, Depth: lesion.OuterDentin}},
		{"33", "amalgam", lesion.Finding{Kind: lesion.CervicalCaries, Site: lesion.Buccal, Depth: lesion.OuterDentin}},
		{"46", "amalgam", lesion.Finding{Kind: lesion.PitCaries, Site: lesion.BuccalPit, Depth: lesion.OuterDentin}},
		{"85", "amalgam", lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: lesion.OuterDentin}},
	} {
		s := cavitytest.Cut(t, cavitytest.Propose(t, cavitytest.Request(t, c.tooth, "board", c.material, 0.1, c.f)), nil)
		cut := s.Cavity.Tool()
		m := s.Prepared.Model
		for _, v := range Views(Subject{Subject: s, Cut: cut}) {
			name := c.tooth + " " + string(c.f.Kind)
			checkSmooth(t, name, v)
			if v.From == "" && v.ID != "plan" { // a section
				checkOn(t, name, v, Enamel, func(p r3.Vec) float64 { return max(m.SurfaceShape(p), -cut.Distance(p)) })
				continue
			}
			// What is opened ends at the margin, near where the gauges felt it, or
			// where the surface turns out of sight.
			const felt = 0.15 // mm: where the cut grazes the surface, the mesh knows its end no better
			crown := layer(v, Crown)
			ends := slices.Concat(crown, layer(v, Crest))
			for _, loop := range s.Prepared.Margin.Loops() {
				line := solid.Polyline{Closed: true}
				for _, at := range loop {
					line.Points = append(line.Points, v.Plane.Project(at))
				}
				ends = append(ends, line)
			}
			aspect := m.Aspect(facingOut(s, v))
			opened := func(p solid.Point2) bool {
				at, ok := aspect.Seen(v.Plane.At(p.X, p.Y))
				return ok && cut.Distance(at) < 0
			}
			for _, line := range layer(v, Cavity) {
				for _, p := range line.Points {
					if away(p, ends) > felt {
						t.Errorf("%s, %s: the cavity ends %.3f mm off its margin at %v", name, v.ID, away(p, ends), p)
						break
					}
					if !turns(p, opened) && away(p, crown) > mostOff {
						t.Errorf("%s, %s: the cavity's border at %v is none", name, v.ID, p)
						break
					}
				}
			}
		}
	}
}

// A pulpal floor is drawn to where it meets the walls, also under one that leans over
// it: felt from within the tooth, the first cut surface stops being floor there.
func TestFloorsEndAtTheirWalls(t *testing.T) {
	const rounded = 0.1 // mm of line angle that may count to either
	box := func(site lesion.Site) lesion.Finding {
		return lesion.Finding{Kind: lesion.ProximalCaries, Site: site, Depth: lesion.MiddleDentin}
	}
	s := cavitytest.Cut(t, cavitytest.Propose(t, cavitytest.Request(t, "47", "traditional", "amalgam", 0.1, box(lesion.Mesial), box(lesion.Distal))), nil)
	plan := Views(Subject{Subject: s, Cut: s.Cavity.Tool()})[0]
	up := s.Prepared.Model.Table.W
	floor := func(p solid.Point2) bool {
		over := plan.Plane.At(p.X, p.Y)
		deep := r3.Sub(over, r3.Scale(over.Z-0.5, up)) // in the neck
		rise, ok := solid.RootAlong(s.Prepared.Workpiece.Distance, deep, up, 0, 10, 0.05)
		return ok && isOcclusalFloor(s.Prepared.Workpiece.Feature(r3.Add(deep, r3.Scale(rise, up))))
	}
	for _, line := range layer(plan, Floor) {
		if line.Length() < 10 {
			continue // a gingival floor, which stands out over the neck
		}
		off := 0
		for _, p := range line.Points {
			if !turnsWithin(rounded, p, floor) {
				off++
			}
		}
		if off > 0 {
			t.Errorf("%d of %d places of a floor's border are none", off, len(line.Points))
		}
	}
}

// turns reports whether a property changes within mostOff of a place.
func turns(p solid.Point2, property func(solid.Point2) bool) bool {
	return turnsWithin(mostOff, p, property)
}

func turnsWithin(reach float64, p solid.Point2, property func(solid.Point2) bool) bool {
	here := property(p)
	for n := range 8 {
		sin, cos := math.Sincos(2 * math.Pi * float64(n) / 8)
		if property(solid.Point2{X: p.X + reach*cos, Y: p.Y + reach*sin}) != here {
			return true
		}
	}
	return false
}

func away(p solid.Point2, lines []solid.Polyline) float64 {
	least := math.Inf(1)
	for _, line := range lines {
		least = min(least, line.Away(p))
	}
	return least
}

// facingOut is the direction to a view's viewer.
func facingOut(s *measure.Subject, v View) r3.Vec {
	table := s.Prepared.Model.Table
	return map[string]r3.Vec{
		"": table.W, "facial": {Y: 1}, "lingual": {Y: -1}, "mesial": table.U, "distal": r3.Scale(-1, table.U),
	}[v.From]
}

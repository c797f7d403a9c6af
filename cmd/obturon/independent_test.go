package main

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/intake"
	"obturon/internal/document"
)

// What the plan says it measured must be found again by someone who has only
// the files: these tests read the written solids and measure them in a way of
// their own, triangle by triangle.

type triangle [3]r3.Vec

func (t triangle) centroid() r3.Vec { return r3.Scale(1.0/3, r3.Add(t[0], r3.Add(t[1], t[2]))) }
func (t triangle) area() r3.Vec {
	return r3.Scale(0.5, r3.Cross(r3.Sub(t[1], t[0]), r3.Sub(t[2], t[0])))
}

func readSTL(t *testing.T, path string) []triangle {
	t.Helper()
	data, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	count := int(binary.LittleEndian.Uint32(data[80:]))
	if len(data) != 84+50*count {
		t.Fatalf("%s: %d bytes for %d triangles", path, len(data), count)
	}
	// Files stand as in the mouth: where x runs distally, this turns them back into the tooth frame.
	head, turnedOver := string(data[:80]), bytes.Contains(data[:80], []byte(", x distal, y facial, z occlusal;"))
	if !turnedOver && !strings.Contains(head, ", x mesial, y facial, z occlusal;") {
		t.Fatalf("%s does not say where its axes point: %q", path, head)
	}
	triangles := make([]triangle, count)
	for n := range triangles {
		for corner := range 3 {
			at := 84 + 50*n + 12 + 12*corner
			number := func(k int) float64 {
				return float64(math.Float32frombits(binary.LittleEndian.Uint32(data[at+4*k:])))
			}
			triangles[n][corner] = r3.Vec{X: number(0), Y: number(1), Z: number(2)}
			if turnedOver {
				triangles[n][corner].X *= -1
			}
		}
		if turnedOver {
			triangles[n][1], triangles[n][2] = triangles[n][2], triangles[n][1]
		}
	}
	return triangles
}

// hash finds triangles near a point.
type hash struct {
	triangles []triangle
	cells     map[[3]int][]int
}

const cell = 0.4 // mm

func cellOf(p r3.Vec) [3]int {
	return [3]int{int(math.Floor(p.X / cell)), int(math.Floor(p.Y / cell)), int(math.Floor(p.Z / cell))}
}

func newHash(triangles []triangle) *hash {
	h := &hash{triangles, map[[3]int][]int{}}
	for n, t := range triangles {
		c := cellOf(t.centroid())
		h.cells[c] = append(h.cells[c], n)
	}
	return h
}

// distance to the nearest triangle, up to about reach mm.
func (h *hash) distance(p r3.Vec, reach float64) float64 {
	c, around := cellOf(p), int(reach/cell)+1
	best := math.Inf(1)
	for ring := 0; ring <= around; ring++ {
		for x := -ring; x <= ring; x++ {
			for y := -ring; y <= ring; y++ {
				for z := -ring; z <= ring; z++ {
					if max(x, -x, y, -y, z, -z) != ring {
						continue
					}
					for _, n := range h.cells[[3]int{c[0] + x, c[1] + y, c[2] + z}] {
						best = math.Min(best, pointToTriangle(p, h.triangles[n]))
					}
				}
			}
		}
		if best < float64(ring-1)*cell {
			break
		}
	}
	return best
}

// pointToTriangle is the distance from p to a triangle: to its plane inside it,
// else to an edge.
func pointToTriangle(p r3.Vec, t triangle) float64 {
	normal := t.area()
	if r3.Norm(normal) > 0 {
		normal = r3.Unit(normal)
		inside := true
		for k := range 3 {
			edge := r3.Sub(t[(k+1)%3], t[k])
			inside = inside && r3.Dot(r3.Cross(edge, r3.Sub(p, t[k])), normal) >= 0
		}
		if inside {
			return math.Abs(r3.Dot(r3.Sub(p, t[0]), normal))
		}
	}
	best := math.Inf(1)
	for k := range 3 {
		edge := r3.Sub(t[(k+1)%3], t[k])
		s := 0.0
		if l := r3.Norm2(edge); l > 0 {
			s = math.Min(math.Max(r3.Dot(r3.Sub(p, t[k]), edge)/l, 0), 1)
		}
		best = math.Min(best, r3.Norm(r3.Sub(p, r3.Add(t[k], r3.Scale(s, edge)))))
	}
	return best
}

// columns finds triangles over a place of the table's plane.
type columns struct {
	triangles []triangle // in the table's frame
	cells     map[[2]int][]int
}

func newColumns(f anatomy.Frame, triangles []triangle) *columns {
	c := &columns{cells: map[[2]int][]int{}}
	for _, t := range triangles {
		own := triangle{f.To(t[0]), f.To(t[1]), f.To(t[2])}
		lowX, highX := min(own[0].X, own[1].X, own[2].X), max(own[0].X, own[1].X, own[2].X)
		lowY, highY := min(own[0].Y, own[1].Y, own[2].Y), max(own[0].Y, own[1].Y, own[2].Y)
		for x := int(math.Floor(lowX / cell)); x <= int(math.Floor(highX/cell)); x++ {
			for y := int(math.Floor(lowY / cell)); y <= int(math.Floor(highY/cell)); y++ {
				c.cells[[2]int{x, y}] = append(c.cells[[2]int{x, y}], len(c.triangles))
			}
		}
		c.triangles = append(c.triangles, own)
	}
	return c
}

// above is how far over p, in the table's frame, the next triangle lies.
func (c *columns) above(p r3.Vec) float64 {
	best := math.Inf(1)
	for _, n := range c.cells[[2]int{int(math.Floor(p.X / cell)), int(math.Floor(p.Y / cell))}] {
		t := c.triangles[n]
		area := (t[1].X-t[0].X)*(t[2].Y-t[0].Y) - (t[2].X-t[0].X)*(t[1].Y-t[0].Y)
		if math.Abs(area) < 1e-12 {
			continue
		}
		u := ((t[1].X-p.X)*(t[2].Y-p.Y) - (t[2].X-p.X)*(t[1].Y-p.Y)) / area
		v := ((t[2].X-p.X)*(t[0].Y-p.Y) - (t[0].X-p.X)*(t[2].Y-p.Y)) / area
		if z := u*t[0].Z + v*t[1].Z + (1-u-v)*t[2].Z; u >= 0 && v >= 0 && u+v <= 1 && z > p.Z+1e-6 {
			best = math.Min(best, z-p.Z)
		}
	}
	return best
}

// found is a written preparation, taken apart.
type found struct {
	table         anatomy.Frame
	prepared, cut []triangle
	intact        []triangle
	margin        []edgePoint
}

// edgePoint is a place on the margin with the facing of both sides about it.
type edgePoint struct {
	at, outer, wall r3.Vec // in the table's frame
}

func takeApart(t *testing.T, dir string, c *intake.Case) *found {
	t.Helper()
	m, err := anatomy.Build(c.Tooth, anatomy.MeasuredSizes{}, c.Patient.AgeYears, 0.25) // for the table's frame alone
	if err != nil {
		t.Fatal(err)
	}
	f := &found{table: m.Table, prepared: readSTL(t, filepath.Join(dir, "prepared.stl")), intact: readSTL(t, filepath.Join(dir, "intact.stl"))}
	const cutOff = 0.012 // mm from the intact surface at which a triangle is cut
	near := newHash(f.intact)
	touch := map[r3.Vec][2]bool{}
	isCut := make([]bool, len(f.prepared))
	for n, tri := range f.prepared {
		isCut[n] = near.distance(tri.centroid(), 0.1) > cutOff
		if isCut[n] {
			f.cut = append(f.cut, tri)
		}
		for _, v := range tri {
			sides := touch[v]
			if isCut[n] {
				sides[0] = true
			} else {
				sides[1] = true
			}
			touch[v] = sides
		}
	}
	const about = 0.13 // mm over which facings are averaged
	cutNear, outerNear := newHash(f.cut), near
	for v, sides := range touch {
		if !sides[0] || !sides[1] {
			continue
		}
		e := edgePoint{at: f.table.To(v), wall: f.turn(cutNear.facing(v, about)), outer: f.turn(outerNear.facing(v, about))}
		if r3.Norm(e.wall) > 0.5 { // else a triangle of the surface itself, a little off it
			f.margin = append(f.margin, e)
		}
	}
	return f
}

func (f *found) turn(d r3.Vec) r3.Vec {
	return r3.Vec{X: r3.Dot(d, f.table.U), Y: r3.Dot(d, f.table.V), Z: r3.Dot(d, f.table.W)}
}

// facing averages the triangles about a point, then only those that agree: next
// to an edge, the other side of it drops out.
func (h *hash) facing(p r3.Vec, about float64) r3.Vec {
	var first, sum r3.Vec
	const agree = 0.97 // cosine
	for pass := range 3 {
		first, sum = sum, r3.Vec{}
		if r3.Norm(first) > 0 {
			first = r3.Unit(first)
		}
		c := cellOf(p)
		for x := -1; x <= 1; x++ {
			for y := -1; y <= 1; y++ {
				for z := -1; z <= 1; z++ {
					for _, n := range h.cells[[3]int{c[0] + x, c[1] + y, c[2] + z}] {
						a := h.triangles[n].area()
						far := r3.Norm(r3.Sub(h.triangles[n].centroid(), p))
						if far < about && (pass == 0 || r3.Dot(a, first) > agree*r3.Norm(a)) {
							sum = r3.Add(sum, r3.Scale(1-far/about, a)) // the nearer, the more
						}
					}
				}
			}
		}
	}
	if r3.Norm(sum) == 0 {
		return sum
	}
	return r3.Unit(sum)
}

// walls picks the margin over walls that face a direction of the table's frame,
// on one side of the tooth.
func (f *found) walls(sense float64, faces r3.Vec) []edgePoint {
	least := 0.6
	if faces.Z > 0 {
		least = 0.85 // a seat falls by 20 degrees at most, a bevel over the ridge by 45
	}
	return slices.DeleteFunc(slices.Clone(f.margin), func(e edgePoint) bool {
		return sense*e.at.X < 0 || r3.Dot(e.wall, faces) < least
	})
}

func (f *found) clearance(points []edgePoint, beside *hash) float64 {
	least := math.Inf(1)
	for _, e := range points {
		least = math.Min(least, beside.distance(f.table.From(e.at), 2))
	}
	return least
}

// depth is the least height of the intact tooth over the level facets that are
// most common: the pulpal floor.
func (f *found) depth() float64 {
	areas := map[int]float64{}
	const bin = 0.04
	var level []triangle
	for _, tri := range f.cut {
		a := tri.area()
		if r3.Norm(a) > 0 && r3.Dot(r3.Unit(a), f.table.W) > 0.998 {
			level = append(level, tri)
			areas[int(math.Floor(f.table.To(tri.centroid()).Z/bin))] += r3.Norm(a)
		}
	}
	most := 0.0
	for _, a := range areas {
		most = math.Max(most, a)
	}
	const part = 0.25 // of the largest level: the seat of a box lies lower than the floor
	best := math.MinInt
	for b, a := range areas {
		if a > part*most {
			best = max(best, b)
		}
	}
	least := math.Inf(1)
	over := newColumns(f.table, f.intact)
	for _, tri := range level {
		q := f.table.To(tri.centroid())
		if math.Abs(q.Z-(float64(best)+0.5)*bin) < bin/2 {
			least = math.Min(least, over.above(q))
		}
	}
	return least
}

// axialDepth is the least distance inwards from the seat's margin to the
// facets of the axial wall in the middle of the box.
func (f *found) axialDepth(sense float64) float64 {
	seat := f.walls(sense, r3.Vec{Z: 1})
	seat = slices.DeleteFunc(seat, func(e edgePoint) bool { return math.Abs(e.outer.X) < 0.5 || e.outer.Z > 0.4 })
	low, high, top := math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, e := range seat {
		low, high, top = math.Min(low, e.at.Y), math.Max(high, e.at.Y), math.Max(top, e.at.Z)
	}
	const bin = 0.05 // mm of width that shares a wall
	wall := map[int]float64{}
	for _, tri := range f.cut {
		a := tri.area()
		q := f.table.To(tri.centroid())
		if r3.Norm(a) == 0 || sense*q.X < 0 || sense*f.turn(r3.Unit(a)).X < 0.93 || q.Z < top+0.2 || q.Z > top+1.2 {
			continue
		}
		k := int(math.Floor(q.Y / bin))
		if n, known := wall[k]; !known || sense*q.X > n { // caries may have been followed past the wall
			wall[k] = sense * q.X
		}
	}
	least := math.Inf(1)
	for _, e := range seat {
		if math.Abs(e.at.Y-(low+high)/2) > 0.35*(high-low) {
			continue
		}
		if n, known := wall[int(math.Floor(e.at.Y/bin))]; known {
			least = math.Min(least, sense*e.at.X-n)
		}
	}
	return least
}

// exit is the median angle through the tooth at a wall's proximal margin.
func (f *found) exit(sense float64, faces r3.Vec) float64 {
	var angles []float64
	const corner = 0.3 // mm from another wall's margin, where facings mix
	for _, e := range f.margin {
		// Walls that flare a lot face the adjacent tooth as much as each other.
		if sense*e.at.X < 0 || r3.Dot(e.wall, faces) < 0.35 || math.Abs(e.wall.Z) > 0.5 {
			continue
		}
		beside := slices.ContainsFunc(f.margin, func(o edgePoint) bool {
			return r3.Norm(r3.Sub(o.at, e.at)) < corner && r3.Dot(o.wall, e.wall) < 0.6
		})
		if !beside && math.Abs(e.outer.Z) < 0.3 && sense*e.outer.X > 0.35 {
			angles = append(angles, 180-math.Acos(math.Min(math.Max(r3.Dot(e.outer, e.wall), -1), 1))*180/math.Pi)
		}
	}
	slices.Sort(angles)
	if len(angles) == 0 {
		return math.NaN()
	}
	return angles[len(angles)/2]
}

// isthmus is the least width seen along the bur between margins whose walls
// face each other, away from the ends.
func (f *found) isthmus() float64 {
	low, high := math.Inf(1), math.Inf(-1)
	for _, e := range f.margin {
		low, high = math.Min(low, e.at.X), math.Max(high, e.at.X)
	}
	least := math.Inf(1)
	const end = 0.9
	for _, a := range f.margin {
		if a.wall.Y > -0.75 || a.outer.Z < 0.6 || a.at.X < low+end || a.at.X > high-end {
			continue
		}
		for _, b := range f.margin {
			if b.wall.Y > 0.75 && b.outer.Z > 0.6 && b.at.X > low+end && b.at.X < high-end {
				least = math.Min(least, math.Hypot(a.at.X-b.at.X, a.at.Y-b.at.Y))
			}
		}
	}
	return least
}

func TestTheWrittenSolidsAgreeWithTheChecks(t *testing.T) {
	cases := []struct{ tooth, age, sites, material, school, form string }{
		{"36", "34", "distal", "amalgam", "board", ""},
		{"25", "29", "distal", "composite", "adhesive", ""},
	}
	if os.Getenv("OBTURON_TEN_CASES") != "" {
		cases = append(cases, []struct{ tooth, age, sites, material, school, form string }{
			{"17", "51", "mesial", "amalgam", "traditional", ""},
			{"46", "40", "mesial distal", "amalgam", "board", ""},
			{"15", "33", "distal", "amalgam", "board", ""},
			{"34", "45", "distal", "composite", "board", ""},
			{"27", "60", "mesial distal", "composite", "adhesive", ""},
			{"47", "38", "distal", "amalgam", "traditional", "slot"},
			{"44", "27", "mesial", "composite", "adhesive", ""},
			{"26", "36", "distal", "amalgam", "board", ""},
		}...)
	}
	for _, k := range cases {
		t.Run(k.tooth+" "+k.sites+" "+k.school, func(t *testing.T) {
			t.Parallel()
			agree(t, k.tooth, k.age, k.sites, k.material, k.school, k.form)
		})
	}
}

func agree(t *testing.T, tooth, age, sites, material, school, form string) {
	findings, sides := "", []string{}
	for _, site := range []string{"mesial", "distal"} {
		if len(sites) >= len(site) && (sites == site || len(sites) > len("mesial")) {
			if findings != "" {
				findings += ","
			}
			findings += fmt.Sprintf(`{"kind":"proximal_caries","site":%q,"depth":"outer_dentin"}`, site)
			sides = append(sides, site)
		}
	}
	choice := fmt.Sprintf(`"material":%q,"school":%q`, material, school)
	if form != "" {
		choice += fmt.Sprintf(`,"form":%q`, form)
	}
	text := fmt.Sprintf(`{"schema":"obturon.case/1","tooth":%q,"patient":{"age_years":%s},"findings":[%s],"choice":{%s}}`, tooth, age, findings, choice)
	dir := filepath.Join(t.TempDir(), "out")
	stdout, stderr, err := runDesign(write(t, text), "--out", dir)
	if err != nil {
		t.Fatal(err, stderr)
	}
	var d document.Plan
	if err := json.Unmarshal([]byte(stdout), &d); err != nil {
		t.Fatal(err)
	}
	c, err := document.ReadCase([]byte(text))
	if err != nil {
		t.Fatal(err)
	}
	f := takeApart(t, dir, c)
	compare := func(id, side string, own, tolerance float64) {
		t.Helper()
		for _, k := range d.Checks {
			if string(k.Id) != id || k.Side != side || k.Value == nil {
				continue
			}
			if off := own - *k.Value; !(math.Abs(off) <= tolerance) {
				t.Errorf("%s %s: the plan says %.3f, the files %.3f", id, side, *k.Value, own)
			} else {
				t.Logf("%s %s: %.3f, off by %+.3f", id, side, *k.Value, off)
			}
		}
	}
	const length, angle = 0.05, 2.0 // mm, degrees
	compare("resist.pulpal_depth", "", f.depth(), length)
	compare("outline.isthmus_width", "", f.isthmus(), length)
	for _, side := range sides {
		sense := 1.0
		if side == "distal" {
			sense = -1
		}
		beside := newHash(readSTL(t, filepath.Join(dir, "neighbour_"+side+".stl")))
		buccal, lingual := r3.Vec{Y: -1}, r3.Vec{Y: 1}
		compare("box.clearance_buccal", side, f.clearance(f.walls(sense, buccal), beside), length)
		compare("box.clearance_lingual", side, f.clearance(f.walls(sense, lingual), beside), length)
		compare("box.clearance_gingival", side, f.clearance(f.walls(sense, r3.Vec{Z: 1}), beside), length)
		compare("box.axial_depth", side, f.axialDepth(sense), length)
		compare("box.exit_angle_buccal", side, f.exit(sense, buccal), angle)
		compare("box.exit_angle_lingual", side, f.exit(sense, lingual), angle)
	}
}

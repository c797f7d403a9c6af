package export

import (
	"bytes"
	"context"
	"encoding/binary"
	"encoding/xml"
	"errors"
	"io"
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/advice"
	"obturon/core/drawing"
	"obturon/core/fill"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/pipeline"
	"obturon/core/school"
	"obturon/core/solid"
	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/render"
)

var planned = func() *plan.Result {
	r, err := plan.NewPlanner().Evaluate(context.Background(), &intake.Case{
		Tooth:    notation.MustParse("46"),
		Patient:  intake.Patient{AgeYears: 34},
		Findings: []lesion.Finding{{Kind: "fissure_caries", Site: "central", Depth: "outer_dentin"}},
		Choice:   intake.Choice{Material: "amalgam", School: "board"},
	}, 0.15)
	if err != nil {
		panic(err)
	}
	return r
}()

// bonded has a box, a bevel, which was set by hand, and an old filling.
var bonded = func() *plan.Result {
	r, err := plan.NewPlanner().Evaluate(context.Background(), &intake.Case{
		Tooth: notation.MustParse("46"), Patient: intake.Patient{AgeYears: 34}, Contacts: []solid.Point2{{X: 3, Y: 2}},
		Findings: []lesion.Finding{
			{Kind: "old_restoration", Site: "central", Depth: "outer_dentin", Evidence: lesion.Evidence{Fault: lesion.CariesBeside}}, {Kind: "proximal_caries", Site: "distal", Depth: "middle_dentin"},
		},
		Choice:    intake.Choice{Material: "composite", School: "adhesive"},
		Overrides: map[string]float64{"bevel_width": 0.5},
	}, 0.15)
	if err != nil {
		panic(err)
	}
	return r
}()

func TestSTLHoldsTheSolid(t *testing.T) {
	var out bytes.Buffer
	mesh := planned.Prepared.Mesh
	if err := WriteSTL(&out, Solid{Mesh: mesh, Tooth: planned.Case.Tooth, Name: "prepared"}); err != nil {
		t.Fatal(err)
	}
	data := out.Bytes()
	count := binary.LittleEndian.Uint32(data[80:])
	if int(count) != len(mesh.Triangles) || len(data) != 84+50*int(count) {
		t.Fatalf("%d facets in %d bytes", count, len(data))
	}
	at := func(n, float int) float64 {
		return float64(math.Float32frombits(binary.LittleEndian.Uint32(data[84+50*n+4*float:])))
	}
	volume := 0.0
	for n := range int(count) {
		ax, ay, az := at(n, 3), at(n, 4), at(n, 5)
		bx, by, bz := at(n, 6), at(n, 7), at(n, 8)
		cx, cy, cz := at(n, 9), at(n, 10), at(n, 11)
		volume += (ax*(by*cz-bz*cy) + ay*(bz*cx-bx*cz) + az*(bx*cy-by*cx)) / 6
	}
	if math.Abs(volume/mesh.Volume()-1) > 1e-4 {
		t.Errorf("the file encloses %.3f mm3, the mesh %.3f", volume, mesh.Volume())
	}
}

// unpacked is a mesh as the screen reads it.
type unpacked struct {
	vertices, normals []r3.Vec
	triangles         [][3]int32
	labels            []byte
}

// unpack follows docs/mesh-format.md, as the front end does.
func unpack(t *testing.T, web *WebMesh) unpacked {
	t.Helper()
	data := web.Data
	unsigned := func() uint64 {
		v, n := binary.Uvarint(data)
		if n <= 0 {
			t.Fatal("the mesh ends early")
		}
		data = data[n:]
		return v
	}
	row := func() []float64 {
		values, last := make([]float64, web.Vertices), int64(0)
		for n := range values {
			zigzag := unsigned()
			last += int64(zigzag>>1) ^ -int64(zigzag&1)
			values[n] = float64(last)
		}
		return values
	}
	var u unpacked
	x, y, z := row(), row(), row()
	a, b := row(), row()
	for n := range web.Vertices {
		u.vertices = append(u.vertices, r3.Scale(web.Step, r3.Vec{X: x[n], Y: y[n], Z: z[n]}))
		u.normals = append(u.normals, unfold(a[n], b[n]))
	}
	u.labels, data = data[:web.Triangles], data[web.Triangles:]
	var used int32
	var edges [][2]int32
	var corners []int32
	corner := func(code byte) (v int32) {
		switch code & 15 {
		case 0:
			v = used
			used++
		case farCorner:
			v = used - int32(unsigned())
		default:
			v = corners[code&15-1]
		}
		corners = append([]int32{v}, corners...)
		corners = corners[:min(len(corners), cornersKept)]
		return v
	}
	next := func() byte {
		c := data[0]
		data = data[1:]
		return c
	}
	for range web.Triangles {
		code := next()
		var tri [3]int32
		if e := code >> 4; e == noEdge {
			tri = [3]int32{corner(code), corner(next()), corner(next())}
		} else {
			tri = [3]int32{edges[e][0], edges[e][1], corner(code)}
		}
		u.triangles = append(u.triangles, tri)
		edges = append([][2]int32{{tri[0], tri[2]}, {tri[2], tri[1]}, {tri[1], tri[0]}}, edges...)
		edges = edges[:min(len(edges), edgesKept)]
	}
	if len(data) != 0 || int(used) != web.Vertices {
		t.Fatalf("%d bytes too many, %d of %d vertices", len(data), used, web.Vertices)
	}
	return u
}

func TestWebMeshUnpacks(t *testing.T) {
	mesh := parted(cutTooth{planned.Model, planned.Cut}, planned.Turning)
	web := NewWebMesh(planned.Designed, planned.Turning)
	got := unpack(t, web)
	seen := map[byte]int{}
	for n, tri := range got.triangles {
		seen[got.labels[n]]++
		// Corners may have been turned round, never over.
		var own, want r3.Vec
		for k := range 3 {
			own = r3.Add(own, got.vertices[tri[k]])
			want = r3.Add(want, mesh.Vertices[mesh.Triangles[n][k]])
		}
		if off := r3.Norm(r3.Sub(own, want)) / 3; off > web.Step {
			t.Fatalf("triangle %d lies %.3f mm off", n, off)
		}
		area := r3.Cross(r3.Sub(got.vertices[tri[1]], got.vertices[tri[0]]), r3.Sub(got.vertices[tri[2]], got.vertices[tri[0]]))
		if before := mesh.AreaVector(n); r3.Norm(before) > 0.01 && r3.Dot(area, before) <= 0 {
			t.Fatalf("triangle %d is turned over", n)
		}
	}
	for _, l := range []byte{OuterEnamel, RootSurface, EnamelWall, DentinWall, CavityFloor} {
		if seen[l] == 0 {
			t.Errorf("no triangle is labelled %d", l)
		}
	}
	if perTriangle := float64(len(web.Data)) / float64(web.Triangles); perTriangle > 7 {
		t.Errorf("%.1f bytes a triangle", perTriangle)
	}
}

func TestDirectionsSurviveTheirPacking(t *testing.T) {
	for _, d := range []r3.Vec{{Z: 1}, {Z: -1}, {X: 1}, {Y: -1}, {X: 1, Y: 1, Z: 1}, {X: -1, Y: 2, Z: -3}, {X: 0.1, Y: -0.1, Z: -1}} {
		folded := octahedral(d)
		back := unfold(math.Round(octahedralSteps*folded[0]), math.Round(octahedralSteps*folded[1]))
		if cos := r3.Dot(back, r3.Unit(d)); cos < 0.9995 { // two degrees
			t.Errorf("%v comes back as %v", d, back)
		}
	}
}

// unfold turns the two figures of a normal into its direction.
func unfold(a, b float64) r3.Vec {
	a, b = a/octahedralSteps, b/octahedralSteps
	d := r3.Vec{X: a, Y: b, Z: 1 - math.Abs(a) - math.Abs(b)}
	if d.Z < 0 {
		d.X, d.Y = math.Copysign(1-math.Abs(b), a), math.Copysign(1-math.Abs(a), b)
	}
	return r3.Unit(d)
}

func TestScreenMeshesSayTheirHand(t *testing.T) {
	for tooth, hand := range map[string]notation.Hand{"46": notation.LeftHand, "36": notation.RightHand, "16": notation.RightHand, "26": notation.LeftHand} {
		other := cutTooth{planned.Model.For(notation.MustParse(tooth)), planned.Cut}
		if got := packTooth(other, planned.Turning).Hand; got != hand {
			t.Errorf("%s is in a %s-handed frame, want %s", tooth, got, hand)
		}
	}
}

func TestDrawingIsWellFormedAndNamesTheTooth(t *testing.T) {
	var out bytes.Buffer
	if err := WriteSVG(&out, planned); err != nil {
		t.Fatal(err)
	}
	decoder := xml.NewDecoder(bytes.NewReader(out.Bytes()))
	for {
		if _, err := decoder.Token(); errors.Is(err, io.EOF) {
			break
		} else if err != nil {
			t.Fatal(err)
		}
	}
	for _, text := range []string{"lower right first molar", "isthmus", "Section, buccolingual"} {
		if !strings.Contains(out.String(), text) {
			t.Errorf("the drawing does not say %q", text)
		}
	}
}

func TestCardIsOnePageAndOneForTheChair(t *testing.T) {
	var out bytes.Buffer
	if err := WriteCard(&out, planned, Beside{Forces: []string{"The filling is held by its walls."}}, CardHead{Patient: "HV-031", Revision: "draft", Practice: "Clinic"}, A4); err != nil {
		t.Fatal(err)
	}
	data := out.String()
	const pages = 2
	if made := len(chairPages(planned, nil, CardHead{}, A4)); made != 1 {
		t.Errorf("%d pages for the chair", made)
	}
	if got := strings.Count(data, "/Type /Page\n") + strings.Count(data, "/Type /Page ") + strings.Count(data, "/Type/Page/"); !strings.HasPrefix(data, "%PDF-") || got != pages {
		t.Errorf("a PDF of %d pages, want %d", got, pages)
	}
	if strings.Contains(data, "NaN") {
		t.Error("the card holds NaN")
	}
}

// The filling has pages of its own, which go on where one is full.
func TestTheCardShowsTheFilling(t *testing.T) {
	var plain, filled bytes.Buffer
	f := planned.Fill(fill.Usual()).Fillings
	beside := Beside{Filled: Filled{Fill: render.Fill(f), Views: drawing.FilledSections(planned.Views, drawing.Subject{Subject: planned.Subjects[0]}, nil, f[0].Plans, f[0].Matrix)}}
	for to, with := range map[*bytes.Buffer]Beside{&plain: {}, &filled: beside} {
		if err := WriteCard(to, planned, with, CardHead{Patient: "HV-031", Practice: "Clinic"}, A4); err != nil {
			t.Fatal(err)
		}
	}
	if strings.Contains(filled.String(), "NaN") || filled.Len() < plain.Len()+3000 {
		t.Errorf("a card of %d bytes, without its filling %d", filled.Len(), plain.Len())
	}
	if one := len(fillPages(planned, beside.Filled, CardHead{}, A4)); one != 1 {
		t.Errorf("%d pages", one)
	}
	for range 3 {
		beside.Filled.Fill = append(beside.Filled.Fill, beside.Filled.Fill...)
	}
	if many := len(fillPages(planned, beside.Filled, CardHead{}, A4)); many < 3 {
		t.Errorf("eight fillings take %d pages", many)
	}
}

func TestRefusedPlansPrintTheReason(t *testing.T) {
	var out bytes.Buffer
	refused := &plan.Result{Decided: &pipeline.Decided{Case: &intake.Case{Tooth: notation.MustParse("85")}, Decision: advice.Decision{Refused: "not planned"}}}
	if err := WriteCard(&out, refused, Beside{Forces: []string{"The filling is held by its walls."}}, CardHead{}, Letter); err != nil {
		t.Fatal(err)
	}
}

func TestTargetsReadAsTheyAreMeant(t *testing.T) {
	for _, c := range []struct {
		target school.Range
		unit   string
		want   string
	}{
		{school.AtLeast(2), "mm", "at least 2.00"},
		{school.AtMost(0.15), "mm", "at most 0.15"},
		{school.Range{Min: 0.9, Max: 1.5}, "mm", "0.90 to 1.50"},
		{school.Range{Min: 80, Max: 100}, "deg", "80.0° to 100.0°"},
	} {
		if got := formatTarget(rangeOf(c.target), c.unit); got != c.want {
			t.Errorf("%v %s reads %q, want %q", c.target, c.unit, got, c.want)
		}
	}
}

func rangeOf(r school.Range) document.Range {
	low, high := r.Ends()
	return document.Range{Min: low, Max: high}
}

// The filled tooth is as large as the sound one, and its filling shows as much of its surface
// as the filling's solid is free.
func TestTheFilledToothShowsItsFilling(t *testing.T) {
	for _, material := range []uint8{AmalgamFace, CompositeFace} {
		r := map[uint8]*plan.Result{AmalgamFace: planned, CompositeFace: bonded}[material]
		sound := r.Model.Surface.Uncut().Mesh() // as fine as the filling is measured on
		web := NewFilledMesh(r.Designed, sound)
		u := unpack(t, web)
		area := func(n int) float64 {
			c := u.triangles[n]
			return r3.Norm(r3.Cross(r3.Sub(u.vertices[c[1]], u.vertices[c[0]]), r3.Sub(u.vertices[c[2]], u.vertices[c[0]]))) / 2
		}
		shown, all, whole := 0.0, 0.0, 0.0
		for n, label := range u.labels {
			all += area(n)
			switch label {
			case material:
				shown += area(n)
			case OuterEnamel, RootSurface:
			default:
				t.Fatalf("a facet of label %d", label)
			}
		}
		for n := range sound.Triangles {
			whole += sound.Area(n)
		}
		free := 0.0
		for _, f := range r.Fill(fill.Usual()).Fillings {
			for _, p := range f.Plans {
				free += p.Free
			}
		}
		if math.Abs(shown/free-1) > 0.05 || math.Abs(all/whole-1) > 0.01 {
			t.Errorf("label %d: %.2f mm² shown of %.2f, %.1f in all of %.1f", material, shown, free, all, whole)
		}
	}
}

func BenchmarkWebMesh(b *testing.B) {
	for b.Loop() {
		NewWebMesh(planned.Designed, planned.Turning)
	}
}

func TestEveryLayerOfADrawingHasItsInk(t *testing.T) {
	seen := map[string]bool{}
	for _, v := range bonded.Views {
		for _, l := range v.Layers {
			seen[l.Kind] = true
			if _, known := layerInk[l.Kind]; !known {
				t.Errorf("the layer %q of view %s is drawn with no ink", l.Kind, v.ID)
			}
		}
	}
	for _, want := range []string{"bevel", "seal", "filling", "lesion", "neighbour", "bite"} {
		if !seen[want] {
			t.Errorf("no view shows the layer %q", want)
		}
	}
	web := NewWebMesh(bonded.Designed, bonded.Turning)
	if !bytes.Contains(unpack(t, web).labels, []byte{BevelFace}) {
		t.Error("no triangle is labelled a bevel")
	}
}

func TestTheCardSaysWhatMarginsGainAndCost(t *testing.T) {
	f := document.Finish{Name: "distal incisal angle", Class: "IV", Style: "long", BondedEnamel: 12.34, EnamelSpent: 3.21, Margin: 20, MarginSeen: 8.5, EdgeIndex: 4.26}
	text := marginText(f)
	for _, want := range []string{"distal incisal angle, long finish", "12.3 mm²", "3.2 mm³", "20.0 mm", "8.5 show", "load on the edge 4.3, an index"} {
		if !strings.Contains(text, want) {
			t.Errorf("%q does not say %q", text, want)
		}
	}
	f.Class, f.Contact, f.EdgeIndex = "III", "kept", 0
	if text := marginText(f); !strings.Contains(text, "contact kept") || strings.Contains(text, "index") {
		t.Errorf("%q", text)
	}
	if className("rebuild") != "Rebuild" || className("V") != "Class V" {
		t.Error("classes are misnamed")
	}
}

// The renderer embeds fonts in any order; a drawing has them in one.
func TestFontsOfADrawingHaveOneOrder(t *testing.T) {
	one := []byte("<svg><style>\n@font-face{font-weight:700;src:b}\n@font-face{src:a}\n</style></svg>")
	other := []byte("<svg><style>\n@font-face{src:a}\n@font-face{font-weight:700;src:b}\n</style></svg>")
	if !bytes.Equal(fontsInOrder(one), fontsInOrder(other)) || len(fontsInOrder(one)) != len(one) {
		t.Errorf("%s is not %s", fontsInOrder(one), fontsInOrder(other))
	}
}

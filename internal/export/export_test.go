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

	"obturon/core/advice"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
	"obturon/internal/document"
	"obturon/internal/plan"
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

func TestSTLHoldsTheSolid(t *testing.T) {
	var out bytes.Buffer
	mesh := planned.Prepared.Mesh
	if err := WriteSTL(&out, mesh, "prepared"); err != nil {
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

func TestWebMeshUnpacks(t *testing.T) {
	web := NewWebMesh(planned, planned.Turning)
	labels := web.Data[9*web.Vertices : 9*web.Vertices+web.Triangles]
	rest := web.Data[9*web.Vertices+web.Triangles:]
	seen := map[byte]int{}
	for _, l := range labels {
		seen[l]++
	}
	for _, l := range []byte{OuterEnamel, RootSurface, EnamelWall, DentinWall, CavityFloor} {
		if seen[l] == 0 {
			t.Errorf("no triangle is labelled %d", l)
		}
	}
	index := int64(0)
	for range 3 * web.Triangles {
		step, n := binary.Varint(rest)
		if n <= 0 {
			t.Fatal("indices end early")
		}
		rest = rest[n:]
		if index += step; index < 0 || index >= int64(web.Vertices) {
			t.Fatalf("index %d of %d", index, web.Vertices)
		}
	}
	if len(rest) != 0 {
		t.Errorf("%d bytes too many", len(rest))
	}
}

func TestMirroredTeeth(t *testing.T) {
	for tooth, mirrored := range map[string]bool{"46": false, "36": true, "16": true, "26": false} {
		r := *planned
		r.Model = planned.Model.For(notation.MustParse(tooth))
		if got := NewWebMesh(&r, r.Turning).Mirrored; got != mirrored {
			t.Errorf("%s mirrored %v, want %v", tooth, got, mirrored)
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

func TestCardIsOnePage(t *testing.T) {
	var out bytes.Buffer
	if err := WriteCard(&out, planned, CardHead{Patient: "HV-031", Revision: "draft", Practice: "Clinic"}, A4); err != nil {
		t.Fatal(err)
	}
	data := out.String()
	if !strings.HasPrefix(data, "%PDF-") || strings.Count(data, "/Type /Page\n")+strings.Count(data, "/Type /Page ")+strings.Count(data, "/Type/Page/") > 1 {
		t.Error("not a PDF of one page")
	}
	if strings.Contains(data, "NaN") {
		t.Error("the card holds NaN")
	}
}

func TestRefusedPlansPrintTheReason(t *testing.T) {
	var out bytes.Buffer
	refused := &plan.Result{Case: &intake.Case{Tooth: notation.MustParse("85")}, Decision: advice.Decision{Refused: "not planned"}}
	if err := WriteCard(&out, refused, CardHead{}, Letter); err != nil {
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

func BenchmarkWebMesh(b *testing.B) {
	for b.Loop() {
		NewWebMesh(planned, planned.Turning)
	}
}

func TestEveryLayerOfADrawingHasItsInk(t *testing.T) {
	bonded, err := plan.NewPlanner().Evaluate(context.Background(), &intake.Case{
		Tooth: notation.MustParse("46"), Patient: intake.Patient{AgeYears: 34}, Contacts: []solid.Point2{{X: 3, Y: 2}},
		Findings: []lesion.Finding{
			{Kind: "old_restoration", Site: "central", Depth: "outer_dentin"}, {Kind: "proximal_caries", Site: "distal", Depth: "middle_dentin"},
		},
		Choice: intake.Choice{Material: "composite", School: "adhesive"},
	}, 0.15)
	if err != nil {
		t.Fatal(err)
	}
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
	web := NewWebMesh(bonded, bonded.Turning)
	labels := web.Data[9*web.Vertices : 9*web.Vertices+web.Triangles]
	if !bytes.Contains(labels, []byte{BevelFace}) {
		t.Error("no triangle is labelled a bevel")
	}
}

func TestTheCardSaysWhatMarginsGainAndCost(t *testing.T) {
	f := document.Finish{Name: "distal incisal angle", Class: "IV", Style: "long", BondedEnamel: 12.34, EnamelSpent: 3.21, Margin: 20, MarginSeen: 8.5}
	text := marginText(f)
	for _, want := range []string{"distal incisal angle, long finish", "12.3 mm²", "3.2 mm³", "20.0 mm", "8.5 show", "not computed"} {
		if !strings.Contains(text, want) {
			t.Errorf("%q does not say %q", text, want)
		}
	}
	f.Class, f.Contact = "III", "kept"
	if text := marginText(f); !strings.Contains(text, "contact kept") || strings.Contains(text, "computed") {
		t.Errorf("%q", text)
	}
	if className("rebuild") != "Rebuild" || className("V") != "Class V" {
		t.Error("classes are misnamed")
	}
}

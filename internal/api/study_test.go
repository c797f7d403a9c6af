package api

import (
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"strings"
	"testing"

	"obturon/internal/document"
)

// read sends a GET and reads its answer, which must be one.
func read[T any](t *testing.T, c client, path string) T {
	t.Helper()
	status, body := c.send("GET", path, "")
	if status != http.StatusOK {
		t.Fatalf("%s answers %d %s", path, status, body)
	}
	var answer T
	if err := json.Unmarshal([]byte(body), &answer); err != nil {
		t.Fatalf("%s: %v", path, err)
	}
	return answer
}

func TestArchesHoldAllTeeth(t *testing.T) {
	teeth := read[[]ArchTooth](t, signedIn(t, "dentist"), "/api/arches")
	if len(teeth) != 52 {
		t.Errorf("%d teeth in the arches", len(teeth))
	}
	for _, tooth := range teeth {
		if !tooth.Outline.Closed || len(tooth.Outline.Steps) < 40 {
			t.Errorf("%s is outlined with %d figures", tooth.Iso, len(tooth.Outline.Steps))
		}
	}
}

func TestEveryToothCanBeStudied(t *testing.T) {
	c := signedIn(t, "dentist")
	for _, tooth := range []string{"11", "23", "34", "46", "51", "84"} {
		studied := read[StudiedTooth](t, c, "/api/study/"+tooth+"?age=12")
		if studied.Tooth.Iso != tooth || studied.Outer.Triangles < 5000 || studied.Dentin.Triangles < 1000 || studied.Pulp.Triangles < 200 {
			t.Errorf("%s: %s with %d, %d and %d triangles", tooth, studied.Tooth.Iso, studied.Outer.Triangles, studied.Dentin.Triangles, studied.Pulp.Triangles)
		}
		kinds := map[document.LandmarkKind]int{}
		for _, l := range studied.Landmarks {
			kinds[l.Kind]++
		}
		if kinds["contact"] != 2 || kinds["contour"] != 2 || kinds["horn"] < 1 {
			t.Errorf("%s has the landmarks %v", tooth, kinds)
		}
	}
}

func TestOwnSizesReplaceTheAverages(t *testing.T) {
	c := signedIn(t, "dentist")
	own := read[StudiedTooth](t, c, "/api/study/45?age=30&mesiodistal=7.6&height=7.4")
	if math.Abs(float64(own.Sizes.Mesiodistal)-7.6) > 0.06 || math.Abs(float64(own.Sizes.Height)-7.4) > 0.06 {
		t.Errorf("sizes %+v of a tooth measured 7.6 by 7.4", own.Sizes)
	}
	if own.Average.Mesiodistal != 7 {
		t.Errorf("average %v", own.Average.Mesiodistal)
	}
	status, body := c.send("GET", "/api/study/45?age=30&mesiodistal=19", "")
	if status != http.StatusUnprocessableEntity || !strings.Contains(body, "mesiodistal size 19") {
		t.Errorf("a size no tooth has: %d %s", status, body)
	}
}

func TestNeighboursTouchAndAreMissingWhereNoneStands(t *testing.T) {
	c := signedIn(t, "dentist")
	for _, n := range read[[]StudyNeighbour](t, c, "/api/study/11/neighbours?age=30") {
		if n.Gap < 0 || n.Gap > 0.02 || n.Mirrored != (n.Iso == "21") {
			t.Errorf("neighbour %+v", n)
		}
	}
	third := read[[]StudyNeighbour](t, c, "/api/study/48/neighbours?age=30")
	if len(third) != 1 || third[0].Iso != "47" || third[0].Side != "mesial" {
		t.Errorf("a third molar has %d neighbours", len(third))
	}
}

func TestSectionsAndTouches(t *testing.T) {
	c := signedIn(t, "dentist")
	view := read[View](t, c, "/api/study/46/section?age=30&axis=buccolingual&at=0.5&neighbours=true")
	kinds := map[string]bool{}
	for _, l := range view.Layers {
		kinds[l.Kind] = len(l.Lines) > 0
	}
	for _, kind := range []string{"enamel", "dentin", "pulp"} {
		if !kinds[kind] {
			t.Errorf("the section shows no %s", kind)
		}
	}
	var facial []float64
	for _, l := range read[StudiedTooth](t, c, "/api/study/46?age=30").Landmarks {
		if l.Name == "facial height of contour" {
			facial = l.At
		}
	}
	touch := read[Touch](t, c, fmt.Sprintf("/api/study/46/touch?age=30&x=%v&y=%v&z=%v", facial[0], facial[1], facial[2]))
	if touch.Enamel < 0.3 || touch.Enamel > 2 || touch.Pulp < 2 || touch.Pulp > 5 {
		t.Errorf("on the buccal surface: %+v", touch)
	}
	root := read[Touch](t, c, "/api/study/46/touch?age=30&x=4.5&y=0&z=-2")
	if root.Enamel != 0 {
		t.Errorf("enamel of %v mm on the root", root.Enamel)
	}
	for _, path := range []string{
		"/api/study/46/touch?age=30&x=0&y=0&z=0", "/api/study/46/touch?age=30&x=19&y=0&z=0",
		"/api/study/46/section?age=30&axis=round&at=0", "/api/study/19?age=30", "/api/study/58?age=5", "/api/study/46?age=-1", "/api/study/46",
	} {
		if status, body := c.send("GET", path, ""); status < 400 || status >= 500 {
			t.Errorf("%s answers %d %.200s", path, status, body)
		}
	}
	if status, _ := stranger(t).send("GET", "/api/study/46?age=30", ""); status != http.StatusUnauthorized {
		t.Errorf("a stranger gets %d", status)
	}
}

package anatomy

import (
	"encoding/json"
	"math"
	"os"
	"testing"

	"obturon/core/notation"
)

// TestShippedArchesAreCurrent draws the arches and compares them with those
// that ship. With -update it rewrites them.
func TestShippedArchesAreCurrent(t *testing.T) {
	drawn, err := drawArches()
	if err != nil {
		t.Fatal(err)
	}
	if *update {
		data, err := json.Marshal(drawn)
		if err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile("arches.json", append(data, '\n'), 0o644); err != nil {
			t.Fatal(err)
		}
		return
	}
	var shipped Arches
	if err := json.Unmarshal(archesJSON, &shipped); err != nil {
		t.Fatal(err)
	}
	const remedy = "run go test ./core/anatomy -run TestShippedArches -update, and raise Version if the model changed"
	if shipped.Version != Version || len(shipped.Right) != len(drawn.Right) {
		t.Fatalf("arches of model %q with %d teeth: %s", shipped.Version, len(shipped.Right), remedy)
	}
	for n, now := range drawn.Right {
		was := shipped.Right[n]
		if a, b := centre(was.Outline), centre(now.Outline); math.Hypot(a[0]-b[0], a[1]-b[1]) > 0.05 {
			t.Errorf("%s stands at %.2f in the shipped arch, at %.2f in the drawn one: %s", now.Tooth, a, b, remedy)
		}
	}
}

func centre(line [][2]float64) (c [2]float64) {
	for _, p := range line {
		c[0] += p[0] / float64(len(line))
		c[1] += p[1] / float64(len(line))
	}
	return c
}

func TestArchesHoldAllTeethInPlace(t *testing.T) {
	all, err := AllArches()
	if err != nil {
		t.Fatal(err)
	}
	at := map[string][2]float64{}
	for _, tooth := range all {
		at[tooth.Tooth.String()] = centre(tooth.Outline)
		if len(tooth.Outline) < 40 {
			t.Errorf("%s is drawn with %d points", tooth.Tooth, len(tooth.Outline))
		}
	}
	for _, tooth := range notation.All() {
		p, ok := at[tooth.String()]
		if !ok {
			t.Errorf("%s stands in no arch", tooth)
			continue
		}
		if (p[0] < 0) != tooth.Right() {
			t.Errorf("%s stands at x %.1f", tooth, p[0])
		}
	}
	// An adult's arch is 45 to 65 mm wide between the first molars' centres and
	// curves back evenly (dental arch convention).
	for _, pair := range [][2]string{{"16", "26"}, {"46", "36"}} {
		if width := at[pair[1]][0] - at[pair[0]][0]; width < 40 || width > 65 {
			t.Errorf("arch of %.1f mm between %s and %s", width, pair[0], pair[1])
		}
	}
	for _, quadrant := range []string{"1", "4", "5", "8"} {
		for position := 2; position <= 8; position++ {
			inner, ok1 := at[quadrant+string(rune('0'+position-1))]
			outer, ok2 := at[quadrant+string(rune('0'+position))]
			if ok1 && ok2 && outer[1] >= inner[1] {
				t.Errorf("%s%d stands no further back than the tooth before it", quadrant, position)
			}
		}
	}
}

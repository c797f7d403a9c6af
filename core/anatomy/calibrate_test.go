package anatomy

import (
	"flag"
	"fmt"
	"math"
	"os"
	"regexp"
	"testing"

	"obturon/core/notation"
)

var update = flag.Bool("update", false, "rewrite the calibration of crowns.json")

// everyType is one tooth of each of the 26 types.
func everyType() []notation.Tooth {
	var teeth []notation.Tooth
	for _, t := range notation.All() {
		if t.Right() {
			teeth = append(teeth, t)
		}
	}
	return teeth
}

// TestCrownsMeasureWhatTheTableSays measures each average crown on its samples.
// With -update it first scales the table until they agree.
func TestCrownsMeasureWhatTheTableSays(t *testing.T) {
	for _, tooth := range everyType() {
		c := crowns[tooth.String()]
		if *update {
			recalibrate(t, tooth, c)
		}
		m := build(t, tooth.String(), 34, 0.1)
		for _, size := range []struct {
			name      string
			got, want float64
		}{
			{"mesiodistal", m.Sizes.Mesiodistal, c.Mesiodistal},
			{"buccolingual", m.Sizes.Buccolingual, c.Buccolingual},
			{"height", m.Sizes.Height, c.Height},
		} {
			if math.Abs(size.got-size.want) > 0.05 {
				t.Errorf("%s: %s %.3f mm, the table says %.2f", c.Key, size.name, size.got, size.want)
			}
		}
	}
	if *update {
		rewriteCalibration(t)
	}
}

func recalibrate(t *testing.T, tooth notation.Tooth, c *crown) {
	for range 4 {
		m := build(t, tooth.String(), 34, 0.1)
		c.Calibration[0] *= c.Mesiodistal / m.Sizes.Mesiodistal
		c.Calibration[1] *= c.Buccolingual / m.Sizes.Buccolingual
		c.Calibration[2] *= c.Height / m.Sizes.Height
	}
	t.Logf("%s: %.3f", c.Key, c.Calibration)
}

func rewriteCalibration(t *testing.T) {
	data, err := os.ReadFile("crowns.json")
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range crowns {
		entry := regexp.MustCompile(`("key": "` + c.Key + `",[^}]*?(?s:.*?)"calibration_md_bl_h": )\[[^\]]*\]`)
		data = entry.ReplaceAll(data, fmt.Appendf(nil, "${1}[%.4f, %.4f, %.4f]", c.Calibration[0], c.Calibration[1], c.Calibration[2]))
	}
	if err := os.WriteFile("crowns.json", data, 0o644); err != nil {
		t.Fatal(err)
	}
}

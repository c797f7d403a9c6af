package main

import (
	"bytes"
	"strings"
	"testing"

	"obturon/internal/device"
)

func TestLinesMoveStandIns(t *testing.T) {
	pedal, radiometer := &device.Pedal{}, device.NewRadiometer(500, 1)
	for _, c := range []struct {
		in    string
		stand standIn
		want  string
	}{
		{"\nb\np\nx\n", standIn{usage: "usage", take: pressing(pedal)}, "next, heard by 0\nback, heard by 0\npause, heard by 0\nusage\n"},
		{"0\n\ndark\n", standIn{usage: "usage", take: reading(radiometer)}, "a lamp of 0 mW/cm²\n0 mW/cm², heard by 0\n\"dark\" is no output: give 0 to 10000 mW/cm²\n"},
	} {
		var out bytes.Buffer
		if err := c.stand.follow(strings.NewReader(c.in), &out); err != nil {
			t.Fatal(err)
		}
		if out.String() != c.want {
			t.Errorf("said %q", out.String())
		}
	}
}

package solve

import (
	"math"
	"strings"

	"obturon/core/cavity"
)

// figure is a dimension that may be moved, in steps that a dentist can set and read.
type figure struct {
	id, name    string
	start       float64
	step        float64
	least, most int // steps from the start within what can be built
}

func figuresOf(dimensions []cavity.Dimension) []figure {
	list := make([]figure, len(dimensions))
	for n, d := range dimensions {
		step := d.Step()
		list[n] = figure{
			id: d.ID, name: strings.ToLower(d.Label), start: d.Value, step: step,
			least: int(math.Ceil((d.Min-d.Value)/step - 1e-9)), most: int(math.Floor((d.Max-d.Value)/step + 1e-9)),
		}
	}
	return list
}

func (f figure) value(steps int) float64 {
	return math.Round((f.start+float64(steps)*f.step)*1000) / 1000
}

// within lists the steps about a middle that can be built.
func (f figure) within(middle, reach int) []int {
	var list []int
	for s := max(f.least, middle-reach); s <= min(f.most, middle+reach); s++ {
		list = append(list, s)
	}
	return list
}

package forces

import (
	"context"
	"fmt"
	"math"
	"slices"

	"obturon/core/cavity"
	"obturon/core/measure"
	"obturon/core/parallel"
	"obturon/core/school"
)

// Change is one figure of the design set otherwise, with what it buys against each pull
// whose hold it alters and what it costs.
type Change struct {
	Dimension string // its id
	Label     string
	From, To  float64
	Unit      string
	Tooth     float64 // mm³ more that are cut, under 0 fewer
	Gains     []Gain
	Text      string
}

// Gain is a pull before and after a change.
type Gain struct {
	Pull          string
	Before, After Pull
}

// step is a change to try: from what is set by so much, or to a value where the figure is
// nothing yet.
type step struct {
	figure, says string
	by, from0    float64
}

var steps = []step{
	{"wall_convergence", "Walls leaning in by one degree more", 1, 0},
	{"dovetail_width", "A dovetail wider by 0.2", 0.2, 0},
	{"groove_depth", "Grooves deeper by 0.1", 0.1, 0.3},
	{"functional_lean", "The wall on the functional side leaning in by one degree more", 1, 0},
	{"wall_open", "Walls leaning in by two degrees more", -2, 0},
}

// Changes tries one change at a time. Recut cuts the cavity alone in its tooth with figures
// set over those that are: an error that cavity.Refusal knows means that it cannot be built
// so, and the change is left out. A bonded filling needs none. Errors are the others of
// recut, and the context's.
func Changes(
	ctx context.Context,
	s *measure.Subject,
	recut func(ctx context.Context, figures map[string]float64) (*measure.Subject, error),
) ([]Change, error) {
	if s.Cavity.Bonded() {
		return nil, nil
	}
	before := pullsOf(s)
	var all []Change
	for _, try := range steps {
		for _, d := range figuresOf(s.Cavity, try.figure) {
			to := d.Value + try.by
			says := try.says
			if d.Value == 0 && try.from0 > 0 {
				to, says = try.from0, fmt.Sprintf("A pair of grooves %.1f deep", try.from0)
			}
			if d.Value == 0 && try.from0 == 0 && try.by > 0 && try.figure == "dovetail_width" {
				continue // there is no room for one, or it would have been drawn
			}
			all = append(all, Change{Dimension: d.ID, Label: says, From: d.Value, To: math.Round(to*100) / 100, Unit: d.Unit})
		}
	}
	failed := make([]error, len(all))
	err := parallel.EachUntil(ctx, len(all), func(n int) {
		c := &all[n]
		after, err := recut(ctx, map[string]float64{c.Dimension: c.To})
		if err != nil {
			if cavity.Refusal(err) == "" {
				failed[n] = err
			}
			return
		}
		c.Tooth = s.Mesh.Volume() - after.Mesh.Volume()
		c.Gains = gains(before, pullsOf(after))
		c.Text = c.said()
	})
	if err != nil {
		return nil, err
	}
	for _, err := range failed {
		if err != nil {
			return nil, err
		}
	}
	return slices.DeleteFunc(all, func(c Change) bool { return len(c.Gains) == 0 }), nil
}

// figuresOf are a cavity's dimensions of a name, of every box where it is a box's.
func figuresOf(c *cavity.Cavity, figure string) []cavity.Dimension {
	var all []cavity.Dimension
	ids := []string{c.Figure(figure, "")}
	for _, box := range c.Boxes {
		ids = append(ids, c.Figure(figure, box.String()))
	}
	for _, d := range c.Dimensions {
		if slices.Contains(ids, d.ID) {
			all = append(all, d)
		}
	}
	return all
}

// pullsOf are the pulls of all fillings of a cavity.
func pullsOf(s *measure.Subject) []Pull {
	var all []Pull
	for _, bed := range s.Beds() {
		all = append(all, pulls(s, bed)...)
	}
	return all
}

// least are the pulls by name and box, each of the filling that is held least against it.
func least(all []Pull) []Pull {
	var found []Pull
	for _, p := range all {
		n := slices.IndexFunc(found, func(f Pull) bool { return f.Name == p.Name && f.Side == p.Side })
		switch {
		case n < 0:
			found = append(found, p)
		case p.Depth < found[n].Depth:
			found[n] = p
		}
	}
	return found
}

// gains are the pulls that are held better by as much as can be felt.
func gains(before, after []Pull) []Gain {
	before, after = least(before), least(after)
	var all []Gain
	for _, a := range after {
		felt := 0.02 // mm
		if a.Turns {
			felt = 0.01
		}
		n := slices.IndexFunc(before, func(b Pull) bool { return b.Name == a.Name && b.Side == a.Side })
		if n >= 0 && a.Depth > before[n].Depth+felt {
			all = append(all, Gain{a.Name, before[n], a})
		}
	}
	return all
}

func (c Change) said() string {
	if len(c.Gains) == 0 {
		return ""
	}
	text := c.Label + ":"
	for n, g := range c.Gains {
		if n > 0 {
			text += ";"
		}
		name := g.Pull
		if g.After.Side != "" && g.After.Turns {
			name += ", " + g.After.Side
		}
		text += fmt.Sprintf(" %s %s instead of %s", lower(name), figure(g.After), figure(g.Before))
	}
	cost := fmt.Sprintf("%.1f %s of tooth", c.Tooth, school.UnitName("mm3"))
	if c.Tooth < 0.05 {
		cost = "hardly any tooth"
	}
	return text + ", for " + cost + "."
}

// figure is how far a pull is held, in words.
func figure(p Pull) string {
	if p.Depth == 0 {
		return "free"
	}
	return undercut(p.Depth)
}

func lower(text string) string {
	if text == "" {
		return text
	}
	return string(text[0]|0x20) + text[1:]
}

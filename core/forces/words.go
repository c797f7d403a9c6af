package forces

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"obturon/core/hold"
	"obturon/core/measure"
)

// said is a pull in a sentence.
func (p Pull) said() string {
	name := p.Name
	if p.Turns {
		name = fmt.Sprintf("%s, %s", p.Name, p.Side)
	}
	switch {
	case p.State == Free && p.Turns:
		return name + ": free. Nothing but its fit and the load from above keeps it down."
	case p.State == Free:
		return name + ": free. No wall stands in its way, it slides out."
	case p.State == Fit && p.Turns:
		return fmt.Sprintf("%s: hardly held, by %.3f mm for %.1f mm of tipping.", name, p.Depth, measure.Tipped)
	case p.State == Fit:
		return fmt.Sprintf("%s: by fit and friction alone, %.2f mm of undercut is what walls wave by.", name, p.Depth)
	case p.Turns:
		return fmt.Sprintf("%s: held by %s, %.2f mm for %.1f mm of tipping.", name, p.byNames(), p.Depth, measure.Tipped)
	}
	return fmt.Sprintf("%s: held by %s%s.", name, p.byFigures(), p.after())
}

func (p Pull) byNames() string {
	if len(p.By) == 0 {
		return "its walls"
	}
	return p.By[0].Name
}

// byFigures lists what holds, the first three of it.
func (p Pull) byFigures() string {
	var named []string
	for _, h := range p.By[:min(3, len(p.By))] {
		named = append(named, fmt.Sprintf("%s, %s", h.Name, undercut(h.MM)))
	}
	if len(named) == 0 {
		return "its walls together, " + undercut(p.Depth)
	}
	return strings.Join(named, "; ")
}

func undercut(mm float64) string {
	if mm >= hold.MostUndercut {
		return fmt.Sprintf("%.1f mm and more", hold.MostUndercut)
	}
	return fmt.Sprintf("%.2f mm", mm)
}

// after says how far the filling goes first, where one could feel it.
func (p Pull) after() string {
	const felt = 0.05 // mm
	if math.IsInf(p.Moves, 1) || p.Moves < felt {
		return ""
	}
	return fmt.Sprintf("; it goes %.1f mm before it stops", p.Moves)
}

// released says how all walls stand together.
func released(r hold.Release) string {
	const drawn, locked = 2, -1 // degrees
	switch {
	case r.Degrees > drawn:
		return fmt.Sprintf(
			"There is a way in which every wall leans away from the filling, by %.1f degrees at least: unbonded, it could be drawn out.",
			r.Degrees,
		)
	case r.Degrees >= locked:
		return fmt.Sprintf(
			"In its freest way the walls stand along the filling, within %.1f degrees: unbonded, fit and friction alone hold it.",
			math.Abs(r.Degrees),
		)
	}
	by := fmt.Sprintf("%.1f degrees at least", -r.Degrees)
	if r.Degrees <= -hold.MostLean {
		by = fmt.Sprintf("%d degrees and more", hold.MostLean)
	}
	return fmt.Sprintf("Whichever way it is drawn, some wall leans over the filling, by %s.", by)
}

// easiest says of the straight pull that holds least how far (degrees) off the bur it leads.
func easiest(offBur, mm float64) string {
	way := "along the bur"
	if offBur > 5 {
		way = fmt.Sprintf("%.0f degrees off the bur", offBur)
	}
	return fmt.Sprintf(" Of all straight pulls the easiest leads %s: %s of undercut.", way, undercut(mm))
}

// HoldLine says in a line against what each filling is held least.
func HoldLine(fillings []Filling) string {
	rank := map[State]int{Free: 0, Fit: 1, Held: 2}
	var said []string
	for _, f := range fillings {
		if f.Bond != nil {
			said = append(said, f.Bond.Text)
			continue
		}
		least := slices.MinFunc(f.Pulls, func(a, b Pull) int {
			return cmp.Or(cmp.Compare(rank[a.State], rank[b.State]), cmp.Compare(a.Depth, b.Depth))
		})
		said = append(said, "Of all pulls the filling is held least when "+strings.ToLower(least.Text[:1])+least.Text[1:])
	}
	return strings.Join(said, " ")
}

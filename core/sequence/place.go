package sequence

import (
	"fmt"
	"math"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/notation"
	"obturon/core/procedure"
)

// start is where the first bur enters, in words.
func (f fact) start() string {
	if f.r == nil {
		return ""
	}
	at, ok := f.r.Start(f.Step)
	if !ok {
		return ""
	}
	m := f.c.Model
	if f.c.Kind != cavity.Occlusal {
		up := fmt.Sprintf("%.1f mm above the cervical line", math.Max(at.Z, 0))
		switch across := at.X; {
		case across > 0.3:
			return fmt.Sprintf("%s, %.1f mm mesial of the middle", up, across)
		case across < -0.3:
			return fmt.Sprintf("%s, %.1f mm distal of the middle", up, -across)
		}
		return up + ", in the middle"
	}
	mesial, distal := toOutside(m, at, 1), toOutside(m, at, -1)
	measured := fmt.Sprintf("%.1f mm from the mesial and %.1f from the distal surface", mesial, distal)
	if pit := nearestPit(m, at); pit != "" {
		return "over the " + pit + ", " + measured
	}
	return measured
}

// nearestPit is the pit over which a place lies, "" where none is near.
func nearestPit(m *anatomy.Model, at r3.Vec) string {
	const near = 0.6 // mm, less than a head is wide
	name, best := "", near
	for _, p := range m.Pits {
		if d := math.Hypot(p.At.X-at.X, p.At.Y-at.Y); d < best {
			name, best = p.Name, d
		}
	}
	if name != "" && !strings.HasSuffix(name, "pit") {
		name += " pit"
	}
	return name
}

// toOutside is how far (mm) a place lies within the tooth's outline seen along the bur,
// mesially (+1) or distally (-1).
func toOutside(m *anatomy.Model, at r3.Vec, sign float64) float64 {
	reach := math.Inf(-1)
	for _, p := range m.Silhouette().Points {
		own := m.Table.To(at)
		if math.Abs(p.Y-own.Y) < 0.5 {
			reach = math.Max(reach, sign*(p.X-own.X))
		}
	}
	return math.Max(reach, 0)
}

// lean is how the bur is held, in words: the handle goes where it leans.
func (f fact) lean() string {
	most, way := 0.0, ""
	upright := 0
	for _, c := range f.Cuts {
		degrees := math.Acos(math.Min(c.Axis.Z, 1)) * 180 / math.Pi
		if degrees < 1 {
			upright++
			continue
		}
		if degrees > most {
			most, way = degrees, f.towards(c.Axis)
		}
	}
	square := "square to the occlusal table"
	if f.c.Kind != cavity.Occlusal {
		square = "square to the surface"
	}
	switch {
	case len(f.Cuts) == 0:
		return ""
	case most == 0:
		return square
	case most > flat:
		return fmt.Sprintf("almost along the surface, the handle %s", way)
	case upright > 0:
		return fmt.Sprintf("%s, up to %.0f degrees %s where a wall leans", square, most, way)
	default:
		return fmt.Sprintf("leaning %.0f degrees %s", most, way)
	}
}

// flat is from how many degrees off upright a bur lies along the surface.
const flat = 45.0

// towards names where a handle leans to.
func (f fact) towards(axis r3.Vec) string {
	frame := f.r.Survey.Frame
	aside := r3.Sub(frame.Turn(axis), r3.Scale(axis.Z, frame.W))
	names := [3][2]string{{"mesially", "distally"}, {"facially", "lingually"}, {biting(f.c.Model.Tooth), "cervically"}}
	parts := [3]float64{aside.X, aside.Y, aside.Z}
	best := 0
	for n, v := range parts {
		if math.Abs(v) > math.Abs(parts[best]) {
			best = n
		}
	}
	if parts[best] < 0 {
		return names[best][1]
	}
	return names[best][0]
}

func biting(t notation.Tooth) string {
	if t.Anterior() {
		return "incisally"
	}
	return "occlusally"
}

// stays is what is left standing on purpose.
func (f fact) stays() string {
	var parts []string
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		if mm, ok := f.ridge(side); ok && (f.r != nil || f.Kind == procedure.Ridges) {
			parts = append(parts, fmt.Sprintf("%.1f mm before the %s surface", mm, side))
		}
	}
	if f.Behind > 0 {
		parts = append(parts, fmt.Sprintf("a shell of %.1f mm towards the adjacent tooth", f.Behind))
	}
	return strings.Join(parts, ", ")
}

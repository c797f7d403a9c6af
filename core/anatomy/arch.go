package anatomy

import (
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
	"obturon/core/parallel"
)

// ArchTooth is a tooth in its arch as seen along the teeth from the biting
// side. Positions are mm: x from the midline to the patient's left, y
// forwards.
type ArchTooth struct {
	Tooth   notation.Tooth `json:"tooth"`
	Outline [][2]float64   `json:"outline"` // closed
	Grooves [][][2]float64 `json:"grooves"` // open lines
}

// Arches holds the teeth of all arches: each type once on the right side,
// from which the left one is mirrored.
type Arches struct {
	Version string      `json:"version"` // of the model that drew them
	Right   []ArchTooth `json:"right"`
}

//go:embed arches.json
var archesJSON []byte

// AllArches gives the outlines of all 52 teeth in their arches. They ship
// ready drawn, and are drawn anew when the model has changed since.
var AllArches = sync.OnceValues(func() ([]ArchTooth, error) {
	var shipped Arches
	if err := json.Unmarshal(archesJSON, &shipped); err != nil || shipped.Version != Version {
		var err error
		if shipped, err = drawArches(); err != nil {
			return nil, err
		}
	}
	all := shipped.Right
	for _, right := range shipped.Right {
		left, err := mirrored(right)
		if err != nil {
			return nil, err
		}
		all = append(all, left)
	}
	return all, nil
})

// archStep (mm) is the grid that outlines are drawn on.
const archStep = 0.2

// drawArches stands the teeth of the right side in their arches, each in
// contact with the one before it.
func drawArches() (Arches, error) {
	var teeth []notation.Tooth
	for _, t := range notation.All() {
		if t.Right() {
			teeth = append(teeth, t)
		}
	}
	models, err := buildAll(teeth)
	if err != nil {
		return Arches{}, fmt.Errorf("drawing the arches: %w", err)
	}
	a := Arches{Version: Version}
	var place Placement
	for n, m := range models {
		if m.Tooth.Position() == 1 {
			place = atMidline(m)
		} else {
			place = place.Then(Place(models[n-1], notation.Distal, m).Placement)
		}
		a.Right = append(a.Right, drawInArch(m, place))
	}
	return a, nil
}

// buildAll builds teeth side by side.
func buildAll(teeth []notation.Tooth) ([]*Model, error) {
	const anyAge = 30
	models, errs := make([]*Model, len(teeth)), make([]error, len(teeth))
	var all parallel.Group
	for n, t := range teeth {
		all.Go(func() {
			if models[n], errs[n] = Build(t, MeasuredSizes{}, anyAge, archStep); errs[n] == nil {
				models[n].Silhouette()
			}
		})
	}
	all.Wait()
	return models, errors.Join(errs...)
}

// atMidline stands a central incisor with its mesial contact on the midline.
func atMidline(m *Model) Placement {
	c := m.MesialContact
	p := Placement{Yaw: -math.Atan2(c.Normal.Y, c.Normal.X)}
	p.Offset.X = -p.Into(c.At).X
	return p
}

func drawInArch(m *Model, place Placement) ArchTooth {
	const spacing = 0.2 // mm between points
	flat := func(p r3.Vec) [2]float64 {
		q := place.Into(p)
		return [2]float64{hundredths(q.X), hundredths(q.Y)}
	}
	drawn := ArchTooth{Tooth: m.Tooth, Outline: [][2]float64{}, Grooves: [][][2]float64{}}
	for _, p := range m.Silhouette().Resample(spacing).Points {
		drawn.Outline = append(drawn.Outline, flat(m.Table.From(r3.Vec{X: p.X, Y: p.Y})))
	}
	lines := [][]r3.Vec{}
	for _, g := range m.Grooves {
		if !g.Supplemental {
			lines = append(lines, g.Points)
		}
	}
	if m.Tooth.Anterior() {
		lines = append(lines, m.IncisalEdge)
	}
	for _, points := range lines {
		line := [][2]float64{}
		for _, p := range points {
			line = append(line, flat(p))
		}
		drawn.Grooves = append(drawn.Grooves, line)
	}
	return drawn
}

func hundredths(x float64) float64 { return math.Round(100*x) / 100 }

// mirrored is the same tooth of the other side.
func mirrored(right ArchTooth) (ArchTooth, error) {
	otherSide := map[byte]int{'1': 2, '4': 3, '5': 6, '8': 7}
	t, err := notation.New(otherSide[right.Tooth.String()[0]], right.Tooth.Position())
	left := ArchTooth{Tooth: t, Outline: mirror(right.Outline), Grooves: [][][2]float64{}}
	for _, line := range right.Grooves {
		left.Grooves = append(left.Grooves, mirror(line))
	}
	return left, err
}

func mirror(line [][2]float64) [][2]float64 {
	out := make([][2]float64, len(line))
	for n, p := range line {
		out[n] = [2]float64{-p[0], p[1]}
	}
	return out
}

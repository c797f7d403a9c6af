package drawing

import (
	"fmt"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
)

// No drawing is a mirror image: whoever looks at a tooth in the patient's mouth from where
// a view is taken finds to the right and upwards what the view has there.
func TestNoViewIsAMirrorImage(t *testing.T) {
	toRight, forwards, up := r3.Vec{X: 1}, r3.Vec{Y: 1}, r3.Vec{Z: 1} // of the patient
	built := map[string]*anatomy.Model{}                              // of either side: both have one shape
	for _, tooth := range notation.All() {
		age := 30.0
		if tooth.Primary() {
			age = 7
		}
		shape := fmt.Sprint(tooth.Upper(), tooth.Primary(), tooth.Position())
		if built[shape] == nil {
			var err error
			if built[shape], err = anatomy.Build(tooth, anatomy.MeasuredSizes{}, age, 0.4); err != nil {
				t.Fatal(err)
			}
		}
		m := built[shape].For(tooth)
		// A molar's cheek side looks to its own side of the mouth, an incisor's forwards.
		outwards, occlusal := toRight, up
		if !tooth.Right() {
			outwards = r3.Scale(-1, toRight)
		}
		mesial, facial := forwards, outwards
		if tooth.Anterior() {
			mesial, facial = r3.Scale(-1, outwards), forwards
		}
		if tooth.Upper() {
			occlusal = r3.Scale(-1, up)
		}
		inMouth := func(d r3.Vec) r3.Vec {
			return r3.Add(r3.Scale(d.X, mesial), r3.Add(r3.Scale(d.Y, facial), r3.Scale(d.Z, occlusal)))
		}
		views := map[string]View{"plan": Chart(m), "facial": SurfaceChart(m, true), "lingual": SurfaceChart(m, false)}
		from := map[string]r3.Vec{"plan": m.Table.W, "facial": {Y: 1}, "lingual": {Y: -1}}
		for name, v := range views {
			towards := r3.Cross(inMouth(v.Plane.U), inMouth(v.Plane.V))
			if r3.Dot(towards, inMouth(from[name])) < 0.9 {
				t.Errorf("%s: the %s view is a mirror image", tooth, name)
			}
			if x := v.Plane.Project(m.MesialContact.At).X - v.Plane.Project(m.DistalContact.At).X; (x > 0) != (v.Right == "mesial") {
				t.Errorf("%s: the %s view says %s on its right, where mesial is drawn at %.1f", tooth, name, v.Right, x)
			}
		}
	}
	for _, iso := range []string{"46", "36", "15", "25"} {
		tooth := notation.MustParse(iso)
		for _, v := range views(t, iso) {
			if v.From != "mesial" && v.From != "distal" {
				continue
			}
			towards := r3.Cross(v.Plane.U, v.Plane.V)
			if tooth.Upper() != tooth.Right() { // left-handed
				towards = r3.Scale(-1, towards)
			}
			if (towards.X > 0) != (v.From == "mesial") {
				t.Errorf("%s: the view from %s is a mirror image", iso, v.From)
			}
		}
	}
}

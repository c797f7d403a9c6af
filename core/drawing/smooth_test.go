package drawing

import (
	"math"
	"strings"
	"testing"

	"obturon/core/anatomy"
	"obturon/core/cavity/cavitytest"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

func layer(v View, kind string) []solid.Polyline {
	for _, l := range v.Layers {
		if l.Kind == kind {
			return l.Lines
		}
	}
	return nil
}

// prefixes start the ids of the views of a site.
var prefixes = map[lesion.Site]string{lesion.Distal: "distal_face_", lesion.MesialIncisalAngle: "mesial_corner_", lesion.Buccal: "facial_neck_", lesion.BuccalPit: "buccal_pit_"}

func TestSmoothSurfacesAreDrawnWithTheirDimensions(t *testing.T) {
	for _, c := range []struct {
		tooth    string
		material school.Material
		f        lesion.Finding
		tags     []school.CriterionID // checks that a tag shows
	}{
		{"12", "composite", lesion.Finding{Kind: lesion.ProximalCaries, Site: lesion.Distal, Depth: "outer_dentin"},
			[]school.CriterionID{"anterior.box_height", "anterior.incisal_bridge", "anterior.box_width", "anterior.box_depth"}},
		{"22", "composite", lesion.Finding{Kind: lesion.Fracture, Site: lesion.MesialIncisalAngle, Depth: "outer_dentin"}, []school.CriterionID{"corner.facial_bevel", "corner.lingual_bevel"}},
		{"33", "amalgam", lesion.Finding{Kind: lesion.CervicalCaries, Site: lesion.Buccal, Depth: "outer_dentin"}, []school.CriterionID{"neck.depth", "neck.gingiva", "resist.pulp_distance"}},
		{"46", "amalgam", lesion.Finding{Kind: lesion.PitCaries, Site: lesion.BuccalPit, Depth: "outer_dentin"}, []school.CriterionID{"pit.width", "pit.depth"}},
	} {
		views := drawn(t, cavitytest.Request(t, c.tooth, "board", c.material, 0.15, c.f))
		if len(views) != 3 {
			t.Fatalf("%s %s: %d views", c.tooth, c.f.Site, len(views))
		}
		shown := map[school.CriterionID]bool{}
		for _, v := range views {
			if !strings.HasPrefix(v.ID, prefixes[c.f.Site]) {
				t.Errorf("%s: a view is called %s", c.f.Site, v.ID)
			}
			for _, tag := range v.Tags {
				shown[tag.CheckID] = true
				for _, at := range []solid.Point2{tag.From, tag.To, tag.Handle} {
					if at.X < v.Bounds.MinX || at.X > v.Bounds.MaxX || at.Y < v.Bounds.MinY || at.Y > v.Bounds.MaxY {
						t.Errorf("%s: the tag %s leaves the view %s", c.f.Site, tag.Label, v.ID)
					}
				}
				length := math.Hypot(tag.To.X-tag.From.X, tag.To.Y-tag.From.Y)
				if tag.Unit == "mm" && length > math.Abs(tag.Value)+0.05 {
					t.Errorf("%s: the tag %s of %.2f mm is drawn %.2f long", c.f.Site, tag.Label, tag.Value, length)
				}
				if tag.Dimension != "" && math.Abs(math.Hypot(tag.Pull.X, tag.Pull.Y)-1) > 1e-6 {
					t.Errorf("%s: the handle of %s pulls nowhere", c.f.Site, tag.Dimension)
				}
			}
			if section := len(layer(v, Enamel)) > 0; !section && len(layer(v, Crown)) == 0 {
				t.Errorf("%s: %s shows no tooth", c.f.Site, v.ID)
			}
		}
		for _, id := range c.tags {
			if !shown[id] {
				t.Errorf("%s %s: no tag shows %s", c.tooth, c.f.Site, id)
			}
		}
		if len(layer(views[0], Cavity)) == 0 || len(layer(views[0], Lesion)) == 0 {
			t.Errorf("%s: the surface shows neither cavity nor lesion", c.f.Site)
		}
	}
}

func TestUprightViewsTurnAsTheMouthIsSeen(t *testing.T) {
	for _, c := range []struct {
		tooth         string
		facial        bool
		right, facing string
	}{{"12", true, "distal", "From facial"}, {"12", false, "mesial", "From lingual"}, {"22", true, "mesial", "From facial"}, {"33", true, "distal", "From facial"}, {"43", false, "distal", "From lingual"}} {
		m, err := anatomy.Build(notation.MustParse(c.tooth), anatomy.MeasuredSizes{}, 30, 0.3)
		if err != nil {
			t.Fatal(err)
		}
		v := SurfaceChart(m, c.facial)
		if v.Right != c.right || v.Title != c.facing || v.Up != "incisal" {
			t.Errorf("%s: %s lies to the right of %s, %s up", c.tooth, v.Right, v.Title, v.Up)
		}
		mesial := v.Plane.Project(m.MesialContact.At)
		if (mesial.X > 0) != (c.right == "mesial") {
			t.Errorf("%s: the mesial contact is drawn at %.1f", c.tooth, mesial.X)
		}
	}
}

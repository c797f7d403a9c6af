package smooth

import (
	"strings"
	"testing"

	"obturon/core/cavity"
	"obturon/core/lesion"
)

func TestDimensionsOfEverySiteHaveIdsOfTheirOwn(t *testing.T) {
	seen := map[string]bool{}
	for _, l := range Limits() {
		if seen[l.ID] {
			t.Errorf("%s is called twice", l.ID)
		}
		seen[l.ID] = true
	}
	for _, id := range []string{"mesial_face_planed", "buccal_pit_lock_depth", "nose_width"} {
		if seen[id] {
			t.Errorf("%s is a dimension", id)
		}
	}
}

func TestOverridesOutOfReachAreNamed(t *testing.T) {
	for _, c := range []struct {
		id    string
		value float64
		says  string // "" where it is taken
	}{
		{"facial_neck_depth", 1.2, ""}, {"facial_neck_depth", 9, "0.2 to 4 mm"}, {"mesial_corner_bevel_width", 5, "0 to 4 mm"},
		{"distal_face_rise", -2, ""}, {"mesial_corner_depth", 1, "no dimension"}, {"lingual_pit_groove_depth", 0.2, "no dimension"},
	} {
		said := cavity.CheckOverride(Limits(), c.id, c.value)
		if c.says == "" && said != "" || c.says != "" && !strings.Contains(said, c.says) {
			t.Errorf("%s %v: %q", c.id, c.value, said)
		}
	}
}

func TestADesignTakesItsOwnOverridesOnly(t *testing.T) {
	d := Design{Site: lesion.MesialIncisalAngle, Style: cavity.Short, BevelWidth: 1, BevelAngle: 30, LingualBevel: 0.5}
	changed := at(d.Site).specs().Apply(d, map[string]float64{"mesial_corner_bevel_width": 2, "distal_corner_bevel_width": 3, "mesial_corner_depth": 4, "mesial_face_width": 5})
	if changed.BevelWidth != 2 || changed.Depth != 0 || changed.Width != 0 {
		t.Errorf("applied: %+v", changed)
	}
	for _, c := range []struct {
		style cavity.Style
		angle bool
	}{{cavity.Short, true}, {cavity.Translucency, true}, {cavity.Long, false}, {cavity.Scalloped, false}} {
		d.Style = c.style
		has := false
		for _, dimension := range at(d.Site).specs().Dimensions(d, d) {
			has = has || dimension.ID == "mesial_corner_bevel_angle"
		}
		if has != c.angle {
			t.Errorf("%s: the bevel's angle is offered: %v", c.style, has)
		}
	}
	d.BevelWidth = 2
	for _, dimension := range at(d.Site).specs().Dimensions(d, Design{Site: d.Site, BevelWidth: 1, LingualBevel: 0.5}) {
		if set := dimension.ID == "mesial_corner_bevel_width"; dimension.Overridden() != set {
			t.Errorf("%s counts as set by hand: %v", dimension.ID, dimension.Overridden())
		}
	}
}

func TestTheFacialFinishFollowsStyleAndEnamel(t *testing.T) {
	for _, c := range []struct {
		style       cavity.Style
		translucent bool
		width       float64
	}{{cavity.Short, false, 1}, {cavity.Long, false, 2.5}, {cavity.Scalloped, true, 2.5}, {cavity.Translucency, true, 2.5}, {cavity.Translucency, false, 1}} {
		width, angle := facialFinish(c.style, c.translucent)
		if width != c.width {
			t.Errorf("%s, translucent %v: %v mm", c.style, c.translucent, width)
		}
		if angle >= 40 {
			t.Errorf("%s: a line of %v degrees shows", c.style, angle)
		}
	}
	for site, want := range map[lesion.Site]string{lesion.Buccal: "facial cervical", lesion.Mesial: "mesial", lesion.DistalIncisalAngle: "distal incisal angle", lesion.LingualPit: "lingual pit"} {
		if got := at(site).name; got != want {
			t.Errorf("%s is named %q", site, got)
		}
	}
}

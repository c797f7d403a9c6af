package school

import (
	"encoding/json"
	"math"
	"slices"
	"strings"
	"testing"

	"obturon/core/instrument"
	"obturon/core/notation"
)

// Every school has a word on every criterion for every group of teeth that it is
// meant for, in both materials.
func TestShippedSchoolsCoverEveryCriterion(t *testing.T) {
	permanent := []string{"46", "14", "12"}
	teeth := map[string][]string{"board": permanent, "traditional": permanent, "adhesive": permanent, "primary": {"85", "52"}}
	for _, id := range IDs {
		s, err := Get(id)
		if err != nil {
			t.Fatal(err)
		}
		for _, tooth := range teeth[id] {
			for _, e := range Catalogue {
				for _, material := range Materials {
					if _, ok := s.For(e.ID, notation.MustParse(tooth), material); !ok && asks(e.ID, notation.MustParse(tooth)) {
						t.Errorf("%s says nothing about %s for %s on %s", id, e.ID, material, tooth)
					}
				}
			}
		}
	}
}

// asks reports a criterion that means something on a tooth: front teeth have no
// marginal ridge to keep.
func asks(id CriterionID, t notation.Tooth) bool {
	return !t.Anterior() || id != OutlineMarginalRidge
}

func TestRidgeKeptDependsOnTheTooth(t *testing.T) {
	s, _ := Get("board")
	for _, c := range []struct {
		tooth string
		want  float64
	}{{"14", 1.6}, {"46", 2.0}, {"85", 1.2}} {
		got, _ := s.For(OutlineMarginalRidge, notation.MustParse(c.tooth), Amalgam)
		if got.Target.Min != c.want || !math.IsInf(got.Target.Max, 1) {
			t.Errorf("tooth %s: ridge kept %v, want at least %v", c.tooth, got.Target, c.want)
		}
	}
}

func TestEveryEntryHasWordsForBothSides(t *testing.T) {
	for _, e := range Catalogue {
		for _, kind := range []string{"", "pit", "cervical", "occlusal"} {
			own := e.For(kind)
			for _, short := range []bool{true, false} {
				text := own.Fix(short, 0.15, "buccal wall")
				if len(text) < 20 || strings.ContainsAny(text, "{}") {
					t.Errorf("%s, %s short %v says %q", e.ID, kind, short, text)
				}
			}
			if own.Label == "" || !slices.Contains(Forms, own.Form) {
				t.Errorf("%s is called %q under %q", e.ID, own.Label, own.Form)
			}
		}
	}
}

func TestAFixNamesAmountAndPlace(t *testing.T) {
	e, _ := Find(RetainConvergence)
	if text := e.Fix(true, 1.25, "buccal wall"); !strings.HasPrefix(text, "Buccal wall leans in 1.2 degrees too little") {
		t.Errorf("%q", text)
	}
	e, _ = Find(LesionJunction)
	if text := e.Fix(false, 0.127, "lesion"); !strings.HasPrefix(text, "About 0.13 mm³ of caries") {
		t.Errorf("%q", text)
	}
}

func TestReadReportsEveryFault(t *testing.T) {
	_, err := Read([]byte(`{"id":"x","version":"1","name":"X","criteria":[
		{"id":"resist.pulpal_depth","unit":"cm","target":{"min":2,"max":1},"limits":{"min":0,"max":3},"aim":5,"severity":"dire","why":" "},
		{"id":"box.axial_depth","unit":"mm","basis":"groove_fraction","target":{"min":1,"max":2},"limits":{"min":1,"max":3},"aim":1,"severity":"minor","why":"?"},
		{"id":"resist.floor_tilt","unit":"deg","basis":"intercuspal_fraction","target":{"max":2},"limits":{"max":3},"aim":1,"severity":"minor","why":"?"},
		{"id":"resist.unknown","why":"?"}]}`))
	if err == nil {
		t.Fatal("no error")
	}
	for _, want := range []string{
		"why is missing", "unit is \"cm\"", "severity \"dire\"", "min is above", "aim 5", "resist.unknown: this criterion is unknown",
		"box.axial_depth: only groove extensions are fractions of a groove", "resist.floor_tilt: only lengths can be fractions",
	} {
		if !strings.Contains(err.Error(), want) {
			t.Errorf("faults miss %q:\n%v", want, err)
		}
	}
}

func TestReadRefuses(t *testing.T) {
	for _, text := range []string{
		``, `[]`, `{"id":"x"}`, `{"id":"x","version":"1","name":"n","colour":1}`, `{"id":"x","version":"1","name":"n"}{}`,
		`{"id":"x","version":"1","name":"n","criteria":[{"id":"resist.pulpal_depth","target":{},"why":"?"}]}`,
		`{"id":"x","version":"1","name":"n","criteria":[{"id":"resist.pulpal_depth","target":{"least":1},"why":"?"}]}`,
	} {
		if _, err := Read([]byte(text)); err == nil {
			t.Errorf("Read(%q) succeeded", text)
		}
	}
}

func TestGetNamesTheChoices(t *testing.T) {
	if _, err := Get("nowhere"); err == nil || !strings.Contains(err.Error(), "board, traditional, adhesive, primary") {
		t.Errorf("got %v", err)
	}
}

func TestOpenEndsStayOpenThroughADocument(t *testing.T) {
	for _, r := range []Range{AtLeast(2), AtMost(0.3), {Min: 0.3, Max: 0.5}, {}} {
		data, err := json.Marshal(r)
		if err != nil {
			t.Fatal(err)
		}
		var back Range
		if err := json.Unmarshal(data, &back); err != nil || back != r {
			t.Errorf("%v becomes %s, read back as %v: %v", r, data, back, err)
		}
	}
	for r, want := range map[Range]string{AtLeast(2): "at least 2", AtMost(0.3): "at most 0.3", {Min: 0.3, Max: 0.5}: "0.3 to 0.5"} {
		if r.String() != want {
			t.Errorf("%v reads %q", r, r.String())
		}
	}
}

func TestFractionsBecomeMillimetresOfTheTooth(t *testing.T) {
	c := Criterion{Basis: IntercuspalFraction, Target: Range{Min: 0.25, Max: 0.34}, Aim: 0.3}
	if got := c.On(5); got.Target != (Range{Min: 1.25, Max: 1.7000000000000002}) || got.Aim != 1.5 || got.Basis != Absolute {
		t.Errorf("%+v", got)
	}
	if got := c.OfGroove(3); got.Aim != 0.3 {
		t.Errorf("a fraction between cusps was taken of a groove: %+v", got)
	}
	c.Basis = GrooveFraction
	if got := c.On(5); got.Aim != 0.3 {
		t.Errorf("a fraction of a groove was taken between cusps: %+v", got)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(`{"id":"x","version":"1","name":"n","criteria":[]}`))
	f.Add([]byte(`{"id":"x","version":"1","name":"n","criteria":[{"id":"resist.pulpal_depth","target":{"min":1}}]}`))
	f.Fuzz(func(t *testing.T, data []byte) { _, _ = Read(data) })
}

// What no gauge can tell is not given as a figure of nothing.
func TestWithinErrorNamesNoZero(t *testing.T) {
	e, _ := Find(ResistPulpalDepth)
	if said := e.WithinError(0.003); strings.Contains(said, "0.00") {
		t.Error(said)
	}
	if said := e.WithinError(0.04); !strings.Contains(said, "0.04 mm") {
		t.Error(said)
	}
}

func TestASchoolTakesItsOwnInstrumentsUpFirst(t *testing.T) {
	all := []instrument.ID{instrument.Pear, instrument.SmallPear, instrument.LongPear}
	for id, first := range map[string]instrument.ID{"board": instrument.Pear, "adhesive": instrument.SmallPear} {
		s, err := Get(id)
		if err != nil {
			t.Fatal(err)
		}
		if got := s.Preferring(all); len(got) != 3 || got[0] != first || got[2] != instrument.LongPear {
			t.Errorf("%s takes up %v", id, got)
		}
	}
	var none *School
	if got := none.Preferring(all); !slices.Equal(got, all) {
		t.Errorf("without a school: %v", got)
	}
	if _, err := Read([]byte(`{"id":"x","version":"1","name":"n","criteria":[],"instruments":["330","pencil","331"]}`)); err == nil || !strings.Contains(err.Error(), "instruments[1]") || !strings.Contains(err.Error(), "instruments[2]") {
		t.Errorf("a pencil and what there is not: %v", err)
	}
}

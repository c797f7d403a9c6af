package school

import (
	"strings"
	"testing"

	"obturon/core/notation"
)

func TestEmbeddedSchoolsCoverEveryCriterion(t *testing.T) {
	tooth := map[string]notation.Tooth{"board": notation.MustParse("46"), "traditional": notation.MustParse("14"), "adhesive": notation.MustParse("46"), "primary": notation.MustParse("85")}
	for _, id := range IDs {
		s, err := Get(id)
		if err != nil {
			t.Fatal(err)
		}
		for criterion := range Units {
			for _, material := range []string{"amalgam", "composite"} {
				if _, ok := s.For(criterion, tooth[id], material); !ok {
					t.Errorf("%s says nothing about %s for %s", id, criterion, material)
				}
			}
		}
	}
}

func TestRidgeKeptDependsOnTheTooth(t *testing.T) {
	s, _ := Get("board")
	for _, c := range []struct {
		tooth string
		want  float64
	}{{"14", 1.6}, {"46", 2.0}, {"85", 1.2}} {
		got, _ := s.For("outline.marginal_ridge", notation.MustParse(c.tooth), "amalgam")
		if got.Target.Min != c.want {
			t.Errorf("tooth %s: ridge kept %v, want %v", c.tooth, got.Target.Min, c.want)
		}
	}
}

func TestReadReportsEveryFault(t *testing.T) {
	_, err := Read([]byte(`{"id":"x","version":"1","name":"X","criteria":[
		{"id":"resist.pulpal_depth","unit":"cm","target":{"min":2,"max":1},"limits":{"min":0,"max":3},"aim":5,"severity":"dire","why":" "},
		{"id":"resist.unknown","why":"?"}]}`))
	if err == nil {
		t.Fatal("no error")
	}
	for _, want := range []string{"why is missing", "unit is \"cm\"", "severity \"dire\"", "min is above", "aim 5", "resist.unknown: this criterion is unknown"} {
		if !strings.Contains(err.Error(), want) {
			t.Errorf("faults miss %q:\n%v", want, err)
		}
	}
}

func TestReadRefuses(t *testing.T) {
	for _, text := range []string{``, `[]`, `{"id":"x"}`, `{"id":"x","version":"1","name":"n","colour":1}`, `{"id":"x","version":"1","name":"n"}{}`} {
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

func FuzzRead(f *testing.F) {
	f.Add([]byte(`{"id":"x","version":"1","name":"n","criteria":[]}`))
	f.Fuzz(func(t *testing.T, data []byte) { _, _ = Read(data) })
}

package notation

import "testing"

func TestParseAcceptsEveryNotation(t *testing.T) {
	for _, c := range []struct{ typed, iso, universal, letters, symbol, name string }{
		{"46", "46", "30", "LR6", "6⏋", "lower right first molar"},
		{"30", "46", "30", "LR6", "6⏋", "lower right first molar"},
		{"lr6", "46", "30", "LR6", "6⏋", "lower right first molar"},
		{"#16", "28", "16", "UL8", "⎿8", "upper left third molar"},
		{"16", "16", "3", "UR6", "6⏌", "upper right first molar"},
		{"3", "16", "3", "UR6", "6⏌", "upper right first molar"},
		{" 24 ", "24", "12", "UL4", "⎿4", "upper left first premolar"},
		{"K", "75", "K", "LLE", "⎾E", "primary lower left second molar"},
		{"URE", "55", "A", "URE", "E⏌", "primary upper right second molar"},
		{"85", "85", "T", "LRE", "E⏋", "primary lower right second molar"},
		{"9", "21", "9", "UL1", "⎿1", "upper left central incisor"},
	} {
		got, err := Parse(c.typed)
		if err != nil {
			t.Errorf("Parse(%q): %v", c.typed, err)
			continue
		}
		if got.String() != c.iso || got.Universal() != c.universal || got.QuadrantLetters() != c.letters ||
			got.QuadrantSymbol() != c.symbol || got.Name() != c.name {
			t.Errorf("Parse(%q) = %s %s %s %s %q, want %+v", c.typed, got, got.Universal(), got.QuadrantLetters(), got.QuadrantSymbol(), got.Name(), c)
		}
	}
}

func TestParseRefuses(t *testing.T) {
	for _, typed := range []string{"", "0", "49", "56", "33x", "LR9", "LRF", "U", "#0", "19.5", "４６", "LR\x00"} {
		if got, err := Parse(typed); err == nil {
			t.Errorf("Parse(%q) = %v, want an error", typed, got)
		}
	}
}

func TestEveryToothRoundTrips(t *testing.T) {
	all := All()
	if len(all) != 52 {
		t.Fatalf("%d teeth, want 52", len(all))
	}
	for _, tooth := range all {
		for _, text := range []string{tooth.String(), "#" + tooth.Universal(), tooth.QuadrantLetters()} {
			if got, err := Parse(text); err != nil || got != tooth {
				t.Errorf("Parse(%q) = %v, %v; want %v", text, got, err, tooth)
			}
		}
	}
}

func TestConfirm(t *testing.T) {
	tooth := MustParse("46")
	for _, c := range []struct {
		method, answer string
		ok             bool
	}{
		{"count", "lower right 6", true},
		{"count", "Lower Right 6", true},
		{"count", "lower left 6", false},
		{"count", "lower right 7", false},
		{"count", "six", false},
		{"universal", "30", true},
		{"universal", "46", false},
		{"universal", "19", false},
		{"quadrant", "LR6", true},
		{"quadrant", "LL6", false},
		{"guess", "46", false},
	} {
		if err := Confirm(tooth, Confirmation{c.method, c.answer}); (err == nil) != c.ok {
			t.Errorf("Confirm(46, %s %q) = %v, want ok %v", c.method, c.answer, err, c.ok)
		}
	}
	if err := Confirm(MustParse("85"), Confirmation{"count", "lower right 5"}); err != nil {
		t.Errorf("primary teeth are counted within their own dentition: %v", err)
	}
}

func FuzzParse(f *testing.F) {
	for _, seed := range []string{"46", "#3", "LRE", "T", "", "9⏋"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, s string) {
		if tooth, err := Parse(s); err == nil {
			if again, err := ParseISO(tooth.String()); err != nil || again != tooth {
				t.Errorf("%q parsed as %v, which does not read back: %v", s, again, err)
			}
		}
	})
}

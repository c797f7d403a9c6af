package instrument

import (
	"math"
	"strings"
	"testing"
)

func pieces(n int) *int { return &n }

func TestStocksAreChecked(t *testing.T) {
	for _, c := range []struct {
		name  string
		stock Stock
		field string // that is at fault, "" for none
	}{
		{"nothing written down", nil, ""},
		{"counted, single-use and measured", Stock{{ID: Pear, Pieces: pieces(12), UsesEach: 1, UsesLeft: 1, Width: 0.75, Length: 1.6}}, ""},
		{"used up", Stock{{ID: Pear, Pieces: pieces(0), UsesEach: 5}}, ""},
		{"unknown", Stock{{ID: "331"}}, "instrument"},
		{"twice", Stock{{ID: Pear}, {ID: Pear}}, "instrument"},
		{"less than none", Stock{{ID: Pear, Pieces: pieces(-1)}}, "pieces"},
		{"uses of pieces that nobody counts", Stock{{ID: Pear, UsesEach: 5, UsesLeft: 5}}, "pieces"},
		{"more uses left than a piece has", Stock{{ID: Pear, Pieces: pieces(1), UsesEach: 5, UsesLeft: 6}}, "uses_left"},
		{"a new piece", Stock{{ID: Pear, Pieces: pieces(1), UsesEach: 5}}, ""},
		{"another bur", Stock{{ID: Pear, Width: 1.2}}, "width_mm"},
		{"no figure", Stock{{ID: Pear, Length: math.NaN()}}, "length_mm"},
		{"a pencil's width", Stock{{ID: Pencil, Width: 0.5}}, "width_mm"},
		{"a blade ground short", Stock{{ID: Hatchet, Length: 6.1}}, ""},
	} {
		faults := c.stock.Check()
		if (len(faults) > 0) != (c.field != "") || len(faults) > 0 && faults[0].Field != c.field {
			t.Errorf("%s: %+v, want one of %q", c.name, faults, c.field)
		}
		for _, f := range faults {
			if len(strings.Fields(f.Message)) < 4 {
				t.Errorf("%s: %q says too little", c.name, f.Message)
			}
		}
	}
}

// Two burs of three uses each serve six patients; one of them had one use behind it.
func TestUsesAreCounted(t *testing.T) {
	s := Stock{{ID: Pear, Pieces: pieces(2), UsesEach: 3, UsesLeft: 2}, {ID: LongPear}}
	for patient := range 5 {
		if !s.Kit().Has(Pear) {
			t.Fatalf("none is left for patient %d", patient+1)
		}
		if low := s[0].RunsLow(); (patient >= 2) != (low != "") {
			t.Errorf("before patient %d: %q", patient+1, low)
		}
		var changed bool
		if s, changed = s.Used([]ID{Pear, LongPear, Pear}); !changed {
			t.Fatal("nothing was counted")
		}
		if faults := s.Check(); len(faults) > 0 {
			t.Fatalf("after patient %d: %+v", patient+1, faults)
		}
	}
	if k := s.Kit(); k.Has(Pear) || k.Out(Pear) == "" || !k.Has(LongPear) {
		t.Errorf("left is %+v", s)
	}
	if _, changed := s.Used([]ID{Pear, LongPear}); changed {
		t.Error("what is used up, or not counted, is counted")
	}
}

func TestAKitHasItsOwnSizes(t *testing.T) {
	k := Stock{{ID: Pear, Width: 0.7, Length: 1.6}, {ID: LargeRound, Width: 1.2}, {ID: SlimTaper, Width: 0.8}, {ID: Hatchet, Width: 1.2}}.Kit()
	if h := k.Get(Pear).Head; h.Diameter != 0.7 || h.Length != 1.6 {
		t.Errorf("the pear is %+v", *h)
	}
	if h := k.Get(LargeRound).Head; h.Diameter != 1.2 || h.Length != 1.2 {
		t.Errorf("the round is %+v", *h)
	}
	if h, usual := k.Get(SlimTaper).Head, MustFind(SlimTaper).Head; h.Tip >= usual.Tip {
		t.Errorf("worn, the taper's tip is as wide as before: %+v", *h)
	}
	if k.Get(Hatchet).Blade.Width != 1.2 || MustFind(Hatchet).Blade.Width != 1.0 {
		t.Error("the hatchet has not its own width")
	}
	if old := (Stock{{ID: "332", Width: 1, Pieces: pieces(0)}}).Kit(); old.Fingerprint() != "" {
		t.Errorf("what was taken off the list makes a difference: %s", old.Fingerprint())
	}
	var whole *Kit
	if whole.Fingerprint() != (Stock{{ID: Pear, Width: 0.8}}).Kit().Fingerprint() || whole.Fingerprint() == k.Fingerprint() {
		t.Error("kits are told apart by what does not matter, or not by what does")
	}
	if whole.Get(Pear).Head.Diameter != 0.8 || !whole.Has(Guard) {
		t.Error("the whole kit is not all instruments as they come")
	}
}

func TestNothingStandsInForItself(t *testing.T) {
	for id, all := range Instead {
		own := MustFind(id)
		for _, s := range all {
			if other := MustFind(s.ID); s.ID == id || s.Trade == "" || own.Head != nil || other.Name == "" {
				t.Errorf("%s for %s: %q", s.ID, id, s.Trade)
			}
		}
	}
}

// A blade is filled from side to side, and to its edge.
func TestBladesAreFilled(t *testing.T) {
	for _, i := range All {
		if i.Blade == nil {
			continue
		}
		turned := Turned{Blade: i.Blade, Turn: 0.4}
		widest, lowest := 0.0, math.Inf(1)
		for _, b := range turned.Balls(0.01) {
			if b.Off+b.Radius > i.Blade.Width/2+1e-9 && b.Off > 0 || b.Height-b.Radius < -1e-9 {
				t.Fatalf("%s: %+v sticks out", i.ID, b)
			}
			widest, lowest = math.Max(widest, b.Off+b.Radius), math.Min(lowest, b.Height-b.Radius)
		}
		if math.Abs(widest-i.Blade.Width/2) > 1e-9 || lowest > 1e-9 {
			t.Errorf("%s is filled %.2f wide and from %.2f up", i.ID, 2*widest, lowest)
		}
		outline := i.Blade.Outline()
		if last := outline[len(outline)-1]; last != [2]float64{i.Blade.Width / 2, i.Blade.Length} {
			t.Errorf("%s is drawn to %v", i.ID, last)
		}
	}
}

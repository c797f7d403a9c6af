package instrument

import (
	"math"
	"testing"
)

func TestProfilesHaveTheHeadsSizes(t *testing.T) {
	for _, i := range Kit {
		if i.Head == nil {
			continue
		}
		widest, top := 0.0, 0.0
		for _, p := range i.Head.Profile() {
			if p[0] < -1e-9 || p[1] < -1e-9 {
				t.Errorf("%s: a point at %v", i.ID, p)
			}
			widest, top = math.Max(widest, p[0]), math.Max(top, p[1])
		}
		if math.Abs(2*widest-i.Head.Diameter) > 0.01 {
			t.Errorf("%s is %.2f wide, want %.2f", i.ID, 2*widest, i.Head.Diameter)
		}
		if math.Abs(top-i.Head.Length) > 0.2*i.Head.Length {
			t.Errorf("%s is %.2f long, want %.2f", i.ID, top, i.Head.Length)
		}
	}
}

func TestTheKitNamesEachInstrumentOnce(t *testing.T) {
	seen := map[ID]bool{}
	for _, i := range Kit {
		if seen[i.ID] || i.Name == "" || i.Use == "" {
			t.Errorf("%+v stands twice, or says too little", i)
		}
		seen[i.ID] = true
		if b := i.Blade; b != nil && !(b.Width > 0 && b.Length > 0 && b.Centigrades >= 0 && b.Centigrades < 50) {
			t.Errorf("%s has no blade: %+v", i.ID, b)
		}
	}
}

func TestWhatCutsHasAProfileOrABlade(t *testing.T) {
	for id, cuts := range map[ID]bool{Football: true, LongTaper: true, QuarterRound: true, Hatchet: true, Chisel: true, MarginTrimmer: true, Pins: false, Putty: false} {
		if i := MustFind(id); (i.Head != nil || i.Blade != nil) != cuts {
			t.Errorf("%s cuts: %v", id, !cuts)
		}
	}
}

func TestFind(t *testing.T) {
	if bur, ok := Find(Pear); !ok || bur.Head.Diameter != 0.8 || bur.Head.Length != 1.5 {
		t.Errorf("the pear is %+v", bur)
	}
	if _, ok := Find("999"); ok {
		t.Error("an unknown bur was found")
	}
}

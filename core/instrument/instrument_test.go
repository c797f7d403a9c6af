package instrument

import (
	"math"
	"testing"
)

func TestProfilesHaveTheHeadsSizes(t *testing.T) {
	for _, r := range Rotaries {
		widest, top := 0.0, 0.0
		for _, p := range r.Profile() {
			if p[0] < -1e-9 || p[1] < -1e-9 {
				t.Errorf("%s: a point at %v", r.ID, p)
			}
			widest, top = math.Max(widest, p[0]), math.Max(top, p[1])
		}
		if math.Abs(2*widest-r.Diameter) > 0.01 {
			t.Errorf("%s is %.2f wide, want %.2f", r.ID, 2*widest, r.Diameter)
		}
		if math.Abs(top-r.Length) > 0.2*r.Length {
			t.Errorf("%s is %.2f long, want %.2f", r.ID, top, r.Length)
		}
	}
}

func TestRotaryByID(t *testing.T) {
	if bur, ok := RotaryByID("330"); !ok || bur.Diameter != 0.8 || bur.Length != 1.5 {
		t.Errorf("330 is %+v", bur)
	}
	if _, ok := RotaryByID("999"); ok {
		t.Error("an unknown bur was found")
	}
}

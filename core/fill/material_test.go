package fill

import (
	"math"
	"slices"
	"testing"
)

// What a filling takes of amalgam, at 11.5 mg/mm³ and a fifth more than it holds.
func TestAmalgamIsWeighed(t *testing.T) {
	a := Usual().Amalgams[0]
	a.Density, a.MercuryShare, a.Carrier = 11.5, 0.5, Carrier{Diameter: 2, Length: 3, Packing: 0.7}
	for _, c := range []struct {
		volume, mass float64
		loads        int
		mixes        []Mix
	}{
		{15, 207, 3, []Mix{{400, 3}}},
		{30, 414, 6, []Mix{{400, 6}}},
		{60, 828, 11, []Mix{{400, 6}, {400, 5}}},
		{120, 1656, 22, []Mix{{400, 8}, {400, 7}, {400, 7}}},
	} {
		got := a.Charge(c.volume)
		if math.Abs(got.Mass-c.mass) > 0.5 || !slices.Equal(got.Mixes, c.mixes) || got.Loads != c.loads {
			t.Errorf("%g mm³: %+v, want %+v", c.volume, got, c)
		}
		for _, m := range got.Mixes {
			if float64(m.Loads)*loadSeconds > a.CondenseSeconds {
				t.Errorf("%g mm³: %d loads of one mix", c.volume, m.Loads)
			}
		}
	}
	if got := a.Charge(0); got.Loads != 0 || got.Mixes != nil {
		t.Errorf("nothing takes %+v", got)
	}
	a.CondenseSeconds = 1 // sets at once: a mix for each load
	if got := a.Charge(15); len(got.Mixes) != 3 {
		t.Errorf("in a second %+v", got.Mixes)
	}
}

func TestLightThinsOut(t *testing.T) {
	l := Lamp{Output: 1000, Spread: 0.059}
	for mm, share := range map[float64]float64{0: 1, 2: .800, 4: .655, 6: .545, 8: .462} {
		if got := l.Reaching(mm); math.Abs(got-share) > 0.0006 {
			t.Errorf("at %g mm arrives %.4f, want %.3f", mm, got, share)
		}
	}
	got := l.Exposure(Dose{16, 24}, 6, 0)
	if math.Abs(got.Least-29.3) > 0.05 || math.Abs(got.Most-44.0) > 0.05 {
		t.Errorf("6 mm off: %+v s, want 29.3 to 44.0", got)
	}
	if tilted := l.Exposure(Dose{16, 24}, 6, 60); math.Abs(tilted.Least-2*got.Least) > 1e-9 {
		t.Errorf("turned by 60 degrees it takes %.2f s, twice %.2f was meant", tilted.Least, got.Least)
	}
}

func TestShrinkageAlongALine(t *testing.T) {
	if got := LinearShrinkage(0.03); math.Abs(got-0.0101) > 0.0001 {
		t.Errorf("3 %% of volume are %.4f of length", got)
	}
}

func TestIncrementsRestOnTheFloors(t *testing.T) {
	withFirst, alike := Layering{Most: 2, First: 1}, Layering{Most: 2}
	for _, c := range []struct {
		name        string
		l           Layering
		bottom, top float64
		floors      []float64
		want        []float64
	}{
		{"box, first 1 mm", withFirst, -4.5, 0, []float64{-4.5, -2}, []float64{-4.5, -3.5, -2, 0}},
		{"box", alike, -4.5, 0, []float64{-4.5, -2}, []float64{-4.5, -3.25, -2, 0}},
		{"Class I, first 1 mm", withFirst, -4, 0, []float64{-4}, []float64{-4, -3, -1.5, 0}},
		{"Class I", alike, -4, 0, []float64{-4}, []float64{-4, -2, 0}},
		{"slot, first 1 mm", withFirst, -4.5, 0, []float64{-4.5}, []float64{-4.5, -3.5, -1.75, 0}},
		{"slot", alike, -4.5, 0, []float64{-4.5}, []float64{-4.5, -3, -1.5, 0}},
		{"saucer", withFirst, -0.71, 0, nil, []float64{-0.71, 0}},
		{"floor just under the first", withFirst, -3, 0, []float64{-2.02}, []float64{-3, -2.02, -1.01, 0}},
		{"floor just over the first", withFirst, -3, 0, []float64{-1.8}, []float64{-3, -2.3, -1.8, 0}},
		{"floor just under the top", alike, -2, 0, []float64{-0.03}, []float64{-2, 0}},
		{"floor just under the top, all of it too thick", alike, -2.2, 0, []float64{-0.2}, []float64{-2.2, -1.1, 0}},
		{"hardly more than the first", withFirst, -1.2, 0, []float64{-1.2}, []float64{-1.2, -0.5, 0}},
		{"flat", withFirst, 0, 0, nil, []float64{0}},
	} {
		got := c.l.Levels(c.bottom, c.top, c.floors)
		if !slices.EqualFunc(got, c.want, func(a, b float64) bool { return math.Abs(a-b) < 1e-6 }) {
			t.Errorf("%s: %.3f, want %.3f", c.name, got, c.want)
		}
		for n := 1; n < len(got); n++ {
			if thick := got[n] - got[n-1]; thick > c.l.Most+1e-6 || thick <= 0 {
				t.Errorf("%s: an increment of %.3f mm", c.name, thick)
			}
		}
	}
}

package sequence

import (
	"slices"
	"strings"
	"testing"

	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/instrument"
)

// No instrument is named that does not fit its place, and no gauge that cannot tell.
func TestInstrumentsAndGaugesFitTheirPlace(t *testing.T) {
	for _, c := range []struct {
		name   string
		design occlusal.Design
		bur    instrument.ID
		caries instrument.ID
		floor  string
	}{
		{"a usual fissure", occlusal.Design{Occlusal: true, PulpalDepth: 1.6, IsthmusWidth: 1.5}, instrument.Pear, instrument.LargeRound, "pin 1.5"},
		{"a narrow one", occlusal.Design{Occlusal: true, PulpalDepth: 1.2, IsthmusWidth: 0.8}, instrument.SmallPear, instrument.QuarterRound, "pin 1.0"},
		{"narrow and deep", occlusal.Design{Occlusal: true, PulpalDepth: 2.5, IsthmusWidth: 0.8}, instrument.SlimTaper, instrument.QuarterRound, "pin 1.5"},
		{"wide and deep", occlusal.Design{Occlusal: true, PulpalDepth: 2.8, IsthmusWidth: 1.2}, instrument.LongPear, instrument.SmallRound, "pin 1.5"},
		{"shallow", occlusal.Design{Occlusal: true, PulpalDepth: 0.3, IsthmusWidth: 1.2}, instrument.Pear, instrument.SmallRound, "probe"},
	} {
		if got := outlineBur(c.design).ID; got != c.bur {
			t.Errorf("%s: cut with %s, want %s", c.name, got, c.bur)
		}
		if got := cariesBur(&cavity.Cavity{Design: c.design}); got != c.caries {
			t.Errorf("%s: cleaned with %s, want %s", c.name, got, c.caries)
		}
		if got := depthPin(c.design.PulpalDepth); !strings.HasPrefix(got, c.floor) {
			t.Errorf("%s: gauged by %q, want %q", c.name, got, c.floor)
		}
	}
	for _, c := range []struct{ wide, want string }{{seatGauge(0.8), "probe"}, {seatGauge(1.2), "hatchet"}} {
		if !strings.Contains(c.wide, c.want) {
			t.Errorf("%q on the seat, want a %s", c.wide, c.want)
		}
	}
	if pin, band := clearanceGauge(0.4), clearanceGauge(0.3); !strings.Contains(pin, "0.4") || strings.Contains(band, "0.4") {
		t.Errorf("%q for 0.4, %q for 0.3", pin, band)
	}
}

func TestNoTeethAreGuardedThatAreNotThere(t *testing.T) {
	d := design()
	d.Boxes[0] = occlusal.BoxDesign{Present: true, BuccalReach: 1.5, LingualReach: 1.5, Depth: 3, AxialDepth: 1.3}
	for _, neighbour := range []bool{true, false} {
		c := boardCavity(d)
		if !neighbour {
			c.Adjacent = nil
		}
		steps := Cavity(c)
		guarded := slices.Contains(names(steps), "Guard the neighbour")
		pinned := slices.ContainsFunc(steps, func(s Step) bool { return strings.Contains(s.Gauge, "passes") })
		if guarded != neighbour || pinned != neighbour {
			t.Errorf("a neighbour: %v; guarded: %v, clearance gauged: %v", neighbour, guarded, pinned)
		}
	}
}

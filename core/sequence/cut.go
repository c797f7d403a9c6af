package sequence

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
	"obturon/core/instrument"
	"obturon/core/procedure"
	"obturon/core/rehearsal"
)

// fact is a step of cutting with what its text is written from.
type fact struct {
	*rehearsal.Step
	c           *cavity.Cavity
	r           *rehearsal.Rehearsal // nil before it is proven
	kit         *instrument.Kit
	first       instrument.Instrument // that is taken up
	least, most float64               // mm that its burs go under the surface, as drawn before it is proven; 0 by hand
	floor       float64               // mm under the pits of an occlusal surface at which the first cut ends; 0 without one
}

// written words a step among those of its cavity.
func written(c *cavity.Cavity, r *rehearsal.Rehearsal, kit *instrument.Kit, steps []rehearsal.Step, n int) procedure.Step {
	f := fact{Step: &steps[n], c: c, r: r, kit: kit, first: kit.Get(steps[n].Instruments[0])}
	if r != nil {
		f.least, f.most, _ = r.Sunk(f.Step)
		if first := &steps[0]; first.Kind == procedure.PunchCut && c.Opened {
			_, f.floor, _ = r.Sunk(first)
		}
	} else {
		f.least = f.drawnDepth()
		f.most = f.least
		if d, ok := c.Design.(occlusal.Design); ok && d.Occlusal {
			f.floor = d.PulpalDepth
		}
	}
	f.least, f.most, f.floor = tenth(f.least), tenth(f.most), tenth(f.floor)
	s := procedure.New(f.Kind)
	s.Side, s.Instruments, s.Speed, s.Depth, s.Seconds = f.Side, f.Instruments, f.first.Speed(), f.most, f.seconds()
	if f.Side != "" {
		s.ID += "/" + f.Side
	}
	s.Name, s.Why, s.Start, s.Lean, s.Stays = f.Name(), strings.TrimSpace(f.Why+" "+f.reckoning()), f.start(), f.lean(), f.stays()
	s.Others, s.Grasp, s.Alarms, s.Lack = f.others(), grasps[f.first.ID], f.alarms(n), f.lack()
	s.FromAbove = slices.Contains(fromAbove, f.Kind)
	phrases[f.Kind](f, &s)
	s.Caution = strings.TrimSpace(f.warming() + " " + s.Caution)
	return s
}

// drawnDepth is how deep (mm) a step's burs are to go, as the design has it; 0 where it says
// nothing of it.
func (f fact) drawnDepth() float64 {
	if f.ByHand {
		return 0
	}
	switch d := f.c.Design.(type) {
	case occlusal.Design:
		slot := !d.Occlusal && f.Kind == procedure.PunchCut
		switch {
		case slot, f.Kind == procedure.Ditch, f.Kind == procedure.BoxWalls:
			deepest := 0.0
			for _, side := range d.Sides() {
				if f.Side == "" || side.String() == f.Side {
					deepest = math.Max(deepest, d.Boxes[side].Depth)
				}
			}
			return deepest
		case f.Kind == procedure.ReduceCusps:
			return d.CuspReduction
		case !d.Occlusal, slices.Contains(unmeasured, f.Kind):
			return 0
		}
		return d.PulpalDepth
	case smooth.Design:
		switch f.Kind {
		case procedure.FractureSurface:
			return d.FractureReduction
		case procedure.LingualLock:
			return d.LockDepth
		}
		if !slices.Contains(unmeasured, f.Kind) {
			return d.Depth
		}
	}
	return 0
}

// unmeasured are the kinds of which a design has no depth under the surface.
var unmeasured = []procedure.Kind{procedure.CariesLeft, procedure.Grooves, procedure.Bevel}

// fromAbove are the kinds whose work is judged by its outline.
var fromAbove = []procedure.Kind{
	procedure.Outline,
	procedure.Ridges,
	procedure.Extensions,
	procedure.OpenToSize,
	procedure.Bevel,
	procedure.ReduceCusps,
}

// tenth rounds to what a probe can be read to, mm.
func tenth(mm float64) float64 { return math.Round(mm*10) / 10 }

// alarms are those of the step, in words.
func (f fact) alarms(n int) []string {
	if f.r == nil {
		return nil
	}
	var all []string
	for _, a := range f.r.Alarms() {
		if a.Step == n {
			all = append(all, a.Text)
		}
	}
	return all
}

// reckoning is why this instrument, in figures.
func (f fact) reckoning() string {
	if f.Wanted <= 0 {
		return ""
	}
	took := math.Min(f.Taken, f.Wanted)
	if f.ByHand {
		return fmt.Sprintf("Burs leave %.2f mm³ there; the blade gets at %.2f of it.", f.Wanted, took)
	}
	return fmt.Sprintf("Of the %s mm³ that stand there it takes %s.", volume(f.Wanted), volume(took))
}

// volume writes mm³ to what matters of it.
func volume(mm3 float64) string {
	if mm3 < 1 {
		return fmt.Sprintf("%.2f", mm3)
	}
	return fmt.Sprintf("%.1f", mm3)
}

// took is the figure of a step whose depth says little: what it took, once that is known.
func (f fact) took() string {
	if f.r == nil {
		return ""
	}
	return volume(f.Taken) + " mm³"
}

// depth is how far the burs go under the surface, in words.
func (f fact) depth() string {
	const even = 0.15 // mm by which a floor may differ and still be called one depth
	if f.most-f.least < even || f.least < 0.3 {
		return fmt.Sprintf("%.1f mm", f.most)
	}
	return fmt.Sprintf("%.1f to %.1f mm", f.least, f.most)
}

// held is how the bur is held, behind a comma; "" before that is known.
func (f fact) held() string {
	if lean := f.lean(); lean != "" {
		return ", the bur " + lean
	}
	return ""
}

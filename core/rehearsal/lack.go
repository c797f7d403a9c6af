package rehearsal

import (
	"cmp"
	"math"
	"slices"

	"obturon/core/instrument"
	"obturon/core/procedure"
)

// Lack is an instrument that would have been taken up, but does not lie ready.
type Lack struct {
	Kind    procedure.Kind
	Side    string
	Missing instrument.ID
	Out     string        // why it does not lie ready, in words
	Instead instrument.ID // that is taken up; "" where nothing does its work
	// MissingTakes and InsteadTakes are what each would seem to take at once, mm³; 0 by
	// hand.
	MissingTakes, InsteadTakes float64
	// Stays is what is left because nothing does its work, mm³.
	Stays float64
}

// lacking is what a job's instrument would have done.
func (p *planner) lacking(j job, missing, instead instrument.ID) *Lack {
	return &Lack{
		Kind: j.kind, Side: j.side, Missing: missing, Out: p.kit.Out(missing), Instead: instead,
		MissingTakes: p.gains[missing], InsteadTakes: p.gains[instead],
	}
}

// burs are those that lie ready for a job; where none of its own does, all others, those as
// wide as its own first. strange tells that they are others.
func (p *planner) burs(j job) (ready []instrument.ID, strange bool) {
	if ready = p.kit.Ready(j.tools); len(ready) > 0 {
		return ready, false
	}
	wide := func(id instrument.ID) float64 { return p.kit.Get(id).Head.Diameter }
	own := wide(j.tools[0])
	others := p.kit.Heads()
	slices.SortStableFunc(others, func(a, b instrument.ID) int {
		return cmp.Compare(math.Abs(wide(a)-own), math.Abs(wide(b)-own))
	})
	const most = 4 // are looked at
	return others[:min(most, len(others))], true
}

// blades are a hand instrument and those that do its work instead, as far as they lie ready.
func (p *planner) blades(id instrument.ID) []instrument.ID {
	all := []instrument.ID{id}
	for _, other := range instrument.Instead[id] {
		if instrument.MustFind(other.ID).Blade != nil {
			all = append(all, other.ID)
		}
	}
	return p.kit.Ready(all)
}

// taken is the blade that is taken up for a job, and what it stands in for, if it does; no
// blade where none lies ready.
func (p *planner) taken(j job) ([]instrument.ID, *Lack) {
	own := j.tools[0]
	ready := p.blades(own)
	switch {
	case len(ready) == 0:
		return nil, p.lacking(j, own, "")
	case ready[0] != own:
		return ready[:1], p.lacking(j, own, ready[0])
	}
	return ready[:1], nil
}

package occlusal

import (
	"obturon/core/cavity"
	"obturon/core/lesion"
)

// Proposal is a cavity on the occlusal surface as the school proposes it.
type Proposal struct {
	request
	Design Design
}

// Propose lays the cavity out from the school's aims, the lesions and the tooth.
// It fails with one of the errors of package cavity where the lesions leave no
// room for one.
func Propose(r cavity.Request) (*Proposal, error) {
	own := newRequest(r)
	if err := cavity.CheckPulp(r.Model, own.allLesions()); err != nil {
		return nil, err
	}
	d, err := propose(own)
	if err != nil {
		return nil, err
	}
	return &Proposal{own, d}, nil
}

// With is the same proposal with other figures.
func (p *Proposal) With(figures map[string]float64) cavity.Proposal {
	return &Proposal{p.request, specs.Apply(p.Design, figures)}
}

// Cut builds the cavity with the dentist's own values. It fails with the errors
// of Propose where these leave the tooth.
func (p *Proposal) Cut(overrides map[string]float64) (*cavity.Cavity, error) {
	d := specs.Apply(p.Design, overrides)
	made, err := build(p.request, d)
	if err != nil {
		return nil, err
	}
	c := &cavity.Cavity{
		Request: p.Request, Kind: cavity.Occlusal, Class: lesion.ClassI, Design: d, Dimensions: specs.Dimensions(d, p.Design),
		Solid: made, Frame: p.Model.Table, Boxes: d.Sides(), Opened: d.Occlusal, Dovetail: d.DovetailWidth > d.IsthmusWidth, CoversCusps: len(d.Covered()) > 0,
		Narrow: made.narrow(burRadius) != nil, Fissures: p.included(), Sealed: p.sealed(),
	}
	c.Lesions = p.allLesions()
	if d.AnyBox() {
		c.Class = lesion.ClassII
	}
	if bevel := cavity.NewCuspBevel(p.Model, made, d.CuspBevel); bevel != nil {
		c.Cover = bevel
	}
	return c, nil
}

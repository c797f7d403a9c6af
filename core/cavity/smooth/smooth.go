package smooth

import "obturon/core/cavity"

// Proposal is a cavity on a smooth surface as the school proposes it.
type Proposal struct {
	request
	Design Design
}

// Propose lays a cavity about its lesions, from the school's aims and the tooth.
// It fails with cavity.ErrOffSmoothSurface or ErrNoIncisalAngleLeft where they leave no
// room for one.
func Propose(r cavity.Request) (*Proposal, error) {
	if err := cavity.CheckPulp(r.Model, r.Lesions); err != nil {
		return nil, err
	}
	own := request{r}
	d, err := propose(own)
	if err != nil {
		return nil, err
	}
	return &Proposal{own, d}, nil
}

// With is the same proposal with other figures.
func (p *Proposal) With(figures map[string]float64) cavity.Proposal {
	return &Proposal{p.request, at(p.Site).specs().Apply(p.Design, figures)}
}

// Cut builds the cavity with the dentist's own values. It fails with
// cavity.ErrOffSmoothSurface where these leave the surface.
func (p *Proposal) Cut(overrides map[string]float64) (*cavity.Cavity, error) {
	specs := at(p.Site).specs()
	d := specs.Apply(p.Design, overrides)
	made, err := build(p.request, d)
	if err != nil {
		return nil, err
	}
	c := &cavity.Cavity{
		Request: p.Request, Kind: kindOf(p.Site), Class: ClassOf(p.Site), Name: at(p.Site).name, Prefix: at(p.Site).prefix,
		Design: d, Dimensions: specs.Dimensions(d, p.Design), Solid: made, Frame: made.Frame,
	}
	c.Style = d.Style
	return c, nil
}

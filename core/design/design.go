// Package design decides which cavities a tooth gets for its findings, has each of
// them proposed by its form, and cuts them together.
package design

import (
	"context"
	"fmt"
	"maps"
	"slices"

	"obturon/core/advice"
	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

// Neighbours are the modelled adjacent teeth, where there are any.
type Neighbours map[notation.Side]*anatomy.Neighbour

// InOrder lists them, mesial first.
func (n Neighbours) InOrder() (all []*anatomy.Neighbour) {
	for _, side := range notation.Sides {
		if one := n[side]; one != nil {
			all = append(all, one)
		}
	}
	return all
}

// SidesTouched lists the sides on which the findings of a case touch the tooth
// beside, mesial first; not those where none is said to stand.
func SidesTouched(c *intake.Case) []notation.Side {
	var sides []notation.Side
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		if slices.Contains(c.Missing, side) {
			continue
		}
		if slices.ContainsFunc(c.Findings, func(f lesion.Finding) bool {
			at, faces := f.Site.Side()
			return faces && at == side && (f.Proximal() || f.OnIncisalAngle())
		}) {
			sides = append(sides, side)
		}
	}
	return sides
}

// Basis is what stays when a dimension is changed by hand: the cavities as they
// were proposed, and what is not cut. It is safe for concurrent use.
type Basis struct {
	Proposals []cavity.Proposal // the occlusal one first
	Staying   []lesion.Lesion   // old fillings that are not replaced
}

// Propose places the findings of a decided case on a tooth and has a cavity
// proposed for each place that they lie at. Errors that cavity.Refusal knows mean
// that the tooth cannot have such a cavity. It stops between findings and between
// cavities with the context's error.
func Propose(
	ctx context.Context,
	c *intake.Case,
	decided advice.Decision,
	s *school.School,
	m *anatomy.Model,
	neighbours Neighbours,
) (Basis, error) {
	shared := request(c, decided, s, m, neighbours)
	var b Basis
	all := c.ToCut()
	placed := map[lesion.Site][]lesion.Lesion{}
	for _, f := range all {
		if err := ctx.Err(); err != nil {
			return b, err
		}
		if f.Recorded() || (shared.LeavesToSeal(f) && c.AnyInDentin()) {
			continue // written down, or sealed with the filling
		}
		site := lesion.CavitySite(f, all, c.Tooth)
		l, err := lesion.New(m, f)
		if err != nil {
			return b, fmt.Errorf("placing the lesion: %w", err)
		}
		placed[site] = append(placed[site], l)
	}
	for _, f := range c.Staying() {
		l, err := lesion.New(m, f)
		if err != nil {
			return b, fmt.Errorf("placing the old filling: %w", err)
		}
		b.Staying = append(b.Staying, l)
	}
	onSmooth, err := proposeSmooth(ctx, shared, placed)
	if err != nil {
		return b, err
	}
	if len(placed[""]) > 0 || len(shared.Lost) > 0 || len(onSmooth) == 0 {
		own := shared
		own.Lesions = placed[""]
		p, err := occlusal.Propose(own)
		if err != nil {
			return b, err
		}
		b.Proposals = append(b.Proposals, p)
	}
	b.Proposals = append(b.Proposals, onSmooth...)
	return b, nil
}

func proposeSmooth(ctx context.Context, shared cavity.Request, placed map[lesion.Site][]lesion.Lesion) ([]cavity.Proposal, error) {
	var proposals []cavity.Proposal
	for _, site := range smooth.Sites {
		if len(placed[site]) == 0 {
			continue
		}
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		own := shared
		own.Site, own.Lesions = site, placed[site]
		p, err := smooth.Propose(own)
		if err != nil {
			return nil, err
		}
		proposals = append(proposals, p)
	}
	return proposals, nil
}

// request is what all cavities of a case share.
func request(c *intake.Case, decided advice.Decision, s *school.School, m *anatomy.Model, neighbours Neighbours) cavity.Request {
	choice := decided.Choice
	r := cavity.Request{
		Model: m, School: s, Choice: cavity.Choice{Material: choice.Material, Layout: choice.Layout, Style: choice.Style, Lock: choice.Lock, Upper: choice.Upper, CariesRemoval: choice.Removal, HidesMargin: choice.HidesMargin},
		Adjacent: map[notation.Side]*anatomy.AdjacentSurface{}, Undermined: map[string]float64{}, Lost: map[string]float64{},
		Contacts: c.Contacts, Gingiva: c.GingivaSeen(), Translucent: c.Enamel == intake.Translucent,
		Grinds: c.Patient.Parafunction, KeepsCusps: choice.KeepsCusps,
	}
	for side, n := range neighbours {
		const reach = 2 // mm past the contact
		r.Adjacent[side] = n.AdjacentSurface(m.Contact(side), reach)
	}
	for _, f := range c.Findings {
		if f.Kind == lesion.UnderminedCusp {
			r.Undermined[f.Site.Cusp()] = lesion.UnderminedBy(f)
		}
		if f.OnCusp() {
			r.Lost[f.Site.Cusp()], _ = lesion.LostHeight(f)
		}
	}
	return r
}

// Cut is what is cut in a tooth.
type Cut struct {
	Cavities []*cavity.Cavity
	Tool     solid.Tool // of all cavities together
}

// Cut builds the cavities with the dentist's own values. The error is one of
// package cavity where these leave the tooth.
func (b Basis) Cut(overrides map[string]float64) (Cut, error) {
	var cut Cut
	var tools []solid.Tool
	for _, p := range b.Proposals {
		c, err := p.Cut(overrides)
		if err != nil {
			return cut, err
		}
		cut.Cavities = append(cut.Cavities, c)
		tools = append(tools, c.Solid)
		if c.Cover != nil {
			tools = append(tools, c.Cover)
		}
	}
	cut.Tool = solid.Union(tools)
	return cut, nil
}

// AtFault names the values set by hand that keep the cavities from being built:
// those without any one of which they can be, in the order of their ids; all of them
// where no single one is to blame.
func (b Basis) AtFault(overrides map[string]float64) []string {
	all := slices.Sorted(maps.Keys(overrides))
	var blamed []string
	for _, id := range all {
		without := maps.Clone(overrides)
		delete(without, id)
		if _, err := b.Cut(without); err == nil {
			blamed = append(blamed, id)
		}
	}
	if len(blamed) == 0 {
		return all
	}
	return blamed
}

// Lesions are those of all cavities.
func (c Cut) Lesions() []lesion.Lesion {
	var all []lesion.Lesion
	for _, one := range c.Cavities {
		all = append(all, one.Lesions...)
	}
	return all
}

// Surfaces adds what the cavities open to the diseased surfaces, in the order in
// which a charge or a record names them.
func (c Cut) Surfaces(diseased []string) []string {
	opened := map[string]bool{}
	for _, one := range c.Cavities {
		switch one.Kind {
		case cavity.Occlusal:
			opened["occlusal"] = opened["occlusal"] || one.Opened || len(one.Boxes) > 0
		case cavity.Proximal:
			opened["buccal"] = opened["buccal"] || one.EnteredFacially()
			opened["lingual"] = opened["lingual"] || !one.EnteredFacially()
		case cavity.IncisalAngle:
			opened["buccal"], opened["lingual"] = true, true
		}
	}
	return lesion.InOrder(func(s string) bool { return slices.Contains(diseased, s) || opened[s] })
}

// Styles lists the styles of finish that the cavities of a case offer, each once.
func Styles(c *intake.Case) []cavity.Style {
	var styles []cavity.Style
	all := c.ToCut()
	for _, f := range all {
		site := lesion.CavitySite(f, all, c.Tooth)
		if site == "" || f.Recorded() {
			continue
		}
		for _, style := range cavity.StylesOf(smooth.ClassOf(site)) {
			if !slices.Contains(styles, style) {
				styles = append(styles, style)
			}
		}
	}
	return styles
}

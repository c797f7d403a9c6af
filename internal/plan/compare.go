package plan

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"obturon/core/face"
	"obturon/core/measure"
	"obturon/core/school"
)

// Compare plans the same case as each of the schools proposes it. What the
// dentist set by hand is left out: it would level the schools.
func (p *Planner) Compare(ctx context.Context, c *Case, schools []*school.School, grid float64) ([]*Result, error) {
	const fewest, most = 2, 4
	if len(schools) < fewest || len(schools) > most {
		return nil, Faults{{"schools", fmt.Sprintf("%d schools cannot be laid side by side: name %d to %d", len(schools), fewest, most)}}
	}
	decided, _ := choose(c)
	results := make([]*Result, 0, len(schools))
	var at Sections // all schools are shown in the section of the first
	for n, s := range schools {
		if slices.ContainsFunc(schools[:n], func(o *school.School) bool { return o.ID == s.ID }) {
			return nil, Faults{{fmt.Sprintf("schools[%d]", n), fmt.Sprintf("%s is named twice: name each school once", s.ID)}}
		}
		own := *c
		choice := decided
		choice.School = s.ID
		own.Choice, own.Overrides, own.house = &choice, nil, s
		r, err := p.EvaluateWith(ctx, &own, grid, at)
		if err != nil {
			return nil, fmt.Errorf("planning by the %s school: %w", s.ID, err)
		}
		for _, v := range r.Views {
			if (v.ID == "mesiodistal" || strings.HasSuffix(v.ID, "_along")) && at.Along == nil {
				at.Along = &v.At
			}
		}
		results = append(results, r)
	}
	return results, nil
}

// CompareFinishes measures every cavity of a case that has a choice of finish
// under each of its styles; none where no cavity has. Bevels set by hand are
// left out, so that each style shows its own.
func (p *Planner) CompareFinishes(ctx context.Context, c *Case, grid float64) ([]Finish, error) {
	decided, _ := choose(c)
	finishes := []Finish{}
	var styles []face.Style
	all := c.coreFindings()
	for _, f := range all {
		for _, style := range face.StylesOf(face.ClassOf(faceSite(f, all, c.Tooth))) {
			if !slices.Contains(styles, style) {
				styles = append(styles, style)
			}
		}
	}
	if decided.Material != "composite" {
		return finishes, nil
	}
	for _, style := range styles {
		own, choice := *c, decided
		choice.Finish = string(style)
		own.Choice, own.Overrides = &choice, map[string]float64{}
		for id, v := range c.Overrides {
			if !strings.Contains(id, "bevel") {
				own.Overrides[id] = v
			}
		}
		s, err := p.shape(ctx, &own, grid)
		if err != nil || s.Cavity == nil {
			return finishes, err
		}
		for n := range s.Faces {
			f := &s.Faces[n]
			if !slices.Contains(face.StylesOf(f.Design.Class()), style) {
				continue
			}
			f.Prepared = measure.NewPrepared(s.Model, s.Model.Surface.Uncut().Carve(f.Cavity))
			finishes = append(finishes, f.finish(s.Neighbours))
		}
	}
	return finishes, ctx.Err()
}

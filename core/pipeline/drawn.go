package pipeline

import (
	"context"
	"slices"

	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/drawing"
	"obturon/core/measure"
	"obturon/core/parallel"
	"obturon/core/solid"
)

// Drawn is a measured case with its sheet: pictures, volumes, and what is to be minded.
type Drawn struct {
	*Measured
	Turning  *solid.Mesh // the prepared tooth, coarse, while it is changed or turned
	Removed  measure.Removed
	Finishes []measure.Finish // of the cavities on smooth surfaces, in their order
	Views    []drawing.View
	Cautions []string
}

// Sections says where the drawing's sections lie, mm from the tooth's middle;
// nil where the measured preparation decides.
type Sections struct{ Across, Along *float64 }

// Draw cuts, measures, judges and draws a designed case. The mesh for the screen, the volumes, the
// drawing and the checks share nothing but the solids: they are made beside each other. The error
// is the context's.
func (d *Designed) Draw(ctx context.Context, at Sections) (*Drawn, error) {
	drawn := &Drawn{}
	var whole parallel.Group
	defer whole.Wait()
	whole.Go(func() { drawn.Turning = d.Model.Turning().Uncut().Carve(d.Cut.Tool).Mesh() })
	m, err := d.measured(ctx, func(prepared *measure.Prepared, n int, s *measure.Subject) func() {
		if n == 0 {
			whole.Go(func() { drawn.Removed = prepared.Removed(d.Cut.Lesions()) })
		}
		return drawn.look(d, s, at)
	})
	if err != nil {
		return nil, err
	}
	drawn.Measured = m
	drawn.judgeTags()
	if len(d.Cut.Cavities) > 1 {
		for _, one := range d.Cut.Cavities {
			nameDimensions(one)
		}
	}
	drawn.Cautions = append(d.Decision.Cautions, assess.Cautions(d.Case, m.Prepared, m.Subjects)...)
	whole.Wait()
	if said := assess.OutOfProportion(d.Decision.Class, drawn.Removed, m.Subjects); said != "" {
		drawn.Cautions = append(drawn.Cautions, said)
	}
	return drawn, ctx.Err()
}

// judgeTags gives each tag the verdict on its own wall.
func (r *Drawn) judgeTags() {
	for v := range r.Views {
		for n := range r.Views[v].Tags {
			t := &r.Views[v].Tags[n]
			if at := slices.IndexFunc(r.Checks, func(c assess.Check) bool { return c.ID == t.CheckID && c.Side == t.Side }); at >= 0 {
				t.Verdict = string(r.Checks[at].Of(t.Value))
			}
		}
	}
}

// look begins to draw a cavity and to measure its margins; what it gives waits for both.
func (r *Drawn) look(d *Designed, s *measure.Subject, at Sections) (wait func()) {
	var beside parallel.Group
	var views []drawing.View
	var finish measure.Finish
	beside.Go(func() { views = drawing.Views(d.Subject(s, at)) })
	if s.Cavity.Kind != cavity.Occlusal {
		beside.Go(func() { finish = s.Finish(d.Neighbours) })
	}
	return func() {
		beside.Wait()
		if len(d.Cut.Cavities) > 1 {
			nameViews(s.Cavity, views)
		}
		r.Views = append(r.Views, views...)
		if s.Cavity.Kind != cavity.Occlusal {
			r.Finishes = append(r.Finishes, finish)
		}
	}
}

// Subject is a cavity to be drawn, with what lies about it.
func (d *Designed) Subject(s *measure.Subject, at Sections) drawing.Subject {
	subject := drawing.Subject{Subject: s, Cut: s.Cavity.Tool(), Neighbours: d.Neighbours, AcrossAt: at.Across, AlongAt: at.Along}
	for _, l := range d.Basis.Staying {
		subject.Staying = append(subject.Staying, l)
	}
	return subject
}

// nameViews puts a cavity's name behind the titles of its views, and nameDimensions behind its
// figures, to tell them from the others of its tooth.
func nameViews(c *cavity.Cavity, views []drawing.View) {
	for n := range views {
		views[n].Title = withName(views[n].Title, c)
	}
}

func nameDimensions(c *cavity.Cavity) {
	for n := range c.Dimensions {
		c.Dimensions[n].Label = withName(c.Dimensions[n].Label, c)
	}
}

// CavitySolid is what the cavities take from the tooth, as a solid without the crumbs into which
// it falls where a bevel runs out or a cut grazes the surface, with what those come to (mm³).
func (d *Designed) CavitySolid() (whole *solid.Mesh, crumbs float64) {
	whole, _, crumbs = d.Model.Surface.Uncut().Clip(d.Cut.Tool).Mesh().WithoutCrumbs(measure.LeastPiece, measure.ThinnestPiece)
	return whole, crumbs
}

// Screen is the tooth as finely as the screen shows it, cut, or filled to what it was.
func (d *Designed) Screen(filled bool) *solid.Mesh {
	tooth := d.Model.Screen().Uncut()
	if !filled {
		tooth = tooth.Carve(d.Cut.Tool)
	}
	return tooth.Mesh()
}

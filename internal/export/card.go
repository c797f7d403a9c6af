package export

import (
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/tdewolff/canvas"
	"github.com/tdewolff/canvas/renderers/pdf"

	"obturon/core/cavity"
	"obturon/core/drawing"
	"obturon/core/lesion"
	"obturon/internal/plan"
)

// CardHead is what the card says about the case besides the plan.
type CardHead struct {
	Patient  string // code, never a name
	Revision string // "draft" or "revision 2 of 2026-11-25"
	Practice string
}

// Beside is what a card prints beside the plan itself; all of it may be left out.
type Beside struct {
	Rehearsed *plan.Rehearsed // proven steps, else those that the drawing leads to
	Forces    []string        // lines of hold
	Filled    Filled
}

// Paper is a page size, mm.
type Paper struct{ Width, Height float64 }

// The papers a card is printed on.
var (
	A4     = Paper{210, 297}
	Letter = Paper{215.9, 279.4}
)

const margin = 12.0 // mm

// WriteCard prints the plan: drawing, dimensions, checks, instruments and
// cautions. An occlusal preparation or one on a smooth surface takes one page;
// boxes, and several cavities together, take a second. What to do at each step stands
// on a page of its own, with pictures where the plan was rehearsed, and so does how it is
// filled. Errors are those of the writer.
func WriteCard(w io.Writer, r *plan.Result, beside Beside, head CardHead, paper Paper) error {
	rehearsed, forces := beside.Rehearsed, beside.Forces
	out := pdf.New(w, paper.Width, paper.Height, nil)
	c := newCard(paper)
	c.title(r, head)
	switch {
	case r.Refused() != "":
		c.paragraph("No plan is made: "+r.Refused(), margin, 10, c.textWidth())
		c.cautions(r, forces)
	case !isLong(r):
		c.views(r)
		top := c.y
		c.checks(r)
		left := c.y
		c.y = top
		c.instruments(stepsOf(r, rehearsed), margin+column+4)
		c.y = min(c.y, left)
		c.cautions(r, forces)
	default:
		c.views(r)
		c.steps(stepsOf(r, rehearsed))
		c.cautions(r, forces)
		c.page.RenderTo(out)
		out.NewPage(paper.Width, paper.Height)
		c = newCard(paper)
		c.title(r, head)
		c.checks(r)
	}
	c.page.RenderTo(out)
	for _, page := range append(chairPages(r, rehearsed, head, paper), fillPages(r, beside.Filled, head, paper)...) {
		out.NewPage(paper.Width, paper.Height)
		page.RenderTo(out)
	}
	if err := out.Close(); err != nil {
		return fmt.Errorf("writing the card: %w", err)
	}
	return nil
}

func hasBoxes(r *plan.Result) bool {
	return slices.ContainsFunc(r.Cut.Cavities, func(c *cavity.Cavity) bool { return len(c.Boxes) > 0 })
}

// isLong reports more than one page holds.
func isLong(r *plan.Result) bool {
	const most = 26 // checks beside dimensions and instruments
	return hasBoxes(r) || len(r.Document().Checks) > most
}

// card lays out a page from the top down; y is the free height left.
type card struct {
	Paper
	page *canvas.Canvas
	ctx  *canvas.Context
	y    float64
}

func newCard(paper Paper) *card {
	page := canvas.New(paper.Width, paper.Height)
	return &card{paper, page, canvas.NewContext(page), paper.Height - margin}
}

func (c *card) textWidth() float64 { return c.Width - 2*margin }

func (c *card) title(r *plan.Result, head CardHead) {
	d := r.Document()
	t := r.Case.Tooth
	name := strings.ToUpper(t.Name()[:1]) + t.Name()[1:]
	c.line(margin, 16, canvas.FontBold, fmt.Sprintf("%s   %s  ·  %s  ·  %s", name, t, t.Universal(), t.QuadrantLetters()))
	c.y -= 7.5
	c.line(margin, 10, canvas.FontRegular, fmt.Sprintf("%s, %s   |   %s, %s school   |   patient %s   |   %s   |   %s",
		className(d.Class), strings.Join(d.Surfaces, " "), d.Material, d.School, orDash(head.Patient), head.Revision, head.Practice))
	c.y -= 3
	c.rule()
}

// className names a class as a record does.
func className(c lesion.Class) string {
	if c == lesion.Rebuild {
		return "Rebuild"
	}
	return "Class " + string(c)
}

// views puts the plan at the left, as large as the three others beside it allow,
// and the figures to cut under it.
func (c *card) views(r *plan.Result) {
	const most = 3
	const beside = 62.0 // mm of paper
	planWidth := c.textWidth() - beside - gap
	top := c.y - 6
	planView, others := r.Views[0], slices.Clone(r.Views[1:])
	if hasBoxes(r) { // the section across says least about a box
		others = slices.DeleteFunc(others, func(v drawing.View) bool { return v.Section == drawing.Across })
	}
	others = others[:min(len(others), most)]
	const tallest = 92.0 // mm of paper
	scale := min(planWidth/viewWidth(planView), tallest/viewHeight(planView))
	foot := top - viewHeight(planView)*scale
	drawView(c.ctx, planView, frame{margin + (planWidth-viewWidth(planView)*scale)/2, foot, scale})
	c.y = foot - 2
	c.dimensions(r, margin, planWidth)

	widest, high := 0.0, 0.0
	for _, v := range others {
		widest = max(widest, viewWidth(v))
		high += viewHeight(v)
	}
	const room = 150.0   // mm of paper, so that the figures find place below
	const overhang = 4.0 // mm by which labels stand out
	scale = min((beside-overhang)/widest, (room-gap*float64(len(others)-1))/high)
	y := top
	for _, v := range others {
		y -= viewHeight(v) * scale
		drawView(c.ctx, v, frame{margin + planWidth + gap, y, scale})
		y -= gap
	}
	c.y = min(c.y, y+gap) - 3
	c.rule()
}

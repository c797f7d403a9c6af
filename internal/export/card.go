package export

import (
	"cmp"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/tdewolff/canvas"
	"github.com/tdewolff/canvas/renderers/pdf"

	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/core/drawing"
	"obturon/core/lesion"
	"obturon/internal/document"
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
	Forces    []string        // lines of hold and strength
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

const (
	column          = 108.0 // mm, width of the checks
	roomForCautions = 55.0  // mm kept free at the foot of the page
)

func (c *card) checks(r *plan.Result) {
	top := c.y
	c.y -= 5
	c.line(margin, 10, canvas.FontBold, "Checks, measured on the computed tooth")
	c.y -= 1
	line := 5.0
	if isLong(r) {
		line = 4.2
	}
	for _, k := range r.Document().Checks {
		c.y -= line
		drawVerdict(c.ctx, margin+1.5, c.y+1, k.Verdict)
		c.line(margin+5, 8, canvas.FontRegular, k.Label)
		if k.Value != nil {
			c.at(margin+72, 8, canvas.FontBold, formatValue(*k.Value, k.Unit), canvas.Right)
			c.at(margin+75, 8, canvas.FontRegular, "target "+formatTarget(k.Target, k.Unit), canvas.Left)
		} else {
			said := "not asked for here"
			if k.Verdict == assess.NotMeasurable {
				said = "nothing to measure"
			}
			c.at(margin+75, 8, canvas.FontRegular, said, canvas.Left)
		}
	}
	if !isLong(r) {
		c.corrections(r, margin, column-6)
		return
	}
	// Many checks: the corrections stand beside them.
	const beside = 122.0 // mm
	foot := c.y
	c.y = top - 5
	c.line(margin+beside, 10, canvas.FontBold, "Corrections")
	c.y -= 3
	c.corrections(r, margin+beside, c.textWidth()-beside)
	c.y = min(c.y, foot)
}

// corrections says what to do about each miss, as far as there is room.
func (c *card) corrections(r *plan.Result, x, width float64) {
	for _, k := range r.Document().Checks {
		if k.Fix == "" || k.Verdict != assess.Missed {
			continue
		}
		if c.y < roomForCautions {
			c.y -= 4
			c.line(x, 7.5, canvas.FontRegular, "More corrections stand on the sheet.")
			return
		}
		c.y -= 1.5
		c.paragraph(cmp.Or(k.Chair, k.Fix), x, 7.5, width)
	}
}

// dimensions lists the figures to cut in two columns, in the width from x.
func (c *card) dimensions(r *plan.Result, x, width float64) {
	var shown []cavity.Dimension
	for _, d := range r.Dimensions() {
		if d.Value != 0 || d.Proposed != 0 {
			shown = append(shown, d)
		}
	}
	c.y -= 5
	c.line(x, 10, canvas.FontBold, "Dimensions to cut")
	c.y -= 1
	const between = 6.0 // mm
	top, half := c.y, (width-between)/2
	rows := (len(shown) + 1) / 2
	for n, d := range shown {
		if n == rows {
			c.y = top
			x += half + between
		}
		c.y -= 4.6
		label := d.Label
		if d.Overridden() {
			label += " (your value)"
		}
		c.line(x, 8, canvas.FontRegular, label)
		c.at(x+half, 8, canvas.FontBold, formatValue(d.Value, d.Unit), canvas.Right)
	}
	c.y = top - 4.6*float64(rows)
}

// instruments lists them in order in the column that starts at x.
func (c *card) instruments(steps []document.Step, x float64) {
	c.y -= 4
	c.line(x, 10, canvas.FontBold, "Instruments in order")
	c.y -= 1
	for _, s := range steps {
		c.y -= 4.6
		c.line(x, 8, canvas.FontRegular, s.Step)
		c.at(c.Width-margin, 8, canvas.FontBold, s.Instrument, canvas.Right)
		if s.Gauge != "" {
			c.y -= 3.8
			c.line(x+3, 7, canvas.FontRegular, s.Gauge)
		}
	}
}

// steps lists the instruments with the gauge each is read by, in two columns.
func (c *card) steps(steps []document.Step) {
	c.y -= 5
	c.line(margin, 10, canvas.FontBold, "Instruments in order")
	c.y -= 1
	const between, instrument = 6.0, 60.0 // mm
	x, top, foot := margin, c.y, c.y
	for n, s := range steps {
		if n == (len(steps)+1)/2 {
			foot, c.y = c.y, top
			x += (c.textWidth() + between) / 2
		}
		c.y -= 4.4
		c.line(x, 8, canvas.FontRegular, fmt.Sprintf("%d  %s", n+1, s.Step))
		c.at(x+instrument, 8, canvas.FontBold, s.Instrument, canvas.Left)
		if s.Gauge != "" {
			c.y -= 3.5
			c.line(x+5, 7, canvas.FontRegular, s.Gauge)
		}
	}
	c.y = min(c.y, foot)
}

func (c *card) cautions(r *plan.Result, forces []string) {
	c.y -= 4
	c.rule()
	c.y -= 5
	for _, f := range r.Document().Finishes {
		c.paragraph(marginText(f), margin, 8, c.textWidth())
		c.y -= 3
	}
	if len(forces) > 0 {
		c.line(margin, 10, canvas.FontBold, "Hold and strength")
		for _, text := range forces {
			c.y -= 1.2
			c.paragraph(text, margin, 8, c.textWidth())
		}
		c.y -= 5
	}
	c.line(margin, 10, canvas.FontBold, "Cautions")
	for _, text := range r.Document().Cautions {
		c.y -= 1.2
		c.paragraph("–  "+text, margin, 8, c.textWidth())
	}
}

// marginText is what a cavity's margins gain and cost, in one sentence.
func marginText(f document.Finish) string {
	text := "Margins, " + f.Name
	if f.Style != "" {
		text += ", " + string(f.Style) + " finish"
	}
	text += fmt.Sprintf(": enamel bonded %.1f mm², sound enamel spent %.1f mm³, margin %.1f mm, of which %.1f show from the front", f.BondedEnamel, f.EnamelSpent, f.Margin, f.MarginSeen)
	if f.Contact != "" {
		text += "; contact " + string(f.Contact)
	}
	if f.EdgeIndex > 0 {
		text += fmt.Sprintf("; bond against a load on the edge %.1f, an index", f.EdgeIndex)
	}
	return text + "."
}

func (c *card) line(x, size float64, style canvas.FontStyle, text string) {
	c.at(x, size, style, text, canvas.Left)
}

func (c *card) at(x, size float64, style canvas.FontStyle, text string, align canvas.TextAlign) {
	c.ctx.DrawText(x, c.y, canvas.NewTextLine(face(size, ink, style), text, align))
}

func (c *card) paragraph(text string, x, size, width float64) {
	box := canvas.NewTextBox(face(size, ink, canvas.FontRegular), text, width, 0, canvas.Left, canvas.Top, nil)
	c.ctx.DrawText(x, c.y, box)
	c.y -= box.Bounds().H() + 1
}

func (c *card) rule() {
	c.ctx.SetStrokeColor(ink)
	c.ctx.SetStrokeWidth(0.2)
	c.ctx.MoveTo(margin, c.y)
	c.ctx.LineTo(c.Width-margin, c.y)
	c.ctx.Stroke()
}

// drawVerdict draws a verdict's shape: disc met, half disc near, barred ring missed.
func drawVerdict(ctx *canvas.Context, x, y float64, verdict assess.Verdict) {
	const radius = 1.2
	ctx.SetStrokeColor(ink)
	ctx.SetStrokeWidth(0.25)
	ctx.SetFillColor(clear)
	switch verdict {
	case assess.Met:
		ctx.SetFillColor(ink)
		ctx.DrawPath(x, y, canvas.Circle(radius))
	case assess.Near:
		ctx.DrawPath(x, y, canvas.Circle(radius))
		half := &canvas.Path{}
		half.MoveTo(0, -radius)
		half.ArcTo(radius, radius, 0, false, false, 0, radius)
		half.Close()
		ctx.SetFillColor(ink)
		ctx.DrawPath(x, y, half)
	case assess.NotMeasurable:
		ctx.DrawPath(x, y, canvas.Circle(radius*0.6))
	case assess.Missed:
		ctx.DrawPath(x, y, canvas.Circle(radius))
		ctx.MoveTo(x-radius*1.5, y)
		ctx.LineTo(x+radius*1.5, y)
		ctx.Stroke()
	default:
		ctx.MoveTo(x-radius*0.7, y)
		ctx.LineTo(x+radius*0.7, y)
		ctx.Stroke()
	}
}

func formatTarget(t document.Range, unit string) string {
	switch {
	case t.Max == nil && t.Min == nil:
		return "any"
	case t.Max == nil:
		return "at least " + formatValue(*t.Min, unit)
	case t.Min == nil:
		return "at most " + formatValue(*t.Max, unit)
	default:
		return formatValue(*t.Min, unit) + " to " + formatValue(*t.Max, unit)
	}
}

func orDash(s string) string {
	if s == "" {
		return "–"
	}
	return s
}

package export

import (
	"fmt"
	"io"
	"strings"

	"github.com/tdewolff/canvas"
	"github.com/tdewolff/canvas/renderers"

	"obturon/internal/plan"
)

// CardHead is what the card says about the case besides the plan.
type CardHead struct {
	Patient  string // code, never a name
	Revision string // "draft" or "revision 2 of 2026-11-25"
	Practice string
}

// A4, mm.
const (
	pageWidth, pageHeight = 210.0, 297.0
	margin                = 12.0
)

// WriteCard prints the plan on one A4 page: drawing, dimensions, checks,
// instruments and cautions.
func WriteCard(w io.Writer, r *plan.Result, head CardHead) error {
	page := canvas.New(pageWidth, pageHeight)
	ctx := canvas.NewContext(page)
	c := &card{ctx: ctx, y: pageHeight - margin}
	c.title(r, head)
	if r.Document.Refused != "" {
		c.paragraph("No plan is made: "+r.Document.Refused, 10, pageWidth-2*margin)
	} else {
		c.views(r)
		top := c.y
		c.checks(r)
		left := c.y
		c.y = top
		c.right(r)
		c.y = min(c.y, left)
	}
	c.cautions(r)
	if err := page.Write(w, renderers.PDF()); err != nil {
		return fmt.Errorf("writing the card: %w", err)
	}
	return nil
}

// card lays out from the top down; y is the free height left.
type card struct {
	ctx *canvas.Context
	y   float64
}

func (c *card) title(r *plan.Result, head CardHead) {
	d := r.Document
	name := strings.ToUpper(d.Tooth.Name()[:1]) + d.Tooth.Name()[1:]
	c.line(margin, 16, canvas.FontBold, fmt.Sprintf("%s   %s  ·  %s  ·  %s", name, d.Tooth, d.Tooth.Universal(), d.Tooth.QuadrantLetters()))
	c.y -= 7.5
	c.line(margin, 10, canvas.FontRegular, fmt.Sprintf("Class %s, %s   |   %s, %s school   |   patient %s   |   %s   |   %s",
		d.Class, strings.Join(d.Surfaces, " "), d.Material, d.School, orDash(head.Patient), head.Revision, head.Practice))
	c.y -= 3
	c.rule()
}

// views puts the plan at the left, large, and the sections beside it.
func (c *card) views(r *plan.Result) {
	const planWidth = 104.0 // mm of paper
	top := c.y - 6
	planView, sections := r.Views[0], r.Views[1:]
	scale := planWidth / viewWidth(planView)
	drawView(c.ctx, planView, frame{margin, top - viewHeight(planView)*scale, scale})
	c.y = top - viewHeight(planView)*scale

	x := margin + planWidth + gap
	widest := 0.0
	for _, v := range sections {
		widest = max(widest, viewWidth(v))
	}
	scale = (pageWidth - margin - x) / widest
	y := top
	for _, v := range sections {
		y -= viewHeight(v) * scale
		drawView(c.ctx, v, frame{x, y, scale})
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
	c.y -= 5
	c.line(margin, 10, canvas.FontBold, "Checks, measured on the computed tooth")
	c.y -= 1
	for _, k := range r.Document.Checks {
		c.y -= 5
		drawVerdict(c.ctx, margin+1.5, c.y+1, k.Verdict)
		c.line(margin+5, 8, canvas.FontRegular, k.Label)
		if k.Value != nil {
			c.at(margin+75, 8, canvas.FontBold, formatValue(*k.Value, k.Unit), canvas.Right)
			c.at(margin+78, 8, canvas.FontRegular, "target "+formatTarget(k.Target, k.Unit), canvas.Left)
		} else {
			c.at(margin+78, 8, canvas.FontRegular, "not asked for here", canvas.Left)
		}
	}
	for _, k := range r.Document.Checks {
		if k.Fix != "" && k.Verdict == "missed" {
			if c.y < roomForCautions {
				c.y -= 4
				c.line(margin, 7.5, canvas.FontRegular, "More corrections stand on the sheet.")
				break
			}
			c.y -= 1.5
			c.paragraph(k.Fix, 7.5, column-6)
		}
	}
}

// right fills the second column: dimensions and instruments.
func (c *card) right(r *plan.Result) {
	x := margin + column + 4
	c.y -= 5
	c.line(x, 10, canvas.FontBold, "Dimensions to cut")
	c.y -= 1
	for _, d := range r.Dimensions {
		if d.Value == 0 && d.Proposed == 0 {
			continue
		}
		c.y -= 4.6
		label := d.Label
		if d.Overridden() {
			label += " (your value)"
		}
		c.line(x, 8, canvas.FontRegular, label)
		c.at(pageWidth-margin, 8, canvas.FontBold, formatValue(d.Value, d.Unit), canvas.Right)
	}
	c.y -= 8
	c.line(x, 10, canvas.FontBold, "Instruments in order")
	c.y -= 1
	for _, s := range r.Document.Sequence {
		c.y -= 4.6
		c.line(x, 8, canvas.FontRegular, s.Step)
		c.at(pageWidth-margin, 8, canvas.FontBold, s.Instrument, canvas.Right)
		if s.Gauge != "" {
			c.y -= 3.8
			c.line(x+3, 7, canvas.FontRegular, s.Gauge)
		}
	}
}

func (c *card) cautions(r *plan.Result) {
	c.y -= 4
	c.rule()
	c.y -= 5
	c.line(margin, 10, canvas.FontBold, "Cautions")
	for _, text := range r.Document.Cautions {
		c.y -= 1.2
		c.paragraph("–  "+text, 8, pageWidth-2*margin)
	}
}

func (c *card) line(x, size float64, style canvas.FontStyle, text string) {
	c.at(x, size, style, text, canvas.Left)
}

func (c *card) at(x, size float64, style canvas.FontStyle, text string, align canvas.TextAlign) {
	c.ctx.DrawText(x, c.y, canvas.NewTextLine(face(size, ink, style), text, align))
}

func (c *card) paragraph(text string, size, width float64) {
	box := canvas.NewTextBox(face(size, ink, canvas.FontRegular), text, width, 0, canvas.Left, canvas.Top, nil)
	c.ctx.DrawText(margin, c.y, box)
	c.y -= box.Bounds().H() + 1
}

func (c *card) rule() {
	c.ctx.SetStrokeColor(ink)
	c.ctx.SetStrokeWidth(0.2)
	c.ctx.MoveTo(margin, c.y)
	c.ctx.LineTo(pageWidth-margin, c.y)
	c.ctx.Stroke()
}

// drawVerdict draws a verdict's shape: disc met, half disc near, barred ring missed.
func drawVerdict(ctx *canvas.Context, x, y float64, verdict string) {
	const radius = 1.2
	ctx.SetStrokeColor(ink)
	ctx.SetStrokeWidth(0.25)
	ctx.SetFillColor(clear)
	switch verdict {
	case "met":
		ctx.SetFillColor(ink)
		ctx.DrawPath(x, y, canvas.Circle(radius))
	case "near":
		ctx.DrawPath(x, y, canvas.Circle(radius))
		half := &canvas.Path{}
		half.MoveTo(0, -radius)
		half.ArcTo(radius, radius, 0, false, false, 0, radius)
		half.Close()
		ctx.SetFillColor(ink)
		ctx.DrawPath(x, y, half)
	case "missed":
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

func formatTarget(t plan.Range, unit string) string {
	const unbounded = 9 // schools write "no upper bound" as 9 mm or more
	switch {
	case unit == "mm" && t.Max >= unbounded:
		return "at least " + formatValue(t.Min, unit)
	case t.Min <= 0 && unit != "ratio" && unit != "deg":
		return "at most " + formatValue(t.Max, unit)
	default:
		return formatValue(t.Min, unit) + " to " + formatValue(t.Max, unit)
	}
}

func orDash(s string) string {
	if s == "" {
		return "–"
	}
	return s
}

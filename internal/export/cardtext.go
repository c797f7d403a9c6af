package export

import (
	"github.com/tdewolff/canvas"

	"obturon/core/assess"
	"obturon/internal/document"
)

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

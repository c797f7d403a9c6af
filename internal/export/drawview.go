package export

import (
	"fmt"
	"math"

	"github.com/tdewolff/canvas"

	"obturon/core/drawing"
	"obturon/core/solid"
)

// frame is where a view goes on the paper: its lower left corner and scale,
// in mm of paper.
type frame struct{ x, y, scale float64 }

// drawView draws one view with its grid, layers, tags and title.
func drawView(ctx *canvas.Context, v drawing.View, at frame) {
	place := func(p solid.Point2) (float64, float64) {
		return at.x + (p.X-v.Bounds.MinX)*at.scale, at.y + (p.Y-v.Bounds.MinY)*at.scale
	}
	drawGrid(ctx, v, at)
	for _, l := range v.Layers {
		style := layerInk[l.Kind]
		path := &canvas.Path{}
		for _, line := range l.Lines {
			for n, p := range line.Points {
				x, y := place(p)
				if n == 0 {
					path.MoveTo(x, y)
				} else {
					path.LineTo(x, y)
				}
			}
			if line.Closed {
				path.Close()
			}
		}
		// Areas and lines apart: stroking under the even-odd rule makes a
		// PDF operator that readers do not know.
		ctx.SetFillRule(canvas.EvenOdd)
		ctx.SetFillColor(style.fill)
		ctx.SetStrokeColor(clear)
		ctx.DrawPath(0, 0, path)
		ctx.SetFillRule(canvas.NonZero)
		ctx.SetFillColor(clear)
		ctx.SetStrokeColor(style.line)
		ctx.SetStrokeWidth(style.width)
		ctx.SetDashes(0, style.dashes...)
		ctx.DrawPath(0, 0, path)
	}
	ctx.SetDashes(0)
	for _, m := range v.Marks {
		x, y := place(m.At)
		drawMark(ctx, x, y, m.Text)
	}
	for _, t := range v.Tags {
		x1, y1 := place(t.From)
		x2, y2 := place(t.To)
		drawDimension(ctx, x1, y1, x2, y2)
		hx, hy := place(t.Handle)
		lx, ly := place(t.LabelAt)
		drawLabel(ctx, tagText(t), hx, hy, lx, ly, t.LabelRight)
	}
	left, bottom := place(solid.Point2{X: v.Bounds.MinX, Y: v.Bounds.MinY})
	right, top := place(solid.Point2{X: v.Bounds.MaxX, Y: v.Bounds.MaxY})
	small := face(7, faintInk, canvas.FontRegular)
	ctx.DrawText(left, top+1.2, canvas.NewTextLine(face(8, ink, canvas.FontBold), v.Title, canvas.Left))
	ctx.DrawText(left+0.5, bottom+4, canvas.NewTextLine(small, v.Left, canvas.Left))
	ctx.DrawText(right-0.5, bottom+4, canvas.NewTextLine(small, v.Right, canvas.Right))
	ctx.DrawText(left+0.5, top-2.6, canvas.NewTextLine(small, v.Up, canvas.Left))
	drawScaleBar(ctx, left+1, bottom+1.2, at.scale)
}

// drawMark writes a word into a disc.
func drawMark(ctx *canvas.Context, x, y float64, text string) {
	const radius = 1.7
	ctx.SetFillColor(paper)
	ctx.SetStrokeColor(ink)
	ctx.SetStrokeWidth(0.15)
	ctx.DrawPath(x, y, canvas.Circle(radius))
	ctx.DrawText(x, y-0.8, canvas.NewTextLine(face(6.5, ink, canvas.FontRegular), text, canvas.Center))
}

// drawGrid rules every millimetre of the tooth.
func drawGrid(ctx *canvas.Context, v drawing.View, at frame) {
	b := v.Bounds
	ctx.SetFillColor(clear)
	ctx.SetStrokeColor(hairline)
	ctx.SetStrokeWidth(0.08)
	for x := math.Ceil(b.MinX); x <= b.MaxX; x++ {
		px := at.x + (x-b.MinX)*at.scale
		ctx.MoveTo(px, at.y)
		ctx.LineTo(px, at.y+(b.MaxY-b.MinY)*at.scale)
		ctx.Stroke()
	}
	for y := math.Ceil(b.MinY); y <= b.MaxY; y++ {
		py := at.y + (y-b.MinY)*at.scale
		ctx.MoveTo(at.x, py)
		ctx.LineTo(at.x+(b.MaxX-b.MinX)*at.scale, py)
		ctx.Stroke()
	}
}

func drawScaleBar(ctx *canvas.Context, x, y, scale float64) {
	ctx.SetStrokeColor(ink)
	ctx.SetStrokeWidth(0.35)
	ctx.MoveTo(x, y)
	ctx.LineTo(x+2*scale, y)
	ctx.Stroke()
	ctx.DrawText(x+2*scale+0.8, y-0.8, canvas.NewTextLine(face(6.5, ink, canvas.FontRegular), "2 mm", canvas.Left))
}

func tagText(t drawing.Tag) string { return t.Label + " " + formatValue(t.Value, t.Unit) }

// formatValue rounds halves up, so that a value reads the same whether it
// comes from the drawing or, rounded to a thousandth, from the document.
func formatValue(v float64, unit string) string {
	const nudge = 1e-6
	v += nudge
	switch unit {
	case "deg":
		return fmt.Sprintf("%.1f°", v)
	case "mm3":
		return fmt.Sprintf("%.2f mm³", v)
	case "ratio":
		return fmt.Sprintf("%.2f", v)
	default:
		return fmt.Sprintf("%.2f", v)
	}
}

// drawDimension draws a dimension line with ticks.
func drawDimension(ctx *canvas.Context, x1, y1, x2, y2 float64) {
	ctx.SetStrokeColor(accent)
	ctx.SetFillColor(clear)
	ctx.SetStrokeWidth(0.3)
	ctx.MoveTo(x1, y1)
	ctx.LineTo(x2, y2)
	ctx.Stroke()
	length := math.Hypot(x2-x1, y2-y1)
	if length < 1e-6 {
		return
	}
	nx, ny := -(y2-y1)/length*0.8, (x2-x1)/length*0.8
	for _, end := range [][2]float64{{x1, y1}, {x2, y2}} {
		ctx.MoveTo(end[0]-nx, end[1]-ny)
		ctx.LineTo(end[0]+nx, end[1]+ny)
		ctx.Stroke()
	}
}

// drawLabel runs a leader from the handle to the text beside the view.
func drawLabel(ctx *canvas.Context, text string, hx, hy, lx, ly float64, right bool) {
	ctx.SetStrokeColor(accent)
	ctx.SetStrokeWidth(0.12)
	ctx.MoveTo(hx, hy)
	ctx.LineTo(lx, ly)
	ctx.Stroke()
	f := face(6.5, ink, canvas.FontRegular)
	if right {
		ctx.DrawText(lx+0.6, ly-0.8, canvas.NewTextLine(f, text, canvas.Left))
	} else {
		ctx.DrawText(lx-0.6, ly-0.8, canvas.NewTextLine(f, text, canvas.Right))
	}
}

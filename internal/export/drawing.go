package export

import (
	"bytes"
	"fmt"
	"io"
	"regexp"
	"slices"

	"github.com/tdewolff/canvas"
	"github.com/tdewolff/canvas/renderers"

	"obturon/core/drawing"
	"obturon/internal/plan"
)

const (
	drawingScale = 8.0 // mm of paper a mm of tooth
	gap          = 6.0 // mm of paper between views
)

// WriteSVG draws the views side by side, eight times natural size. Errors are
// those of the writer.
func WriteSVG(w io.Writer, r *plan.Result) error {
	var drawn bytes.Buffer
	if err := sheet(r).Write(&drawn, renderers.SVG()); err != nil {
		return fmt.Errorf("writing the drawing: %w", err)
	}
	if _, err := w.Write(fontsInOrder(drawn.Bytes())); err != nil {
		return fmt.Errorf("writing the drawing: %w", err)
	}
	return nil
}

var fontFace = regexp.MustCompile(`@font-face\{[^}]*\}`)

// fontsInOrder is a drawing with its embedded fonts in one order: the renderer has them in any.
func fontsInOrder(svg []byte) []byte {
	var faces [][]byte
	for _, face := range fontFace.FindAll(svg, -1) {
		faces = append(faces, bytes.Clone(face))
	}
	slices.SortFunc(faces, bytes.Compare)
	next := -1
	return fontFace.ReplaceAllFunc(svg, func([]byte) []byte { next++; return faces[next] })
}

// WritePNG draws the same as a picture. Errors are those of the writer.
func WritePNG(w io.Writer, r *plan.Result) error {
	const dotsPerMM = 5
	if err := sheet(r).Write(w, renderers.PNG(canvas.DPMM(dotsPerMM))); err != nil {
		return fmt.Errorf("writing the picture: %w", err)
	}
	return nil
}

func sheet(r *plan.Result) *canvas.Canvas {
	width, height := gap, 0.0
	for _, v := range r.Views {
		width += viewWidth(v)*drawingScale + gap
		height = max(height, viewHeight(v)*drawingScale)
	}
	height += 22
	page := canvas.New(width, height)
	ctx := canvas.NewContext(page)
	ctx.SetFillColor(paper)
	ctx.DrawPath(0, 0, canvas.Rectangle(width, height))
	title := fmt.Sprintf(
		"%s (%s)  Class %s  %s, %s school",
		r.Model.Tooth.Name(),
		r.Model.Tooth,
		r.Document().Class,
		r.Document().Material,
		r.Document().School,
	)
	ctx.DrawText(gap, height-8, canvas.NewTextLine(face(12, ink, canvas.FontBold), title, canvas.Left))
	x := gap
	for _, v := range r.Views {
		drawView(ctx, v, frame{x, 5, drawingScale})
		x += viewWidth(v)*drawingScale + gap
	}
	return page
}

func viewWidth(v drawing.View) float64  { return v.Bounds.MaxX - v.Bounds.MinX }
func viewHeight(v drawing.View) float64 { return v.Bounds.MaxY - v.Bounds.MinY }

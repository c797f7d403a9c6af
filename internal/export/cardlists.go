package export

import (
	"cmp"
	"fmt"

	"github.com/tdewolff/canvas"

	"obturon/core/assess"
	"obturon/core/cavity"
	"obturon/internal/document"
	"obturon/internal/plan"
)

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
	text += fmt.Sprintf(
		": enamel bonded %.1f mm², sound enamel spent %.1f mm³, margin %.1f mm, of which %.1f show from the front",
		f.BondedEnamel,
		f.EnamelSpent,
		f.Margin,
		f.MarginSeen,
	)
	if f.Contact != "" {
		text += "; contact " + string(f.Contact)
	}
	if f.EdgeIndex > 0 {
		text += fmt.Sprintf("; bond against a load on the edge %.1f, an index", f.EdgeIndex)
	}
	return text + "."
}

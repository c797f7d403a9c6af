package export

import (
	"fmt"

	"github.com/tdewolff/canvas"

	"obturon/core/drawing"
	"obturon/core/instrument"
	"obturon/core/rehearsal"
	"obturon/internal/document"
	"obturon/internal/plan"
	"obturon/internal/render"
)

// chairPages are what to do step by step, each with its instruments, depth and gauge, and
// what to beware of; none where the plan is refused. Rehearsed steps have a picture each.
func chairPages(r *plan.Result, rehearsed *plan.Rehearsed, head CardHead, paper Paper) []*canvas.Canvas {
	lowest := 40.0 // mm of paper, under which a step begins a new page
	if rehearsed != nil {
		lowest = margin + pictureHigh
	}
	var pages []*canvas.Canvas
	var c *card
	for n, s := range stepsOf(r, rehearsed) {
		if c == nil || c.y < lowest {
			c = newCard(paper)
			c.title(r, head)
			c.y -= 5
			c.line(margin, 10, canvas.FontBold, "At the chair")
			if rehearsed != nil {
				c.at(c.Width-margin, 8, canvas.FontRegular, proofText(rehearsed), canvas.Right)
			}
			c.y -= 3
			pages = append(pages, c.page)
		}
		if rehearsed == nil {
			c.step(n+1, s, 0)
			continue
		}
		top := c.y - 3
		if stage, ok := rehearsed.Stage(n); ok {
			c.picture(stage.Views[stage.First], top)
		}
		c.step(n+1, s, pictureWide)
		c.y = min(c.y, top-pictureHigh)
	}
	return pages
}

// stepsOf are the steps that a card prints: those of the rehearsal where there is one.
func stepsOf(r *plan.Result, rehearsed *plan.Rehearsed) []document.Step {
	if rehearsed == nil {
		return r.Document().Sequence
	}
	return render.Steps(rehearsed.Chair)
}

// proofText says how near the instruments come to the drawing.
func proofText(r *plan.Rehearsed) string {
	unproven := 0
	for _, one := range r.Rehearsals {
		unproven += len(one.Unproven())
	}
	if unproven == 0 {
		return fmt.Sprintf("Proven by cutting the computed tooth: within %.2f mm on every surface", rehearsal.Proven)
	}
	return fmt.Sprintf("Proven by cutting the computed tooth, but for %d of its surfaces", unproven)
}

// Room for a step's picture, mm of paper.
const (
	pictureWide = 34.0
	pictureHigh = 30.0
)

// picture puts a stage into its room, without a title.
func (c *card) picture(v drawing.View, top float64) {
	v.Title = ""
	scale := min((pictureWide-3)/viewWidth(v), (pictureHigh-2)/viewHeight(v))
	drawView(c.ctx, v, frame{margin, top - viewHeight(v)*scale, scale})
}

// speeds are how instruments turn, in the dentist's words.
var speeds = map[instrument.Speed]string{instrument.High: "high speed, water", instrument.Low: "low speed", instrument.ByHand: "by hand"}

// step prints one, beside room for its picture.
func (c *card) step(number int, s document.Step, beside float64) {
	const indent, size = 6.0, 8.5 // mm; points
	with := s.Instrument
	if speed := speeds[s.Speed]; speed != "" && with != "" {
		with += ", " + speed
	}
	c.y -= 3
	left := margin + beside
	name := s.Step
	if s.Of != "" {
		name += ", " + s.Of
	}
	c.line(left, size, canvas.FontBold, fmt.Sprintf("%d  %s", number, name))
	c.at(c.Width-margin, size, canvas.FontBold, with, canvas.Right)
	c.y -= 1.5
	c.paragraph(s.Action, left+indent, size, c.textWidth()-beside-indent)
	if s.Gauge != "" {
		c.paragraph("Gauge: "+s.Gauge+".", left+indent, size, c.textWidth()-beside-indent)
	}
	if s.Lack != "" {
		c.paragraph("Kit: "+s.Lack, left+indent, size, c.textWidth()-beside-indent)
	}
	if s.Caution != "" {
		c.paragraph("Beware: "+s.Caution, left+indent, size, c.textWidth()-beside-indent)
	}
}

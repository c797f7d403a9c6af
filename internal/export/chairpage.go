package export

import (
	"fmt"

	"github.com/tdewolff/canvas"

	"obturon/core/instrument"
	"obturon/internal/document"
	"obturon/internal/plan"
)

// chairPages are what to do step by step, each with its instruments, depth and gauge, and
// what to beware of; none where the plan is refused.
func chairPages(r *plan.Result, head CardHead, paper Paper) []*canvas.Canvas {
	const lowest = 40.0 // mm of paper, under which a step begins a new page
	var pages []*canvas.Canvas
	var c *card
	for n, s := range r.Document().Sequence {
		if c == nil || c.y < lowest {
			c = newCard(paper)
			c.title(r, head)
			c.y -= 5
			c.line(margin, 10, canvas.FontBold, "At the chair")
			c.y -= 3
			pages = append(pages, c.page)
		}
		c.step(n+1, s)
	}
	return pages
}

// speeds are how instruments turn, in the dentist's words.
var speeds = map[instrument.Speed]string{instrument.High: "high speed, water", instrument.Low: "low speed", instrument.ByHand: "by hand"}

func (c *card) step(number int, s document.Step) {
	const indent, size = 6.0, 8.5 // mm; points
	with := s.Instrument
	if speed := speeds[s.Speed]; speed != "" && with != "" {
		with += ", " + speed
	}
	c.y -= 3
	c.line(margin, size, canvas.FontBold, fmt.Sprintf("%d  %s", number, s.Step))
	c.at(c.Width-margin, size, canvas.FontBold, with, canvas.Right)
	c.y -= 1.5
	c.paragraph(s.Action, margin+indent, size, c.textWidth()-indent)
	if s.Gauge != "" {
		c.paragraph("Gauge: "+s.Gauge+".", margin+indent, size, c.textWidth()-indent)
	}
	if s.Caution != "" {
		c.paragraph("Beware: "+s.Caution, margin+indent, size, c.textWidth()-indent)
	}
}

package export

import (
	"fmt"
	"io"
	"strings"

	"github.com/tdewolff/canvas"
	"github.com/tdewolff/canvas/renderers/pdf"

	"obturon/internal/document"
)

// TraySheet is what has to lie ready for one tooth, or for several in one sitting with the
// order in which they are done.
type TraySheet struct {
	Teeth  []string
	Rounds []document.SittingStep // none of one tooth
	Tray   []document.TrayItem
}

// WriteTray prints what has to lie ready, a line each with a box to tick, single-use things
// with their count. Errors are those of the writer.
func WriteTray(w io.Writer, head CardHead, sheet TraySheet, paper Paper) error {
	out := pdf.New(w, paper.Width, paper.Height, nil)
	p := &trayPaper{paged{head: func() *card {
		c := newCard(paper)
		c.line(margin, 16, canvas.FontBold, "Tray for "+strings.Join(sheet.Teeth, ", "))
		c.y -= 7.5
		c.line(margin, 10, canvas.FontRegular, fmt.Sprintf("patient %s   |   %s   |   %s", orDash(head.Patient), head.Revision, head.Practice))
		c.y -= 3
		c.rule()
		return c
	}}, sheet}
	p.begin()
	p.items()
	p.rounds()
	for n, page := range p.pages {
		if n > 0 {
			out.NewPage(paper.Width, paper.Height)
		}
		page.RenderTo(out)
	}
	if err := out.Close(); err != nil {
		return fmt.Errorf("writing the tray: %w", err)
	}
	return nil
}

// trayPaper is the pages of a tray.
type trayPaper struct {
	paged
	sheet TraySheet
}

func (p *trayPaper) items() {
	const box, line, toName, toCount = 2.6, 5.2, 5.0, 96.0 // mm
	group := ""
	for _, i := range p.sheet.Tray {
		if i.Group != group {
			group = i.Group
			p.heading(group)
		}
		p.room()
		p.y -= line
		p.ctx.SetStrokeColor(canvas.Black)
		p.ctx.SetStrokeWidth(0.2)
		p.ctx.SetFillColor(canvas.Transparent)
		p.ctx.DrawPath(margin, p.y-0.2, canvas.Rectangle(box, box))
		p.line(margin+toName, 9, canvas.FontRegular, i.Name)
		count := ""
		switch {
		case i.SingleUse:
			count = fmt.Sprintf("%d, single use", i.Count)
		case i.Count > 1:
			count = fmt.Sprint(i.Count)
		}
		p.line(margin+toCount, 9, canvas.FontRegular, count)
		p.line(margin+toCount+30, 9, canvas.FontRegular, i.Note)
	}
}

func (p *trayPaper) rounds() {
	if len(p.sheet.Rounds) == 0 {
		return
	}
	p.heading("In this order")
	for n, r := range p.sheet.Rounds {
		p.room()
		how := strings.Join(r.Teeth, ", then ")
		if r.Once {
			how = strings.Join(r.Teeth, " and ") + " at once"
		}
		p.y -= 1
		p.paragraph(fmt.Sprintf("%d  %s: %s. %s", n+1, r.Step, how, r.Why), margin, 8.5, p.textWidth())
	}
}

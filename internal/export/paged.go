package export

import "github.com/tdewolff/canvas"

// paged goes on to a new page where one is full.
type paged struct {
	*card
	head  func() *card // a new page with what stands on top of each
	pages []*canvas.Canvas
}

const leastRoom = 22.0 // mm of paper, under which what follows begins a new page

func (p *paged) begin() {
	p.card = p.head()
	p.pages = append(p.pages, p.page)
}

// room begins a new page where the rest of this one is too low.
func (p *paged) room() {
	if p.y < leastRoom {
		p.begin()
	}
}

func (p *paged) heading(text string) {
	const withText = 10.0 // mm: no heading ends a page
	if p.y < leastRoom+withText {
		p.begin()
	}
	p.y -= 5
	p.line(margin, 9.5, canvas.FontBold, text)
	p.y -= 1.5
}

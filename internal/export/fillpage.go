package export

import (
	"fmt"
	"strings"

	"github.com/tdewolff/canvas"

	"obturon/core/drawing"
	"obturon/internal/document"
	"obturon/internal/plan"
)

// Filled is how a plan's cavities are filled, with the sections that show it.
type Filled struct {
	Fill   []document.CavityFill
	Views  []drawing.View
	Before []document.Step // the bur
	Tray   []document.TrayItem
}

// fillPages are the card's pages of the filling: its sections, what stands round it, its
// portions and its steps; none where it was not planned.
func fillPages(r *plan.Result, filled Filled, head CardHead, paper Paper) []*canvas.Canvas {
	if len(filled.Fill) == 0 {
		return nil
	}
	p := &fillPaper{paged{head: func() *card {
		c := newCard(paper)
		c.title(r, head)
		c.y -= 5
		c.line(margin, 10, canvas.FontBold, "Filling")
		c.y -= 3
		return c
	}}}
	p.begin()
	p.sections(filled.Views)
	laid := 0
	for _, f := range filled.Fill {
		p.cavity(f, len(filled.Fill) > 1, &laid)
	}
	if len(filled.Tray) > 0 {
		p.before(filled.Before)
		p.tray(filled.Tray)
	}
	return p.pages
}

// fillPaper is the pages of a filling.
type fillPaper struct{ paged }

func (p *fillPaper) text(format string, args ...any) {
	const size = 8.5
	p.room()
	p.paragraph(fmt.Sprintf(format, args...), margin, size, p.textWidth())
}

// sections puts up to three of them beside each other.
func (p *fillPaper) sections(views []drawing.View) {
	const most, tallest = 3, 70.0 // mm of paper
	views = views[:min(len(views), most)]
	wide, high := 0.0, 0.0
	for _, v := range views {
		wide, high = wide+viewWidth(v), max(high, viewHeight(v))
	}
	if wide == 0 {
		return
	}
	scale := min((p.textWidth()-gap*float64(len(views)-1))/wide, tallest/high)
	x := margin
	foot := p.y - high*scale - 4
	for _, v := range views {
		drawView(p.ctx, v, frame{x, foot, scale})
		x += viewWidth(v)*scale + gap
	}
	p.y = foot - 2
}

func (p *fillPaper) cavity(f document.CavityFill, named bool, laid *int) {
	if named {
		p.heading(capital(f.Of))
	}
	if len(f.Protection) > 0 {
		p.heading("Over the pulp")
	}
	for _, l := range f.Protection {
		p.text("%s, %.1f mm thick on %.1f mm² of floor. %s", l.Product, l.ThickMm, l.AreaMm2, l.Why)
	}
	p.heading(f.Matrix.Name)
	p.text("%s", f.Matrix.Why)
	for _, b := range f.Matrix.Bands {
		p.text("%s: %s", capital(string(b.Side)), strings.Join(b.Notes, " "))
	}
	for n, part := range f.Parts {
		name := fmt.Sprintf("%.0f mm³ of %s", part.VolumeMm3, f.Material)
		if len(f.Parts) > 1 {
			name = fmt.Sprintf("Part %d of %d: %s", n+1, len(f.Parts), name)
		}
		p.heading(name)
		if part.Why != "" {
			p.text("%s", part.Why)
		}
		for _, i := range part.Increments {
			*laid++
			p.text(
				"%d  %s, %s: %.1f mm³, thickest %.2f of %.1f mm, light %.0f to %.0f s at %.1f mm.",
				*laid,
				i.Name,
				i.Product,
				i.VolumeMm3,
				i.ThickestMm,
				i.MostMm,
				i.Light.LeastSeconds,
				i.Light.MostSeconds,
				i.Light.DistanceMm,
			)
		}
		p.amalgam(part)
	}
	if f.Lamp != nil {
		p.text("Cured by %s, %g mW/cm² as read last. %s", f.Lamp.Name, f.Lamp.Output, f.Lamp.Note)
	}
	p.heading("In order")
	for n, s := range f.Steps {
		p.text("%d  %s, %s. %s %s", n+1, s.Step, lasting(s.Clock, s.Seconds), s.Action, s.Caution)
	}
	p.heading("What this rests on")
	for _, text := range f.Assumptions {
		p.text("–  %s", text)
	}
}

// before is what is done before anything is cut.
func (p *fillPaper) before(steps []document.Step) {
	p.heading("Before the bur")
	for _, s := range steps {
		p.text("–  %s, %s. %s %s", s.Step, lasting(s.Clock, s.Seconds), s.Action, s.Caution)
	}
}

// tray is what lies ready, by its groups.
func (p *fillPaper) tray(tray []document.TrayItem) {
	p.heading("On the tray")
	for n := 0; n < len(tray); {
		group := tray[n].Group
		var names []string
		for ; n < len(tray) && tray[n].Group == group; n++ {
			names = append(names, trayWords(tray[n]))
		}
		p.text("%s: %s.", group, strings.Join(names, "; "))
	}
}

// trayWords is an item with how many of it, and what there is to say of it.
func trayWords(i document.TrayItem) string {
	text := i.Name
	if i.Count > 1 {
		text = fmt.Sprintf("%d × %s", i.Count, text)
	}
	if i.Note != "" {
		text += " (" + i.Note + ")"
	}
	return text
}

func capital(text string) string {
	if text == "" {
		return "Occlusal"
	}
	return strings.ToUpper(text[:1]) + text[1:]
}

func (p *fillPaper) amalgam(part document.FillPart) {
	c := part.Charge
	if c == nil {
		return
	}
	mixes := make([]string, len(c.Mixes))
	for n, m := range c.Mixes {
		mixes[n] = fmt.Sprintf("%g mg alloy for %d loads", m.AlloyMg, m.Loads)
	}
	p.text("%s: %.0f mg with what is carved off, in capsules of %s.", c.Product, c.MassMg, strings.Join(mixes, ", then "))
	for n := 0; n < len(part.Loads); {
		last := n
		for last+1 < len(part.Loads) && level(part.Loads[last+1]) == level(part.Loads[n]) {
			last++
		}
		loads := fmt.Sprint(n + 1)
		if last > n {
			loads += fmt.Sprintf(" to %d", last+1)
		}
		p.text("%s  %s", loads, level(part.Loads[n]))
		n = last + 1
	}
}

// level is where a load goes and how high it stands then: loads beside each other are alike.
func level(l document.AmalgamLoad) string {
	return fmt.Sprintf("%s, up to %.1f mm over the lowest place", l.Where, l.HeightMm)
}

// lasting is how long a step takes.
func lasting(c *document.StepClock, seconds int) string {
	switch {
	case c == nil:
		return fmt.Sprintf("%d s", seconds)
	case c.LeastSeconds == 0:
		return fmt.Sprintf("%d s, by %d s after step %d", seconds, c.MostSeconds, c.After)
	case c.LeastSeconds >= 120:
		return fmt.Sprintf("clock %g to %g min", float64(c.LeastSeconds)/60, float64(c.MostSeconds)/60)
	case c.MostSeconds > c.LeastSeconds:
		return fmt.Sprintf("clock %d to %d s", c.LeastSeconds, c.MostSeconds)
	}
	return fmt.Sprintf("clock %d s", c.LeastSeconds)
}

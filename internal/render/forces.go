package render

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/forces"
	"obturon/internal/document"
)

// Parting writes what came of loading a tooth; without is why nothing was loaded, ""
// where something was.
func Parting(parted forces.Parting, without string, with forces.Loading) document.Parting {
	b := with.Bite
	d := document.Parting{
		Cusps: []document.CuspParting{}, Loads: []document.BorneLoad{}, Bulks: []document.FillingBulk{},
		Text: parted.Text, Assumptions: parted.Assumptions, Newtons: b.Newtons, Down: b.DownTheIncline, Slant: b.Slant, Place: b.Place,
	}
	if without != "" {
		d.Text, d.Assumptions = without, []string{}
		return d
	}
	d.Sound, d.Cut, d.Filled, d.Cells = document.Thousandth(parted.Sound.Opening), document.Thousandth(parted.Empty.Opening), document.Thousandth(parted.Filled.Opening), parted.Side
	if times, ok := parted.Times(parted.Empty); ok {
		d.Times = document.Thousandth(times)
	}
	if times, ok := parted.Times(parted.Filled); ok {
		d.TimesFilled = document.Thousandth(times)
	}
	for _, c := range parted.Cusps {
		d.Cusps = append(d.Cusps, document.CuspParting{
			Cusp: c.Name, Sound: document.Thousandth(c.Sound), Cut: document.Thousandth(c.Empty), Filled: document.Thousandth(c.Filled),
			Base: document.Thousandth(c.Base), Over: document.Thousandth(c.Over), Width: document.Thousandth(c.Width), Under: document.Thousandth(c.Under),
		})
	}
	for _, l := range parted.Borne {
		d.Loads = append(d.Loads, document.BorneLoad{Newtons: document.Thousandth(r3.Norm(l.Force)), At: document.Triple(l.At), Along: document.Triple(r3.Unit(l.Force))})
	}
	for _, f := range parted.Bulks {
		d.Bulks = append(d.Bulks, document.FillingBulk{Of: f.Of, Isthmus: document.Thousandth(f.Isthmus), Ridge: document.Thousandth(f.Ridge), Lever: document.Thousandth(f.Lever), Bend: document.Thousandth(f.Bend)})
		d.BulkText = forces.BulkText
	}
	return d
}

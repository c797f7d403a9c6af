package render

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/forces"
	"obturon/internal/document"
)

// Deflection writes what came of loading a tooth; without is why nothing was loaded, ""
// where something was.
func Deflection(deflected forces.Deflection, without string, with forces.Loading) document.Deflection {
	b := with.Bite
	d := document.Deflection{
		Cusps: []document.CuspDeflection{}, Loads: []document.BorneLoad{}, Bulks: []document.FillingBulk{},
		Text: deflected.Text, Assumptions: deflected.Assumptions, Newtons: b.Newtons, Down: b.DownTheIncline, Slant: b.Slant, Place: b.Place,
	}
	if without != "" {
		d.Text, d.Assumptions = without, []string{}
		return d
	}
	d.Sound, d.Cut, d.Filled, d.Cells = document.Thousandth(
		deflected.Sound.Opening,
	), document.Thousandth(
		deflected.Empty.Opening,
	), document.Thousandth(
		deflected.Filled.Opening,
	), deflected.Side
	if times, ok := deflected.Times(deflected.Empty); ok {
		d.Times = document.Thousandth(times)
	}
	if times, ok := deflected.Times(deflected.Filled); ok {
		d.TimesFilled = document.Thousandth(times)
	}
	for _, c := range deflected.Cusps {
		d.Cusps = append(d.Cusps, document.CuspDeflection{
			Cusp: c.Name, Sound: document.Thousandth(c.Sound), Cut: document.Thousandth(c.Empty), Filled: document.Thousandth(c.Filled),
			Base: document.Thousandth(
				c.Base,
			), Over: document.Thousandth(c.Over), Width: document.Thousandth(c.Width), Under: document.Thousandth(c.Under),
		})
	}
	for _, l := range deflected.Borne {
		d.Loads = append(
			d.Loads,
			document.BorneLoad{Newtons: document.Thousandth(r3.Norm(l.Force)), At: document.Triple(l.At), Along: document.Triple(r3.Unit(l.Force))},
		)
	}
	for _, f := range deflected.Bulks {
		d.Bulks = append(
			d.Bulks,
			document.FillingBulk{
				Of:      f.Of,
				Isthmus: document.Thousandth(f.Isthmus),
				Ridge:   document.Thousandth(f.Ridge),
				Lever:   document.Thousandth(f.Lever),
				Bend:    document.Thousandth(f.Bend),
			},
		)
		d.BulkText = forces.BulkText
	}
	return d
}

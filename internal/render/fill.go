package render

import (
	"math"

	"obturon/core/fill"
	"obturon/core/pipeline"
	"obturon/core/procedure"
	"obturon/core/school"
	"obturon/internal/document"
)

// Fill writes how the cavities of a case are filled.
func Fill(fillings []pipeline.Filling) []document.CavityFill {
	all := make([]document.CavityFill, 0, len(fillings))
	for _, f := range fillings {
		d := document.CavityFill{
			Of: f.Of, Material: f.Cavity.Material, Matrix: matrixDocument(f.Matrix),
			Parts: []document.FillPart{}, Steps: Steps(f.Steps), Seconds: procedure.Seconds(f.Steps), Assumptions: fill.Assumptions(f.Cavity.Material),
		}
		for _, l := range f.Under {
			d.Protection = append(d.Protection, document.PulpProtection{
				Kind: l.Product.Kind, Product: l.Product.Name, ThickMm: document.Thousandth(l.Thick),
				VolumeMm3: document.Thousandth(l.Volume), AreaMm2: document.Thousandth(l.Area), Why: l.Why,
			})
		}
		for _, p := range f.Plans {
			d.Parts = append(d.Parts, partDocument(p))
		}
		if f.Cavity.Material == school.Composite {
			d.Lamp = &document.FillLamp{Name: f.Lamp.Name, Output: f.Lamp.Output, Note: f.Lamp.Fallen}
		}
		all = append(all, d)
	}
	return all
}

func matrixDocument(m fill.Matrix) document.Matrix {
	d := document.Matrix{Kind: m.Kind, Name: m.Kind.Name(), Why: m.Why, Bands: []document.MatrixBand{}}
	for _, b := range m.Bands {
		band := document.MatrixBand{
			Side: document.MatrixBandSide(
				b.Side.String(),
			), HeightMm: document.Thousandth(b.Height), UnderMm: document.Thousandth(b.Under), OverMm: document.Thousandth(b.Over),
			Seats: len(b.Short) == 0, Notes: b.Notes,
		}
		if b.Restored != nil {
			contact := document.Thousandth(b.Restored.Contact)
			band.ContactMm = &contact
			if ridge := document.Thousandth(b.Restored.RidgeOver); !math.IsNaN(ridge) {
				band.RidgeOverMm = &ridge
			}
		}
		if b.Wedge != nil {
			band.WedgeFrom = document.MatrixBandWedgeFrom(b.Wedge.From)
			band.FacialEmbrasureMm, band.LingualEmbrasureMm = document.Thousandth(b.Wedge.Facial), document.Thousandth(b.Wedge.Lingual)
		}
		d.Bands = append(d.Bands, band)
	}
	return d
}

func partDocument(p fill.Plan) document.FillPart {
	d := document.FillPart{
		VolumeMm3: document.Thousandth(p.Volume), BondedMm2: document.Thousandth(p.Bonded), FreeMm2: document.Thousandth(p.Free), Why: p.Why,
		Increments: []document.FillIncrement{}, Loads: []document.AmalgamLoad{},
	}
	for _, i := range p.Increments {
		one := document.FillIncrement{
			Name: i.Name, Why: i.Why, Product: i.Product.Name, VolumeMm3: document.Thousandth(i.Volume), ThickestMm: document.Thousandth(i.Thickest), MostMm: i.Most,
			BondedMm2: document.Thousandth(i.Bonded), FreeMm2: document.Thousandth(i.Free),
			Light: document.IncrementLight{
				DistanceMm: document.Thousandth(i.Light.MM), TiltDegrees: document.Thousandth(i.Light.Tilt),
				LeastSeconds: math.Ceil(i.Light.Exposure.Least), MostSeconds: math.Ceil(i.Light.Exposure.Most),
			},
		}
		if i.Free > 0 {
			index := document.Thousandth(i.CFactor())
			one.CFactor = &index
		}
		d.Increments = append(d.Increments, one)
	}
	if c := p.Charge; c != nil {
		d.Charge = &document.AmalgamCharge{
			Product: c.Product.Name, MassMg: math.Round(c.Mass), Mixes: []document.AmalgamMix{}, Loads: c.Loads,
			CondenseSeconds: c.Product.CondenseSeconds, CarveSeconds: c.Product.CarveSeconds, NoLoadHours: c.Product.NoLoadHours,
		}
		for _, m := range c.Mixes {
			d.Charge.Mixes = append(d.Charge.Mixes, document.AmalgamMix{AlloyMg: m.AlloyMg, Loads: m.Loads})
		}
	}
	for _, l := range p.Loads {
		one := document.AmalgamLoad{VolumeMm3: document.Thousandth(l.Volume), HeightMm: document.Thousandth(l.Height), Where: l.Where}
		if l.Volume > 0 {
			one.At = document.Triple(l.At)
		}
		d.Loads = append(d.Loads, one)
	}
	return d
}

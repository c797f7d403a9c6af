package pipeline

import (
	"obturon/core/drawing"
	"obturon/core/fill"
	"obturon/core/measure"
	"obturon/core/procedure"
	"obturon/core/sequence"
	"obturon/core/sitting"
	"obturon/core/solid"
)

// Filling is how one cavity is filled.
type Filling struct {
	*measure.Subject
	Of     string       // what the cavity is called; "" of the only one
	Under  []fill.Layer // what protects the pulp, in the order in which it is laid
	Plans  []fill.Plan  // a part each, the largest first
	Matrix fill.Matrix
	Steps  []procedure.Step
	Lamp   fill.Lamp
}

// Filled is a measured case with how its cavities are filled.
type Filled struct {
	*Measured
	Fillings []Filling
	products fill.Products
}

// Fill plans the fillings of all cavities; boxes of other teeth that are open at the time
// are filled in one go with those that they face.
func (m *Measured) Fill(products fill.Products, facing ...fill.Facing) *Filled {
	all := &Filled{m, make([]Filling, len(m.Subjects)), products}
	for n, s := range m.Subjects {
		under := fill.Protect(s, products)
		f := Filling{Subject: s, Under: under, Plans: fill.Plans(s, under, products), Lamp: products.Lamps[0]}
		if len(m.Subjects) > 1 {
			f.Of = sequence.NameOf(s.Cavity)
		}
		f.Matrix = fill.MatrixOf(s, products).Restores(s, f.Plans, m.Neighbours).Facing(facing)
		f.Steps = fill.Steps(s, under, f.Plans, f.Matrix, products)
		all.Fillings[n] = f
	}
	return all
}

// Course is what is done for the tooth, from marking to the last word, around the steps that cut.
func (f *Filled) Course(cut []procedure.Step) []procedure.Step {
	var filled []sitting.Filling
	for _, one := range f.Fillings {
		filled = append(filled, sitting.Filling{Of: one.Of, Steps: one.Steps})
	}
	return sitting.Course(cut, sitting.Ready(f.Subjects, f.Case, f.products), filled)
}

// LaidOut is what of the fillings has to lie ready.
func (f *Filled) LaidOut() []sitting.Filled {
	all := make([]sitting.Filled, len(f.Fillings))
	for n, one := range f.Fillings {
		all[n] = sitting.Filled{Plans: one.Plans, Matrix: one.Matrix}
	}
	return all
}

// Views are the sections of the sheet with the filling of a cavity in them.
func (f *Filled) Views(n int, at Sections) []drawing.View {
	one := f.Fillings[n]
	subject := f.Subject(one.Subject, at)
	drawn := drawing.FilledSections(drawing.Views(subject), subject, one.Under, one.Plans, one.Matrix)
	if len(f.Fillings) > 1 {
		nameViews(one.Cavity, drawn)
	}
	return drawn
}

// SolidOf is all parts of some fillings in one mesh.
func SolidOf(fillings []Filling) *solid.Mesh {
	var parts []*solid.Mesh
	for _, one := range fillings {
		for _, p := range one.Plans {
			parts = append(parts, p.Mesh)
		}
	}
	return solid.Joined(parts...)
}

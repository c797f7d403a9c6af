package document

import "obturon/core/fill"

// ProductsOf are the products of a document as the core takes them.
func ProductsOf(written []Product) []fill.Product {
	all := make([]fill.Product, len(written))
	for n, p := range written {
		all[n] = fill.Product{Kind: p.Kind, Name: p.Name, Figures: p.Figures}
		for _, r := range p.Readings {
			all[n].Readings = append(all[n].Readings, fill.Reading{On: r.On, Output: r.Output})
		}
	}
	return all
}

// WrittenProducts writes products.
func WrittenProducts(all []fill.Product) []Product {
	written := make([]Product, len(all))
	for n, p := range all {
		written[n] = Product{Kind: p.Kind, Name: p.Name, Figures: p.Figures}
		for _, r := range p.Readings {
			written[n].Readings = append(written[n].Readings, LampReading{On: r.On, Output: r.Output})
		}
	}
	return written
}

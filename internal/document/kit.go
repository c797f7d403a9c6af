package document

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"

	"github.com/getkin/kin-openapi/openapi3"

	"obturon/core/instrument"
	"obturon/core/intake"
)

var kitSchema = sync.OnceValue(func() *openapi3.Schema { return schemaOf("Kit") })

// ReadKit reads and checks a kit document, obturon.kit/1. The error, if any, is
// intake.Faults with every fault found.
func ReadKit(data []byte) (instrument.Stock, error) {
	if faults := CheckText(data); len(faults) > 0 {
		return nil, faults
	}
	value, faults := decode(data)
	if len(faults) > 0 {
		return nil, faults
	}
	faults = SchemaFaults(kitSchema().VisitJSON(value, openapi3.MultiErrors()))
	var d Kit
	// What does not fit its type is named above; the rest is looked at all the same.
	_ = json.Unmarshal(data, &d)
	for _, f := range d.Check("$") {
		if !slices.ContainsFunc(faults, func(known intake.Fault) bool { return strings.HasPrefix(f.Path, known.Path) }) {
			faults = append(faults, f)
		}
	}
	if len(faults) > 0 {
		return nil, faults
	}
	return d.Stock(), nil
}

// Check lists what is wrong in a kit that stands at a path of a document.
func (d Kit) Check(path string) intake.Faults {
	var faults intake.Faults
	for _, f := range d.Stock().Check() {
		faults = append(faults, intake.Fault{Path: fmt.Sprintf("%s.items[%d].%s", path, f.Item, f.Field), Message: f.Message})
	}
	return faults
}

// Stock is the kit as the core takes it.
func (d Kit) Stock() instrument.Stock {
	stock := make(instrument.Stock, len(d.Items))
	for n, i := range d.Items {
		stock[n] = instrument.Item{
			ID:       i.Instrument,
			Pieces:   i.Pieces,
			UsesEach: i.UsesEach,
			UsesLeft: i.UsesLeft,
			Width:    i.WidthMm,
			Length:   i.LengthMm,
		}
	}
	return stock
}

// KitOf writes a stock.
func KitOf(s instrument.Stock) Kit {
	d := Kit{Schema: ObturonKit1, Items: make([]KitItem, len(s))}
	for n, i := range s {
		d.Items[n] = KitItem{Instrument: i.ID, Pieces: i.Pieces, UsesEach: i.UsesEach, UsesLeft: i.UsesLeft, WidthMm: i.Width, LengthMm: i.Length}
	}
	return d
}

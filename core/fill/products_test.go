package fill

import (
	"strings"
	"testing"
)

func TestUsualProductsCanBeUsed(t *testing.T) {
	var all []Product
	for _, k := range Kinds {
		all = append(all, UsualProduct(k))
	}
	if faults := Check(all); len(faults) > 0 {
		t.Errorf("usual products: %+v", faults)
	}
	p := Usual()
	if len(p.Amalgams) != 1 || len(p.Composites) != 2 || len(p.Adhesives) != 1 || len(p.Lamps) != 1 {
		t.Errorf("usual products: %+v", p)
	}
}

// A bulk composite is planned only where a practice lists one.
func TestBulkIsPlannedWhereItIsListed(t *testing.T) {
	if c := Usual().of(Bulk); c.Kind != Packable {
		t.Errorf("unlisted, it is %+v", c)
	}
	if c := With([]Product{{Kind: Bulk, Name: "Ours"}}).of(Bulk); c.Kind != Bulk || c.Name != "Ours" {
		t.Errorf("listed, it is %+v", c)
	}
}

// A practice's own product stands for its kind; what it leaves out is usual.
func TestOwnProductsComeFirst(t *testing.T) {
	p := With([]Product{
		{Kind: Packable, Name: "Ours", Figures: map[string]float64{"cure_depth_mm": 1.5}},
		{Kind: Curing, Name: "Old lamp", Readings: []Reading{{"2026-01-05", 1100}, {"2026-10-05", 700}}},
	})
	if c := p.of(Packable); c.Name != "Ours" || c.CureDepth != 1.5 || c.Dose.Least != 16 {
		t.Errorf("composite %+v", c)
	}
	if l := p.Lamps[0]; l.Output != 700 || !strings.Contains(l.Fallen, "from 1100 to 700") {
		t.Errorf("lamp %+v", l)
	}
	if p.of(Flowing).Kind != Flowing {
		t.Error("no usual flowable stands in")
	}
}

func TestFaultsOfProductsNameFieldAndRemedy(t *testing.T) {
	lamp := func(readings ...Reading) Product { return Product{Kind: Curing, Name: "Lamp", Readings: readings} }
	figure := func(k Kind, id string, v float64) Product {
		return Product{Kind: k, Name: "Ours", Figures: map[string]float64{id: v}}
	}
	for _, c := range []struct {
		name         string
		products     []Product
		field, words string
	}{
		{"a dark lamp", []Product{lamp(Reading{"2026-01-05", 0})}, "readings[0]", "measure it again"},
		{"a lamp without readings", []Product{lamp()}, "readings", "never measured"},
		{"readings backwards", []Product{lamp(Reading{"2026-02-05", 900}, Reading{"2026-01-05", 900})}, "readings[1]", "oldest first"},
		{"an increment of nothing", []Product{figure(Packable, "cure_depth_mm", 0.4)}, "figures.cure_depth_mm", "give 0.5 to 6 mm"},
		{"no time to work", []Product{figure(Bulk, "working_seconds", 5)}, "figures.working_seconds", "give 20 to 900 s"},
		{"less at most than at least", []Product{figure(Bulk, "dose_most", 10)}, "figures.dose_most", "give more"},
		{"carved before it is condensed", []Product{figure(Alloy, "carve_seconds", 180)}, "figures.carve_seconds", "before condensing"},
		{"half moist", []Product{figure(Bonding, "moist", 0.5)}, "figures.moist", "1 for yes or 0 for no"},
		{"awake before it is numb", []Product{figure(Numbing, "block_minutes", 30), {Kind: Numbing, Name: "Short", Figures: map[string]float64{"numb_minutes": 10, "block_minutes": 12}}}, "figures.numb_minutes", "waited for 12"},
		{"a figure of another kind", []Product{figure(Alloy, "dose_most", 10)}, "figures.dose_most", "leave it out"},
		{"no kind", []Product{{Kind: "cement", Name: "Ours"}}, "kind", "use amalgam"},
		{"no name", []Product{{Kind: Bulk, Name: " "}}, "name", "give it one"},
		{"one name twice", []Product{{Kind: Bulk, Name: "A"}, {Kind: Packable, Name: "A"}}, "name", "twice"},
	} {
		faults := Check(c.products)
		if len(faults) != 1 || faults[0].Field != c.field || !strings.Contains(faults[0].Message, c.words) {
			t.Errorf("%s: %+v", c.name, faults)
		}
	}
}

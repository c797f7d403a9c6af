package fill

import (
	"fmt"
	"slices"
	"strings"
)

// Kind of product by what it is for; of composite, by how it is placed.
type Kind string

// The kinds.
const (
	Alloy    Kind = "amalgam"
	Packable Kind = "packable" // composite that is modelled in increments
	Flowing  Kind = "flowable" // composite that is run in thinly
	Bulk     Kind = "bulk"     // composite that cures through at once
	Bonding  Kind = "adhesive"
	Curing   Kind = "lamp"
	Lining   Kind = "lining"  // glass ionomer under a filling
	Capping  Kind = "capping" // calcium silicate or hydroxide next to the pulp
	Numbing  Kind = "anaesthetic"
)

// Kinds lists them.
var Kinds = []Kind{Alloy, Packable, Flowing, Bulk, Bonding, Curing, Numbing, Lining, Capping}

// Name of a kind in the dentist's words.
func (k Kind) Name() string {
	switch k {
	case Alloy:
		return "Amalgam"
	case Packable:
		return "Composite, modelled"
	case Flowing:
		return "Composite, flowable"
	case Bulk:
		return "Composite, in bulk"
	case Bonding:
		return "Adhesive"
	case Numbing:
		return "Local anaesthetic"
	case Lining:
		return "Lining glass ionomer"
	case Capping:
		return "Capping cement"
	default:
		return "Curing lamp"
	}
}

// Figure is one of a kind's figures: what a product's sheet says, and between what it may lie.
type Figure struct {
	ID, Label, Unit    string
	Usual, Least, Most float64
}

// YesNo is the unit of what is so, 1, or not, 0.
const YesNo = "yes/no"

// Figures of a kind, with the usual values of generic products (operative dentistry and
// materials convention): to be replaced by what the practice's own say on their sheets.
func Figures(kind Kind) []Figure {
	composite := func(depth, least, most, working, shrinkage float64) []Figure {
		return []Figure{
			{"cure_depth_mm", "Cures to", "mm", depth, thinnest, 6},
			{"dose_least", "Dose, at least", "J/cm²", least, 2, 80},
			{"dose_most", "Dose, at most", "J/cm²", most, 2, 120},
			{"working_seconds", "Working time", "s", working, 20, 900},
			{"shrinkage_percent", "Shrinks by volume", "%", shrinkage, 0, 10},
		}
	}
	switch kind {
	case Alloy:
		return []Figure{
			{"density", "Density, set", "mg/mm³", 11.5, 9, 14},
			{"mercury_percent", "Mercury", "%", 46, 35, 60},
			{"capsule_small_mg", "Smallest capsule, alloy", "mg", 400, 100, 2000},
			{"capsule_middle_mg", "Middle capsule, alloy", "mg", 600, 100, 2000},
			{"capsule_large_mg", "Largest capsule, alloy", "mg", 800, 100, 2000},
			{"condense_seconds", "Condensed within", "s", 210, 60, 900},
			{"carve_seconds", "Carved by", "s", 480, 120, 1800},
			{"no_load_hours", "No heavy load for", "h", 24, 1, 72},
			{"carrier_diameter_mm", "Carrier, inside", "mm", 2, 0.8, 4},
			{"carrier_length_mm", "Carrier, length", "mm", 3, 1, 8},
			{"carrier_packing", "Carrier, packed", "", 0.7, 0.4, 1},
		}
	case Packable:
		return composite(2, 16, 24, 180, 2.5)
	case Flowing:
		return composite(2, 16, 24, 90, 4.5)
	case Bulk:
		return composite(4, 20, 30, 150, 2)
	case Bonding:
		return []Figure{
			{"etch_enamel_seconds", "Acid on enamel", "s", 15, 0, 60},
			{"etch_dentin_seconds", "Acid on dentin", "s", 15, 0, 30},
			{"rinse_seconds", "Rinse", "s", 10, 0, 60},
			{"moist", "Dentin left moist", YesNo, 1, 0, 1},
			{"rub_seconds", "Rub in", "s", 15, 0, 60},
			{"thin_seconds", "Thin with air", "s", 5, 1, 60},
			{"cure_seconds", "Cure", "s", 10, 0, 60},
		}
	case Numbing:
		return []Figure{
			{"infiltration_minutes", "Enough beside a root, after", "min", 3, 1, 20},
			{"block_minutes", "Enough as a block, after", "min", 5, 1, 30},
			{"numb_minutes", "Keeps a tooth numb for", "min", 60, 10, 300},
		}
	case Lining:
		return []Figure{{"set_seconds", "Sets in", "s", 20, 5, 900}}
	case Capping:
		return []Figure{{"set_seconds", "Sets in", "s", 180, 5, 1200}}
	case Curing:
		return []Figure{{"spread", "Light thins out with distance", "per mm", 0.059, 0.01, 0.2}}
	}
	return nil
}

// Product is one that a practice keeps. Figures that it leaves out are the usual ones.
type Product struct {
	Kind    Kind
	Name    string
	Figures map[string]float64
	// Readings of a lamp by a radiometer, the oldest first.
	Readings []Reading
}

// Reading is what a radiometer showed at a lamp's tip.
type Reading struct {
	On     string // the day, 2006-01-02
	Output float64
}

// value is a figure of the product.
func (p Product) value(id string) float64 {
	if v, own := p.Figures[id]; own {
		return v
	}
	all := Figures(p.Kind)
	n := slices.IndexFunc(all, func(f Figure) bool { return f.ID == id })
	return all[n].Usual
}

// Fault is what is wrong in a product, with the remedy.
type Fault struct {
	Product int
	Field   string // name, kind, readings[1] or figures.and so on
	Message string
}

// Lamps below the least or over the most (mW/cm²) cure nothing, or are no lamps.
const leastOutput, mostOutput = 50, 6000

// Check names everything that keeps products from being used.
func Check(all []Product) []Fault {
	var faults []Fault
	seen := map[string]bool{}
	for n, p := range all {
		say := func(field, format string, args ...any) {
			faults = append(faults, Fault{n, field, fmt.Sprintf(format, args...)})
		}
		figures := Figures(p.Kind)
		if figures == nil {
			say("kind", "%q is none: use %s", p.Kind, words(Kinds))
			continue
		}
		switch name := strings.TrimSpace(p.Name); {
		case name == "":
			say("name", "the product has no name: give it one to be known by")
		case seen[name]:
			say("name", "%s is listed twice: give one of the two another name", name)
		default:
			seen[name] = true
		}
		known := map[string]bool{}
		for _, f := range figures {
			known[f.ID] = true
			v := p.value(f.ID)
			if f.Unit == YesNo && v != 0 && v != 1 {
				say("figures."+f.ID, "%s is %g: give 1 for yes or 0 for no", f.Label, v)
			} else if !(v >= f.Least && v <= f.Most) {
				say("figures."+f.ID, "%s", strings.TrimSpace(fmt.Sprintf("%s is %g: give %g to %g %s", f.Label, v, f.Least, f.Most, f.Unit)))
			}
		}
		for id := range p.Figures {
			if !known[id] {
				say("figures."+id, "%q is no figure of %s: leave it out", id, p.Kind)
			}
		}
		p.checkTogether(say)
	}
	return faults
}

// checkTogether names figures that do not go with each other.
func (p Product) checkTogether(say func(field, format string, args ...any)) {
	switch p.Kind {
	case Alloy:
		if p.value("carve_seconds") <= p.value("condense_seconds") {
			say("figures.carve_seconds", "carving ends at %g s, before condensing at %g s: give more", p.value("carve_seconds"), p.value("condense_seconds"))
		}
	case Numbing:
		if onset := max(p.value("infiltration_minutes"), p.value("block_minutes")); p.value("numb_minutes") <= onset {
			say("figures.numb_minutes", "the tooth is numb for %g min, and that is waited for %g: give more", p.value("numb_minutes"), onset)
		}
	case Packable, Flowing, Bulk:
		if p.value("dose_most") < p.value("dose_least") {
			say("figures.dose_most", "the most is %g, under the least of %g J/cm²: give more", p.value("dose_most"), p.value("dose_least"))
		}
	case Curing:
		if len(p.Readings) == 0 {
			say("readings", "the lamp was never measured: give what a radiometer reads at its tip")
		}
		for n, r := range p.Readings {
			if !(r.Output >= leastOutput && r.Output <= mostOutput) {
				say(fmt.Sprintf("readings[%d]", n), "a lamp of %g mW/cm² cures nothing or is none: measure it again, and give %d to %d", r.Output, leastOutput, mostOutput)
			}
			if n > 0 && r.On < p.Readings[n-1].On {
				say(fmt.Sprintf("readings[%d]", n), "%s stands after %s: put the oldest first", r.On, p.Readings[n-1].On)
			}
		}
	}
}

func words(kinds []Kind) string {
	all := make([]string, len(kinds))
	for n, k := range kinds {
		all[n] = string(k)
	}
	return strings.Join(all, ", ")
}

// Fallen says that a lamp's output has fallen, "" where it has not.
func (p Product) Fallen() string {
	const kept = 0.85  // of the best reading
	const weak = 400.0 // mW/cm², under which exposures grow long (operative dentistry convention)
	if len(p.Readings) == 0 {
		return ""
	}
	best, now := 0.0, p.Readings[len(p.Readings)-1].Output
	for _, r := range p.Readings {
		best = max(best, r.Output)
	}
	switch {
	case now < kept*best:
		return fmt.Sprintf("Its output has fallen from %g to %g mW/cm²: look for resin on the tip, a tired battery or an old lamp.", best, now)
	case now < weak:
		return fmt.Sprintf("%g mW/cm² is little: exposures grow long.", now)
	}
	return ""
}

// With are products, checked, as fillings are made of them: of each kind the first, a usual
// one where the practice keeps none.
func With(all []Product) Products {
	var made Products
	for _, kind := range Kinds {
		kept := false
		for _, p := range all {
			if p.Kind == kind {
				made.add(p)
				kept = true
			}
		}
		if !kept && kind != Bulk { // which is planned only where a practice lists one
			made.add(UsualProduct(kind))
		}
	}
	return made
}

// Usual are generic products.
func Usual() Products { return With(nil) }

// UsualProduct is a generic product of a kind.
func UsualProduct(kind Kind) Product {
	switch kind {
	case Alloy:
		return Product{Kind: kind, Name: "Amalgam in capsules"}
	case Flowing:
		return Product{Kind: kind, Name: "Flowable composite"}
	case Bulk:
		return Product{Kind: kind, Name: "Bulk composite"}
	case Bonding:
		return Product{Kind: kind, Name: "Etch and rinse, two bottles"}
	case Numbing:
		return Product{Kind: kind, Name: "Local anaesthetic"}
	case Lining:
		return Product{Kind: kind, Name: "Lining glass ionomer, light-cured"}
	case Capping:
		return Product{Kind: kind, Name: "Calcium silicate cement"}
	case Curing:
		return Product{Kind: kind, Name: "Lamp", Readings: []Reading{{Output: 1000}}}
	}
	return Product{Kind: kind, Name: "Hybrid composite"}
}

func (made *Products) add(p Product) {
	const percent = 0.01
	switch p.Kind {
	case Alloy:
		made.Amalgams = append(made.Amalgams, Amalgam{
			Name: p.Name, Density: p.value("density"), MercuryShare: percent * p.value("mercury_percent"),
			AlloyMg:         slices.Sorted(slices.Values([]float64{p.value("capsule_small_mg"), p.value("capsule_middle_mg"), p.value("capsule_large_mg")})),
			CondenseSeconds: p.value("condense_seconds"), CarveSeconds: p.value("carve_seconds"), NoLoadHours: p.value("no_load_hours"),
			Carrier: Carrier{Diameter: p.value("carrier_diameter_mm"), Length: p.value("carrier_length_mm"), Packing: p.value("carrier_packing")},
		})
	case Bonding:
		made.Adhesives = append(made.Adhesives, Adhesive{
			Name: p.Name, EtchEnamel: p.value("etch_enamel_seconds"), EtchDentin: p.value("etch_dentin_seconds"), Rinse: p.value("rinse_seconds"),
			Moist: p.value("moist") == 1, Rub: p.value("rub_seconds"), Thin: p.value("thin_seconds"), Cure: p.value("cure_seconds"),
		})
	case Numbing:
		made.Anaesthetics = append(made.Anaesthetics, Anaesthetic{Name: p.Name, InfiltrationMinutes: p.value("infiltration_minutes"), BlockMinutes: p.value("block_minutes"), NumbMinutes: p.value("numb_minutes")})
	case Lining, Capping:
		made.Cements = append(made.Cements, Cement{Name: p.Name, Kind: p.Kind, SetSeconds: p.value("set_seconds")})
	case Curing:
		made.Lamps = append(made.Lamps, Lamp{Name: p.Name, Output: p.Readings[len(p.Readings)-1].Output, Spread: p.value("spread"), Fallen: p.Fallen()})
	default:
		made.Composites = append(made.Composites, Composite{
			Name: p.Name, Kind: p.Kind, CureDepth: p.value("cure_depth_mm"), Dose: Dose{p.value("dose_least"), p.value("dose_most")},
			WorkingSeconds: p.value("working_seconds"), Shrinkage: percent * p.value("shrinkage_percent"),
		})
	}
}

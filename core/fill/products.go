package fill

// Composite is a practice's product.
type Composite struct {
	Name string
	Kind Kind
	// CureDepth (mm) is the most that its light gets through; Dose what it asks there.
	CureDepth float64
	Dose      Dose
	// WorkingSeconds are how long it stays soft under the operating light.
	WorkingSeconds float64
	// Shrinkage is the share of its volume that is lost as it sets.
	Shrinkage float64
}

// Kind of composite by how it is placed.
type Kind string

// The kinds.
const (
	Packable Kind = "packable" // modelled in increments
	Flowing  Kind = "flowable" // run in thinly
	Bulk     Kind = "bulk"     // cures through at once
)

// Adhesive is a practice's product with the times of its own instructions, seconds.
type Adhesive struct {
	Name string
	// EtchEnamel and EtchDentin are with acid, 0 where the adhesive etches by itself.
	EtchEnamel, EtchDentin, Rinse float64
	// Moist tells that dentin is left glistening; else it is dried.
	Moist     bool
	Rub, Thin float64
	Cure      float64
}

// Products are what a practice fills with.
type Products struct {
	Amalgams   []Amalgam
	Composites []Composite
	Adhesives  []Adhesive
	Lamps      []Lamp
}

// Usual are generic products with the usual figures of their kind (operative dentistry and
// materials convention): to be replaced by what the practice's own say on their sheets.
func Usual() Products {
	return Products{
		Amalgams: []Amalgam{{
			Name: "Capsules, high copper", Density: 11.5, MercuryShare: 0.46, AlloyMg: []float64{400, 600, 800},
			CondenseSeconds: 210, CarveSeconds: 480, NoLoadHours: 24,
			Carrier: Carrier{Diameter: 2, Length: 3, Packing: 0.7},
		}},
		Composites: []Composite{
			{Name: "Hybrid composite", Kind: Packable, CureDepth: 2, Dose: Dose{16, 24}, WorkingSeconds: 180, Shrinkage: 0.025},
			{Name: "Flowable composite", Kind: Flowing, CureDepth: 2, Dose: Dose{16, 24}, WorkingSeconds: 90, Shrinkage: 0.045},
			{Name: "Bulk composite", Kind: Bulk, CureDepth: 4, Dose: Dose{20, 30}, WorkingSeconds: 150, Shrinkage: 0.02},
		},
		Adhesives: []Adhesive{{Name: "Etch and rinse, two bottles", EtchEnamel: 15, EtchDentin: 15, Rinse: 10, Moist: true, Rub: 15, Thin: 5, Cure: 10}},
		Lamps:     []Lamp{{Name: "Chair lamp", Output: 1000, Spread: 0.059}},
	}
}

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

// Products are what a practice fills with; there is at least one of each.
type Products struct {
	Amalgams     []Amalgam
	Composites   []Composite
	Adhesives    []Adhesive
	Lamps        []Lamp
	Anaesthetics []Anaesthetic
	Cements      []Cement
}

// Anaesthetic numbs a tooth: what and how much of it is the practice's own protocol's.
type Anaesthetic struct {
	Name string
	// From the needle until it is enough beside a root, and as a block of a nerve; and how
	// long it keeps a tooth's pulp numb.
	InfiltrationMinutes, BlockMinutes, NumbMinutes float64
}

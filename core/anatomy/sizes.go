package anatomy

import "fmt"

// MeasuredSizes holds what was measured on the patient's own tooth, mm. Zero means
// unknown: the average stands.
type MeasuredSizes struct {
	Height, Mesiodistal, Buccolingual float64 // of the crown
	// EnamelAtContact is the enamel's thickness at the proximal contacts, as
	// read from a bitewing.
	EnamelAtContact float64
}

// Limits of own sizes, as shares of the average: beyond them a reading is more
// likely wrong than the tooth that unusual.
const leastShare, mostShare = 0.6, 1.5

func (o MeasuredSizes) apply(c *crown) error {
	for _, f := range []struct {
		name    string
		own     float64
		average *float64
		along   []*float64 // what grows with it
	}{
		{"crown height", o.Height, &c.Height, nil},
		{"mesiodistal size", o.Mesiodistal, &c.Mesiodistal, []*float64{&c.CervicalMesiodistal}},
		{"buccolingual size", o.Buccolingual, &c.Buccolingual, []*float64{&c.CervicalBuccolingual, &c.BuccalExtent}},
		{"enamel at the contact", o.EnamelAtContact, &c.EnamelProximal, nil},
	} {
		if f.own == 0 {
			continue
		}
		share := f.own / *f.average
		if !(share >= leastShare && share <= mostShare) {
			return fmt.Errorf("%s %v mm is outside %.1f to %.1f for a %s: measure again, or leave it out",
				f.name, f.own, leastShare**f.average, mostShare**f.average, c.Name)
		}
		*f.average = f.own
		for _, size := range f.along {
			*size *= share
		}
	}
	return nil
}

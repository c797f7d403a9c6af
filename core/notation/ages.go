package notation

// eruption is the youngest usual age (years) at which permanent teeth are in the mouth, by
// position from the midline, lower and upper (tables of dental development, rounded down).
var eruption = [2][8]float64{
	{6, 6.5, 9, 9.5, 10, 5.5, 10.5, 16},
	{6.5, 7.5, 10, 9, 9.5, 5.5, 11, 16},
}

// firstPrimary and shed are the ages (years) at which primary teeth come and usually go (the
// same tables).
var (
	firstPrimary = [2][5]float64{{0.4, 0.7, 1.3, 1, 1.8}, {0.6, 0.7, 1.3, 1, 2}}
	shed         = [2][5]float64{{6.5, 7.5, 10, 10.5, 11.5}, {7, 8, 11, 10.5, 11.5}}
)

// jaw is 1 of an upper tooth, 0 of a lower one.
func (t Tooth) jaw() int {
	if t.Upper() {
		return 1
	}
	return 0
}

// EruptsAt is the youngest usual age (years) at which the tooth is in the mouth.
func (t Tooth) EruptsAt() float64 {
	if t.Primary() {
		return firstPrimary[t.jaw()][t.position-1]
	}
	return eruption[t.jaw()][t.position-1]
}

// ShedAt is the usual age (years) at which a primary tooth is lost; ok is false of a permanent one.
func (t Tooth) ShedAt() (years float64, ok bool) {
	if !t.Primary() {
		return 0, false
	}
	return shed[t.jaw()][t.position-1], true
}

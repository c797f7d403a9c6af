package forces

import (
	"fmt"

	"obturon/core/measure"
)

// Bond is what a filling bonds to, and what there is to say of it.
type Bond struct {
	measure.Bond
	Text string
}

func bonded(b measure.Bond) *Bond {
	text := fmt.Sprintf(
		"Bonded to %.1f mm² of enamel and %.1f mm² of dentin.",
		b.Enamel,
		b.Dentin,
	)
	if b.EdgeIndex > 0 {
		text += fmt.Sprintf(
			" Against a load on the rebuilt edge, %.1f mm off, the index of the bond is %.1f: compare designs by it.",
			b.Lever,
			b.EdgeIndex,
		)
	}
	return &Bond{b, text}
}

package forces

import (
	"obturon/core/intake"
	"obturon/core/resist"
)

// Loading is what a tooth is loaded with: the usual load of its case unless another is asked
// for, on what is assumed of its tissues.
type Loading struct {
	Bite    resist.Bite
	Assumed resist.Assumed
}

// UsualLoading is what a case is loaded with where nobody asks for another load.
func UsualLoading(c *intake.Case, assumed resist.Assumed) Loading {
	return Loading{assumed.Bite(c.Patient.Parafunction, c.Contacts), assumed}
}

package job

import (
	"encoding/json"

	"obturon/core/intake"
	"obturon/core/school"
	"obturon/internal/document"
)

// Posed is a case as it is kept with a job, with what the practice had then.
type Posed struct {
	Case  json.RawMessage `json:"case"`
	Rules json.RawMessage `json:"rules,omitempty"` // house rules as they were; left out where a school's own are meant
	Kit   json.RawMessage `json:"kit,omitempty"`   // left out where all instruments lie ready
}

// read is the case, under the rules and with the kit. Errors say what cannot be read.
func (p Posed) read() (*intake.Case, error) {
	c, err := document.ReadCase(p.Case)
	if err != nil {
		return nil, err
	}
	if given(p.Rules) {
		own, err := school.Decode(p.Rules)
		if err != nil {
			return nil, err
		}
		c.Under(own)
	}
	if given(p.Kit) {
		stock, err := document.ReadKit(p.Kit)
		if err != nil {
			return nil, err
		}
		c.Kit = stock.Kit()
	}
	return c, nil
}

func given(text []byte) bool { return len(text) > 0 && string(text) != "null" }

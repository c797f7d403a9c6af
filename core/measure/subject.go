package measure

import (
	"sync"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/hold"
)

// Subject is one cavity, cut alone in its tooth, to be gauged, judged and drawn.
// It is safe for concurrent use.
type Subject struct {
	*Prepared
	Cavity   *cavity.Cavity
	gingival func() []r3.Vec
	beds     func() []*hold.Bed
	left     func() Left
}

// NewSubject puts a cavity beside the tooth that was cut with it alone.
func NewSubject(p *Prepared, c *cavity.Cavity) *Subject {
	s := &Subject{Prepared: p, Cavity: c}
	s.gingival = sync.OnceValue(func() []r3.Vec { return p.Model.GingivalLine(c.Gingiva) })
	s.beds = sync.OnceValue(s.findBeds)
	s.left = sync.OnceValue(s.findLeft)
	return s
}

// Smooth looks at a cavity on a smooth surface in its own frame.
func (s *Subject) Smooth() Smooth { return s.On(s.Cavity.Frame) }

// Gingival is the free gingival margin.
func (s *Subject) Gingival() []r3.Vec { return s.gingival() }

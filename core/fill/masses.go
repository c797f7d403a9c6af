package fill

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// corner builds a lost incisal angle from behind: a shell in the index, dentin that covers
// part of the bevel, enamel last (operative dentistry convention).
func corner(m *anatomy.Model, room solid.Box) []Portion {
	const shell, shellMost = 0.42, 0.5 // mm of it, and what it may be at the most
	const enamel = 0.6                 // mm of the last mass over the facial surface
	lingual, facial := sideOf(m, room, -1), sideOf(m, room, 1)
	// Both borders are reliefs that are seen from facial.
	flat := func(p r3.Vec) solid.Point2 { return solid.Point2{X: p.Z, Y: p.X} }
	behind := &solid.Border{Field: func(p r3.Vec) float64 { return lingual.under(p) - gentle*shell }, Flat: flat}
	deep := &solid.Border{Field: func(p r3.Vec) float64 { return gentle*enamel - facial.under(p) }, Flat: flat}
	return []Portion{
		{
			Name:    "Lingual shell",
			Kind:    Packable,
			Most:    shellMost,
			Why:     "Half a millimetre in the index gives the corner its shape and a back to build on.",
			Borders: []*solid.Border{behind},
		},
		{
			Name:    "Dentin mass",
			Kind:    Packable,
			Why:     "The more opaque mass covers part of the bevel only, so that its line is not seen.",
			Borders: []*solid.Border{deep},
		},
		{Name: "Enamel mass", Kind: Packable, Why: "Enamel's own depth, laid last, over all of the bevel."},
	}
}

// side is where the facial or the lingual surface lies along the way from there, over a
// lattice of the tooth seen from that side.
type side struct {
	towards float64 // +1 facial, -1 lingual
	x, z    float64 // mm, of the first place
	wide    int
	at      []float64 // mm facially
}

const (
	sideStep = 0.1 // mm
	// gentle is how much of a depth along the view is counted, that none on a surface which
	// slants is more than its distance.
	gentle = 0.5
)

func sideOf(m *anatomy.Model, room solid.Box, towards float64) side {
	const step = 0.1 // mm
	s := side{towards: towards, x: room.Min.X, z: room.Min.Z, wide: int((room.Max.X-room.Min.X)/sideStep) + 2}
	high := int((room.Max.Z-room.Min.Z)/sideStep) + 2
	s.at = make([]float64, s.wide*high)
	outside := room.Max.Y
	if towards < 0 {
		outside = room.Min.Y
	}
	for n := range s.at {
		from := r3.Vec{X: s.x + sideStep*float64(n%s.wide), Y: outside, Z: s.z + sideStep*float64(n/s.wide)}
		into, hit := m.Surface.RootAlong(from, r3.Vec{Y: -towards}, 0, room.Max.Y-room.Min.Y, step)
		s.at[n] = outside - towards*into
		if !hit {
			s.at[n] = math.Inf(1)
		}
	}
	s.ease()
	return s
}

// ease lowers the surface (towards lingual) where it is steeper than half of under allows for,
// and carries it on beside the tooth.
func (s side) ease() {
	const steepest = 1.5 * sideStep // mm from place to place
	last := len(s.at) - 1
	for n := range s.at { // there and back, each from those beside it that are behind
		s.at[n] = min(s.at[n], s.beside(n, -1)+steepest, s.beside(n, -s.wide)+steepest)
	}
	for k := range s.at {
		n := last - k
		s.at[n] = min(s.at[n], s.beside(n, 1)+steepest, s.beside(n, s.wide)+steepest)
	}
}

// beside is the surface some places on; infinite past the lattice.
func (s side) beside(n, on int) float64 {
	to := n + on
	if to < 0 || to >= len(s.at) || (on == 1 || on == -1) && to/s.wide != n/s.wide {
		return math.Inf(1)
	}
	return s.at[to]
}

// under is how deep (mm, by half) a place lies under the surface of the side.
func (s side) under(p r3.Vec) float64 {
	x, z := (p.X-s.x)/sideStep, (p.Z-s.z)/sideStep
	i := min(max(int(x), 0), s.wide-2)
	j := min(max(int(z), 0), len(s.at)/s.wide-2)
	u, v := min(max(x-float64(i), 0), 1), min(max(z-float64(j), 0), 1)
	at := func(i, j int) float64 { return s.at[j*s.wide+i] }
	surface := (1-v)*((1-u)*at(i, j)+u*at(i+1, j)) + v*((1-u)*at(i, j+1)+u*at(i+1, j+1))
	return gentle * s.towards * (surface - p.Y)
}

// neck fills a cervical cavity from its gingival wall: flowable there and not quite full, the
// main mass, then what closes the gap that shrinking leaves (operative dentistry convention).
// The frame's V looks towards the biting side; from is the height along it where the part
// begins.
func neck(m *anatomy.Model, frame anatomy.Frame, from float64) []Portion {
	const thin = 0.5  // mm of flowable over the gingival wall
	const under = 0.3 // mm that it stays under the surface
	along := r3.Cross(frame.V, frame.W)
	over := solid.PlaneBorder(frame.V, r3.Dot(frame.Origin, frame.V)+from+thin)
	shallow := &solid.Border{ // a relief seen from outside
		Field: func(p r3.Vec) float64 { return m.Surface.Distance(p) + under },
		Flat:  func(p r3.Vec) solid.Point2 { return solid.Point2{X: r3.Dot(p, along), Y: r3.Dot(p, frame.V)} },
	}
	return []Portion{
		{
			Name:    "Flowable at the neck",
			Kind:    Flowing,
			Why:     "It wets the gingival wall, stays a little under the surface and is cured by itself.",
			Borders: []*solid.Border{over, shallow},
		},
		{Name: "Main mass", Kind: Packable, Why: "Tacked at the neck and drawn occlusally.", Beyond: []*solid.Border{over}},
		{Name: "Second addition", Kind: Packable, Why: "Closes the gap at the neck that the first masses leave as they shrink."},
	}
}

package occlusal

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
)

// stretch is one part of the preparation that is cut as a whole: fissures
// that are opened, and the boxes at their ends. Ridges that are not crossed
// keep stretches apart.
type stretch struct {
	line    []r3.Vec // fissures to open, mesial first, in the table's frame; none for a slot
	grooves []anatomy.GrooveLine
	lesions []*lesion.Occlusal
	boxes   []notation.Side
	half    float64 // mm, of the isthmus at the least
	cover   covers
}

// covers is how much further (mm) than usual an outline passes each lesion's spread,
// where the usual leaves caries in enamel.
type covers map[*lesion.Occlusal]float64

// half is half the width (mm) cut about a lesion's path.
func (c covers) half(l *lesion.Occlusal) float64 {
	return math.Max(l.Width()/2, 0) + cavity.UprightCover + c[l]
}

func (s stretch) has(side notation.Side) bool { return slices.Contains(s.boxes, side) }

// layOut decides which stretches a preparation has, mesial first.
func layOut(r request) ([]stretch, error) {
	var boxes []notation.Side
	for _, side := range []notation.Side{notation.Mesial, notation.Distal} {
		if len(r.proximalOn(side)) > 0 {
			boxes = append(boxes, side)
		}
	}
	var stretches []stretch
	if r.LesionLed() {
		stretches = alongLesions(r)
	} else {
		stretches = alongChains(r, boxes)
	}
	for n := range stretches {
		stretches[n].half, stretches[n].cover = r.Aim(school.OutlineIsthmusWidth)/2, r.cover
	}
	stretches = joinNear(stretches, r.bridgeWanted())
	for _, side := range boxes {
		stretches = addBox(r, stretches, side)
	}
	if len(stretches) == 0 {
		return nil, cavity.ErrNothingToOpen
	}
	slices.SortFunc(stretches, func(a, b stretch) int { return cmp.Compare(b.middle(), a.middle()) })
	return stretches, nil
}

// alongChains opens whole runs of fissures: those with a lesion, and, unless
// slots are wanted, those that end at a box.
func alongChains(r request, boxes []notation.Side) []stretch {
	chains := fissureChains(r.Model)
	lesions := make([][]*lesion.Occlusal, len(chains))
	for _, l := range r.fissures {
		n := nearestChain(chains, opensAt(l))
		if n >= 0 {
			lesions[n] = append(lesions[n], l)
		}
	}
	var stretches []stretch
	for n, chain := range chains {
		ends := n == 0 && slices.Contains(boxes, notation.Mesial) || n == len(chains)-1 && slices.Contains(boxes, notation.Distal)
		if len(lesions[n]) == 0 && (r.slots() || !ends) {
			continue
		}
		stretches = append(stretches, stretch{line: chain, grooves: groovesFrom(r.Model, chain), lesions: lesions[n]})
	}
	return stretches
}

// opensAt is where the fissure of a lesion is entered: in the middle, or where a
// side groove leaves the central one.
func opensAt(l *lesion.Occlusal) r3.Vec {
	path := l.Path()
	if l.Branches() {
		return path[0]
	}
	return path[len(path)/2]
}

// alongLesions opens each carious fissure for itself; a side groove from where it
// leaves the central one.
func alongLesions(r request) []stretch {
	var stretches []stretch
	for _, l := range r.fissures {
		line := l.Path()
		if l.Branches() {
			line = line[:1]
		}
		stretches = append(stretches, stretch{line: line, lesions: []*lesion.Occlusal{l}})
	}
	slices.SortFunc(stretches, func(a, b stretch) int { return cmp.Compare(b.middle(), a.middle()) })
	return stretches
}

func (s stretch) middle() float64 {
	if len(s.line) > 0 {
		return (s.line[0].X + s.line[len(s.line)-1].X) / 2
	}
	if s.has(notation.Mesial) {
		return 9
	}
	return -9
}

// reach is how far the outline is cut past the ends of the line at the least.
func (s stretch) reach() float64 {
	most := math.Max(pitCover, s.half)
	for _, l := range s.lesions {
		if !l.Branches() {
			most = math.Max(most, s.cover.half(l))
		}
	}
	return most
}

// trail is a chain of places with the half width (mm) cut about it.
type trail struct {
	points []r3.Vec
	half   float64
}

// trails is what a stretch opens at the least.
func (s stretch) trails() []trail {
	all := []trail{{s.line, s.reach()}}
	for _, l := range s.lesions {
		if l.Branches() {
			all = append(all, trail{l.Path(), s.branchHalf(l)})
		}
	}
	return all
}

// gapTo is the tooth left between a stretch and something else, seen along the
// bur, by the distance (mm) of a place from that.
func (s stretch) gapTo(distance func(r3.Vec) float64) float64 {
	least := math.Inf(1)
	for _, t := range s.trails() {
		for _, p := range t.points {
			least = math.Min(least, distance(p)-t.half)
		}
	}
	return least
}

// from is the distance (mm) of a place from what a stretch opens, seen along the bur.
func (s stretch) from(p r3.Vec) float64 {
	return s.gapTo(func(q r3.Vec) float64 { return math.Hypot(p.X-q.X, p.Y-q.Y) })
}

// joinNear joins stretches between which less than a bridge (mm) would be left.
func joinNear(stretches []stretch, bridge float64) []stretch {
	var joined []stretch
	for _, s := range stretches {
		for {
			n := slices.IndexFunc(joined, func(o stretch) bool { return s.gapTo(o.from) < bridge })
			if n < 0 {
				break
			}
			s = joined[n].with(s)
			joined = slices.Delete(joined, n, n+1)
		}
		joined = append(joined, s)
	}
	return joined
}

// with joins another stretch to this one.
func (s stretch) with(o stretch) stretch {
	return stretch{
		line: joinLines(s.line, o.line), grooves: slices.Concat(s.grooves, o.grooves),
		lesions: slices.Concat(s.lesions, o.lesions), half: s.half, cover: s.cover,
	}
}

// joinLines puts two lines into one, mesial first; what of the second lies
// beside the first is left out.
func joinLines(a, b []r3.Vec) []r3.Vec {
	line := slices.Clone(a)
	for _, p := range b {
		if p.X > a[0].X || p.X < a[len(a)-1].X {
			line = append(line, p)
		}
	}
	slices.SortStableFunc(line, func(p, q r3.Vec) int { return cmp.Compare(q.X, p.X) })
	return line
}

// bridgeWanted is the least tooth (mm) to be left between two walls: what their
// bevels take off comes on top.
func (r request) bridgeWanted() float64 {
	const sides = 2
	if r.Material != "composite" {
		return LeastBridge
	}
	return LeastBridge + sides*r.Aim(school.RetainBevelWidth)*math.Cos(r.Aim(school.RetainBevelAngle)*math.Pi/180)
}

// addBox puts a box at the end of the outermost stretch of its side, or apart
// from it where enough tooth is left between.
func addBox(r request, stretches []stretch, side notation.Side) []stretch {
	n := 0
	if side == notation.Distal {
		n = len(stretches) - 1
	}
	if len(stretches) == 0 || len(stretches[n].line) == 0 {
		return append(stretches, stretch{boxes: []notation.Side{side}})
	}
	s := &stretches[n]
	end, sign := s.line[0].X, 1.0
	if side == notation.Distal {
		end, sign = s.line[len(s.line)-1].X, -1
	}
	const axial, aside = 1.5, 0.3 // mm that a box reaches in from the contact, and past its lesion
	contact := r.Model.Table.To(r.Model.Contact(side).At)
	bridge := sign*(contact.X-end) - axial - s.reach()
	halfBreadth := 0.0
	for _, l := range r.proximalOn(side) {
		halfBreadth = math.Max(halfBreadth, l.Width()/2+aside)
	}
	toBox := func(p r3.Vec) float64 {
		return math.Hypot(math.Max(sign*(contact.X-p.X)-axial, 0), math.Max(math.Abs(p.Y-contact.Y)-halfBreadth, 0))
	}
	if r.slots() && s.gapTo(toBox) >= r.bridgeWanted() {
		return append(stretches, stretch{boxes: []notation.Side{side}})
	}
	if !r.LesionLed() && len(fissureChains(r.Model)) > 1 && bridge > 3 {
		// The stretch ends before a ridge that lies between it and the box.
		return append(stretches, stretch{boxes: []notation.Side{side}})
	}
	s.boxes = append(s.boxes, side)
	return stretches
}

// fissureChains are the runs of fissures along the tooth that no ridge
// interrupts, mesial first, in the table's frame. A pit beyond a ridge is a
// chain of its own.
func fissureChains(m *anatomy.Model) [][]r3.Vec {
	const apart = 0.8 // mm between a chain's end and a pit beyond a ridge
	mesial, distal := math.Inf(-1), math.Inf(1)
	for _, p := range m.Pits {
		mesial, distal = math.Max(mesial, p.At.X), math.Min(distal, p.At.X)
	}
	var central []r3.Vec
	low, high := math.Inf(1), math.Inf(-1)
	for _, p := range m.CentralLine() {
		if p.X <= mesial && p.X >= distal {
			central = append(central, m.Table.To(p))
			low, high = math.Min(low, p.X), math.Max(high, p.X)
		}
	}
	var chains [][]r3.Vec
	if len(central) > 0 {
		chains = append(chains, central)
	}
	for _, p := range m.Pits {
		if len(central) == 0 || p.At.X > high+apart || p.At.X < low-apart {
			chains = append(chains, []r3.Vec{m.Table.To(p.At)})
		}
	}
	slices.SortFunc(chains, func(a, b []r3.Vec) int { return cmp.Compare(b[0].X, a[0].X) })
	return chains
}

func nearestChain(chains [][]r3.Vec, to r3.Vec) int {
	best, found := math.Inf(1), -1
	for n, chain := range chains {
		for _, p := range chain {
			if d := math.Hypot(p.X-to.X, p.Y-to.Y); d < best {
				best, found = d, n
			}
		}
	}
	return found
}

// groovesFrom are the fissured side grooves that start on a chain.
func groovesFrom(m *anatomy.Model, chain []r3.Vec) []anatomy.GrooveLine {
	const near = 0.8 // mm
	var from []anatomy.GrooveLine
	for _, g := range sideGrooves(m) {
		start := m.Table.To(g.Points[0])
		for _, p := range chain {
			if math.Hypot(p.X-start.X, p.Y-start.Y) < near {
				from = append(from, g)
				break
			}
		}
	}
	return from
}

// sealed are the fissures whose part outside the outline is sealed, in the
// tooth frame: all that hold plaque, where a bonded filling opens diseased ones
// only.
func (r request) sealed() [][]r3.Vec {
	if !r.LesionLed() || !r.Bonded() {
		return nil
	}
	var lines [][]r3.Vec
	for _, g := range r.Model.Grooves {
		if g.Fissured {
			lines = append(lines, g.Points)
		}
	}
	return lines
}

// included are the runs of fissures that the outline is to take in, in the
// tooth frame; none where the school opens diseased ones only.
func (r request) included() [][]r3.Vec {
	stretches, err := layOut(r)
	if err != nil || r.LesionLed() {
		return nil
	}
	var lines [][]r3.Vec
	for _, s := range stretches {
		var line []r3.Vec
		for _, q := range s.line {
			line = append(line, r.Model.Table.From(q))
		}
		if len(line) > 0 {
			lines = append(lines, line)
		}
	}
	return lines
}

package fill

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/school"
)

// MatrixKind is what gives a filling the wall that it lacks.
type MatrixKind string

// The kinds.
const (
	NoMatrix        MatrixKind = "none"
	Circumferential MatrixKind = "circumferential" // round the whole crown, in a retainer
	Sectional       MatrixKind = "sectional"       // about one contact, spread by a ring
	TBand           MatrixKind = "t_band"          // round a primary crown, folded to fit
	Strip           MatrixKind = "strip"           // clear, between front teeth
)

// MatrixKinds lists them.
var MatrixKinds = []MatrixKind{NoMatrix, Circumferential, Sectional, TBand, Strip}

// Name of a kind in the dentist's words.
func (k MatrixKind) Name() string {
	switch k {
	case Circumferential:
		return "Band round the tooth, in a retainer"
	case Sectional:
		return "Sectional band with a ring"
	case TBand:
		return "T-band"
	case Strip:
		return "Clear strip"
	default:
		return "No matrix"
	}
}

// Matrix is what stands round a filling while it is laid.
type Matrix struct {
	Kind MatrixKind
	Why  string
	// Bands are its sides towards the adjacent teeth.
	Bands []Band
}

// Band is a matrix on one side of a tooth, mm.
type Band struct {
	Side notation.Side
	// Height is that of the band, Under how far of it reaches past the gingival margin, which
	// lies as high as Gingival along the table's axis, Over how far past the ridge.
	Height, Under, Over, Gingival float64
	// Passes is how much room the narrowest place between margin and the adjacent tooth
	// leaves it; Short names the walls that stop it.
	Passes float64
	Short  []string
	Wedge  *Wedge // nil where no tooth stands beside
	// Restored is what the filling restores there; nil where no tooth stands beside.
	Restored *Proximal
	Facing   []notation.Tooth // whose boxes are open towards it
	Notes    []string
}

// Wedge is what presses a band to the gingival margin.
type Wedge struct {
	// From is the side that it enters from, the wider embrasure: Facial and Lingual are how
	// far (mm) the teeth stand apart there, at the height of the contact.
	From            string
	Facial, Lingual float64
	// Room (mm) is from the gingival margin up to the contact: what stands higher dents the
	// band where it should bulge.
	Room float64
	// Parts (mm) is by how much the teeth must move apart for the contact to close again.
	Parts float64
}

// Figures of a band, mm (operative dentistry convention).
const (
	bandThick = 0.05 // 0.002 inch
	bandUnder = 1.0  // past the gingival margin, that it stands on tooth
	bandOver  = 1.0  // past the marginal ridge, that it can be overfilled
)

// MatrixOf chooses the matrix of a cavity and fits it.
func MatrixOf(s *measure.Subject, products Products) Matrix {
	c := s.Cavity
	m := Matrix{}
	switch {
	case c.Kind == cavity.Proximal || c.Kind == cavity.IncisalAngle:
		m.Kind, m.Why = Strip, "A clear strip shapes the side towards the adjacent tooth and lets the light through."
	case len(c.Boxes) == 0 && len(c.Lost) == 0:
		m.Kind, m.Why = NoMatrix, "All walls of the cavity stand."
	case s.Model.Tooth.Primary():
		m.Kind, m.Why = TBand, "A folded band fits the short crown and its narrow neck without a retainer."
	case len(c.Lost) > 0:
		m.Kind, m.Why = Circumferential, "With a cusp gone a band must go round the whole crown."
	case c.Material == school.Composite && besideAll(c):
		m.Kind, m.Why = Sectional, "A ring spreads the teeth by the band's thickness, which composite, unlike amalgam, cannot do as it is packed."
	case c.Material == school.Amalgam:
		m.Kind, m.Why = Circumferential, "Amalgam is packed hard: a band held all round gives way least."
	default:
		m.Kind, m.Why = Circumferential, "No tooth stands beside for a ring to spread."
	}
	for _, side := range c.Boxes {
		m.Bands = append(m.Bands, bandOf(s, side, products))
	}
	if side, ok := c.Site.Side(); ok && m.Kind == Strip {
		m.Bands = append(m.Bands, stripOf(s, side, products))
	}
	return m
}

// Facing is a cavity of the adjacent tooth that is open at the same time.
type Facing struct {
	Tooth notation.Tooth
	Side  notation.Side // of the tooth that is filled, on which it stands
}

// Restores is a matrix with what the filling restores behind its bands.
func (m Matrix) Restores(s *measure.Subject, plans []Plan, beside map[notation.Side]*anatomy.Neighbour) Matrix {
	m.Bands = slices.Clone(m.Bands)
	for n := range m.Bands {
		b := &m.Bands[n]
		if p, ok := ProximalOf(s, plans, b.Side, beside[b.Side]); ok {
			b.Restored, b.Notes = &p, append(slices.Clone(b.Notes), p.Words()...)
		}
	}
	return m
}

// Facing is a matrix beside open boxes of other teeth.
func (m Matrix) Facing(open []Facing) Matrix {
	m.Bands = slices.Clone(m.Bands)
	for _, f := range open {
		for n := range m.Bands {
			b := &m.Bands[n]
			if b.Side != f.Side {
				continue
			}
			b.Facing = append(b.Facing, f.Tooth)
			b.Notes = append(
				slices.Clone(b.Notes),
				fmt.Sprintf(
					"The cavity of %s faces it: both bands stand before either is filled, one wedge between them, and the two are filled in one go, so that each contact is built against the other's band.",
					f.Tooth,
				),
			)
		}
	}
	return m
}

func besideAll(c *cavity.Cavity) bool {
	for _, side := range c.Boxes {
		if c.Adjacent[side] == nil {
			return false
		}
	}
	return true
}

func bandOf(s *measure.Subject, side notation.Side, products Products) Band {
	box := s.Box(side)
	margin, low := gingivalMargin(s, box)
	b := Band{Side: side, Under: bandUnder, Over: bandOver, Gingival: low, Passes: math.Inf(1)}
	b.Height = s.Model.Table.To(s.Model.Ridge(side)).Z - low + bandUnder + bandOver
	beside := s.Cavity.Adjacent[side]
	if beside == nil {
		b.Notes = []string{b.high(), "No tooth stands beside it."}
		return b
	}
	for _, wall := range []uint16{cavity.GingivalFloor, cavity.BoxBuccal, cavity.BoxLingual} {
		r, ok := box.Clearance(wall, beside)
		if !ok {
			continue
		}
		b.Passes = math.Min(b.Passes, r.Value)
		if r.Value < bandThick {
			b.Short = append(b.Short, cavity.FeatureName(wall))
		}
	}
	depth, _ := box.AxialDepth()
	b.Wedge = wedgeOf(s, side, margin, beside, depth.Value, products)
	b.Notes = b.notes(s.Cavity.Material)
	return b
}

// stripOf fits a strip between front teeth, by the margin that it covers.
func stripOf(s *measure.Subject, side notation.Side, products Products) Band {
	table := s.Model.Table
	low, high := math.Inf(1), math.Inf(-1)
	var margin r3.Vec
	for _, m := range s.Margin.Points {
		h := table.To(m.At).Z
		if h < low {
			low, margin = h, m.At
		}
		high = math.Max(high, h)
	}
	b := Band{Side: side, Under: bandUnder, Over: bandOver, Gingival: low, Height: high - low + bandUnder + bandOver, Passes: math.Inf(1)}
	wide := fmt.Sprintf("A strip at least %.1f mm wide: %.1f past the gingival margin and as much past the incisal one.", b.Height, bandUnder)
	beside := s.Cavity.Adjacent[side]
	if beside == nil {
		b.Notes = []string{wide, "No tooth stands beside it."}
		return b
	}
	if r, ok := s.Smooth().Clearance(0, beside); ok {
		b.Passes = r.Value
	}
	b.Wedge = wedgeOf(s, side, margin, beside, inwards(s, side), products)
	b.Notes = []string{wide}
	if b.Passes < bandThick {
		b.Notes = append(b.Notes, "The contact stands: the strip passes once a wedge has parted the teeth.")
	} else {
		b.Notes = append(b.Notes, fmt.Sprintf("It passes with %.2f mm to spare.", b.Passes-bandThick))
	}
	b.Notes = append(
		b.Notes,
		fmt.Sprintf(
			"The wedge presses it to the gingival margin, and parts the teeth by %.2f mm: the strip and what composite shrinks. Pull it snug as the light is on.",
			b.Wedge.Parts,
		),
	)
	return b
}

// inwards is how far a cavity reaches in from the tooth's contact, mm.
func inwards(s *measure.Subject, side notation.Side) float64 {
	out := s.Box(side).Outward()
	contact, deepest := s.Model.Contact(side).At, 0.0
	for _, bed := range s.Beds() {
		for _, w := range bed.Walls {
			deepest = math.Max(deepest, r3.Dot(r3.Sub(contact, w.At), out))
		}
	}
	return deepest
}

// gingivalMargin is the lowest place of a box's margin, and its height along the table's axis.
func gingivalMargin(s *measure.Subject, box measure.Box) (at r3.Vec, low float64) {
	table := s.Model.Table
	low = math.Inf(1)
	for _, m := range s.Margin.Points {
		h := table.To(m.At).Z
		if cavity.WallOf(m.Feature) == cavity.GingivalFloor && r3.Dot(r3.Sub(m.At, table.Origin), box.Outward()) > 0 && h < low {
			at, low = m.At, h
		}
	}
	return at, low
}

// wedgeOf looks how far the teeth stand apart where a wedge would enter: most of the way from
// the contact to the facial and to the lingual side, as high as the gingival margin lies. What
// composite shrinks is that of the cavity's depth there, mm.
func wedgeOf(
	s *measure.Subject,
	side notation.Side,
	margin r3.Vec,
	beside *anatomy.AdjacentSurface,
	depth float64,
	products Products,
) *Wedge {
	const entry = 0.75  // of the way out from the contact
	const corner = 0.75 // of the way to the contact from the tooth's middle, where its sides are looked for
	sign := 1.0
	if side == notation.Distal {
		sign = -1
	}
	contact := s.Model.Contact(side)
	gap := func(towards float64) float64 {
		out, ok := s.Model.OnSide(towards, corner*contact.At.X, contact.At.Z)
		if !ok {
			return 0
		}
		at, ok := s.Model.OnProximal(sign, contact.At.Y+entry*(out.Y-contact.At.Y), contact.At.Z)
		if !ok {
			return 0
		}
		mm, _ := beside.Clearance(at)
		return math.Max(mm, 0)
	}
	w := &Wedge{Facial: gap(1), Lingual: gap(-1), From: "lingual"}
	if w.Facial > w.Lingual {
		w.From = "facial"
	}
	w.Room = math.Max(contact.At.Z-contact.Height/2-margin.Z, 0)
	w.Parts = bandThick
	if s.Cavity.Material == school.Composite {
		w.Parts += LinearShrinkage(products.of(Packable).Shrinkage) * depth
	}
	return w
}

func (b Band) high() string {
	return fmt.Sprintf("A band %.1f mm high: %.1f past the gingival margin and as much over the ridge.", b.Height, b.Under)
}

func (b Band) notes(material school.Material) []string {
	all := []string{b.high()}
	if len(b.Short) > 0 {
		all = append(
			all,
			fmt.Sprintf(
				"It will not seat: the %s leaves less than its %.2f mm to the adjacent tooth.",
				strings.Join(b.Short, " and the "),
				bandThick,
			),
		)
	} else if !math.IsInf(b.Passes, 0) {
		all = append(all, fmt.Sprintf("It passes with %.2f mm to spare. Burnish it against the contact.", b.Passes-bandThick))
	}
	w := b.Wedge
	all = append(
		all,
		fmt.Sprintf(
			"Wedge from %s: modelled, the teeth stand %.1f mm apart there against %.1f. Look which side is wider in the mouth. Keep the wedge under %.1f mm over the margin.",
			w.From,
			math.Max(w.Facial, w.Lingual),
			math.Min(w.Facial, w.Lingual),
			w.Room,
		),
	)
	if material == school.Composite {
		return append(
			all,
			fmt.Sprintf(
				"Wedge before cutting too: the teeth must part by %.2f mm, the band and what composite shrinks, and nothing packs them apart later.",
				w.Parts,
			),
		)
	}
	return append(all, fmt.Sprintf("The teeth must part by the band's %.2f mm; packing helps.", w.Parts))
}

// Package drawing makes the dimensioned views of a preparation: contours as
// polylines in millimetres, labelled by tissue, and the tags that dimension
// them. It draws nothing itself; pages and screens render what it returns.
package drawing

import (
	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

// Layer kinds, from back to front.
const (
	Crown   = "crown"  // outline of the whole tooth
	Relief  = "relief" // height lines of the uncut surface, half a millimetre apart
	Root    = "root"   // the part of the crown's outline under the cervical line
	Crest   = "crest"  // horizon of what stands before the rest of the tooth
	Uncut   = "uncut"  // surface before the cut
	Enamel  = "enamel" // enamel and all within, after the cut
	Dentin  = "dentin"
	Pulp    = "pulp"
	Lesion  = "lesion"
	Kept    = "kept"    // soft dentin that stays over the pulp on purpose
	Filling = "filling" // an old one
	Groove  = "groove"
	Cavity  = "cavity" // inside of the margin, seen along the bur
	Bevel   = "bevel"
	Floor   = "floor"
	Seal    = "seal" // fissures left to be sealed

	Neighbour    = "neighbour"     // outline of the adjacent teeth
	Contact      = "contact"       // area where the adjacent tooth touches
	CervicalLine = "cervical_line" // cervical line
	Gingiva      = "gingiva"       // free gingival margin
	Bite         = "bite"          // occlusal contacts

	// Of a filled section: increments in their order, each the next of two kinds; what a
	// carrier fills; the matrix, and what presses it to the tooth.
	OddIncrement  = "odd_increment"
	EvenIncrement = "even_increment"
	Amalgam       = "amalgam"
	Protection    = "protection" // over the pulp
	Band          = "band"
	WedgeBody     = "wedge"
)

// View is one projection or section of the tooth.
type View struct {
	// ID is plan, proximal_mesial, proximal_distal, buccolingual or mesiodistal;
	// of a cavity on a surface or an edge, its site with facial, lingual, level,
	// along or across_break.
	ID    string
	Title string
	Plane solid.Plane // where the view lies in the tooth frame: X right, Y up
	Right string      // what lies to the right and left, and up
	Left  string
	Up    string
	// From is the side that the tooth is looked at from, "" along the bur and in
	// sections.
	From string
	// Section tells which of the two sections that can be moved the view is.
	Section Section
	At      float64 // where a section lies, mm from the tooth's middle
	// Least and Most are the places to which a section can be moved.
	Least, Most float64
	Bounds      Bounds
	Layers      []Layer
	Tags        []Tag
	Marks       []Mark
}

// Mark is a word at a place of a view.
type Mark struct {
	At   solid.Point2
	Text string
}

// Section is one of the two sections of a drawing that can be moved; the zero
// Section is a view that cannot.
type Section string

// Across runs over the crown, Along with the arch or the tooth.
const (
	Across Section = "across"
	Along  Section = "along"
)

const (
	sectionReach = 4.0 // mm to either side of the middle
	highestLevel = 8.0 // mm above the CEJ, past most crowns
)

// Bounds of a view, mm.
type Bounds struct{ MinX, MinY, MaxX, MaxY float64 }

// Layer is a set of lines of one kind. Closed ones together make an area,
// filled by the even-odd rule.
type Layer struct {
	Kind  string
	Lines []solid.Polyline
}

// Tag dimensions a distance or an angle between two points. It shows the
// measured value; the dimension it names can be dragged.
type Tag struct {
	CheckID   school.CriterionID // the check whose reading it shows
	Side      string             // of the box that the check is about, "" if none
	Verdict   string             // on the wall that it shows, which may not be the one that decides the check
	Dimension string             // the design figure it moves, "" if none
	Label     string
	Value     float64 // as measured, in Unit
	Unit      string  // mm or deg
	From, To  solid.Point2
	// Handle is where the tag is held; Pull is the direction (unit vector)
	// that makes the figure grow, by Gain units a millimetre.
	Handle solid.Point2
	Pull   solid.Point2
	Gain   float64
	// LabelAt is where the leader meets the label, which runs on outwards:
	// to the right or to the left.
	LabelAt    solid.Point2
	LabelRight bool
}

// Subject is a cavity to be drawn, with what lies about it.
type Subject struct {
	*measure.Subject
	Cut        solid.Tool   // everything that is cut in this tooth
	Staying    []solid.Tool // old fillings that are not replaced
	Neighbours map[notation.Side]*anatomy.Neighbour
	// Where the sections lie, mm from the tooth's middle; nil where the
	// measured preparation decides.
	AcrossAt, AlongAt *float64
}

// fillings are the old ones: those that go and those that stay.
func (s Subject) fillings() []solid.Tool { return append(s.Cavity.Fillings(), s.Staying...) }

// Views draws a cavity as the dentist looks at it, and the sections that show its
// depth.
func Views(s Subject) []View {
	if s.Cavity.Kind == cavity.Occlusal {
		return occlusalViews(s)
	}
	return smoothViews(s)
}

// Package drawing makes the dimensioned views of a preparation: contours as
// polylines in millimetres, labelled by tissue, and the tags that dimension
// them. It draws nothing itself; pages and screens render what it returns.
package drawing

import (
	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/solid"
)

// Layer kinds, from back to front.
const (
	Crown   = "crown"  // outline of the whole tooth
	Relief  = "relief" // height lines of the uncut surface, half a millimetre apart
	Uncut   = "uncut"  // surface before the cut
	Enamel  = "enamel" // enamel and all within, after the cut
	Dentin  = "dentin"
	Pulp    = "pulp"
	Lesion  = "lesion"
	Filling = "filling" // an old one
	Groove  = "groove"
	Cavity  = "cavity" // inside of the margin, seen along the bur
	Bevel   = "bevel"
	Floor   = "floor"
	Seal    = "seal" // fissures left to be sealed

	Neighbour = "neighbour" // outline of the teeth beside
	Contact   = "contact"   // area where the neighbour touches
	Neck      = "neck"      // cervical line
	Gingiva   = "gingiva"   // free gingival margin
	Bite      = "bite"      // occlusal contacts
)

// View is one projection or section of the tooth.
type View struct {
	// ID is plan, proximal_mesial, proximal_distal, buccolingual or mesiodistal;
	// of a cavity on a face or an edge, its site with facial, lingual, level,
	// along or across_break.
	ID     string
	Title  string
	Plane  solid.Plane // where the view lies in the tooth frame: X right, Y up
	Right  string      // what lies to the right and left, and up
	Left   string
	Up     string
	At     float64 // where a section lies, mm from the tooth's middle
	Bounds Bounds
	Layers []Layer
	Tags   []Tag
}

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
	CheckID   string // the check whose reading it shows
	Side      string // of the box that the check is about, "" if none
	Dimension string // the design figure it moves, "" if none
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

// Subject is what the drawing shows.
type Subject struct {
	Prepared   *measure.Prepared
	Cavity     solid.Tool
	Lesions    []solid.Tool
	Fillings   []solid.Tool // old ones
	Dovetail   bool         // the design draws one
	Boxes      []notation.Side
	Neighbours map[notation.Side]*anatomy.Neighbour
	Facing     map[notation.Side]*anatomy.Facing
	Contacts   []solid.Point2 // occlusal, on the table
	Sealed     [][]r3.Vec     // fissures to be sealed outside the margin
	// Where the sections lie, mm from the tooth's middle; nil where the
	// measured preparation decides.
	AcrossAt, AlongAt *float64
}

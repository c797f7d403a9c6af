package instrument

import (
	"fmt"
	"math"
	"slices"
)

// Stock is what a practice writes down of its instruments. One that is not listed is taken
// to lie ready, as its number says.
type Stock []Item

// Item is one instrument of a stock. Lengths are millimetres.
type Item struct {
	ID ID
	// Pieces are in the drawer, the one in use among them; nil where they are not counted.
	Pieces *int
	// UsesEach is how often a piece is used before it is discarded: 1 for one that is
	// single-use, 0 where nobody counts.
	UsesEach int
	// UsesLeft is how often the piece in use still may be; 0 of a new one.
	UsesLeft int
	// Width of a head or a blade and Length, as measured; 0 as the number says.
	Width, Length float64
}

// How far a measured size may lie off what the number says: a worn head is slimmer,
// another maker's longer; further off it is another instrument.
const (
	widthOff  = 0.3
	lengthOff = 0.4
	mostCount = 999 // of pieces and uses
)

// Fault is what is wrong in a stock: with which of its items, in which field, and what to
// do about it.
type Fault struct {
	Item           int
	Field, Message string
}

// Check lists every fault.
func (s Stock) Check() []Fault {
	var all []Fault
	for n, i := range s {
		fault := func(field, format string, args ...any) {
			all = append(all, Fault{n, field, fmt.Sprintf(format, args...)})
		}
		usual, known := Find(i.ID)
		if !known {
			fault("instrument", "%q is no instrument of the list", i.ID)
			continue
		}
		if slices.ContainsFunc(s[:n], func(before Item) bool { return before.ID == i.ID }) {
			fault("instrument", "%s is listed twice: keep one line", i.ID)
		}
		i.checkCounts(fault)
		width, length := usual.Size()
		checkSize(fault, "width_mm", i.Width, width, widthOff)
		checkSize(fault, "length_mm", i.Length, length, lengthOff)
	}
	return all
}

func (i Item) checkCounts(fault func(field, format string, args ...any)) {
	if i.Pieces != nil && (*i.Pieces < 0 || *i.Pieces > mostCount) {
		fault("pieces", "%d pieces: give 0 to %d", *i.Pieces, mostCount)
	}
	if i.UsesEach < 0 || i.UsesEach > mostCount {
		fault("uses_each", "%d uses: give 1 to %d, or leave it out where nobody counts", i.UsesEach, mostCount)
	}
	if i.UsesEach > 0 && i.Pieces == nil {
		fault("pieces", "say how many pieces there are, so that their uses can be counted")
	}
	if i.UsesLeft < 0 || i.UsesLeft > i.UsesEach {
		fault("uses_left", "%d uses left of %d: give 1 to %d, or leave it out of a new piece", i.UsesLeft, i.UsesEach, i.UsesEach)
	}
}

func checkSize(fault func(field, format string, args ...any), field string, own, usual, off float64) {
	switch {
	case own == 0:
	case usual == 0:
		fault(field, "it has no head or blade to measure: leave it out")
	case math.IsNaN(own) || math.Abs(own-usual) > off*usual+1e-9:
		fault(
			field,
			"%.2f mm where its number says %.2f: give %.2f to %.2f, beyond that it is another instrument",
			own,
			usual,
			usual*(1-off),
			usual*(1+off),
		)
	}
}

// Size is the width and length of a head or a blade, 0 of what has neither, mm.
func (i Instrument) Size() (width, length float64) {
	switch {
	case i.Head != nil:
		return i.Head.Diameter, i.Head.Length
	case i.Blade != nil:
		return i.Blade.Width, i.Blade.Length
	}
	return 0, 0
}

// Sized is an instrument with the sizes of an item.
func (i Item) Sized() Instrument {
	own := MustFind(i.ID)
	switch {
	case own.Head != nil:
		head := *own.Head
		if i.Width > 0 {
			head.Tip *= i.Width / head.Diameter // of a taper
			head.Diameter = i.Width
		}
		if i.Length > 0 {
			head.Length = i.Length
		}
		if head.Shape == Round { // as long as it is wide, whichever was measured
			if i.Width == 0 {
				head.Diameter = head.Length
			}
			head.Length = head.Diameter
		}
		own.Head = &head
	case own.Blade != nil:
		blade := *own.Blade
		if i.Width > 0 {
			blade.Width = i.Width
		}
		if i.Length > 0 {
			blade.Length = i.Length
		}
		own.Blade = &blade
	}
	return own
}

// Out is why none of an item lies ready, "" where one does.
func (i Item) Out() string {
	if i.Pieces != nil && *i.Pieces == 0 {
		return "none is left in stock"
	}
	return ""
}

// RunsLow is what to know before an item runs out, "" while there is time.
func (i Item) RunsLow() string {
	switch {
	case i.Pieces == nil || *i.Pieces == 0:
		return ""
	case i.UsesEach > 0 && *i.Pieces == 1 && i.left() <= 1:
		return "its last piece has one use left"
	case *i.Pieces == 1:
		return "one piece is left"
	}
	return ""
}

// Used is a stock after some instruments were used in one patient; changed tells whether
// that makes a difference.
func (s Stock) Used(ids []ID) (left Stock, changed bool) {
	left = slices.Clone(s)
	for n := range left {
		if i := &left[n]; slices.Contains(ids, i.ID) && i.UsesEach > 0 && i.Pieces != nil && *i.Pieces > 0 {
			*i, changed = i.used(), true
		}
	}
	return left, changed
}

// left is how often the piece in use still may be.
func (i Item) left() int {
	if i.UsesLeft == 0 {
		return i.UsesEach
	}
	return i.UsesLeft
}

func (i Item) used() Item {
	if i.UsesLeft = i.left() - 1; i.UsesLeft == 0 { // this one is discarded
		pieces := *i.Pieces - 1
		i.Pieces = &pieces
	}
	return i
}

// Kit is what a stock has ready. An item that the list no longer knows says nothing.
func (s Stock) Kit() *Kit {
	k := &Kit{out: map[ID]string{}, own: map[ID]Instrument{}}
	for _, i := range s {
		if _, known := Find(i.ID); !known {
			continue
		}
		if why := i.Out(); why != "" {
			k.out[i.ID] = why
		}
		if i.Width > 0 || i.Length > 0 {
			k.own[i.ID] = i.Sized()
		}
	}
	return k
}

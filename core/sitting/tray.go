package sitting

import (
	"fmt"
	"slices"
	"strings"

	"obturon/core/fill"
	"obturon/core/instrument"
	"obturon/core/procedure"
)

// Group of what lies on a tray, as it is laid out.
type Group string

// The groups, in the order of the work.
const (
	Marking    Group = "Marking and reading"
	NumbAndDry Group = "Numb and dry"
	Burs       Group = "Burs and diamonds"
	ByHand     Group = "By hand"
	Walls      Group = "Guards and matrices"
	Materials  Group = "Filled with"
	Finishing  Group = "Finishing"
)

// Groups lists them.
var Groups = []Group{Marking, NumbAndDry, Burs, ByHand, Walls, Materials, Finishing}

// Item is one thing that lies ready.
type Item struct {
	Group     Group
	Name      string
	Count     int
	SingleUse bool
	Note      string // an amount, or what is missing; "" of most
	Missing   bool   // the kit has none ready
}

// Filled is what of a cavity's filling has to lie ready.
type Filled struct {
	Plans  []fill.Plan
	Matrix fill.Matrix
}

// groupOf is where an instrument lies that is neither bur nor blade.
var groupOf = map[instrument.ID]Group{
	instrument.Mirror: Marking, instrument.Tweezers: Marking, instrument.Suction: NumbAndDry, instrument.Explorer: Marking, instrument.Probe: Marking, instrument.Pins: Marking, instrument.ContactPaper: Marking, instrument.Pencil: Marking,
	instrument.ShadeGuide: Marking, instrument.Putty: Marking,
	instrument.SurfaceGel: NumbAndDry, instrument.Syringe: NumbAndDry, instrument.Dam: NumbAndDry, instrument.MolarClamp: NumbAndDry, instrument.PremolarClamp: NumbAndDry,
	instrument.CervicalClamp: NumbAndDry, instrument.Cord: NumbAndDry, instrument.CottonRolls: NumbAndDry,
	instrument.Guard: Walls, instrument.Wedge: Walls, instrument.MetalStrip: Walls, instrument.ClearStrip: Walls, instrument.RetainerBand: Walls,
	instrument.SectionalBand: Walls, instrument.FoldedBand: Walls,
	instrument.Etch: Materials, instrument.Adhesive: Materials, instrument.Sealant: Materials, instrument.Resin: Materials, instrument.Applicator: Materials, instrument.CuringLamp: Materials,
	instrument.LiningCement: Materials, instrument.CappingCement: Materials,
	instrument.PumiceCup: Finishing, instrument.Discs: Finishing, instrument.FlashBlade: Finishing, instrument.FinishingBurs: Finishing, instrument.Floss: Finishing,
}

func group(i instrument.Instrument) Group {
	if own, ok := groupOf[i.ID]; ok {
		return own
	}
	if i.Head != nil {
		return Burs
	}
	return ByHand
}

// perTooth are single-use things that no second tooth may share.
var perTooth = []instrument.ID{instrument.Guard, instrument.MetalStrip, instrument.Cord, instrument.Applicator, instrument.Putty}

// always lie on a tray, whatever is done.
var always = []instrument.ID{
	instrument.Mirror, instrument.Tweezers, instrument.Explorer, instrument.Probe, instrument.Suction, instrument.CottonRolls,
	instrument.ContactPaper, instrument.Floss,
}

// ofCaries are the kinds of steps in which soft dentin may be met: a spoon lies ready.
var ofCaries = []procedure.Kind{procedure.OldFillingOut, procedure.CariesLeft, procedure.LiftSoftDentin, procedure.OpenToSize, procedure.Outline}

// Tray is what steps take up and what their fillings are made of, in the order of the groups;
// what the kit lacks is marked.
func Tray(steps []procedure.Step, filled []Filled, kit *instrument.Kit) []Item {
	count := map[instrument.ID]int{}
	var order []instrument.ID
	take := func(id instrument.ID, n int) {
		if count[id] == 0 {
			order = append(order, id)
		}
		count[id] += n
	}
	for _, id := range always {
		take(id, 1)
	}
	for _, s := range steps {
		if slices.Contains(ofCaries, s.Kind) && count[instrument.Spoon] == 0 {
			take(instrument.Spoon, 1)
		}
		for _, id := range s.Instruments {
			switch {
			case isMatrix(id) || id == instrument.Wedge && s.Kind.Fills(): // counted by their bands
			case id == instrument.CompositePaste || id == instrument.Flowable: // by their product
			case slices.Contains(perTooth, id):
				take(id, max(len(s.Teeth), 1))
			case count[id] == 0:
				take(id, 1)
			}
		}
	}
	beside := 0 // teeth towards which boxes open
	for _, f := range filled {
		for _, piece := range f.Matrix.Pieces() {
			take(piece.Instrument, piece.Count)
			if piece.Instrument == instrument.Wedge {
				beside += piece.Count
			}
		}
	}
	if count[instrument.Guard] > 0 { // each is guarded
		count[instrument.Guard] = max(count[instrument.Guard], beside)
	}
	var all []Item
	for _, id := range order {
		own := kit.Get(id)
		item := Item{Group: group(own), Name: own.Name, Count: count[id], SingleUse: own.SingleUse}
		if item.Group == Burs {
			item.Name = fmt.Sprintf("%s, %s", id, own.Name)
			if strings.Contains(own.Name, string(id)) {
				item.Name = own.Name
			}
		}
		if out := kit.Out(id); out != "" {
			item.Note, item.Missing = out, true
		}
		all = append(all, item)
	}
	all = append(all, materials(filled)...)
	slices.SortStableFunc(all, func(a, b Item) int { return slices.Index(Groups, a.Group) - slices.Index(Groups, b.Group) })
	return all
}

func isMatrix(id instrument.ID) bool {
	return slices.Contains(
		[]instrument.ID{instrument.RetainerBand, instrument.SectionalBand, instrument.FoldedBand, instrument.ClearStrip},
		id,
	)
}

// materials are the capsules and masses of some fillings.
func materials(filled []Filled) []Item {
	var all []Item
	add := func(name, note string, n int, single bool) *Item {
		at := slices.IndexFunc(all, func(i Item) bool { return i.Name == name })
		if at < 0 {
			at = len(all)
			all = append(all, Item{Group: Materials, Name: name, Note: note, SingleUse: single})
		}
		all[at].Count += n
		return &all[at]
	}
	volume := map[string]float64{}
	for _, f := range filled {
		for _, p := range f.Plans {
			if p.Charge != nil {
				for _, mix := range p.Charge.Mixes {
					add(fmt.Sprintf("%s, capsule of %g mg", p.Charge.Product.Name, mix.AlloyMg), "", 1, true)
				}
			}
			for _, i := range p.Increments {
				name := i.Product.Name
				volume[name] += i.Volume
				item := add(name, "", 0, false)
				item.Count, item.Note = 1, fmt.Sprintf("%.1f mm³ and what sticks to the blade", volume[name])
			}
		}
	}
	return all
}

package school

import (
	"bytes"
	"cmp"
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
)

// Entry is what is said of a criterion whatever the school: the forms under which
// it is judged, and the words that go with a value that is short of the target or
// over it.
type Entry struct {
	ID   CriterionID `json:"id"`
	Unit string      `json:"unit"`
	// Bounds are what a school may ask for, in the entry's unit: beyond them nothing
	// can be built, or none would be safe.
	Bounds Range  `json:"bounds"`
	Label  string `json:"label"`
	Form   Form   `json:"form"`
	// MovedBy lists the figures of a design that move the value, best first.
	MovedBy []Mover `json:"moved_by"`
	// FailsUnder is the value under which a miss fails the preparation, whatever
	// the severity, where the school asks for more than nothing; 0 means none.
	FailsUnder float64 `json:"fails_under"`
	// Barred is a range of values that are missed, and a major fault, whatever a school
	// accepts, as of a box that no matrix band passes (operative dentistry convention).
	// BarredSays tells what to do.
	Barred     Range  `json:"barred"`
	BarredSays string `json:"barred_says"`
	// Short and Over say what to do about a value below and above the target, with
	// {by}, {where} and {Where} in them; an empty Over takes Short.
	Short string `json:"short"`
	Over  string `json:"over"`
	// Absent says why a cavity may have nothing to measure it on.
	Absent string `json:"absent"`
	// Needs says why the target was moved to what the tooth or a finding needs.
	Needs string `json:"needs"`
	// Slot is what is asked, whatever the school asks of other cavities, of an unbonded
	// filling that nothing but its box holds; nil where that makes no difference.
	Slot *Criterion `json:"slot"`
	// Cusps is what is asked, whatever the school asks of other cavities, of an unbonded filling
	// that covers or replaces cusps; nil where that makes no difference.
	Cusps *Criterion `json:"cusps"`
	// Enamel is what is asked of a bonded filling of fissures whose caries ends in enamel, where
	// the lesion leads; nil where that makes no difference.
	Enamel *Criterion `json:"enamel"`
	// Root is what is asked on the root, where a school asks at all; nil where that makes no
	// difference.
	Root *Criterion `json:"root"`
	// On holds words that differ for one kind of cavity.
	On map[string]Words `json:"on"`
	// Schools holds the criteria by school; "all" is every school that has none of
	// its own.
	Schools map[string][]Criterion `json:"schools"`
}

// As is a criterion of the entry that stands for what its schools ask.
func (e Entry) As(c Criterion) Criterion {
	c.ID, c.Unit = e.ID, e.Unit
	return c
}

// Mover is a figure of a design that moves what a criterion measures. Slope is by how
// much of the entry's unit for each mm, or degree, of the figure: roughly, as found over
// many proposals; single teeth differ, and some turn it round. Same tells that the figure
// is what the criterion measures; There, that it moves a value read on its own wall alone.
type Mover struct {
	Figure string  `json:"figure"`
	Slope  float64 `json:"slope"`
	Same   bool    `json:"same"`
	There  bool    `json:"there"`
}

// Words are those of an entry that may differ for a kind of cavity.
type Words struct {
	Form  Form   `json:"form"`
	Short string `json:"short"`
	Over  string `json:"over"`
}

// Form is the part of the work under which a criterion is judged.
type Form string

// Forms of a preparation in their working order.
var Forms = []Form{"outline", "resistance", "retention", "convenience", "finish"}

// For gives the entry with the words that hold for a kind of cavity.
func (e Entry) For(kind string) Entry {
	own, differs := e.On[kind]
	if !differs {
		return e
	}
	if own.Form != "" {
		e.Form = own.Form
	}
	if own.Short != "" {
		e.Short, e.Over = own.Short, own.Over
	}
	return e
}

// Bars reports a value that no school may accept.
func (e Entry) Bars(value float64) bool {
	return value > e.Barred.Min && value < e.Barred.Max
}

// Needed says why the target was moved.
func (e Entry) Needed() string {
	return cmp.Or(e.Needs, "The finding reaches further, and the target with it.")
}

// Missing says why there is nothing to measure.
func (e Entry) Missing() string {
	if e.Absent == "" {
		return "The cut cavity has nothing of it to measure."
	}
	return e.Absent
}

// Fix says what to do about a value that misses the target by so much.
func (e Entry) Fix(short bool, by float64, where string) string {
	text := e.Short
	if !short && e.Over != "" {
		text = e.Over
	}
	return strings.NewReplacer("{by}", InUnit(by, e.Unit), "{where}", where, "{Where}", capital(where)).Replace(text)
}

// WithinError is what there is to say of a value that misses the target by less than the
// gauge can tell.
func (e Entry) WithinError(by float64) string {
	if by < 0.005 {
		return "At the very end of its target, within measuring error: leave it."
	}
	return fmt.Sprintf("Off by %s, within measuring error: leave it.", InUnit(by, e.Unit))
}

// InUnit writes a value with its unit in words.
func InUnit(v float64, unit string) string {
	switch unit {
	case "deg":
		return fmt.Sprintf("%.1f degrees", v)
	case "ratio":
		return fmt.Sprintf("%.2f", v)
	default:
		return fmt.Sprintf("%.2f %s", v, UnitName(unit))
	}
}

// UnitName is a unit in words.
func UnitName(unit string) string {
	switch unit {
	case "deg":
		return "degrees"
	case "mm3":
		return "mm³"
	case "ratio":
		return "times"
	default:
		return unit
	}
}

func capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

//go:embed criteria.json
var criteriaDocument []byte

type catalogueDocument struct {
	Schools  []School `json:"schools"`
	Criteria []Entry  `json:"criteria"`
}

var shipped = func() catalogueDocument {
	decoder := json.NewDecoder(bytes.NewReader(criteriaDocument))
	decoder.DisallowUnknownFields()
	var d catalogueDocument
	if err := decoder.Decode(&d); err != nil {
		panic(fmt.Sprintf("criteria.json: %v", err))
	}
	return d
}()

// Catalogue lists every criterion in the order of the work.
var Catalogue = shipped.Criteria

var byID = func() map[CriterionID]int {
	index := map[CriterionID]int{}
	for n, e := range Catalogue {
		index[e.ID] = n
	}
	return index
}()

// Find gives the entry of a criterion.
func Find(id CriterionID) (Entry, bool) {
	n, known := byID[id]
	if !known {
		return Entry{}, false
	}
	return Catalogue[n], true
}

// IDs of the shipped schools in the order they are offered.
var IDs = func() []string {
	ids := make([]string, len(shipped.Schools))
	for n, s := range shipped.Schools {
		ids[n] = s.ID
	}
	return ids
}()

// assemble gives a shipped school its column of the catalogue. It panics where
// criteria.json does not make a valid school.
func assemble(s School) *School {
	for _, e := range Catalogue {
		own, has := e.Schools[s.ID]
		if !has {
			own = e.Schools["all"]
		}
		for _, c := range own {
			c.ID, c.Unit = e.ID, e.Unit
			s.Criteria = append(s.Criteria, c)
		}
	}
	if err := s.Validate(); err != nil {
		panic(fmt.Sprintf("criteria.json, school %s: %v", s.ID, err))
	}
	s.Criteria = slices.Clip(s.Criteria)
	return &s
}

// Package quiz asks about a tooth's anatomy and grades the answers on its model:
// what a place is called, where a landmark lies, how thick a tissue is.
package quiz

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
)

// Kind of question.
type Kind string

// The kinds: a marked place to be named, a named landmark to be touched, a thickness
// to be told in millimetres under a marked place.
const (
	Name      Kind = "name"
	Touch     Kind = "touch"
	Thickness Kind = "thickness"
)

// Kinds lists them.
var Kinds = []Kind{Name, Touch, Thickness}

// Question about a tooth. What is marked on the tooth is in Mark, nil where the
// learner is to find the place.
type Question struct {
	Kind       Kind
	Text       string
	Mark       *r3.Vec
	Choices    []string // of a name
	SeeThrough bool     // the pulp must show
	truth      truth
}

type truth struct {
	name string
	at   r3.Vec
	kind string   // of the landmark
	mm   float64  // of a thickness
	near float64  // mm that an answer may be off
	all  []r3.Vec // landmarks of the same kind, that it must not be taken for
}

// Answer to a question: the field of its kind.
type Answer struct {
	Choice string
	Point  *r3.Vec  // on the surface
	MM     *float64 // thickness
}

// Grade of an answer, with where the truth lies.
type Grade struct {
	Right bool
	Says  string
	At    r3.Vec
}

// Ask makes up a question; the same number asks the same of the same tooth.
func Ask(m *anatomy.Model, number uint64) Question {
	pick := rand.New(rand.NewPCG(number, uint64(len(m.Tooth.Name()))))
	switch Kinds[pick.IntN(len(Kinds))] {
	case Name:
		return askName(m, pick)
	case Touch:
		return askTouch(m, pick)
	default:
		return askThickness(m, pick)
	}
}

// onCrown are the landmarks that show on the uncut tooth.
func onCrown(m *anatomy.Model) []anatomy.Landmark {
	return slices.DeleteFunc(m.NamedLandmarks(), func(l anatomy.Landmark) bool { return l.Kind == "horn" })
}

func askName(m *anatomy.Model, pick *rand.Rand) Question {
	const choices = 4
	all := onCrown(m)
	right := all[pick.IntN(len(all))]
	q := Question{Kind: Name, Text: "What is marked here?", Mark: &right.At, Choices: []string{right.Name}}
	q.truth = truth{name: right.Name, at: right.At}
	// What is taken for it most easily comes first: landmarks of the same kind.
	pick.Shuffle(len(all), func(a, b int) { all[a], all[b] = all[b], all[a] })
	slices.SortStableFunc(all, func(a, b anatomy.Landmark) int { return differs(a.Kind, right.Kind) - differs(b.Kind, right.Kind) })
	for _, l := range all {
		if len(q.Choices) < choices && !slices.Contains(q.Choices, l.Name) {
			q.Choices = append(q.Choices, l.Name)
		}
	}
	pick.Shuffle(len(q.Choices), func(a, b int) { q.Choices[a], q.Choices[b] = q.Choices[b], q.Choices[a] })
	return q
}

func differs(a, b string) int {
	if a == b {
		return 0
	}
	return 1
}

func askTouch(m *anatomy.Model, pick *rand.Rand) Question {
	const clearly = 0.15 // mm by which the highest horn must overtop the next for the question to be fair
	if second := secondHorn(m); pick.IntN(3) == 0 && m.HighestHorn().At.Z-second > clearly && len(m.Horns) > 1 {
		highest := m.HighestHorn()
		q := Question{Kind: Touch, Text: "Touch the tooth over its highest pulp horn.", SeeThrough: true}
		q.truth = truth{name: highest.Name + " pulp horn", at: highest.At, kind: "horn", near: 2.5}
		for _, h := range m.Horns {
			if h.Name != highest.Name {
				q.truth.all = append(q.truth.all, h.At)
			}
		}
		return q
	}
	all := onCrown(m)
	right := all[pick.IntN(len(all))]
	q := Question{Kind: Touch, Text: "Touch the " + right.Name + "."}
	q.truth = truth{name: right.Name, at: right.At, kind: right.Kind, near: 1}
	for _, l := range all {
		if l.Kind == right.Kind && l.Name != right.Name {
			q.truth.all = append(q.truth.all, l.At)
		}
	}
	return q
}

// secondHorn is how high the second highest horn reaches; as low as can be where
// there is only one.
func secondHorn(m *anatomy.Model) float64 {
	second := math.Inf(-1)
	for _, h := range m.Horns {
		if h.Name != m.HighestHorn().Name {
			second = math.Max(second, h.At.Z)
		}
	}
	return second
}

func askThickness(m *anatomy.Model, pick *rand.Rand) Question {
	const tries = 40
	half := 0.35 * m.Sizes.Mesiodistal
	for range tries {
		facial := float64(1 - 2*pick.IntN(2))
		x, z := half*(2*pick.Float64()-1), m.Sizes.Height*(0.15+0.7*pick.Float64())
		at, ok := m.OnSide(facial, x, z)
		if !ok {
			continue
		}
		felt, ok := m.Touch(at)
		if !ok || felt.Enamel < 0.2 {
			continue
		}
		q := Question{Kind: Thickness, Text: "How thick is the enamel here?", Mark: &felt.At}
		q.truth = truth{at: felt.At, mm: felt.Enamel, near: 0.3, name: "the enamel"}
		if pick.IntN(2) == 0 {
			q.Text = "How far is the pulp from here?"
			q.truth = truth{at: felt.PulpAt, mm: felt.Pulp, near: 0.6, name: "the way to the pulp"}
		}
		return q
	}
	return askName(m, pick) // a crown too small to be felt on
}

// Grade judges an answer. The error says which field the question wants.
func (q Question) Grade(a Answer) (Grade, error) {
	g := Grade{At: q.truth.at}
	switch q.Kind {
	case Name:
		if !slices.Contains(q.Choices, a.Choice) {
			return g, fmt.Errorf("%q is none of the names to choose from", a.Choice)
		}
		g.Right = a.Choice == q.truth.name
		g.Says = "It is the " + q.truth.name + "."
	case Touch:
		if a.Point == nil {
			return g, fmt.Errorf("touch a place of the tooth")
		}
		off := q.off(*a.Point, q.truth.at)
		g.Right = off <= q.truth.near && !slices.ContainsFunc(q.truth.all, func(o r3.Vec) bool { return q.off(*a.Point, o) < off })
		g.Says = fmt.Sprintf("The %s is marked: %.1f mm from where you touched.", q.truth.name, off)
	default:
		if a.MM == nil || !(*a.MM >= 0) || math.IsInf(*a.MM, 1) {
			return g, fmt.Errorf("give a thickness in millimetres, such as 1.2")
		}
		off := *a.MM - q.truth.mm
		g.Right = math.Abs(off) <= q.truth.near
		g.Says = fmt.Sprintf("On this model %s is %.1f mm; up to %.1f off counts as right.", q.truth.name, q.truth.mm, q.truth.near)
	}
	return g, nil
}

// off is how far (mm) a touched place lies from a landmark. Over a horn it is touched
// along the tooth, whichever way it is held: what lies across counts.
func (q Question) off(touched, at r3.Vec) float64 {
	way := r3.Sub(touched, at)
	if q.truth.kind == "horn" {
		way.Z = 0
	}
	return r3.Norm(way)
}

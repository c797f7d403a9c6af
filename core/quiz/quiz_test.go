package quiz_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/notation"
	"obturon/core/quiz"
)

func model(t *testing.T, tooth string) *anatomy.Model {
	t.Helper()
	m, err := anatomy.Build(notation.MustParse(tooth), anatomy.MeasuredSizes{}, 25, 0.15)
	if err != nil {
		t.Fatal(err)
	}
	return m
}

// Whoever knows the model answers every question, and nobody by luck: what is true of
// the tooth is right, and what is true of another place is not.
func TestTheModelGradesWhatItAsks(t *testing.T) {
	for _, tooth := range []string{"46", "25", "13", "21"} {
		m := model(t, tooth)
		landmarks := m.NamedLandmarks()
		asked := map[quiz.Kind]int{}
		for number := range uint64(60) {
			q := quiz.Ask(m, number)
			if again := quiz.Ask(m, number); again.Text != q.Text || !slices.Equal(again.Choices, q.Choices) {
				t.Fatalf("%s question %d changes", tooth, number)
			}
			asked[q.Kind]++
			var right, wrong quiz.Answer
			switch q.Kind {
			case quiz.Name:
				at := slices.IndexFunc(landmarks, func(l anatomy.Landmark) bool { return r3.Norm(r3.Sub(l.At, *q.Mark)) < 1e-9 })
				right.Choice = landmarks[at].Name
				for _, c := range q.Choices {
					if c != right.Choice {
						wrong.Choice = c
					}
				}
			case quiz.Touch:
				name := strings.TrimSuffix(strings.TrimPrefix(q.Text, "Touch the "), ".")
				at := m.HighestHorn().At
				if !q.SeeThrough {
					at = landmarks[slices.IndexFunc(landmarks, func(l anatomy.Landmark) bool { return l.Name == name })].At
				}
				far := r3.Add(at, r3.Vec{X: 3, Y: 3})
				right.Point, wrong.Point = &at, &far
			case quiz.Thickness:
				felt, ok := m.Touch(*q.Mark)
				if !ok {
					t.Fatalf("%s question %d marks no place of the tooth", tooth, number)
				}
				mm := felt.Enamel
				if strings.Contains(q.Text, "pulp") {
					mm = felt.Pulp
				}
				far := mm + 1
				right.MM, wrong.MM = &mm, &far
			}
			if g, err := q.Grade(right); err != nil || !g.Right || g.Says == "" {
				t.Errorf("%s question %d, %q: the truth is graded %+v, %v", tooth, number, q.Text, g, err)
			}
			if g, err := q.Grade(wrong); err != nil || g.Right {
				t.Errorf("%s question %d, %q: nonsense is graded %+v, %v", tooth, number, q.Text, g, err)
			}
			if _, err := q.Grade(quiz.Answer{}); err == nil {
				t.Errorf("%s question %d: no answer is graded", tooth, number)
			}
		}
		for _, kind := range quiz.Kinds {
			if asked[kind] < 8 {
				t.Errorf("%s: %d questions of %s", tooth, asked[kind], kind)
			}
		}
	}
}

func TestAnotherLandmarkOfItsKindIsNotIt(t *testing.T) {
	m := model(t, "46")
	for number := range uint64(200) {
		q := quiz.Ask(m, number)
		if q.Kind != quiz.Touch || !strings.Contains(q.Text, "cusp") {
			continue
		}
		for _, tip := range m.CuspTips {
			if strings.Contains(q.Text, anatomy.CuspName(tip.Name)) {
				continue
			}
			if g, err := q.Grade(quiz.Answer{Point: &tip.At}); err != nil || g.Right {
				t.Errorf("%q: the %s cusp is graded %+v, %v", q.Text, tip.Name, g, err)
			}
		}
		nowhere := math.NaN()
		if _, err := q.Grade(quiz.Answer{MM: &nowhere}); err == nil {
			t.Error("a touch is answered by a figure")
		}
		return
	}
	t.Fatal("no cusp was asked for")
}

package anatomy

import (
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/notation"
)

// The patient's own directions, right-handed: the thumb points right, the first finger
// forwards, the second up.
var (
	toPatientsRight = r3.Vec{X: 1}
	forwards        = r3.Vec{Y: 1}
	upwards         = r3.Vec{Z: 1}
)

// Every tooth frame has the hand that mesial, facial and occlusal have in the patient's
// mouth, found from where the teeth stand in their arches.
func TestFramesHaveTheHandOfTheMouth(t *testing.T) {
	if r3.Dot(r3.Cross(toPatientsRight, forwards), upwards) <= 0 {
		t.Fatal("the patient's directions are a mirror image")
	}
	all, err := AllArches()
	if err != nil {
		t.Fatal(err)
	}
	inMouth := func(p [2]float64) r3.Vec { // arches run to the patient's left and forwards
		return r3.Add(r3.Scale(-p[0], toPatientsRight), r3.Scale(p[1], forwards))
	}
	at := map[notation.Tooth]r3.Vec{}
	behind := map[bool]r3.Vec{} // the middle of the most distal teeth, by dentition
	for _, tooth := range all {
		at[tooth.Tooth] = inMouth(centre(tooth.Outline))
		if p := at[tooth.Tooth]; p.Y < behind[tooth.Tooth.Primary()].Y {
			behind[tooth.Tooth.Primary()] = r3.Vec{Y: p.Y}
		}
	}
	for _, tooth := range notation.All() {
		mesial := r3.Scale(-1, at[tooth]) // a central incisor looks across the midline
		mesial.Y = 0
		if tooth.Position() > 1 {
			before, err := notation.New(int(tooth.String()[0]-'0'), tooth.Position()-1)
			if err != nil {
				t.Fatal(err)
			}
			mesial = r3.Sub(at[before], at[tooth])
		}
		facial := r3.Sub(at[tooth], behind[tooth.Primary()])
		occlusal := upwards
		if tooth.Upper() {
			occlusal = r3.Scale(-1, upwards)
		}
		want := notation.LeftHand
		if r3.Dot(r3.Cross(mesial, facial), occlusal) > 0 {
			want = notation.RightHand
		}
		if got := tooth.FrameHand(); got != want {
			t.Errorf("%s has a %s-handed frame, want %s", tooth, got, want)
		}
	}
}

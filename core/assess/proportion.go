package assess

import (
	"fmt"
	"math"
	"strings"

	"obturon/core/lesion"
	"obturon/core/measure"
)

// proportions are how many times what was diseased, filled or lost a cavity may take, by its
// class, before the plan says what the rest goes for (operative dentistry convention: about three
// times; a proximal lesion is reached through its ridge, which costs more).
var proportions = map[lesion.Class]float64{
	lesion.ClassI: 3, lesion.ClassII: 5, lesion.ClassIII: 5, lesion.ClassIV: 3, lesion.ClassV: 4, lesion.Rebuild: 3,
}

// leastLesion (mm³) is what a lesion counts for at the least: below it the head of the smallest
// bur decides.
const leastLesion = 1.0

// Proportion is how many times what was diseased, filled or lost a tooth's cavities take, and the
// most that goes without a word.
func Proportion(class lesion.Class, v measure.Removed) (times, most float64) {
	return v.Cavity / math.Max(v.Lesion+v.OldFilling+v.Lost, leastLesion), proportions[class]
}

// OutOfProportion says of a tooth whose cavities take much more than was diseased what it goes
// for, and what would take less; "" where they do not.
func OutOfProportion(class lesion.Class, v measure.Removed, subjects []*measure.Subject) string {
	times, most := Proportion(class, v)
	if times <= most {
		return ""
	}
	covered := 0
	var opens, walls, boxes bool
	for _, s := range subjects {
		for _, tip := range s.Model.CuspTips {
			if s.Reduced(tip) {
				covered++
			}
		}
		opens = opens || s.Cavity.Opened && !s.Cavity.LesionLed()
		walls = walls || !s.Cavity.Bonded()
		boxes = boxes || len(s.Cavity.Boxes) > 0
	}
	var reasons []string
	for _, reason := range []struct {
		holds bool
		says  string
	}{
		{covered == 1, "a cusp is covered"},
		{covered > 1, fmt.Sprintf("%d cusps are covered", covered)},
		{opens, "this school opens the fissures beyond the lesion, which the adhesive one seals"},
		{walls, "amalgam asks for depth and walls of its own, which a bonded composite does without"},
		{boxes, "the proximal lesion is reached through its ridge"},
	} {
		if reason.holds {
			reasons = append(reasons, reason.says)
		}
	}
	if len(reasons) == 0 {
		reasons = []string{"the bur has to get to the lesion"}
	}
	return fmt.Sprintf("The cavity takes %.0f mm³, %.0f times what was diseased: %s.", v.Cavity, times, strings.Join(reasons, "; "))
}

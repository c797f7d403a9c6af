package plan

import (
	"errors"
	"testing"

	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
)

func TestTheBenchFilmHidesALesionOfItsSeed(t *testing.T) {
	tooth := notation.MustParse("25")
	first, err := planner.BenchFilm(tooth, 30, lesion.Mesial, 4)
	if err != nil {
		t.Fatal(err)
	}
	again, err := planner.BenchFilm(tooth, 30, lesion.Mesial, 4)
	if err != nil || string(first.Pix) != string(again.Pix) {
		t.Errorf("the same seed gives another film: %v", err)
	}
	different := false
	for seed := uint64(5); seed < 9 && !different; seed++ {
		other, err := planner.BenchFilm(tooth, 30, lesion.Mesial, seed)
		if err != nil {
			t.Fatal(err)
		}
		different = string(first.Pix) != string(other.Pix)
	}
	if !different {
		t.Error("every seed gives the same film")
	}
}

func TestAMeasuredDepthIsNamed(t *testing.T) {
	tooth := notation.MustParse("36")
	last := -1
	for _, mm := range []float64{0.3, 1.0, 1.6, 3.2, 4.5} {
		r, err := planner.ReadFilm(tooth, 34, lesion.Distal, mm)
		if err != nil {
			t.Fatal(err)
		}
		at := -1
		for n, d := range lesion.Depths {
			if d == r.Depth {
				at = n
			}
		}
		if at < last {
			t.Errorf("%.1f mm is %s, less than a smaller measurement", mm, r.Depth)
		}
		last = at
	}
	for _, bad := range []struct {
		tooth string
		site  lesion.Site
		mm    float64
	}{{"36", lesion.Distal, -1}, {"36", lesion.Distal, 40}, {"36", lesion.Central, 1}, {"11", lesion.Distal, 1}} {
		_, err := planner.ReadFilm(notation.MustParse(bad.tooth), 34, bad.site, bad.mm)
		var faults intake.Faults
		if !errors.As(err, &faults) {
			t.Errorf("%+v: %v", bad, err)
		}
	}
}

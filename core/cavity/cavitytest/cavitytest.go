// Package cavitytest plans cavities for the tests of the stages that come after.
package cavitytest

import (
	"sync"
	"testing"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/school"
)

// age is the usual one, years.
const age = 30

type shape struct {
	tooth string
	grid  float64
}

var models sync.Map // of func() (*anatomy.Model, error), by shape

// Model is a tooth of usual age, sampled so far apart (mm). The tests of a package share each:
// nothing changes a model.
func Model(t testing.TB, tooth string, grid float64) *anatomy.Model {
	t.Helper()
	build, _ := models.LoadOrStore(shape{tooth, grid}, sync.OnceValues(func() (*anatomy.Model, error) {
		return anatomy.Build(notation.MustParse(tooth), anatomy.MeasuredSizes{}, age, grid)
	}))
	m, err := build.(func() (*anatomy.Model, error))()
	if err != nil {
		t.Fatal(err)
	}
	return m
}

// Request puts findings of one cavity on a tooth of usual age, without neighbours.
func Request(t testing.TB, tooth, schoolID string, material school.Material, grid float64, findings ...lesion.Finding) cavity.Request {
	t.Helper()
	m := Model(t, tooth, grid)
	s, err := school.Get(schoolID)
	if err != nil {
		t.Fatal(err)
	}
	r := cavity.Request{Model: m, School: s, Choice: cavity.Choice{Material: material}, Gingiva: anatomy.GingivaAt(age)}
	for _, f := range findings {
		l, err := lesion.New(m, f)
		if err != nil {
			t.Fatal(err)
		}
		r.Lesions, r.Site = append(r.Lesions, l), lesion.CavitySite(f, findings, m.Tooth)
	}
	return r
}

// Propose has the form of a request's site propose its cavity.
func Propose(t testing.TB, r cavity.Request) cavity.Proposal {
	t.Helper()
	var p cavity.Proposal
	var err error
	if r.Site == "" {
		p, err = occlusal.Propose(r)
	} else {
		p, err = smooth.Propose(r)
	}
	if err != nil {
		t.Fatal(err)
	}
	return p
}

// Cut cuts a proposal into its tooth.
func Cut(t testing.TB, p cavity.Proposal, overrides map[string]float64) *measure.Subject {
	t.Helper()
	c, err := p.Cut(overrides)
	if err != nil {
		t.Fatal(err)
	}
	return measure.NewSubject(measure.NewPrepared(c.Model, c.Model.Surface.Uncut().Carve(c.Tool())), c)
}

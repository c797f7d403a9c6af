package plan

import (
	"obturon/core/anatomy"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/internal/device"
)

// BenchFilm takes a simulated bitewing of a tooth with a proximal lesion, as device.BenchFilm
// does. Errors are intake.Faults where the tooth has no such film.
func (p *Planner) BenchFilm(t notation.Tooth, ageYears float64, site lesion.Site, seed uint64) (device.Film, error) {
	m, err := p.filmed(t, ageYears, site)
	if err != nil {
		return device.Film{}, err
	}
	beside, err := p.neighbours(m, notation.Sides, ageYears, DefaultGrid)
	if err != nil {
		return device.Film{}, err
	}
	return device.BenchFilm(m, beside.InOrder(), site, seed)
}

// ReadFilm is what a depth (mm) measured on a film means, as device.ReadFilm tells it. Errors are
// intake.Faults where the tooth has no such film.
func (p *Planner) ReadFilm(t notation.Tooth, ageYears float64, site lesion.Site, mm float64) (device.FilmReading, error) {
	m, err := p.filmed(t, ageYears, site)
	if err != nil {
		return device.FilmReading{}, err
	}
	return device.ReadFilm(m, site, mm)
}

// filmed models a tooth that has a bitewing.
func (p *Planner) filmed(t notation.Tooth, ageYears float64, site lesion.Site) (*anatomy.Model, error) {
	if err := device.CanBeFilmed(t, site); err != nil {
		return nil, err
	}
	return p.teeth.get(t, anatomy.MeasuredSizes{}, ageYears, DefaultGrid)
}

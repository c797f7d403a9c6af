package api

import (
	"bytes"
	"context"
	"image/png"

	"obturon/core/anatomy"
	"obturon/core/intake"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/internal/document"
)

// BenchBitewing takes a simulated film.
func (s *server) BenchBitewing(_ context.Context, r BenchBitewingRequestObject) (BenchBitewingResponseObject, error) {
	t, age, err := filmed(r.Text, r.Params.Age)
	if err != nil {
		return nil, err
	}
	seed := uint64(1)
	if r.Params.Seed != nil {
		seed = uint64(*r.Params.Seed)
	}
	f, err := s.Planner.BenchFilm(t, age, lesion.Site(r.Params.Site), seed)
	if err != nil {
		return nil, err
	}
	var picture bytes.Buffer
	if err := png.Encode(&picture, f.Gray); err != nil {
		return nil, err
	}
	return BenchBitewing200JSONResponse{
		Image: picture.Bytes(), Width: f.Rect.Dx(), Height: f.Rect.Dy(), PixelsPerMm: f.PixelsPerMM,
	}, nil
}

// ReadFilm names a measured depth.
func (s *server) ReadFilm(_ context.Context, r ReadFilmRequestObject) (ReadFilmResponseObject, error) {
	t, age, err := filmed(r.Text, r.Params.Age)
	if err != nil {
		return nil, err
	}
	reading, err := s.Planner.ReadFilm(t, age, lesion.Site(r.Params.Site), r.Params.Mm)
	if err != nil {
		return nil, err
	}
	return ReadFilm200JSONResponse{
		Depth:    reading.Depth,
		EnamelMm: document.Thousandth(reading.Enamel),
		DentinMm: document.Thousandth(reading.Dentin),
	}, nil
}

func filmed(text string, age *float64) (notation.Tooth, float64, error) {
	t, err := notation.Parse(text)
	if err != nil {
		return t, 0, unprocessable("No tooth has this name", intake.Faults{{Path: "text", Message: err.Error()}})
	}
	return t, ageOr(age), nil
}

// ageOr is the age asked for, or that of the average tooth.
func ageOr(age *float64) float64 {
	if age == nil {
		return anatomy.AdultAge
	}
	return *age
}

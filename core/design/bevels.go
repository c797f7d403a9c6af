package design

import (
	"maps"
	"slices"
	"strings"

	"obturon/core/cavity/occlusal"
	"obturon/core/cavity/smooth"
)

// WithoutBevels are values set by hand but for those of bevels, so that a style of finishing
// shows its own.
func WithoutBevels(overrides map[string]float64) map[string]float64 {
	own := maps.Clone(overrides)
	maps.DeleteFunc(own, func(id string, _ float64) bool {
		return slices.ContainsFunc(slices.Concat(occlusal.BevelFigures, smooth.BevelFigures), func(figure string) bool {
			return id == figure || strings.HasSuffix(id, "_"+figure) // a site's name goes before
		})
	})
	return own
}

package school

// Units lists every criterion a school may hold, with the unit of its figures.
var Units = map[string]string{
	"resist.pulpal_depth":       "mm",
	"resist.pulp_distance":      "mm",
	"resist.axiopulpal":         "mm",
	"resist.line_angle_radius":  "mm",
	"resist.cavosurface_angle":  "deg",
	"resist.floor_flatness":     "mm",
	"resist.floor_tilt":         "deg",
	"outline.isthmus_width":     "mm",
	"outline.dovetail_ratio":    "ratio",
	"outline.groove_extension":  "mm",
	"outline.marginal_ridge":    "mm",
	"outline.reverse_curve":     "mm",
	"outline.smoothness":        "mm",
	"outline.ridge_preserved":   "mm",
	"outline.fissures_included": "mm",
	"outline.contact_stress":    "mm",
	"box.opening":               "mm",
	"box.hatchet_access":        "mm",
	"gingiva.margin":            "mm",
	"resist.enamel_support":     "mm",
	"resist.cusp_thickness":     "mm",
	"resist.cusp_clearance":     "mm",
	"box.clearance_buccal":      "mm",
	"box.clearance_lingual":     "mm",
	"box.clearance_gingival":    "mm",
	"box.exit_angle_buccal":     "deg",
	"box.exit_angle_lingual":    "deg",
	"box.axial_depth":           "mm",
	"box.axial_into_dentin":     "mm",
	"box.axial_convexity":       "mm",
	"box.wall_functional":       "deg",
	"box.wall_nonfunctional":    "deg",
	"box.gingival_slope":        "deg",
	"retain.convergence":        "deg",
	"retain.ridge_wall":         "deg",
	"retain.grooves":            "mm",
	"retain.bevel_width":        "mm",
	"retain.bevel_angle":        "deg",
	"lesion.cleared":            "mm3",
}

// BrokenContact (mm) is the least clearance at which a band passes: less means
// that the contact has been kept.
const BrokenContact = 0.2

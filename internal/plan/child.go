package plan

import (
	"fmt"
	"strings"

	"obturon/core/prep"
)

// forChildren lists what must be said of a primary tooth's plan.
func forChildren(c *Case, choice Choice) []string {
	if !c.Tooth.Primary() {
		return nil
	}
	list := []string{
		"Child: dam or bite block, head steadied, a finger rest at every pass; stop when the child asks.",
		"Primary pulps are large and their horns long: if a base seems needed, the tooth probably needs pulp therapy. Test before filling.",
	}
	if choice.Material == "composite" {
		list = append(list, "A shallow primary cavity may be filled in a single increment within the material's depth of cure.")
	}
	return list
}

// narrowing says how the cervical constriction narrows each seat of a primary
// molar as it is taken deeper.
func narrowing(c *Case, r prep.Request, d prep.Design) []string {
	if !c.Tooth.Primary() {
		return nil
	}
	var list []string
	for _, side := range d.Sides() {
		widths := prep.SeatWidths(r, d, side)
		if len(widths) == 0 {
			continue
		}
		var deeper []string
		for _, w := range widths[1:] {
			if w.Width == 0 {
				deeper = append(deeper, fmt.Sprintf("none at %.1f mm deeper", w.Deeper))
			} else {
				deeper = append(deeper, fmt.Sprintf("%.2f at %.1f mm deeper", w.Width, w.Deeper))
			}
		}
		list = append(list, fmt.Sprintf("The neck narrows the %s seat: %.2f mm wide here, %s. Go deeper only for caries.", side, widths[0].Width, strings.Join(deeper, ", ")))
	}
	return list
}

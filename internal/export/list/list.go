// Package list names the files that a case is exported to: contract, menus and writers follow
// from it.
package list

import (
	"path"
	"slices"
)

// File is one that a case is exported to.
type File struct {
	Name, Title string
	// Menu tells that the sheet offers it; the rest is for other programs that ask for it.
	Menu bool
	// Cut tells that there is none of a case that is not cut.
	Cut bool
	// Needs is what it takes beside the plan; "" of what the command line writes too.
	Needs Need
}

// Need is what a file takes beside the plan of its case.
type Need string

// What files need: that the kit has cut the case, the case as it was kept, or the other cases of
// its sitting.
const (
	Proof   Need = "proof"
	Case    Need = "case"
	Sitting Need = "sitting"
)

// Files lists them, in the order in which a menu has them.
var Files = []File{
	{Name: "card.pdf", Title: "Card, A4 (PDF)", Menu: true},
	{Name: "card-letter.pdf", Title: "Card, Letter (PDF)", Menu: true},
	{Name: "tray.pdf", Title: "Tray (PDF)", Menu: true, Cut: true},
	{Name: "sitting.pdf", Title: "Tray of a sitting (PDF)", Needs: Sitting},
	{Name: "drawing.svg", Title: "Drawing (SVG)", Menu: true, Cut: true},
	{Name: "drawing.png", Title: "Drawing (PNG)", Menu: true, Cut: true},
	{Name: "steps.csv", Title: "Steps, proven (CSV)", Menu: true, Cut: true, Needs: Proof},
	{Name: "steps.json", Title: "Steps, proven (JSON)", Menu: true, Cut: true, Needs: Proof},
	{Name: "plan.json", Title: "Plan (JSON)", Menu: true},
	{Name: "case.json", Title: "Case (JSON)", Menu: true, Needs: Case},
	{Name: "prepared.stl", Title: "Prepared tooth (STL)", Menu: true, Cut: true},
	{Name: "intact.stl", Title: "Intact tooth (STL)", Menu: true, Cut: true},
	{Name: "cavity.stl", Title: "Cavity (STL)", Menu: true, Cut: true},
	{Name: "filling.stl", Title: "Filling (STL)", Menu: true, Cut: true},
	{Name: "prepared.obj", Title: "Prepared tooth (OBJ)", Menu: true, Cut: true},
	{Name: "cavity.obj", Title: "Cavity (OBJ)", Cut: true},
	{Name: "filling.obj", Title: "Filling (OBJ)", Cut: true},
	{Name: "prepared.ply", Title: "Prepared tooth (PLY)", Menu: true, Cut: true},
	{Name: "cavity.ply", Title: "Cavity (PLY)", Cut: true},
	{Name: "filling.ply", Title: "Filling (PLY)", Cut: true},
}

// Find looks a file up by its name.
func Find(name string) (f File, ok bool) {
	n := slices.IndexFunc(Files, func(f File) bool { return f.Name == name })
	if n < 0 {
		return f, false
	}
	return Files[n], true
}

var mediaTypes = map[string]string{
	".json": "application/json", ".svg": "image/svg+xml", ".pdf": "application/pdf", ".stl": "model/stl",
	".csv": "text/csv; charset=utf-8", ".obj": "model/obj", ".ply": "application/octet-stream", ".png": "image/png",
}

// Media is the media type of a file, by its name.
func Media(name string) string { return mediaTypes[path.Ext(name)] }

// Shown reports a file that a browser shows; all others are saved.
func Shown(name string) bool {
	return slices.Contains([]string{".pdf", ".svg", ".png"}, path.Ext(name))
}

package render

import (
	"obturon/core/sitting"
	"obturon/internal/document"
)

// TrayItems writes what lies ready.
func TrayItems(tray []sitting.Item) []document.TrayItem {
	all := make([]document.TrayItem, len(tray))
	for n, i := range tray {
		all[n] = document.TrayItem{Group: string(i.Group), Name: i.Name, Count: i.Count, SingleUse: i.SingleUse, Note: i.Note, Missing: i.Missing}
	}
	return all
}

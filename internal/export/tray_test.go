package export

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"obturon/internal/document"
)

// A tray goes on to a second page where it is long, and so does the order of a sitting.
func TestATrayIsPrinted(t *testing.T) {
	item := func(n int) document.TrayItem {
		return document.TrayItem{Group: fmt.Sprintf("Group %d", n/9), Name: fmt.Sprintf("thing %d", n), Count: 1 + n%3, SingleUse: n%2 == 0, Note: "none is left"}
	}
	for name, c := range map[string]struct{ items, rounds, pages int }{
		"nothing": {0, 0, 1}, "a tooth": {20, 0, 1}, "a long one": {70, 0, 2}, "a sitting": {24, 40, 2},
	} {
		sheet := TraySheet{Teeth: []string{"33", "34"}}
		for n := range c.items {
			sheet.Tray = append(sheet.Tray, item(n))
		}
		for n := range c.rounds {
			sheet.Rounds = append(sheet.Rounds, document.SittingStep{Step: fmt.Sprintf("step %d", n), Teeth: sheet.Teeth, Once: n%5 == 0, Why: "all of them first"})
		}
		var out bytes.Buffer
		if err := WriteTray(&out, CardHead{Patient: "HV-031", Practice: "Clinic"}, sheet, A4); err != nil {
			t.Fatal(err)
		}
		data := out.String()
		pages := strings.Count(data, "/Type /Page\n") + strings.Count(data, "/Type /Page ") + strings.Count(data, "/Type/Page/")
		if !strings.HasPrefix(data, "%PDF-") || strings.Contains(data, "NaN") || pages != c.pages {
			t.Errorf("%s: a PDF of %d pages, want %d", name, pages, c.pages)
		}
	}
}

package export

import (
	"testing"

	"obturon/internal/export/list"
)

// Every file that is offered can be written, and nothing is written that nobody offers.
func TestEveryListedFileHasItsWriter(t *testing.T) {
	apart := map[string]bool{"case.json": true, "sitting.pdf": true} // kept as it is, and of several cases
	for _, f := range list.Files {
		if _, ok := writers[f.Name]; ok == apart[f.Name] {
			t.Errorf("%s: a writer %v", f.Name, ok)
		}
		if f.Title == "" || list.Media(f.Name) == "" {
			t.Errorf("%+v is of the type %q", f, list.Media(f.Name))
		}
	}
	for name := range writers {
		if _, ok := list.Find(name); !ok {
			t.Errorf("%s is written, and not listed", name)
		}
	}
	if _, ok := list.Find("notes.txt"); ok {
		t.Error("an invented file is listed")
	}
}

package core_test

import (
	"flag"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"obturon/core/school"
)

var updateSentences = flag.Bool("update", false, "write docs/sentences.md anew")

const sentencesFile = "../docs/sentences.md"

// Everything that the core can say to a dentist stands in docs/sentences.md, to be read as a
// whole: go test ./core -run Sentences -update writes it.
func TestSentencesAreListed(t *testing.T) {
	list := sentences(t)
	if *updateSentences {
		if err := os.WriteFile(sentencesFile, []byte(list), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	kept, err := os.ReadFile(sentencesFile)
	if err != nil {
		t.Fatal(err)
	}
	if string(kept) != list {
		t.Error("docs/sentences.md is not what the core says: write it anew with go test ./core -run Sentences -update, and read what has changed")
	}
}

// One vocabulary: words that must not stand beside the one that is used for the same.
func TestSentencesKeepToOneVocabulary(t *testing.T) {
	list := sentences(t)
	for _, banned := range []struct{ word, use string }{
		{`dentine`, "dentin"}, {`neighbor`, "neighbour"}, {`color`, "colour"}, {`over the neck`, "above the cervical line"}, {`over neck`, "above the cervical line"},
		{`labial`, "facial"}, {`palatal`, "lingual"}, {`mould`, "form"},
		{`(tooth|teeth) beside`, "adjacent tooth"}, {`the neighbour`, "the adjacent tooth"}, {`biting (side|surface)`, "occlusal surface"}, {`prove it numb`, "confirm anaesthesia"},
		{`thin it`, "air-thin"}, {`cusps? part(s|ed)?`, "cuspal deflection"}, {`flash off`, "remove excess"}, {`draw back`, "aspirate"},
		{`as good as`, "no comparison that has no footing"}, {`not to be had`, "cannot be reached"}, {`chased`, "diagnosed first"}, {`gel first`, "topical gel, 1 to 2 minutes"},
		{`cannot both hold`, "cannot both be met"}, {`dents the contact`, "keep the wedge under"}, {`test vitality`, "test the pulp"},
	} {
		for line := range strings.SplitSeq(list, "\n") {
			if regexp.MustCompile(`(?i)\b` + banned.word + `\b`).MatchString(line) {
				t.Errorf("%q is called %q here: %s", banned.word, banned.use, line)
			}
		}
	}
}

// sentences lists what the core says, by package, then the schools' texts by criterion.
func sentences(t *testing.T) string {
	t.Helper()
	byPackage := map[string][]string{}
	err := filepath.WalkDir(".", func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || strings.HasSuffix(path, ".gen.go") || strings.HasSuffix(filepath.Dir(path), "test") {
			return err
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		if err != nil {
			return err
		}
		dir := filepath.ToSlash(filepath.Dir(path))
		byPackage[dir] = append(byPackage[dir], said(file)...)
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	var out strings.Builder
	out.WriteString("# What the core can say\n\nWritten from the code by `go test ./core -run Sentences -update`. %s, %d, %.1f and {by} stand for words and figures.\n")
	for _, dir := range slices.Sorted(maps.Keys(byPackage)) {
		if len(byPackage[dir]) == 0 {
			continue
		}
		fmt.Fprintf(&out, "\n## %s\n\n", dir)
		slices.Sort(byPackage[dir])
		for _, s := range slices.Compact(byPackage[dir]) {
			fmt.Fprintf(&out, "- %s\n", s)
		}
	}
	out.WriteString("\n## Criteria\n")
	for _, e := range school.Catalogue {
		fmt.Fprintf(&out, "\n### %s: %s\n\n", e.ID, e.Label)
		texts := []string{e.Short, e.Over, e.Absent, e.Needs, e.BarredSays}
		for _, kind := range slices.Sorted(maps.Keys(e.On)) {
			texts = append(texts, e.On[kind].Short, e.On[kind].Over)
		}
		for _, special := range []*school.Criterion{e.Slot, e.Cusps, e.Enamel, e.Root} {
			if special != nil {
				texts = append(texts, special.Why)
			}
		}
		for _, s := range slices.Sorted(maps.Keys(e.Schools)) {
			for _, c := range e.Schools[s] {
				texts = append(texts, c.Why)
			}
		}
		known := map[string]bool{"": true}
		for _, text := range texts {
			if !known[text] {
				fmt.Fprintf(&out, "- %s\n", text)
			}
			known[text] = true
		}
	}
	return out.String()
}

// said lists the string literals of a file that are words for a reader: not those of
// errors and panics that only a programmer sees, of tags and patterns.
func said(file *ast.File) []string {
	wordy := regexp.MustCompile(`[A-Za-z]{2,}[,.:;]? +[A-Za-z%{(\d]`)
	var found []string
	ast.Inspect(file, func(n ast.Node) bool {
		if call, is := n.(*ast.CallExpr); is && inward(call) {
			return false
		}
		if field, is := n.(*ast.Field); is && field.Tag != nil {
			return false
		}
		literal, is := n.(*ast.BasicLit)
		if !is || literal.Kind != token.STRING {
			return true
		}
		if text, err := strconv.Unquote(literal.Value); err == nil && wordy.MatchString(text) {
			found = append(found, strings.TrimSpace(strings.ReplaceAll(text, "\n", " ")))
		}
		return true
	})
	return found
}

// inward reports a call whose words no reader sees.
func inward(call *ast.CallExpr) bool {
	switch f := call.Fun.(type) {
	case *ast.Ident:
		return f.Name == "panic"
	case *ast.SelectorExpr:
		on, is := f.X.(*ast.Ident)
		return is && (on.Name == "regexp" || on.Name == "fmt" && f.Sel.Name == "Errorf")
	}
	return false
}

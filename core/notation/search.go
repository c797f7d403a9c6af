package notation

import (
	"slices"
	"strings"
)

// Meant lists the teeth that a word of a search may mean: one written in any
// notation, or those whose names have the word, from its third letter on. A number
// of two notations means the teeth of both.
func Meant(word string) []Tooth {
	word = strings.TrimSpace(word)
	const fewest = 3 // letters that tell one part of a name from another
	var meant []Tooth
	for _, t := range All() {
		codes := []string{t.String(), t.Universal(), "#" + t.Universal(), t.QuadrantLetters(), t.QuadrantSymbol()}
		named := len(word) >= fewest && slices.ContainsFunc(strings.Fields(t.Name()), func(part string) bool {
			return strings.HasPrefix(part, strings.ToLower(word))
		})
		if named || slices.ContainsFunc(codes, func(code string) bool { return strings.EqualFold(code, word) }) {
			meant = append(meant, t)
		}
	}
	return meant
}

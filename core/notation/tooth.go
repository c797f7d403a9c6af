// Package notation names teeth and tooth surfaces.
//
// A Tooth is a small comparable value. It reads and prints the three notations
// a dentist meets: ISO 3950 (two digits), Universal (1-32 and A-T) and the
// quadrant symbols. The zero Tooth is no tooth.
package notation

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// Tooth is one of the 32 permanent or 20 primary teeth.
// It holds the ISO 3950 quadrant (1-8) and the position from the midline (1-8).
type Tooth struct{ quadrant, position uint8 }

// New makes a tooth from its ISO 3950 quadrant and its position from the
// midline. The error names the ranges.
func New(quadrant, position int) (Tooth, error) {
	last := 8
	if quadrant > 4 {
		last = 5
	}
	if quadrant < 1 || quadrant > 8 || position < 1 || position > last {
		return Tooth{}, fmt.Errorf(
			"no tooth has quadrant %d and position %d: quadrants are 1 to 8, positions 1 to 8 (primary 1 to 5)",
			quadrant,
			position,
		)
	}
	return Tooth{uint8(quadrant), uint8(position)}, nil
}

// ParseISO reads the two-digit ISO 3950 number and nothing else. The error says
// how to write it.
func ParseISO(s string) (Tooth, error) {
	if len(s) == 2 && isDigit(s[0]) && isDigit(s[1]) {
		if t, err := New(int(s[0]-'0'), int(s[1]-'0')); err == nil {
			return t, nil
		}
	}
	return Tooth{}, fmt.Errorf("%q is not an ISO 3950 tooth: write two digits, such as 46 for the lower right first molar", s)
}

// Parse reads a tooth as people type it: 46, 30, #30, K, LR6, LRE. Where a
// number stands in two notations (16), ISO 3950 wins; a leading # asks for the
// Universal number. The error shows the three ways to write a tooth.
func Parse(s string) (Tooth, error) {
	text := strings.ToUpper(strings.TrimSpace(s))
	if rest, universal := strings.CutPrefix(text, "#"); universal {
		return parseUniversal(rest, s)
	}
	if t, err := ParseISO(text); err == nil {
		return t, nil
	}
	if t, ok := parseQuadrantLetters(text); ok {
		return t, nil
	}
	return parseUniversal(text, s)
}

// MustParse is Parse for constants; it panics when s names no tooth.
func MustParse(s string) Tooth {
	t, err := Parse(s)
	if err != nil {
		panic(err)
	}
	return t
}

// String gives the ISO 3950 number, or "" for no tooth.
func (t Tooth) String() string {
	if t == (Tooth{}) {
		return ""
	}
	return strconv.Itoa(int(t.quadrant)*10 + int(t.position))
}

// MarshalText writes the ISO 3950 number. The error is always nil.
func (t Tooth) MarshalText() ([]byte, error) { return []byte(t.String()), nil }

// UnmarshalText reads the ISO 3950 number. It fails as ParseISO does.
func (t *Tooth) UnmarshalText(text []byte) error {
	parsed, err := ParseISO(string(text))
	if err == nil {
		*t = parsed
	}
	return err
}

// IsZero reports whether t is no tooth.
func (t Tooth) IsZero() bool { return t == Tooth{} }

// Primary reports a primary (milk) tooth.
func (t Tooth) Primary() bool { return t.quadrant > 4 }

// Upper reports a maxillary tooth.
func (t Tooth) Upper() bool { q := t.quadrant % 4; return q == 1 || q == 2 }

// Right reports a tooth on the patient's right.
func (t Tooth) Right() bool { q := t.quadrant % 4; return q == 1 || q == 0 }

// SameQuadrant reports teeth of one quadrant of the mouth, whichever dentition.
func (t Tooth) SameQuadrant(other Tooth) bool {
	return t.Upper() == other.Upper() && t.Right() == other.Right()
}

// Quadrant lists the teeth of its quadrant of the mouth, of both dentitions.
func (t Tooth) Quadrant() []Tooth {
	return slices.DeleteFunc(All(), func(other Tooth) bool { return !t.SameQuadrant(other) })
}

// Position counts from the midline: 1 is the central incisor.
func (t Tooth) Position() int { return int(t.position) }

// Anterior reports incisors and canines.
func (t Tooth) Anterior() bool { return t.position <= 3 }

// Molar reports molars; primary molars are positions 4 and 5.
func (t Tooth) Molar() bool {
	if t.Primary() {
		return t.position >= 4
	}
	return t.position >= 6
}

// Universal gives the Universal name: 1-32, or A-T for primary teeth.
func (t Tooth) Universal() string {
	last := 8
	if t.Primary() {
		last = 5
	}
	n, p := 0, int(t.position)
	switch (t.quadrant - 1) % 4 {
	case 0:
		n = last + 1 - p
	case 1:
		n = last + p
	case 2:
		n = 3*last + 1 - p
	case 3:
		n = 3*last + p
	}
	if t.Primary() {
		return string(rune('A' + n - 1))
	}
	return strconv.Itoa(n)
}

// QuadrantLetters gives the quadrant in letters and the place from the midline: LR6, ULE.
func (t Tooth) QuadrantLetters() string {
	return [4]string{"UR", "UL", "LL", "LR"}[(t.quadrant-1)%4] + t.place()
}

// QuadrantSymbol gives the place inside the symbol of its quadrant: 6⏋ for the lower right.
func (t Tooth) QuadrantSymbol() string {
	switch (t.quadrant - 1) % 4 {
	case 0:
		return t.place() + "⏌"
	case 1:
		return "⎿" + t.place()
	case 2:
		return "⎾" + t.place()
	default:
		return t.place() + "⏋"
	}
}

// Name gives the full name: "lower right first molar".
func (t Tooth) Name() string {
	if t.IsZero() {
		return "no tooth"
	}
	arch, side := "lower", "left"
	if t.Upper() {
		arch = "upper"
	}
	if t.Right() {
		side = "right"
	}
	name := arch + " " + side + " " + t.kindName()
	if t.Primary() {
		return "primary " + name
	}
	return name
}

// All lists the 52 teeth in ISO 3950 order.
func All() []Tooth {
	var all []Tooth
	for q := 1; q <= 8; q++ {
		for p := 1; p <= 8; p++ {
			if t, err := New(q, p); err == nil {
				all = append(all, t)
			}
		}
	}
	return all
}

func (t Tooth) kindName() string {
	if t.Primary() && t.position >= 4 {
		return [2]string{"first molar", "second molar"}[t.position-4]
	}
	return [8]string{
		"central incisor", "lateral incisor", "canine", "first premolar",
		"second premolar", "first molar", "second molar", "third molar",
	}[t.position-1]
}

// place is the digit from the midline, or the letter A-E of a primary tooth.
func (t Tooth) place() string {
	if t.Primary() {
		return string(rune('A' + t.position - 1))
	}
	return strconv.Itoa(int(t.position))
}

func parseQuadrantLetters(text string) (Tooth, bool) {
	if len(text) != 3 {
		return Tooth{}, false
	}
	quadrant, known := map[string]int{"UR": 1, "UL": 2, "LL": 3, "LR": 4}[text[:2]]
	if !known {
		return Tooth{}, false
	}
	place := text[2]
	if place >= 'A' && place <= 'E' {
		t, err := New(quadrant+4, int(place-'A')+1)
		return t, err == nil
	}
	t, err := New(quadrant, int(place)-'0')
	return t, err == nil
}

func parseUniversal(text, typed string) (Tooth, error) {
	for _, t := range All() {
		if t.Universal() == text {
			return t, nil
		}
	}
	return Tooth{}, fmt.Errorf("%q names no tooth: write it as 46 (ISO 3950), 30 (Universal; #16 where both exist) or LR6", typed)
}

func isDigit(b byte) bool { return b >= '0' && b <= '9' }

package document

import (
	"fmt"
	"strconv"
	"unicode/utf8"

	"obturon/core/intake"
)

// CheckText names text in a JSON document that can neither be shown nor kept: the
// NUL character, halves of a surrogate pair, and bytes that are no UTF-8. Whether
// it is JSON at all is for others.
func CheckText(data []byte) intake.Faults {
	if problem := CheckPlain(data); problem != "" {
		return intake.Faults{{Path: "$", Message: problem}}
	}
	for n := 0; n < len(data); n++ {
		if data[n] != '\\' {
			continue
		}
		unit, isUnit := escaped(data[n:])
		switch {
		case !isUnit:
			n++ // the escaped character, which may be a backslash
			continue
		case unit == 0:
			return fault(n, "a NUL character (\\u0000)")
		case unit >= 0xDC00 && unit <= 0xDFFF:
			return fault(n, "half of a surrogate pair")
		case unit >= 0xD800 && unit <= 0xDBFF:
			if low, follows := escaped(data[n+6:]); !follows || low < 0xDC00 || low > 0xDFFF {
				return fault(n, "half of a surrogate pair")
			}
			n += 6
		}
		n += 5
	}
	return nil
}

// CheckPlain says what is wrong with text as it stands, such as an address; "" where
// nothing is.
func CheckPlain(text []byte) string {
	for n, c := range text {
		if c == 0 {
			return fmt.Sprintf("a NUL character stands at byte %d: leave it out", n)
		}
	}
	if !utf8.Valid(text) {
		return "this is no UTF-8 text: save it as UTF-8"
	}
	return ""
}

// escaped reads \uXXXX at the start of data.
func escaped(data []byte) (unit uint64, is bool) {
	if len(data) < 6 || data[0] != '\\' || data[1] != 'u' {
		return 0, false
	}
	unit, err := strconv.ParseUint(string(data[2:6]), 16, 32)
	return unit, err == nil
}

func fault(at int, what string) intake.Faults {
	return intake.Faults{{Path: "$", Message: fmt.Sprintf("%s stands at byte %d: leave it out", what, at)}}
}

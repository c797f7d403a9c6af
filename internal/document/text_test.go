package document

import (
	"encoding/json"
	"strings"
	"testing"
)

func TestTextThatCannotBeKeptIsNamed(t *testing.T) {
	for text, want := range map[string]string{
		`{"a":"plain"}`:                 "",
		`{"a":"\u00e9 \\u0000"}`:        "", // an escaped backslash, then letters
		`{"a":"\\\u0041"}`:              "",
		`{"a":"\ud83e\uddb7"}`:          "", // a tooth
		`{"a":"\u0000"}`:                "a NUL character (\\u0000) stands at byte 6",
		`{"a":"\\\u0000"}`:              "NUL",
		`{"a":"\ud83e"}`:                "half of a surrogate pair stands at byte 6",
		`{"a":"\ud83e\u0041"}`:          "half of a surrogate pair",
		`{"a":"\uddb7"}`:                "half of a surrogate pair",
		"{\"a\":\"\x00\"}":              "a NUL character stands at byte 6",
		"{\"a\":\"\xff\"}":              "no UTF-8",
		`{"a":"\`:                       "",
		`{"a":"\u00`:                    "",
		`{"\u0000":1}`:                  "NUL",
		`{"a":"\ud83e\uddb7\ud83e"}`:    "half",
		strings.Repeat(`"\uD83E\\"`, 3): "half",
	} {
		faults := CheckText([]byte(text))
		if (len(faults) == 0) != (want == "") || (want != "" && !strings.Contains(faults.Error(), want)) {
			t.Errorf("%q: %v", text, faults)
		}
	}
}

// Whatever is let through comes out of JSON as it went in, without a replacement.
func FuzzCheckText(f *testing.F) {
	for _, seed := range []string{`"a"`, `"\ud83e\uddb7"`, `"\u0000"`, `"\\ud800"`, "\"\x00\"", `{"\uDC00":"\uD800"}`} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		if len(CheckText([]byte(text))) > 0 {
			return
		}
		var value any
		if json.Unmarshal([]byte(text), &value) != nil {
			return
		}
		data, err := json.Marshal(value)
		if err != nil {
			t.Fatal(err)
		}
		if strings.Contains(string(data), `\u0000`) && !strings.Contains(string(data), `\\u0000`) {
			t.Errorf("%q holds a NUL", text)
		}
		if strings.Contains(string(data), `\ufffd`) && !strings.Contains(strings.ToLower(text), `\ufffd`) && !strings.Contains(text, "\ufffd") {
			t.Errorf("%q holds half a pair", text)
		}
	})
}

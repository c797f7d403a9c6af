package document

import (
	"encoding/json"
	"errors"
	"reflect"
	"strings"
	"testing"

	"obturon/core/intake"
)

func TestKitsAreReadAndWritten(t *testing.T) {
	const text = `{"items":[{"instrument":"330","pieces":12,"uses_each":5,"uses_left":3,"width_mm":0.75},{"instrument":"245","pieces":0},{"instrument":"4"}],"schema":"obturon.kit/1"}`
	stock, err := ReadKit([]byte(text))
	if err != nil {
		t.Fatal(err)
	}
	if k := stock.Kit(); k.Has("245") || !k.Has("330") || k.Get("330").Head.Diameter != 0.75 {
		t.Errorf("read is %+v", stock)
	}
	written, err := json.Marshal(KitOf(stock))
	if err != nil || string(written) != text {
		t.Errorf("written is %s, %v", written, err)
	}
}

func TestFaultsOfKitsNameFieldAndRemedy(t *testing.T) {
	for text, want := range map[string]string{
		``: "$: the file is empty",
		`{"schema":"obturon.kit/1","items":[{"instrument":"330","width_mm":2}]}`:                      "$.items[0].width_mm",
		`{"schema":"obturon.kit/1","items":[{"instrument":"331"}]}`:                                   "$.items[0].instrument",
		`{"schema":"obturon.kit/1","items":[{"instrument":"330"},{"instrument":"330"}]}`:              "$.items[1].instrument: 330 is listed twice",
		`{"schema":"obturon.kit/1","items":[{"instrument":"330","uses_each":3}]}`:                     "$.items[0].pieces",
		`{"schema":"obturon.kit/1","items":[{"instrument":"330","pieces":-1}]}`:                       "$.items[0].pieces",
		`{"schema":"obturon.kit/1","items":[{"instrument":"330","peices":1}]}`:                        "$.items[0].peices",
		`{"schema":"obturon.kit/2","items":[]}`:                                                       "$.schema",
		`{"schema":"obturon.kit/1"}`:                                                                  "$.items",
		`{"schema":"obturon.kit/1","items":[{"instrument":"330","pieces":2,"uses_each":3}]} trailing`: "$",
	} {
		_, err := ReadKit([]byte(text))
		var faults intake.Faults
		if !errors.As(err, &faults) || !strings.HasPrefix(faults.Error(), want) {
			t.Errorf("%s: %v, want %s", text, err, want)
		}
	}
}

// Whatever is read without a fault is written and read as the same.
func FuzzReadKit(f *testing.F) {
	f.Add([]byte(`{"schema":"obturon.kit/1","items":[{"instrument":"330","pieces":12,"uses_each":5,"uses_left":3,"width_mm":0.75}]}`))
	f.Add([]byte(`{"schema":"obturon.kit/1","items":[{"instrument":"carver","length_mm":6.2}]}`))
	f.Add([]byte(`[]`))
	f.Fuzz(func(t *testing.T, data []byte) {
		stock, err := ReadKit(data)
		if err != nil {
			return
		}
		text, err := json.Marshal(KitOf(stock))
		if err != nil {
			t.Fatal(err)
		}
		again, err := ReadKit(text)
		if err != nil || !reflect.DeepEqual(again, stock) {
			t.Errorf("%s: read again %+v, %v", text, again, err)
		}
		stock.Kit().Fingerprint()
	})
}

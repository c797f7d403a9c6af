package fill

import (
	"math"
	"strings"
	"testing"

	"obturon/core/notation"
)

func TestWhatIsRestoredIsTold(t *testing.T) {
	beside := notation.MustParse("46")
	for name, c := range map[string]struct {
		of   Proximal
		says []string
	}{
		"level":               {Proximal{Contact: 0.01, Below: 1.5, RidgeOver: 0.02, Beside: beside}, []string{"closes to 0.01 mm, 1.5 mm under the ridge", "as high as that of 46"}},
		"a little lower":      {Proximal{Contact: -0.02, Below: 1.5, RidgeOver: -0.3, Beside: beside}, []string{"closes to 0.00 mm", "0.3 mm under that of 46"}},
		"a step":              {Proximal{Contact: 0.03, Below: 1.2, RidgeOver: 0.8, Beside: beside}, []string{"0.8 mm over that of 46", "food catches"}},
		"no contact":          {Proximal{Contact: 0.4, Below: 1.2, RidgeOver: 0, Beside: beside}, []string{"stays 0.40 mm off"}},
		"between front teeth": {Proximal{Contact: 0.01, Below: math.NaN(), RidgeOver: math.NaN(), Beside: beside}, []string{"The contact closes to 0.01 mm."}},
		"a canine":            {Proximal{Contact: 0.01, Below: 1.2, RidgeOver: math.NaN(), Beside: notation.MustParse("43")}, []string{"closes to 0.01 mm"}},
	} {
		words := c.of.Words()
		all := strings.Join(words, " ")
		for _, wanted := range c.says {
			if !strings.Contains(all, wanted) {
				t.Errorf("%s: %q lacks %q", name, all, wanted)
			}
		}
		if name == "a canine" && len(words) != 1 {
			t.Errorf("of a canine's ridge it says %q", words)
		}
	}
}

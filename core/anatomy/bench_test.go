package anatomy

import (
	"testing"

	"obturon/core/notation"
)

func BenchmarkBuildLowerFirstMolar(b *testing.B) {
	for b.Loop() {
		if _, err := Build(notation.MustParse("46"), 34, 0.1); err != nil {
			b.Fatal(err)
		}
	}
}

package tolerance

import "testing"

// One hand's cavity, cut and measured: a tolerance run is some hundreds of them, on all
// processors.
func BenchmarkOnce(b *testing.B) {
	r, _ := rehearsed()
	b.ResetTimer()
	for n := range b.N {
		if _, err := Once(b.Context(), r, Usual, uint64(n)); err != nil {
			b.Fatal(err)
		}
	}
}

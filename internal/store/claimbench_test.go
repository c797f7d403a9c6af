package store

import (
	"context"
	"fmt"
	"testing"
)

// BenchmarkClaim takes and gives back a part among those of a busy practice: two thousand done
// within the hour, two hundred to go.
func BenchmarkClaim(b *testing.B) {
	kind := testKind()
	u := clinic(b)
	for n := range 40 {
		asked := Job{PracticeID: u.PracticeID, UserID: u.ID, Kind: kind, Key: fmt.Sprint(n), Priority: Batch, Input: []byte("{}"), Parts: make([]JobPart, 55)}
		if _, err := testStore.Ask(context.Background(), asked, Asking{ForGood: true}); err != nil {
			b.Fatal(err)
		}
	}
	done := `update job_part p set result = '{}', done_at = now(), claimed_at = now() from job j where j.id = p.job_id and j.kind = $1 and p.number < 50`
	if _, err := testStore.SQL().Exec(done, kind); err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		c, err := testStore.Claim(context.Background(), []JobKind{kind})
		if err != nil || c == nil {
			b.Fatal(c, err)
		}
		if err := testStore.Release(context.Background(), c); err != nil {
			b.Fatal(err)
		}
	}
}

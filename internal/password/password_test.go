package password

import (
	"context"
	"errors"
	"strings"
	"testing"
	"time"

	"github.com/alexedwards/argon2id"
)

func matches(t *testing.T, hash, password string) bool {
	t.Helper()
	same, err := Matches(context.Background(), hash, password)
	if err != nil {
		t.Fatal(err)
	}
	return same
}

func TestHashesMatchTheirPasswordOnly(t *testing.T) {
	hash, err := Hash("halvarra-demo")
	if err != nil {
		t.Fatal(err)
	}
	again, err := Hash("halvarra-demo")
	if err != nil || hash == again {
		t.Errorf("two hashes of one password are the same, %v", err)
	}
	// One made when hashing was to cost less.
	cheap, err := argon2id.CreateHash("halvarra-demo", &argon2id.Params{Memory: 8 * 1024, Iterations: 1, Parallelism: 2, SaltLength: 8, KeyLength: 16})
	if err != nil {
		t.Fatal(err)
	}
	for _, k := range []struct {
		name, hash, password string
		want                 bool
	}{
		{"its own", hash, "halvarra-demo", true},
		{"another", hash, "halvarra-Demo", false},
		{"none", hash, "", false},
		{"cheaper costs", cheap, "halvarra-demo", true},
		{"the decoy", Decoy, "halvarra-demo", false},
		{"no hash", "", "halvarra-demo", false},
		{"a broken hash", strings.Replace(hash, "t=2", "t=x", 1), "halvarra-demo", false},
		{"a cut hash", hash[:40], "halvarra-demo", false},
	} {
		if got := matches(t, k.hash, k.password); got != k.want {
			t.Errorf("%s: %v", k.name, got)
		}
	}
}

func TestTheDecoyCostsWhatAHashCosts(t *testing.T) {
	got, _, _, err := argon2id.DecodeHash(Decoy)
	if err != nil || *got != *costs {
		t.Errorf("%+v, %v", got, err)
	}
}

func TestOnlySoManyAreCheckedAtOnce(t *testing.T) {
	for range atOnce {
		places <- struct{}{}
	}
	defer func() {
		for range atOnce {
			<-places
		}
	}()
	ctx, cancel := context.WithTimeout(context.Background(), 20*time.Millisecond)
	defer cancel()
	if _, err := Matches(ctx, Decoy, "x"); !errors.Is(err, context.DeadlineExceeded) {
		t.Errorf("got %v", err)
	}
}

func TestRandomPasswordsDiffer(t *testing.T) {
	if a, b := Random(), Random(); a == b || len(a) != 20 {
		t.Errorf("%q and %q", a, b)
	}
}

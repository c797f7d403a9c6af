// Package password hashes and checks passwords with argon2id, a few at a time.
package password

import (
	"context"
	"crypto/rand"
	"fmt"

	"github.com/alexedwards/argon2id"
)

// Costs as OWASP advises for argon2id. Hashes carry their own, so that these can be
// raised without locking anyone out.
var costs = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// atOnce bounds the memory that strangers can make us use: 19 MiB each.
const atOnce = 4

var places = make(chan struct{}, atOnce)

// Decoy is a hash no password matches, for names that do not exist: it costs what
// another costs.
const Decoy = "$argon2id$v=19$m=19456,t=2,p=1$AAAAAAAAAAAAAAAAAAAAAA$AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA"

// Hash returns the encoded hash of a password with a fresh salt. It fails where
// the system has no randomness.
func Hash(password string) (string, error) {
	hash, err := argon2id.CreateHash(password, costs)
	if err != nil {
		return "", fmt.Errorf("hashing the password: %w", err)
	}
	return hash, nil
}

// Matches reports whether the password is the one hashed, with the costs that the
// hash names. It waits for a place; the error is the context's.
func Matches(ctx context.Context, hash, password string) (bool, error) {
	select {
	case places <- struct{}{}:
		defer func() { <-places }()
	case <-ctx.Done():
		return false, ctx.Err()
	}
	same, err := argon2id.ComparePasswordAndHash(password, hash)
	return same && err == nil, nil // a hash that cannot be read matches nothing
}

// Random makes a password to be handed over and changed: 20 letters and figures.
func Random() string { return rand.Text()[:20] }

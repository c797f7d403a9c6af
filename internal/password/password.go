// Package password hashes and checks passwords with argon2id.
package password

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"fmt"
	"strings"

	"golang.org/x/crypto/argon2"
)

// Costs as OWASP advises for argon2id.
const (
	memoryKiB = 19 * 1024
	passes    = 2
	lanes     = 1
	keyBytes  = 32
	saltBytes = 16
)

// Decoy is a hash no password matches, for names that do not exist.
var Decoy = encode(make([]byte, saltBytes), make([]byte, keyBytes))

// Hash returns the encoded hash of a password with a fresh salt. It fails where
// the system has no randomness.
func Hash(password string) (string, error) {
	salt := make([]byte, saltBytes)
	if _, err := rand.Read(salt); err != nil {
		return "", fmt.Errorf("making a salt: %w", err)
	}
	return encode(salt, key(password, salt)), nil
}

// Matches reports whether the password is the one hashed.
func Matches(hash, password string) bool {
	parts := strings.Split(hash, "$")
	if len(parts) != 6 || parts[1] != "argon2id" {
		return false
	}
	salt, errSalt := base64.RawStdEncoding.DecodeString(parts[4])
	want, errKey := base64.RawStdEncoding.DecodeString(parts[5])
	if errSalt != nil || errKey != nil {
		return false
	}
	return subtle.ConstantTimeCompare(want, key(password, salt)) == 1
}

func key(password string, salt []byte) []byte {
	return argon2.IDKey([]byte(password), salt, passes, memoryKiB, lanes, keyBytes)
}

func encode(salt, key []byte) string {
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, memoryKiB, passes, lanes,
		base64.RawStdEncoding.EncodeToString(salt), base64.RawStdEncoding.EncodeToString(key))
}

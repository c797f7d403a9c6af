package password

import "testing"

func TestMatches(t *testing.T) {
	hash, err := Hash("correct horse")
	if err != nil {
		t.Fatal(err)
	}
	other, err := Hash("correct horse")
	if err != nil {
		t.Fatal(err)
	}
	if hash == other {
		t.Error("two hashes share a salt")
	}
	for _, c := range []struct {
		hash, password string
		want           bool
	}{
		{hash, "correct horse", true},
		{hash, "Correct horse", false},
		{hash, "", false},
		{Decoy, "", false},
		{Decoy, "correct horse", false},
		{"", "x", false},
		{"$argon2id$v=19$m=1,t=1,p=1$!!$!!", "x", false},
	} {
		if got := Matches(c.hash, c.password); got != c.want {
			t.Errorf("Matches(%q, %q) = %v", c.hash, c.password, got)
		}
	}
}

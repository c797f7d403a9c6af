package api

import (
	"context"
	"fmt"
	"strings"
	"testing"
	"testing/synctest"
	"time"

	"obturon/internal/document"
	"obturon/internal/password"
)

func TestGuessingIsStoppedWhereItComesFrom(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		ctx := t.Context()
		a := newAttempts()
		tries := func(n int, name, address string) (looked int) {
			for range n {
				ok, err := a.allow(ctx, name, address)
				if err != nil {
					t.Fatal(err)
				}
				if ok {
					looked++
				}
			}
			return looked
		}
		if n := tries(50, "dentist", "192.0.2.1"); n != burstOfBoth {
			t.Errorf("%d guesses at one name from one address", n)
		}
		if n := tries(5, "learner", "192.0.2.1"); n != 0 {
			t.Errorf("%d more from an address that has guessed 50 times", n)
		}
		// Many strangers guess at one name: its owner still comes in, a little later.
		for n := range 30 {
			tries(2, "dentist", fmt.Sprintf("198.51.100.%d", n))
		}
		begun := time.Now()
		if n := tries(1, "dentist", "192.0.2.200"); n != 1 || time.Since(begun) > slowedBy {
			t.Errorf("the owner is let in %d times after %v", n, time.Since(begun))
		}
		// Names that nobody has do not push out what is remembered.
		for n := range 500 {
			a.byBoth.allow(fmt.Sprint("name", n))
		}
		if n := tries(1, "dentist", "192.0.2.1"); n > 1 {
			t.Errorf("%d guesses after many names came", n)
		}
		gone, leave := context.WithCancel(ctx)
		leave()
		for a.byName.allow("teacher") {
		}
		if _, err := a.allow(gone, "teacher", "192.0.2.9"); err == nil {
			t.Error("a client that has gone is waited for")
		}
		a.succeeded("dentist", "192.0.2.1")
	})
}

func TestANameCountsHoweverItIsTyped(t *testing.T) {
	_, c := another(t, func(*Options) {})
	spellings := []string{"guessed", " guessed", "GUESSED ", "Guessed", "  guessed  "}
	refused := false
	for n := 0; n < 3*burstOfBoth && !refused; n++ { // a slow machine earns a guess or two meanwhile
		status, _ := c.send("POST", "/api/session", `{"sign_in":"`+spellings[n%len(spellings)]+`","password":"x"}`)
		refused = status == 429
	}
	if !refused {
		t.Error("each spelling has guesses of its own")
	}
	if status, body := c.send("POST", "/api/session", `{"sign_in":" DENTIST ","password":"halvarra-demo"}`); status != 200 {
		t.Errorf("another name answers %d %s", status, body)
	}
}

func TestANewPasswordEndsOpenSessions(t *testing.T) {
	u, c := member(t, practiceOf(t), document.Dentist)
	if status, _ := c.send("GET", "/api/session", ""); status != 200 {
		t.Fatalf("answers %d", status)
	}
	hash, err := password.Hash("another-password")
	if err != nil {
		t.Fatal(err)
	}
	if err := testStore.SetPassword(context.Background(), u, hash); err != nil {
		t.Fatal(err)
	}
	if status, _ := c.send("GET", "/api/session", ""); status != 401 {
		t.Errorf("a session of the old password answers %d", status)
	}
	if status, _ := c.send("POST", "/api/session", `{"sign_in":"`+u.SignIn+`","password":"another-password"}`); status != 200 {
		t.Errorf("the new password answers %d", status)
	}
	if err := testStore.ArchiveUser(context.Background(), u); err != nil {
		t.Fatal(err)
	}
	if status, _ := c.send("GET", "/api/cases", ""); status != 401 {
		t.Errorf("an archived user's session answers %d", status)
	}
}

func TestComingAndGoingIsNoted(t *testing.T) {
	u, c := member(t, practiceOf(t), document.Dentist)
	made := c.newCase("HV-941")
	base := "/api/cases/" + made.Id.String()
	c.send("PUT", base+"/draft", widened(1.2), version(1)...)
	c.send("GET", base+"/files/case.json", "")
	c.send("DELETE", base, "")
	c.send("POST", base+"/unarchive", "")
	c.send("DELETE", "/api/session", "")
	c.send("POST", "/api/session", `{"sign_in":"`+u.SignIn+`","password":"wrong"}`)
	rows, err := testStore.SQL().Query("select action from audit_entry where user_id = $1 or subject like $2 order by id", u.ID, u.SignIn+" from %")
	if err != nil {
		t.Fatal(err)
	}
	defer rows.Close()
	var noted []string
	for rows.Next() {
		var action string
		if err := rows.Scan(&action); err != nil {
			t.Fatal(err)
		}
		noted = append(noted, action)
	}
	want := "sign in, start case, change draft, export, archive case, restore case, sign out, sign-in refused"
	if got := strings.Join(noted, ", "); got != want {
		t.Errorf("noted %s, want %s", got, want)
	}
}

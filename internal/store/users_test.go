package store

import (
	"context"
	"errors"
	"strings"
	"testing"
)

func TestUsersComeAndGo(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	if _, err := testStore.AddUser(ctx, User{PracticeID: clinic(t).PracticeID, SignIn: " " + strings.ToUpper(u.SignIn), Name: "Another", Role: "dentist", PasswordHash: "y"}); !errors.Is(err, ErrTaken) {
		t.Errorf("a sign-in name is given twice: %v", err)
	}
	if err := testStore.SetPassword(ctx, u, "new"); err != nil {
		t.Fatal(err)
	}
	if found, err := testStore.UserBySignIn(ctx, "  "+strings.ToUpper(u.SignIn)); err != nil || found.PasswordHash != "new" || found.Practice.ID != u.PracticeID {
		t.Errorf("found %+v, %v", found, err)
	}
	if err := testStore.ArchiveUser(ctx, u); err != nil {
		t.Fatal(err)
	}
	if _, err := testStore.User(ctx, u.ID); !errors.Is(err, ErrNotFound) {
		t.Errorf("an archived user is live: %v", err)
	}
	for name, err := range map[string]error{"password": testStore.SetPassword(ctx, u, "x"), "archive": testStore.ArchiveUser(ctx, u)} {
		if !errors.Is(err, ErrNotFound) {
			t.Errorf("%s of an archived user: %v", name, err)
		}
	}
	all, err := testStore.Users(ctx)
	if err != nil {
		t.Fatal(err)
	}
	for _, one := range all {
		if one.ID == u.ID && (one.ArchivedAt == nil || one.Practice.Name == "") {
			t.Errorf("listed as %+v", one)
		}
	}
	var noted int
	if err := testStore.SQL().QueryRow("select count(distinct action) from audit_entry where subject = $1", u.SignIn).Scan(&noted); err != nil || noted != 3 {
		t.Errorf("%d of adding, resetting and archiving were noted, %v", noted, err)
	}
}

func TestWorkOnADraftIsNotedOnceInAWhile(t *testing.T) {
	ctx, u := context.Background(), clinic(t)
	c := mustCase(t, u)
	version := 1
	for n := range 5 {
		var err error
		if version, err = testStore.SaveDraft(ctx, u.PracticeID, u.ID, c.ID, version, draft(n)); err != nil {
			t.Fatal(err)
		}
	}
	var noted int
	if err := testStore.SQL().QueryRow("select count(*) from audit_entry where subject = $1 and action = 'change draft'", c.ID.String()).Scan(&noted); err != nil || noted != 1 {
		t.Errorf("noted %d times, %v", noted, err)
	}
	if err := testStore.AuditStranger(ctx, "sign-in refused", "nobody"); err != nil {
		t.Error(err)
	}
}

package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"io/fs"
	"net/url"
	"reflect"
	"testing"

	"github.com/google/uuid"
	"github.com/pressly/goose/v3"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
)

// databaseAt makes a database of its own in the state of an earlier version.
func databaseAt(t *testing.T, version int64) (address string, pool *sql.DB) {
	t.Helper()
	name := "before_" + uuid.NewString()[:8]
	if _, err := testStore.SQL().Exec("create database " + name); err != nil {
		t.Fatal(err)
	}
	parsed, err := url.Parse(testURL)
	if err != nil {
		t.Fatal(err)
	}
	parsed.Path = "/" + name
	db, err := gorm.Open(postgres.Open(parsed.String()))
	if err != nil {
		t.Fatal(err)
	}
	if pool, err = db.DB(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { pool.Close() })
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		t.Fatal(err)
	}
	steps, err := goose.NewProvider(goose.DialectPostgres, pool, files)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := steps.UpTo(context.Background(), version); err != nil {
		t.Fatal(err)
	}
	return parsed.String(), pool
}

// Rules that a practice wrote while "at least" was a target up to 9 mm ask for the
// same after the update, with their ends open.
func TestStoredHouseRulesOpenTheirEnds(t *testing.T) {
	address, pool := databaseAt(t, 2)
	before := `{"id": "house-bench", "version": "1", "criteria": [
		{"id": "resist.pulp_distance", "unit": "mm", "target": {"min": 1, "max": 9}, "limits": {"min": 0.5, "max": 9}, "aim": 1},
		{"id": "outline.smoothness", "unit": "mm", "target": {"min": 0.4, "max": 99}, "limits": {"min": 0.3, "max": 99}},
		{"id": "outline.isthmus_width", "unit": "mm", "target": {"min": 1, "max": 1.5}, "limits": {"min": 0.8, "max": 9}},
		{"id": "retain.convergence", "unit": "deg", "target": {"min": 3, "max": 9}, "limits": {"min": 1, "max": 12}},
		{"id": "box.dovetail", "applies": false}]}`
	_, err := pool.Exec(`with p as (insert into practice (name) values ('Bench') returning id),
		u as (insert into app_user (practice_id, sign_in, name, role, password_hash) select id, 'dentist', 'Someone', 'dentist', 'x' from p returning id, practice_id)
		insert into house_school (practice_id, slug, version, base, document, created_by) select practice_id, 'house-bench', 1, 'board', $1::jsonb, id from u`, before)
	if err != nil {
		t.Fatal(err)
	}
	opened, err := Open(context.Background(), address)
	if err != nil {
		t.Fatal(err)
	}
	defer opened.Close()
	var practice uuid.UUID
	if err := opened.SQL().QueryRow("select id from practice").Scan(&practice); err != nil {
		t.Fatal(err)
	}
	kept, err := opened.HouseSchool(context.Background(), practice, "house-bench", 1)
	if err != nil {
		t.Fatal(err)
	}
	var got, want any
	if err := json.Unmarshal(kept.Document, &got); err != nil {
		t.Fatal(err)
	}
	_ = json.Unmarshal([]byte(`{"id": "house-bench", "version": "1", "criteria": [
		{"id": "resist.pulp_distance", "unit": "mm", "target": {"min": 1}, "limits": {"min": 0.5}, "aim": 1},
		{"id": "outline.smoothness", "unit": "mm", "target": {"min": 0.4}, "limits": {"min": 0.3}},
		{"id": "outline.isthmus_width", "unit": "mm", "target": {"min": 1, "max": 1.5}, "limits": {"min": 0.8}},
		{"id": "retain.convergence", "unit": "deg", "target": {"min": 3, "max": 9}, "limits": {"min": 1, "max": 12}},
		{"id": "box.dovetail", "applies": false}]}`), &want)
	if !reflect.DeepEqual(got, want) {
		t.Errorf("kept %s", kept.Document)
	}
}

// Lists show what was fixed before revisions carried a summary of themselves.
func TestOldRevisionsGetTheirSummary(t *testing.T) {
	address, pool := databaseAt(t, 3)
	_, err := pool.Exec(`with p as (insert into practice (name) values ('Bench') returning id),
		u as (insert into app_user (practice_id, sign_in, name, role, password_hash) select id, 'dentist', 'Someone', 'dentist', 'x' from p returning id, practice_id),
		q as (insert into patient (practice_id, code, birth_year) select id, 'HV-031', 1990 from p returning id, practice_id),
		c as (insert into dental_case (practice_id, patient_id, tooth, draft, confirmed_by_method, confirmed_answer, created_by)
			select q.practice_id, q.id, '47', '{"tooth": "47"}', 'count', 'lower right 7', u.id from q, u returning id, created_by)
		insert into plan_revision (case_id, number, case_document, plan_document, core_version, created_by)
			select id, n, '{"schema": "obturon.case/1"}', plan::jsonb, '0.1', created_by from c, (values
				(1, '{"schema": "obturon.plan/1", "class": "II", "material": "amalgam", "school": "board", "checks": [{"verdict": "near"}, {"verdict": "missed"}]}'),
				(2, '{"schema": "obturon.plan/1", "class": "I", "material": "composite", "school": "adhesive", "checks": [{"verdict": "met"}, {"verdict": "near"}]}')) as v(n, plan)`)
	if err != nil {
		t.Fatal(err)
	}
	// Two programs that start together on one database get along.
	opened := make(chan *Store, 2)
	for range 2 {
		go func() {
			s, err := Open(context.Background(), address)
			if err != nil {
				t.Error(err)
			}
			opened <- s
		}()
	}
	first, second := <-opened, <-opened
	if first == nil || second == nil {
		return
	}
	defer first.Close()
	defer second.Close()
	var u User
	if err := first.SQL().QueryRow("select id, practice_id from app_user").Scan(&u.ID, &u.PracticeID); err != nil {
		t.Fatal(err)
	}
	cases, err := first.Cases(context.Background(), everyones(&u), firstPage)
	if err != nil || len(cases) != 1 {
		t.Fatalf("%v, %v", cases, err)
	}
	if c := cases[0]; c.Planned || c.Revisions != 2 {
		t.Errorf("listed as %+v", c)
	}
	kept, err := first.Case(context.Background(), u.PracticeID, cases[0].ID)
	if err != nil || kept.Revisions[0].Verdict != "missed" || kept.DraftVersion != 1 {
		t.Fatalf("%+v, %v", kept, err)
	}
	if r := kept.Revisions[1]; r.Class != "I" || r.Material != "composite" || r.School != "adhesive" || r.Verdict != "near" {
		t.Errorf("revision 2 became %+v", r)
	}
	if _, err := first.SQL().Exec("delete from plan_revision"); err == nil {
		t.Error("revisions can be deleted after the update")
	}
}

package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"io/fs"
	"net/url"
	"reflect"
	"strings"
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
	kept, err := opened.DocumentVersion(context.Background(), HouseRules("house-bench"), practice, 1)
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

// What was long under way, and what had come of it, is there after all long work moved into one
// table: a tolerance run with its parts, a tooth on fine cells, a proof, beside a run at the chair
// and a revision.
func TestLongWorkMovesIntoOneTable(t *testing.T) {
	address, pool := databaseAt(t, 15)
	ids := map[string]uuid.UUID{}
	id := func(of string) uuid.UUID { ids[of] = uuid.New(); return ids[of] }
	const draft = `{"schema": "obturon.case/1", "tooth": "47"}`
	for _, row := range []struct {
		insert string
		with   []any
	}{
		{"insert into practice (id, name) values ($1, 'Bench')", []any{id("practice")}},
		{"insert into app_user (id, practice_id, sign_in, name, role, password_hash) values ($1, $2, 'dentist', 'Someone', 'dentist', 'x')", []any{id("user"), ids["practice"]}},
		{"insert into patient (id, practice_id, code, birth_year) values ($1, $2, 'HV-031', 1990)", []any{id("patient"), ids["practice"]}},
		{`insert into dental_case (id, practice_id, patient_id, tooth, draft, confirmed_by_method, confirmed_answer, created_by)
			values ($1, $2, $3, '47', $4, 'count', 'lower right 7', $5)`, []any{id("case"), ids["practice"], ids["patient"], draft, ids["user"]}},
		{"insert into plan_revision (case_id, number, case_document, plan_document, core_version, class, material, school, verdict, created_by) values ($1, 1, $2, '{\"checks\": []}', '0.5', 'I', 'amalgam', 'board', 'met', $3)", []any{ids["case"], draft, ids["user"]}},
		{"insert into chair_run (id, case_id, user_id, case_document, sequence) values ($1, $2, $3, $4, '{\"steps\": []}')", []any{id("chair"), ids["case"], ids["user"], draft}},
		{"insert into chair_event (run_id, number, id, kind, step, at_seconds) values ($1, 1, $2, 'paused', 0, 3)", []any{ids["chair"], uuid.New()}},
		{"insert into tolerance_job (id, case_id, user_id, case_document, kit, hand, runs, drawn) values ($1, $2, $3, $4, '{\"items\": []}', '{\"Tilt\": 2}', 20, '[\"drawn\"]')", []any{id("tolerance"), ids["case"], ids["user"], draft}},
		{"insert into tolerance_chunk (job_id, number, aim, first_seed, runs, outcomes, done_at) values ($1, 0, -1, 1, 10, '[\"cut\"]', now())", []any{ids["tolerance"]}},
		{"insert into tolerance_chunk (job_id, number, aim, first_seed, runs) values ($1, 1, -1, 11, 10)", []any{ids["tolerance"]}},
		{"insert into fine_run (id, case_id, user_id, digest, case_document, loading, share, result) values ($1, $2, $3, 'abc', $4, '{\"Bite\": {\"Newtons\": 150}}', 1, '{\"cells\": 0.25}')", []any{id("fine"), ids["case"], ids["user"], draft}},
		{"insert into practice_kit (practice_id, version, document, changed_by) values ($1, 3, '{\"items\": [3]}', $2)", []any{ids["practice"], ids["user"]}},
		{"insert into house_school (practice_id, slug, version, base, document, created_by) values ($1, 'house-own', 1, 'board', '{\"id\": \"house-own\", \"version\": \"1\"}', $2)", []any{ids["practice"], ids["user"]}},
		{"insert into house_school_archived (practice_id, slug, archived_by) values ($1, 'house-own', $2)", []any{ids["practice"], ids["user"]}},
		{"insert into job (id, practice_id, user_id, kind, key, input, share, result, wanted_until, done_at) values ($1, $2, $3, 'proof', 'of 47', '{}', 1, '{\"steps\": []}', now(), now())", []any{id("proof"), ids["practice"], ids["user"]}},
	} {
		if _, err := pool.Exec(row.insert, row.with...); err != nil {
			t.Fatalf("%s: %v", row.insert, err)
		}
	}
	opened, err := Open(t.Context(), address)
	if err != nil {
		t.Fatal(err)
	}
	defer opened.Close()
	cut, err := opened.LastJob(t.Context(), ids["case"], Tolerance)
	if err != nil || cut == nil || cut.ID != ids["tolerance"] || cut.State() != JobRuns || cut.Share() != 0.5 || cut.Priority != Batch || cut.PracticeID != ids["practice"] {
		t.Fatalf("%+v, %v", cut, err)
	}
	same := func(what string, got []byte, want string) {
		t.Helper()
		var a, b any
		if err := json.Unmarshal(got, &a); err != nil {
			t.Fatal(err)
		}
		if err := json.Unmarshal([]byte(want), &b); err != nil || !reflect.DeepEqual(a, b) {
			t.Errorf("%s is %s, not %s", what, got, want)
		}
	}
	same("what it cuts", cut.Input, `{"case": `+draft+`, "rules": null, "kit": {"items": []}, "hand": {"Tilt": 2}, "runs": 20}`)
	same("what was drawn", cut.Shared, `["drawn"]`)
	same("its first part", cut.Parts[0].Result, `["cut"]`)
	same("its second part", cut.Parts[1].Input, `{"aim": -1, "first_seed": 11, "runs": 10}`)
	if err := opened.Requeue(t.Context()); err != nil {
		t.Fatal(err)
	}
	next, err := opened.Claim(t.Context(), LongKinds)
	if err != nil || next == nil || next.Of.ID != cut.ID || next.Number != 1 {
		t.Errorf("to be gone on with: %+v, %v", next, err)
	}
	loaded, err := opened.LastJob(t.Context(), ids["case"], FineDeflection)
	if err != nil || loaded.ID != ids["fine"] || loaded.State() != JobFinished {
		t.Fatalf("%+v, %v", loaded, err)
	}
	same("what it was loaded with", loaded.Input, `{"case": `+draft+`, "rules": null, "loading": {"Bite": {"Newtons": 150}}}`)
	same("what that came to", loaded.Result(), `{"cells": 0.25}`)
	if proof, err := opened.JobResult(t.Context(), ids["practice"], Proof, "of 47"); err != nil || proof == nil {
		t.Errorf("the proof is %s, %v", proof, err)
	}
	if kit, err := opened.PracticeDocument(t.Context(), Kits, ids["practice"]); err != nil || kit.Version != 3 {
		t.Errorf("the kit is %+v, %v", kit, err)
	}
	if _, err := opened.SavePracticeDocument(t.Context(), PracticeDocument{PracticeID: ids["practice"], Kind: Kits, Version: 4, Document: []byte(`{}`), ChangedBy: ids["user"]}); err != nil {
		t.Error(err)
	}
	if before, err := opened.DocumentVersion(t.Context(), Kits, ids["practice"], 3); err != nil || before.Author.ID != ids["user"] {
		t.Errorf("the kit that was is %+v, %v", before, err)
	}
	if own, err := opened.HouseSchools(t.Context(), ids["practice"], true); err != nil || len(own) != 1 || *own[0].Base != "board" {
		t.Errorf("house rules are %+v, %v", own, err)
	}
	if run, err := opened.Run(t.Context(), ids["case"], ids["chair"]); err != nil || len(run.Events) != 1 {
		t.Errorf("the run is %+v, %v", run, err)
	}
	if r, err := opened.Revision(t.Context(), ids["practice"], ids["case"], 1); err != nil || r.Verdict != "met" {
		t.Errorf("the revision is %+v, %v", r, err)
	}
}

// A draft whose old filling was cut out before its fault was asked for is still planned so, and
// house rules go on under the criterion's new name.
func TestWhatWasPlannedBeforeFaultsWereAskedStaysPlanned(t *testing.T) {
	address, pool := databaseAt(t, 19)
	practice, user, patient := uuid.New(), uuid.New(), uuid.New()
	old := func(more string) string {
		return `{"schema": "obturon.case/1", "tooth": "47", "findings": [{"kind": "old_restoration", "site": "central", "depth": "outer_dentin"` + more + `}]}`
	}
	drafts := map[string]string{
		old(""):                             "replace",
		old(`, "stays": true`):              "",
		old(`, "fault": "broken"`):          "",
		`{"tooth": "47", "findings": [{}]}`: "",
		`{"tooth": "47"}`:                   "",
		old("")[:len(old(""))-1] + `, "choice": {"school": "board"}}`: "replace",
	}
	rules := `{"id": "house-own", "version": "1", "criteria": [{"id": "box.axial_depth"}, {"id": "lesion.cleared", "aim": 0}]}`
	for _, row := range []struct {
		insert string
		with   []any
	}{
		{"insert into practice (id, name) values ($1, 'Bench')", []any{practice}},
		{"insert into app_user (id, practice_id, sign_in, name, role, password_hash) values ($1, $2, 'dentist', 'Someone', 'dentist', 'x')", []any{user, practice}},
		{"insert into patient (id, practice_id, code, birth_year) values ($1, $2, 'HV-031', 1990)", []any{patient, practice}},
		{"insert into practice_document (practice_id, kind, version, document, base, changed_by) values ($1, 'house-own', 1, $2, 'board', $3)", []any{practice, rules, user}},
	} {
		if _, err := pool.Exec(row.insert, row.with...); err != nil {
			t.Fatalf("%s: %v", row.insert, err)
		}
	}
	ids := map[string]uuid.UUID{}
	for draft := range drafts {
		ids[draft] = uuid.New()
		if _, err := pool.Exec(`insert into dental_case (id, practice_id, patient_id, tooth, draft, confirmed_by_method, confirmed_answer, created_by)
			values ($1, $2, $3, '47', $4, 'count', 'lower right 7', $5)`, ids[draft], practice, patient, draft, user); err != nil {
			t.Fatal(err)
		}
	}
	opened, err := Open(t.Context(), address)
	if err != nil {
		t.Fatal(err)
	}
	defer opened.Close()
	for draft, want := range drafts {
		var got, school sql.NullString
		if err := opened.SQL().QueryRow("select draft #>> '{choice,treatment}', draft #>> '{choice,school}' from dental_case where id = $1", ids[draft]).Scan(&got, &school); err != nil {
			t.Fatal(err)
		}
		if got.String != want || school.Valid != strings.Contains(draft, "board") {
			t.Errorf("%s is planned to %q by %q", draft, got.String, school.String)
		}
	}
	kept, err := opened.DocumentVersion(t.Context(), HouseRules("house-own"), practice, 1)
	if err != nil || !strings.Contains(string(kept.Document), "lesion.junction") || strings.Contains(string(kept.Document), "cleared") || !strings.Contains(string(kept.Document), "box.axial_depth") {
		t.Errorf("%s, %v", kept.Document, err)
	}
}

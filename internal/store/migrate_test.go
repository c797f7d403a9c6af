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

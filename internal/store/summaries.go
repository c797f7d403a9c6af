package store

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"
)

// Reach says whose cases of a practice somebody sees: all of them, or their own
// with those that were started by some roles.
type Reach struct {
	Practice, User uuid.UUID
	All            bool
	Roles          []string
}

const inReach = `c.practice_id = @practice and (@all or c.created_by = @user or u.role = any(string_to_array(@roles, ',')))`

func (r Reach) args() map[string]any {
	return map[string]any{"practice": r.Practice, "user": r.User, "all": r.All, "roles": strings.Join(r.Roles, ",")}
}

// Summary is what a list shows of a case: its newest revision's figures, or where
// there is none what the draft chose.
type Summary struct {
	ID                               uuid.UUID
	Patient                          string
	Tooth                            string
	Class, Material, School, Verdict string
	Revisions                        int
	UpdatedAt                        time.Time
	ArchivedAt                       *time.Time
	CreatedBy                        uuid.UUID
	CreatorRole, By                  string
}

// Page is a part of a list, newest first.
type Page struct {
	Archived bool
	// AfterTime and AfterID are the last entry of the page before; zero starts anew.
	AfterTime time.Time
	AfterID   uuid.UUID
	Size      int
}

// At is what the list that a summary stands in is ordered by.
func (s Summary) At() time.Time {
	if s.ArchivedAt != nil {
		return *s.ArchivedAt
	}
	return s.UpdatedAt
}

// Cases lists the live cases that somebody sees, newest change first, or the
// archived ones, last archived first. Errors are the database's.
func (s *Store) Cases(ctx context.Context, r Reach, p Page) ([]Summary, error) {
	at, state := "c.updated_at", "c.archived_at is null"
	if p.Archived {
		at, state = "c.archived_at", "c.archived_at is not null"
	}
	args := r.args()
	args["size"], args["time"], args["id"], args["begun"] = p.Size, p.AfterTime, p.AfterID, p.AfterID != uuid.Nil
	var found []Summary
	err := s.db.WithContext(ctx).Raw(`
		select c.id, p.code as patient, c.tooth, c.updated_at, c.archived_at, c.created_by, u.role as creator_role, u.name as by,
			coalesce(r.number, 0) as revisions, coalesce(r.class, '') as class, coalesce(r.verdict, '') as verdict,
			coalesce(r.material, c.draft #>> '{choice,material}', '') as material, coalesce(r.school, c.draft #>> '{choice,school}', '') as school
		from dental_case c
		join patient p on p.id = c.patient_id
		join app_user u on u.id = c.created_by
		left join lateral (select number, class, material, school, verdict from plan_revision where case_id = c.id order by number desc limit 1) r on true
		where `+inReach+` and `+state+` and (not @begun or (`+at+`, c.id) < (@time, @id))
		order by `+at+` desc, c.id desc limit @size`, args).Scan(&found).Error
	if err != nil {
		return nil, fmt.Errorf("listing the cases: %w", err)
	}
	return found, nil
}

// InQuadrant lists the live cases that somebody sees of a case's patient and
// quadrant, that case first, then by last change. Errors are the database's.
func (s *Store) InQuadrant(ctx context.Context, r Reach, of *Case) ([]Case, error) {
	args := r.args()
	args["patient"], args["first"], args["quadrant"] = of.PatientID, of.ID, of.Tooth[:1]+"%"
	var found []Case
	err := s.db.WithContext(ctx).Raw(`
		select c.id, c.tooth, c.draft from dental_case c
		join app_user u on u.id = c.created_by
		where `+inReach+` and c.archived_at is null and c.patient_id = @patient and c.tooth like @quadrant
		order by c.id = @first desc, c.updated_at desc`, args).Scan(&found).Error
	if err != nil {
		return nil, fmt.Errorf("looking for the patient's other cases: %w", err)
	}
	return found, nil
}

// Ownership is who started a case, and whether it is archived.
type Ownership struct {
	CreatedBy   uuid.UUID
	CreatorRole string
	Archived    bool
}

// Owner tells who started a case. It fails with ErrNotFound where the practice has
// none.
func (s *Store) Owner(ctx context.Context, practice, id uuid.UUID) (Ownership, error) {
	var o Ownership
	found := s.db.WithContext(ctx).Raw(`
		select c.created_by, u.role as creator_role, c.archived_at is not null as archived
		from dental_case c join app_user u on u.id = c.created_by where c.practice_id = ? and c.id = ?`, practice, id).Scan(&o)
	if found.Error != nil {
		return o, fmt.Errorf("looking for the case: %w", found.Error)
	}
	if found.RowsAffected == 0 {
		return o, ErrNotFound
	}
	return o, nil
}

package store

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Fixed is a plan that is to be kept for good, made from a draft at some version.
type Fixed struct {
	CaseID, Author             uuid.UUID
	DraftVersion               int
	RequestKey                 *uuid.UUID // as that of NewCase
	CaseDocument, PlanDocument []byte
	Basis                      []byte // what it rests on beside the case
	Core                       string
	// What lists show of it.
	Class, Material, School, Verdict string
}

// FixRevision adds the next revision of a case. Sent again under the same request
// key it gives the revision that was made first. It fails with ErrStale where the
// draft has changed since the plan was made, and otherwise as SaveDraft does.
func (s *Store) FixRevision(ctx context.Context, practice uuid.UUID, f Fixed) (*Revision, error) {
	r := &Revision{
		CaseID: f.CaseID, CaseDocument: f.CaseDocument, PlanDocument: f.PlanDocument, Basis: f.Basis, CoreVersion: f.Core, CreatedBy: f.Author, RequestKey: f.RequestKey,
		Class: f.Class, Material: f.Material, School: f.School, Verdict: f.Verdict,
	}
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		c, err := lockCase(tx, practice, f.CaseID) // orders two who fix at once
		if err != nil {
			return err
		}
		if f.RequestKey != nil {
			found := tx.Where("case_id = ? and request_key = ?", f.CaseID, f.RequestKey).Limit(1).Find(r)
			if found.Error != nil || found.RowsAffected > 0 {
				return found.Error
			}
		}
		if c.DraftVersion != f.DraftVersion {
			return ErrStale
		}
		var last int
		if err := tx.Model(&Revision{}).Where("case_id = ?", f.CaseID).Select("coalesce(max(number), 0)").Scan(&last).Error; err != nil {
			return err
		}
		r.Number = last + 1
		if err := tx.Omit(clause.Associations).Create(r).Error; err != nil {
			return err
		}
		if err := tx.Model(c).Update("updated_at", time.Now()).Error; err != nil {
			return err
		}
		return audit(tx, &practice, &f.Author, "fix revision", fmt.Sprintf("%s/%d", f.CaseID, r.Number))
	})
	if err != nil {
		return nil, fmt.Errorf("fixing the revision: %w", err)
	}
	return r, nil
}

// RevisionOf finds the revision that a request has made; nil where it has made none
// yet. Errors are the database's.
func (s *Store) RevisionOf(ctx context.Context, caseID, requestKey uuid.UUID) (*Revision, error) {
	var r Revision
	found := s.db.WithContext(ctx).Preload("Author").Where("case_id = ? and request_key = ?", caseID, requestKey).Limit(1).Find(&r)
	if found.Error != nil || found.RowsAffected == 0 {
		return nil, found.Error
	}
	return &r, nil
}

// Revision finds one revision of a case, archived or not. It fails with ErrNotFound
// where there is none.
func (s *Store) Revision(ctx context.Context, practice, caseID uuid.UUID, number int) (*Revision, error) {
	var r Revision
	err := s.db.WithContext(ctx).Preload("Author").
		Where("exists (select from dental_case where dental_case.id = plan_revision.case_id and practice_id = ?)", practice).
		First(&r, "case_id = ? and number = ?", caseID, number).Error
	if err != nil {
		return nil, orNotFound(err)
	}
	return &r, nil
}
